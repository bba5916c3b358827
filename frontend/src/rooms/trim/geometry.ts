/** Where the pointer meets marks, and how a line is brought to angles and edges while it is drawn. */

import type { Mark } from "../../api/sheet";
import type { Guides } from "../../area/geometry";

export type XY = readonly [x: number, y: number];

function toSegment([px, py]: XY, [ax, ay]: XY, [bx, by]: XY): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length = dx * dx + dy * dy;
  const t = length === 0 ? 0 : Math.min(Math.max(((px - ax) * dx + (py - ay) * dy) / length, 0), 1);
  return Math.hypot(px - ax - t * dx, py - ay - t * dy);
}

export function isInside([x, y]: XY, corners: readonly XY[]): boolean {
  let inside = false;
  corners.forEach(([ax, ay], index) => {
    const [bx, by] = corners[(index + 1) % corners.length] ?? [ax, ay];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  });
  return inside;
}

/** How far a point is from where a mark can be taken hold of; 0 inside a closed one. */
export function distance(at: XY, mark: Pick<Mark, "touch" | "touch_closed">): number {
  const touch = mark.touch as readonly XY[];
  if (mark.touch_closed && isInside(at, touch)) return 0;
  let best = Infinity;
  for (let index = 0; index < touch.length; index += 1) {
    const a = touch[index];
    const b = touch[index + 1] ?? (mark.touch_closed ? touch[0] : a);
    if (a && b) best = Math.min(best, toSegment(at, a, b));
  }
  return best;
}

/** The topmost mark within reach of a point. */
export function markAt(at: XY, marks: readonly Mark[], reach: number): Mark | undefined {
  return [...marks].reverse().find((mark) => distance(at, mark) <= reach);
}

/** The marks of which something lies in a box that was swept. */
export function sweptBy(a: XY, b: XY, marks: readonly Mark[]): Mark[] {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  return marks.filter((mark) => {
    const xs = mark.touch.map(([x]) => x);
    const ys = mark.touch.map(([, y]) => y);
    return Math.min(...xs) <= right && Math.max(...xs) >= left && Math.min(...ys) <= bottom && Math.max(...ys) >= top;
  });
}

const STEP_DEGREES = 15;
const NEAR_DEGREES = 3;

function toGuide(value: number, guides: Guides["xs"], along: number, within: number): number {
  let best = value;
  let nearest = within;
  for (const [at, from, to] of guides) {
    const away = Math.abs(at - value);
    if (away <= nearest && along >= from - within && along <= to + within) [best, nearest] = [at, away];
  }
  return best;
}

/** The end of a line that is being drawn: on a multiple of 15° where it is nearly so, else on an edge close by. */
export function snappedEnd(from: XY, to: XY, guides: Guides, within: number): XY {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (length === 0) return to;
  const degrees = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
  const round = Math.round(degrees / STEP_DEGREES) * STEP_DEGREES;
  if (Math.abs(degrees - round) <= NEAR_DEGREES) {
    const radians = (round * Math.PI) / 180;
    const end: [number, number] = [from[0] + length * Math.cos(radians), from[1] + length * Math.sin(radians)];
    // Along the level and the upright the edges decide where it ends.
    if (round % 180 === 0) return [toGuide(end[0], guides.xs, end[1], within), from[1]];
    if (round % 90 === 0) return [from[0], toGuide(end[1], guides.ys, end[0], within)];
    return end;
  }
  return [toGuide(to[0], guides.xs, to[1], within), toGuide(to[1], guides.ys, to[0], within)];
}

export function snappedStart(at: XY, guides: Guides, within: number): XY {
  return [toGuide(at[0], guides.xs, at[1], within), toGuide(at[1], guides.ys, at[0], within)];
}
