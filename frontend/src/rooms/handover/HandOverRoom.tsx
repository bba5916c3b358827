import { useDestination } from "../../api/bench";
import { useBenchState } from "../../base/state";
import { Arrives } from "./Arrives";
import { Compare } from "./Compare";
import { Files } from "./Files";
import { Sending } from "./Sending";
import { WhatWeighs } from "./WhatWeighs";

type Part = "arrives" | "weighs" | "sending" | "files";

/** What weighs, and the files that leave. */
export function HandOverRoom() {
  const destination = useDestination();
  const isMessage = destination?.view === "message";
  const chosen = useBenchState((state) => state.handOver);
  const set = useBenchState((state) => state.set);
  const part = chosen ?? (isMessage ? "arrives" : "weighs");
  const shown = destination ? (part === "arrives" && !isMessage ? "weighs" : part) : "files";
  const comparing = useBenchState((state) => state.comparing);
  if (destination && comparing !== null) return <Compare destination={destination} member={comparing} />;
  const parts: readonly Part[] = [
    ...(isMessage ? (["arrives"] as const) : []),
    "weighs",
    ...(destination?.is_letter ? (["sending"] as const) : []),
    "files",
  ];
  return (
    <main className="room-body hand-over">
      <div className="hand-over-head">
        <h2 className="title">{words[shown]}</h2>
        {destination && (
          <span>
            {parts.map((name, index) => (
              <span key={name}>
                {index > 0 && " · "}
                {name === shown ? (
                  <b>{words[name]}</b>
                ) : (
                  <button
                    type="button"
                    className="choice"
                    onClick={() => {
                      set({ handOver: name });
                    }}
                  >
                    {words[name]}
                  </button>
                )}
              </span>
            ))}
          </span>
        )}
      </div>
      {destination && shown === "arrives" ? (
        <Arrives destination={destination} />
      ) : destination && shown === "weighs" ? (
        <WhatWeighs destination={destination} />
      ) : destination?.is_letter && shown === "sending" ? (
        <Sending destination={destination} />
      ) : (
        <Files destination={destination} />
      )}
    </main>
  );
}

const words: Record<Part, string> = {
  arrives: "How it arrives",
  weighs: "What weighs",
  sending: "Sending",
  files: "Files",
};
