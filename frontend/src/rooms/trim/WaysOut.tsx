import Button from "@mui/material/Button";
import { memo, useState } from "react";
import type { Clipping, Destination } from "../../api/client";
import { copyClipping, saveClipping } from "../../api/out";
import { useBenchState } from "../../base/state";
import { placeAtChosen } from "../../api/bench";
import { useKeyOf } from "../../api/keys";
import { useGoTo } from "../../api/useGoTo";
import { settled } from "../../base/settled";
import { LinkButton } from "../link";
import { SaveAs } from "./SaveAs";

/** Put a clipping into the chosen place, as it is by then, and go there. */
export async function placeIt(clipping: string, goTo: (room: string) => void): Promise<void> {
  await settled();
  if (await placeAtChosen(clipping)) goTo("/place");
}

/** At the end of every tool's line: the ways out. */
export const WaysOut = memo(function WaysOut({
  clipping,
  destination,
}: {
  clipping: Clipping | null;
  destination: Destination | null;
}) {
  const galleyOpen = useBenchState((state) => state.galleyOpen);
  const set = useBenchState((state) => state.set);
  const goTo = useGoTo();
  const placeKey = useKeyOf("place-it");
  const spot = destination?.spot;
  const stands =
    destination?.placements.some((each) => each.clipping === clipping?.id && each.spot === spot?.id) ?? false;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const out = (way: (what: Clipping) => Promise<unknown>) => () => {
    if (clipping) void way(clipping);
  };
  return (
    <span className="tool-end">
      <Button variant="text" onClick={out(copyClipping)}>
        Copy
      </Button>
      <Button variant="text" onClick={out((what) => saveClipping(what, "png"))}>
        Save
      </Button>
      <Button
        variant="text"
        disabled={!clipping}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        Save as…
      </Button>
      <LinkButton clipping={clipping} />
      {clipping && spot && (
        <Button variant="contained" disabled={stands} onClick={() => void placeIt(clipping.id, goTo)}>
          {stands ? "It stands there" : "Place it"} {!stands && placeKey !== null && <kbd>{placeKey}</kbd>}
        </Button>
      )}
      {clipping && (
        <SaveAs
          key={clipping.version}
          clipping={clipping}
          anchor={anchor}
          onEnd={() => {
            setAnchor(null);
          }}
        />
      )}
      {destination && (
        <Button
          variant="text"
          className="narrow-only"
          onClick={() => {
            set({ galleyOpen: !galleyOpen });
          }}
        >
          Galley
        </Button>
      )}
    </span>
  );
});
