import type { Spot } from "../../api/client";
import { measure } from "../../base/units";
import { mm, placeOf } from "../../base/format";
import type { Area } from "../../area/geometry";

/** "78.5 × 47.1 mm, 181 ppi". */
export function becomes(area: Area, frame: { scale_factor: number }, spot: Spot | null): string {
  const place = spot ? placeOf(spot) : null;
  const m = measure(area.width, area.height, frame.scale_factor, place);
  return `${mm(m.widthEmu)} × ${mm(m.heightEmu)} mm, ${Math.round(m.ppi).toString()} ppi`;
}
