import type { Destination, Placement, Spot } from "../../../api/client";
import { useBenchState } from "../../../base/state";
import { WidthField } from "../MeasureLines";
import { Sentence } from "../Sentence";
import { cellsOf } from "./cells";

interface Props {
  destination: Destination;
  /** While the chosen picture is pulled: how wide it would be. */
  pulled: number | null;
}

/** Under the grid: how the chosen picture stands. It is always there, so that it covers no cells and moves none. */
export function GridFoot({ destination, pulled }: Props) {
  const chosen = useBenchState((state) => state.placement);
  const placement = destination.placements.find((each) => each.id === chosen);
  const cells = placement && cellsOf(placement.spot);
  return (
    <div className="grid-note" role="group" aria-label="How the picture stands">
      {placement && cells ? (
        <>
          <span className="grid-width">
            <WidthField placement={placement} width={pulled ?? placement.width_emu} withHeight />
          </span>
          <Sentence placement={placement} spot={spotOf(placement, cells)} goesTo={destination.spot} />
        </>
      ) : (
        <p className="quiet">
          {destination.placements.length > 0
            ? "Click a placed picture to set how wide it is and how it stands."
            : "How a placed picture stands is set here."}
        </p>
      )}
    </div>
  );
}

/** The place of a placement, as far as its sentence needs it: the cells say the rest. */
function spotOf(placement: Placement, cells: { top: number; bottom: number }): Spot {
  return {
    id: placement.spot,
    kind: "sheet",
    follows: "cells",
    after_text: placement.spot.slice(placement.spot.lastIndexOf("!") + 1),
    widths_emu: [placement.place_width_emu],
    height_emu: placement.spot_height_emu,
    section: 0,
    stands: ["hangs", "stretches", "stays"],
    free_width_emu: null,
    grows_to_emu: cells.top === cells.bottom ? placement.spot_height_emu : null,
  };
}
