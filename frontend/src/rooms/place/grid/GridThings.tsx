import { EMU_PER_PX } from "../../../base/units";
import { takePictureOut } from "../../../api/bench";
import { pictureUrl, type Destination, type GridSheet, type Placement } from "../../../api/client";
import { useBenchState } from "../../../base/state";
import { ForeignPicture } from "../../ForeignPicture";
import { PlacedFace } from "../PlacedFigure";
import { WidthEnd } from "../MeasureLines";
import { cellsOf, sheetOf, startOf, type Tracks } from "./cells";

const PX_PER_MM = 96 / 25.4;

interface GridThingsProps {
  destination: Destination;
  sheet: GridSheet;
  rows: Tracks;
  /** While the chosen picture is pulled: how wide it would be. */
  pulled?: number | null;
  /** What to do with that; without it pictures only hang there, as beside the mat. */
  onPull?: (widthEmu: number | null) => void;
}

/** What stands on a sheet: what was there before, and the clippings that are placed. */
export function GridThings({ destination, sheet, rows, pulled = null, onPull }: GridThingsProps) {
  return (
    <>
      {sheet.boxes.map((box, index) => (
        <Box key={index} destination={destination.id} box={box} />
      ))}
      {destination.placements
        .filter((each) => sheetOf(each.spot) === sheet.name)
        .map((each) => (
          <Placed key={each.id} placement={each} {...{ sheet, rows, pulled, onPull }} />
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
      <ForeignPicture src={pictureUrl.media(destination, { member, crop: box.crop })} alt={`On the sheet: ${name}`} />
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
  placement: Placement;
  sheet: GridSheet;
  rows: Tracks;
  pulled: number | null;
  onPull: ((widthEmu: number | null) => void) | undefined;
}

function Placed({ placement, sheet, rows, pulled, onPull }: PlacedProps) {
  const chosenPlacement = useBenchState((state) => state.placement);
  const set = useBenchState((state) => state.set);
  const cells = cellsOf(placement.spot);
  if (!cells) return null;
  const chosen = chosenPlacement === placement.id;
  const left = startOf(sheet.columns, cells.left) / EMU_PER_PX;
  const top = startOf(rows, cells.top) / EMU_PER_PX;
  const width = (chosen ? pulled : null) ?? placement.width_emu;
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
        {chosen && onPull && <WidthEnd {...{ placement, width, onPull }} pxPerMm={PX_PER_MM} fromLeft />}
      </PlacedFace>
    </div>
  );
}
