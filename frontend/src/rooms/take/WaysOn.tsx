import Button from "@mui/material/Button";
import { useDestination } from "../../api/bench";
import { useKeyOf } from "../../api/keys";
import { setOptions, useOptions } from "../../api/options";
import { widthWords } from "../../base/format";
import { useBenchState } from "../../base/state";
import { Either } from "../Either";
import { useLongPage } from "./longpage";
import type { Held } from "./useHeld";

/** At the end of the line: what can be done with what is held, the most wanted first; or what a drag will do. */
export function WaysOn({ held }: { held: Held }) {
  const { cut, kind, source, contentOnly } = useBenchState();
  const spot = useDestination()?.spot;
  const joining = useLongPage((state) => state.id !== null);
  return (
    <>
      {kind === "window" && (
        <Either
          label="What of the window"
          value={contentOnly ? "content" : "frame"}
          ways={[
            ["frame", "with its frame"],
            ["content", "content only"],
          ]}
          onChange={(next) => {
            held.setPart(next === "content");
          }}
        />
      )}
      {kind === "long-page" && source !== "desk" && !joining && (
        <Button variant="contained" onClick={held.join}>
          Join while I scroll
        </Button>
      )}
      {cut ? (
        <>
          {spot && (
            <WayOn
              main={!held.isPicture}
              name={`Place it, ${widthWords(spot)}`}
              action={held.isPicture ? "place" : "keep"}
              onClick={() => void held.keep(cut, "place")}
            />
          )}
          <WayOn
            main={held.isPicture || !spot}
            name="Keep on the rack"
            action={spot && !held.isPicture ? "place" : "keep"}
            onClick={() => void held.keep(cut, "rack")}
          />
        </>
      ) : (
        (spot ?? held.isPicture) && <AtOnce isPicture={held.isPicture} />
      )}
    </>
  );
}

/** Whether a drag is gone on with at once, or waits to be moved and pulled. */
function AtOnce({ isPicture }: { isPicture: boolean }) {
  const atOnce = useOptions()?.keep_at_once ?? true;
  return (
    <>
      <span className="line-label">What is drawn</span>
      <Either
        label="What is drawn"
        value={atOnce ? "at-once" : "waits"}
        ways={[
          ["at-once", isPicture ? "is kept at once" : "is placed at once"],
          ["waits", "waits"],
        ]}
        onChange={(next) => {
          setOptions({ keep_at_once: next === "at-once" });
        }}
      />
    </>
  );
}

interface WayOnProps {
  name: string;
  action: string;
  main: boolean;
  onClick: () => void;
}

function WayOn({ name, action, main, onClick }: WayOnProps) {
  const key = useKeyOf(action);
  return (
    <Button variant={main ? "contained" : "outlined"} onClick={onClick}>
      {name} {key !== null && <kbd>{key}</kbd>}
    </Button>
  );
}
