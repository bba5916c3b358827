import { EMU_PER_PX } from "../../../base/units";
import { useState } from "react";
import { takePictureOut } from "../../../api/bench";
import { pictureUrl, type Destination, type GridSheet, type Placement, type Spot } from "../../../api/client";
import { useBenchState } from "../../../base/state";
import { PlacedFace } from "../PlacedFigure";
import { HeightLine, WidthLine } from "../MeasureLines";
import { Sentence } from "../Sentence";
import { cellsOf, sheetOf, startOf, type Tracks } from "./cells";

const PX_PER_MM = 96 / 25.4;

interface GridThingsProps {
  destination: Destination;
  sheet: GridSheet;
  rows: Tracks;
  /** Whether the chosen picture carries what can be set; beside the mat it only hangs there. */
  sets?: boolean;
}

/** What stands on a sheet: what was there before, and the clippings that are placed. */
export function GridThings({ destination, sheet, rows, sets = true }: GridThingsProps) {
  return (
    <>
      {sheet.boxes.map((box, index) => (
        <Box key={index} destination={destination.id} box={box} />
      ))}
      {destination.placements
        .filter((each) => sheetOf(each.spot) === sheet.name)
        .map((each) => (
          <Placed key={each.id} destination={destination} placement={each} sheet={sheet} rows={rows} sets={sets} />
        ))}
    </>
  );
}

/** A picture, chart or shape that was on the sheet before; only pictures can be shown, the others are outlines. */
function Box({ destination, box }: { destination: string; box: GridSheet["boxes"][number] }) {
  const place = {
    left: box.x_emu / EMU_PER_PX,
    top: box.y_emu / EMU_PER_PX,
    width: box.width_emu / EMU_PER_PX,
    height: box.height_emu / EMU_PER_PX,
  };
  const { member } = box;
  if (member === null) {
    return (
      <div className="grid-box" style={place}>
        {box.kind === "chart" ? "Chart" : "Shape"}
        {box.description && `: ${box.description}`}
      </div>
    );
  }
  const name = box.description || member.split("/").at(-1) || "picture";
  return (
    <div className="grid-picture block-figure" style={place}>
      <img src={pictureUrl.media(destination, { member, crop: box.crop })} alt={`On the sheet: ${name}`} />
      <button
        type="button"
        className="block-take"
        aria-label={`Take ${name} to the rack`}
        onClick={() => void takePictureOut(destination, { member, crop: box.crop })}
      >
        Take to the rack
      </button>
    </div>
  );
}

interface PlacedProps {
  destination: Destination;
  placement: Placement;
  sheet: GridSheet;
  rows: Tracks;
  sets: boolean;
}

function Placed({ destination, placement, sheet, rows, sets }: PlacedProps) {
  const chosenPlacement = useBenchState((state) => state.placement);
  const set = useBenchState((state) => state.set);
  const [pulled, setPulled] = useState<number | null>(null);
  const cells = cellsOf(placement.spot);
  if (!cells) return null;
  const chosen = chosenPlacement === placement.id;
  const left = startOf(sheet.columns, cells.left) / EMU_PER_PX;
  const top = startOf(rows, cells.top) / EMU_PER_PX;
  const width = pulled ?? placement.width_emu;
  const measures = chosen && sets ? { placement, width, pxPerMm: PX_PER_MM, onPull: setPulled } : null;
  const goesTo = destination.spot;
  return (
    <div
      className={`grid-placed placed ${chosen ? "placed-chosen" : ""}`}
      data-placement={placement.id}
      style={{ left, top }}
    >
      <PlacedFace
        placement={placement}
        chosen={chosen}
        width={width / EMU_PER_PX}
        onChoose={(id) => {
          set({ placement: chosen ? null : id });
        }}
      >
        {measures && <HeightLine {...measures} />}
      </PlacedFace>
      {measures && (
        <div className="grid-note">
          <WidthLine {...measures} fromLeft />
          <Sentence placement={placement} spot={spotOf(placement, cells)} goesTo={goesTo} />
        </div>
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
