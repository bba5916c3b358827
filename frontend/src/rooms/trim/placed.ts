import type { Clipping, Destination, Placement } from "../../api/client";
import type { Sheet } from "../../api/sheet";
import { EMU_PER_INCH, type Measures, measure, naturalWidth } from "../../base/units";
import type { Area } from "../../area/geometry";

/** The placement that the mat shows: the chosen one of this clipping, else its first. */
export function placementOf(
  clipping: string | null,
  destination: Destination | null,
  chosen: string | null,
): Placement | null {
  const own = destination?.placements.filter((each) => each.clipping === clipping) ?? [];
  return own.find((each) => each.id === chosen) ?? own[0] ?? null;
}

function sameArea(one: Area, other: Area): boolean {
  return one.x === other.x && one.y === other.y && one.width === other.width && one.height === other.height;
}

/** What a crop becomes where it stands. As it is, the server says it; only while it is pulled it is reckoned here, within
 *  the bounds that the server gives and with edge and margins as they were. */
export function measuresOf(
  area: Area,
  sheet: Sheet | undefined,
  clipping: Clipping,
  placement: Placement | null,
): Measures & { outerPx: number } {
  const scale = sheet?.scale ?? 1;
  const more = sheet
    ? [sheet.outer.width - sheet.crop.width * scale, sheet.outer.height - sheet.crop.height * scale]
    : [0, 0];
  const [width, height] = [area.width * scale + (more[0] ?? 0), area.height * scale + (more[1] ?? 0)];
  const outerPx = width / scale;
  if (!sheet) return { ...measure(width, height, clipping.scale_factor, null), outerPx };
  const natural = naturalWidth(sheet.outer.width, clipping.scale_factor);
  if (sameArea(area, sheet.crop)) {
    // At rest the server has said it.
    const ppi = sheet.outer.width / (sheet.width_emu / EMU_PER_INCH);
    const { width_emu: widthEmu, height_emu: heightEmu } = sheet;
    return { widthEmu, heightEmu, ppi, enlarged: widthEmu > Math.floor(natural + 0.5), outerPx };
  }
  const { bound } = sheet;
  const given = placement?.keeps_scale
    ? (sheet.width_emu / natural) * naturalWidth(width, clipping.scale_factor)
    : sheet.width_emu;
  const rule = bound.rule === "given" ? Math.min(given, bound.width_emu) : bound.rule;
  const place = { widthEmu: bound.width_emu, heightEmu: bound.height_emu };
  return { ...measure(width, height, clipping.scale_factor, place, rule), outerPx };
}
