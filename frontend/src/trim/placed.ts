import type { Clipping, Destination, Placement } from "../api/client";
import type { Sheet } from "../api/sheet";
import { type Measures, measure } from "../app/fit";
import { placeOf } from "../app/format";
import type { Area } from "../area/geometry";

/** The placement that the mat shows: the chosen one of this clipping, else its first. */
export function placementOf(
  clipping: string | null,
  destination: Destination | null,
  chosen: string | null,
): Placement | null {
  const own = destination?.placements.filter((each) => each.clipping === clipping) ?? [];
  return own.find((each) => each.id === chosen) ?? own[0] ?? null;
}

/** What a crop becomes: in its placement, in the chosen place, or at natural size; while it is pulled, edge and margins
 *  are counted as they were. */
export function measuresOf(
  area: Area,
  sheet: Sheet | undefined,
  clipping: Clipping,
  destination: Destination | null,
  placement: Placement | null,
): Measures & { outerPx: number } {
  const scale = sheet?.scale ?? 1;
  const more = sheet
    ? [sheet.outer.width - sheet.crop.width * scale, sheet.outer.height - sheet.crop.height * scale]
    : [0, 0];
  const [width, height] = [area.width * scale + (more[0] ?? 0), area.height * scale + (more[1] ?? 0)];
  const outerPx = width / scale;
  const spot = destination?.spot ?? null;
  if (placement) {
    const rule = placement.bound_by === "given" ? placement.width_emu : "fit";
    const place = { widthEmu: placement.spot_width_emu, heightEmu: placement.spot_height_emu };
    return { ...measure(width, height, clipping.scale_factor, place, rule), outerPx };
  }
  const place = spot ? placeOf(spot) : null;
  return { ...measure(width, height, clipping.scale_factor, place), outerPx };
}
