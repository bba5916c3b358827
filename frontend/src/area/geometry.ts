/** Rectangles that are drawn, moved and pulled, in whole pixels of what they lie on. */

import type { Area } from "../base/units";

export type { Area };

/** Where areas may lie: from the corner of what they lie on, or from a point in it. */
export interface Bounds {
  x?: number;
  y?: number;
  width: number;
  height: number;
}

/** Its sides: left, top, right, bottom. */
function sides(bounds: Bounds): [number, number, number, number] {
  const { x = 0, y = 0, width, height } = bounds;
  return [x, y, x + width, y + height];
}

/** What is pulled: a side or corner by its compass letters, or the whole. */
export type Grip = "n" | "s" | "e" | "w" | "ne" | "nw" | "se" | "sw" | "move";

export const GRIPS: readonly Grip[] = ["nw", "n", "ne", "e", "se", "s", "sw", "w"];

const clamp = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);

/** The area between two points, at least 1 × 1 and inside the bounds. */
export function between(a: { x: number; y: number }, b: { x: number; y: number }, bounds: Bounds): Area {
  const [west, north, east, south] = sides(bounds);
  const left = clamp(Math.round(Math.min(a.x, b.x)), west, east - 1);
  const top = clamp(Math.round(Math.min(a.y, b.y)), north, south - 1);
  const right = clamp(Math.round(Math.max(a.x, b.x)), left + 1, east);
  const bottom = clamp(Math.round(Math.max(a.y, b.y)), top + 1, south);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The area after a grip was pulled by (dx, dy); a side stops one pixel before the opposite one. */
export function pulled(start: Area, grip: Grip, dx: number, dy: number, bounds: Bounds): Area {
  const [mx, my] = [Math.round(dx), Math.round(dy)];
  const [west, north, east, south] = sides(bounds);
  if (grip === "move") {
    return {
      ...start,
      x: clamp(start.x + mx, west, Math.max(east - start.width, west)),
      y: clamp(start.y + my, north, Math.max(south - start.height, north)),
    };
  }
  let [left, top, right, bottom] = [start.x, start.y, start.x + start.width, start.y + start.height];
  if (grip.includes("w")) left = clamp(left + mx, west, right - 1);
  if (grip.includes("e")) right = clamp(right + mx, left + 1, east);
  if (grip.includes("n")) top = clamp(top + my, north, bottom - 1);
  if (grip.includes("s")) bottom = clamp(bottom + my, top + 1, south);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The area with another size, its corner kept where that is possible. */
export function resized(area: Area, width: number, height: number, bounds: Bounds): Area {
  const w = clamp(Math.round(width), 1, bounds.width);
  const h = clamp(Math.round(height), 1, bounds.height);
  const [west, north, east, south] = sides(bounds);
  return { x: clamp(area.x, west, east - w), y: clamp(area.y, north, south - h), width: w, height: h };
}

/** Inside its bounds and at least 1 × 1. */
export function within(area: Area, bounds: Bounds): Area {
  return resized({ ...area, x: Math.round(area.x), y: Math.round(area.y) }, area.width, area.height, bounds);
}

/** What of an area lies inside the bounds; the area itself where none of it does. */
export function clipped(area: Area, bounds: Bounds): Area {
  const [west, north, east, south] = sides(bounds);
  const [x, y] = [Math.max(area.x, west), Math.max(area.y, north)];
  const width = Math.min(area.x + area.width, east) - x;
  const height = Math.min(area.y + area.height, south) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : area;
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

/** Edges of a picture that an area may snap to: a position, and from where to where it runs. */
export interface Guides {
  xs: readonly (readonly [at: number, from: number, to: number])[];
  ys: readonly (readonly [at: number, from: number, to: number])[];
}

/** The sides of rectangles as guides. */
export function guidesOf(boxes: readonly Area[]): Guides {
  return {
    xs: boxes.flatMap((box) => [
      [box.x, box.y, box.y + box.height] as const,
      [box.x + box.width, box.y, box.y + box.height] as const,
    ]),
    ys: boxes.flatMap((box) => [
      [box.y, box.x, box.x + box.width] as const,
      [box.y + box.height, box.x, box.x + box.width] as const,
    ]),
  };
}

function nearest(value: number, guides: Guides["xs"], from: number, to: number, within: number): number {
  let best = value;
  let distance = within;
  for (const [at, start, end] of guides) {
    const away = Math.abs(at - value);
    if (away <= distance && start <= to + within && end >= from - within) {
      best = at;
      distance = away;
    }
  }
  return best;
}

/** The area with its moving sides brought to guides that lie within so many pixels. */
export function snapped(area: Area, grip: Grip | "new", guides: Guides, within: number): Area {
  if (grip === "move") return area;
  const moves = (side: string) => grip === "new" || grip.includes(side);
  const [right, bottom] = [area.x + area.width, area.y + area.height];
  const x0 = moves("w") ? nearest(area.x, guides.xs, area.y, bottom, within) : area.x;
  const x1 = moves("e") ? nearest(right, guides.xs, area.y, bottom, within) : right;
  const y0 = moves("n") ? nearest(area.y, guides.ys, area.x, right, within) : area.y;
  const y1 = moves("s") ? nearest(bottom, guides.ys, area.x, right, within) : bottom;
  if (x1 <= x0 || y1 <= y0) return area;
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 };
}

/** The smallest whole rectangle round points. */
export function boundsOf(points: readonly (readonly [number, number])[], bounds: Bounds): Area {
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const [west, north, east, south] = sides(bounds);
  const left = clamp(Math.floor(Math.min(...xs)), west, east - 1);
  const top = clamp(Math.floor(Math.min(...ys)), north, south - 1);
  const right = clamp(Math.ceil(Math.max(...xs)), left + 1, east);
  const bottom = clamp(Math.ceil(Math.max(...ys)), top + 1, south);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

export function contains(area: Area, x: number, y: number): boolean {
  return x >= area.x && y >= area.y && x < area.x + area.width && y < area.y + area.height;
}

export function overlap(a: Area, b: Area): number {
  const across = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const down = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  return Math.max(across, 0) * Math.max(down, 0);
}
