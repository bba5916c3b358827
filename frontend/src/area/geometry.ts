/** Rectangles that are drawn, moved and pulled, in whole pixels of what they lie on. */

export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Bounds {
  width: number;
  height: number;
}

/** What is pulled: a side or corner by its compass letters, or the whole. */
export type Grip = "n" | "s" | "e" | "w" | "ne" | "nw" | "se" | "sw" | "move";

export const GRIPS: readonly Grip[] = ["nw", "n", "ne", "e", "se", "s", "sw", "w"];

const clamp = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);

/** The area between two points, at least 1 × 1 and inside the bounds. */
export function between(a: { x: number; y: number }, b: { x: number; y: number }, bounds: Bounds): Area {
  const left = clamp(Math.round(Math.min(a.x, b.x)), 0, bounds.width - 1);
  const top = clamp(Math.round(Math.min(a.y, b.y)), 0, bounds.height - 1);
  const right = clamp(Math.round(Math.max(a.x, b.x)), left + 1, bounds.width);
  const bottom = clamp(Math.round(Math.max(a.y, b.y)), top + 1, bounds.height);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The area after a grip was pulled by (dx, dy); a side stops one pixel before the opposite one. */
export function pulled(start: Area, grip: Grip, dx: number, dy: number, bounds: Bounds): Area {
  const [mx, my] = [Math.round(dx), Math.round(dy)];
  if (grip === "move") {
    return {
      ...start,
      x: clamp(start.x + mx, 0, bounds.width - start.width),
      y: clamp(start.y + my, 0, bounds.height - start.height),
    };
  }
  let [left, top, right, bottom] = [start.x, start.y, start.x + start.width, start.y + start.height];
  if (grip.includes("w")) left = clamp(left + mx, 0, right - 1);
  if (grip.includes("e")) right = clamp(right + mx, left + 1, bounds.width);
  if (grip.includes("n")) top = clamp(top + my, 0, bottom - 1);
  if (grip.includes("s")) bottom = clamp(bottom + my, top + 1, bounds.height);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The area with another size, its corner kept where that is possible. */
export function resized(area: Area, width: number, height: number, bounds: Bounds): Area {
  const w = clamp(Math.round(width), 1, bounds.width);
  const h = clamp(Math.round(height), 1, bounds.height);
  return { x: clamp(area.x, 0, bounds.width - w), y: clamp(area.y, 0, bounds.height - h), width: w, height: h };
}

/** Inside its bounds and at least 1 × 1. */
export function within(area: Area, bounds: Bounds): Area {
  return resized({ ...area, x: Math.round(area.x), y: Math.round(area.y) }, area.width, area.height, bounds);
}

export function sameArea(a: Area | null, b: Area | null): boolean {
  return a === b || (!!a && !!b && a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height);
}

/** What an arrow key does: move by one pixel, by ten with Shift; with Alt it changes the size. */
export function nudged(
  area: Area,
  key: string,
  modifiers: { shift: boolean; alt: boolean },
  bounds: Bounds,
): Area | null {
  const step = modifiers.shift ? 10 : 1;
  const directions: Record<string, [number, number]> = {
    ArrowLeft: [-step, 0],
    ArrowRight: [step, 0],
    ArrowUp: [0, -step],
    ArrowDown: [0, step],
  };
  const by = directions[key];
  if (!by) return null;
  return modifiers.alt ? pulled(area, "se", by[0], by[1], bounds) : pulled(area, "move", by[0], by[1], bounds);
}
