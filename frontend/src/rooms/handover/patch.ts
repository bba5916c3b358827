/** The patch that shows the original, on a picture that is compared with it; all in CSS pixels of the picture's box. */

export interface Point {
  x: number;
  y: number;
}

interface Size {
  width: number;
  height: number;
}

export const PATCH_PX = 120;

/** The patch's middle, held so that it stays on the picture; on one smaller than the patch, the middle of that. */
export function within({ x, y }: Point, { width, height }: Size): Point {
  return { x: between(x, width), y: between(y, height) };
}

function between(value: number, length: number): number {
  const half = Math.min(PATCH_PX, length) / 2;
  return Math.min(Math.max(value, half), length - half);
}

/** The original cut to the patch, for `clip-path`. */
export function held({ x, y }: Point, { width, height }: Size): string {
  const half = PATCH_PX / 2;
  const sides = [y - half, width - x - half, height - y - half, x - half];
  return `inset(${sides.map((side) => `${Math.max(side, 0).toFixed(1)}px`).join(" ")})`;
}
