import { Either } from "../Either";
import { FootHint } from "../FootHint";
import { useDestination } from "../../api/bench";
import type { Destination } from "../../api/client";
import { useLinks, useLinkSetup } from "../../api/links";
import { useBenchState } from "../../base/state";
import { LinkList } from "../link";
import { Arrives } from "./Arrives";
import { Compare } from "./Compare";
import { Files } from "./Files";
import { Sending } from "./Sending";
import { WhatWeighs } from "./WhatWeighs";

type Part = "arrives" | "weighs" | "sending" | "links" | "files";

/** What weighs, and the files that leave. */
export function HandOverRoom() {
  const destination = useDestination();
  const isMessage = destination?.view === "message";
  const chosen = useBenchState((state) => state.handOver);
  const part = chosen ?? (isMessage ? "arrives" : "weighs");
  const isOn = useLinkSetup()?.is_on === true;
  const hasLinks = (useLinks()?.length ?? 0) > 0 || isOn;
  const shown = shownOf(part, destination, hasLinks);
  const comparing = useBenchState((state) => state.comparing);
  if (destination && comparing !== null) return <Compare destination={destination} member={comparing} />;
  const parts: readonly Part[] = [
    ...(isMessage ? (["arrives"] as const) : []),
    ...(destination ? (["weighs"] as const) : []),
    ...(destination?.is_letter ? (["sending"] as const) : []),
    ...(hasLinks ? (["links"] as const) : []),
    "files",
  ];
  return (
    <main className="room-body hand-over">
      <FootHint>
        <p>Nothing leaves before you press for it. What has left can be looked at, and had again.</p>
      </FootHint>
      <Head parts={parts} shown={shown} />
      {shown === "links" ? (
        <LinkList />
      ) : destination && shown === "arrives" ? (
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

/** Which parts there are; the chosen segment says its title where there are several. */
function Head({ parts, shown }: { parts: readonly Part[]; shown: Part }) {
  const set = useBenchState((state) => state.set);
  return (
    <div className="hand-over-head">
      <h2 className={parts.length > 1 ? "unseen" : "title"}>{words[shown]}</h2>
      {parts.length > 1 && (
        <Either
          label="Parts of handing over"
          value={shown}
          ways={parts.map((name) => [name, words[name]] as const)}
          onChange={(name) => {
            set({ handOver: name });
          }}
        />
      )}
    </div>
  );
}

/** What is asked for, or the nearest that there is. */
function shownOf(part: Part, destination: Destination | null, hasLinks: boolean): Part {
  if (part === "links") return hasLinks ? part : "files";
  if (!destination) return "files";
  if (part === "arrives") return destination.view === "message" ? part : "weighs";
  return part === "sending" && !destination.is_letter ? "files" : part;
}

const words: Record<Part, string> = {
  arrives: "How it arrives",
  weighs: "What weighs",
  sending: "Sending",
  links: "Links",
  files: "Files",
};
