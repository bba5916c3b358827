import Button from "@mui/material/Button";
import { memo, useState } from "react";
import type { Clipping, Destination } from "../../api/client";
import { copyClipping, saveClipping } from "../../api/out";
import { useBenchState } from "../../base/state";
import { SaveAs } from "./SaveAs";

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
        Save PNG
      </Button>
      <Button variant="text" onClick={out((what) => saveClipping(what, "jpeg"))}>
        Save JPEG
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
