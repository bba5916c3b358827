import Button from "@mui/material/Button";
import { memo } from "react";
import type { Clipping, Destination } from "../../api/client";
import { copyClipping, saveClipping } from "../../api/out";
import { useBenchState } from "../../base/state";

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
  const out = (way: (what: Clipping) => Promise<void>) => () => {
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
