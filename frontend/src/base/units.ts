/** How large a clipping becomes in its place: the rules of `tijera.core.fit`, for measures that follow the pointer.
 *  Both are tested on the same cases (tests/data/fit_cases.json). */

/** Lengths are whole EMU, as on the server (ECMA-376 Part 1, 20.1.2.1). */
export const EMU_PER_INCH = 914_400;
export const EMU_PER_MM = 36_000;
const PIXELS_PER_INCH = 96;
/** Of CSS. */
export const EMU_PER_PX = EMU_PER_INCH / PIXELS_PER_INCH;

/** A rectangle in pixels. */
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Measures {
  widthEmu: number;
  heightEmu: number;
  ppi: number;
  enlarged: boolean;
}

export interface Place {
  widthEmu: number;
  heightEmu: number;
}

/** Natural width in EMU, not rounded, of so many screen pixels. */
export function naturalWidth(widthPx: number, scaleFactor: number): number {
  return (widthPx * EMU_PER_INCH) / (PIXELS_PER_INCH * scaleFactor);
}

/** Measures in a place; without one, natural size. */
export function measure(
  widthPx: number,
  heightPx: number,
  scaleFactor: number,
  place: Place | null,
  rule: "fit" | "fill" | number = "fit",
): Measures {
  const natural = naturalWidth(widthPx, scaleFactor);
  let width = natural;
  if (place) {
    if (typeof rule === "number") width = rule;
    else if (rule === "fill" || natural >= place.widthEmu) width = place.widthEmu;
    const ratio = heightPx / widthPx;
    if (width * ratio > place.heightEmu) width = place.heightEmu / ratio;
  }
  const widthEmu = Math.max(1, Math.floor(width + 0.5));
  const heightEmu = Math.max(1, Math.floor((width * heightPx) / widthPx + 0.5));
  return {
    widthEmu,
    heightEmu,
    ppi: widthPx / (widthEmu / EMU_PER_INCH),
    enlarged: widthEmu > Math.floor(natural + 0.5),
  };
}
