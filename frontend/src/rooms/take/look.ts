import type { Point } from "../../area/AreaEditor";
import type { Area } from "../../base/units";

/** How a frozen screen is looked at: the whole of it, or a part seen larger. All in pixels of the frame. */
export interface Look {
  /** How many times larger than where the whole is seen. */
  zoom: number;
  /** The left upper corner of what is seen. */
  x: number;
  y: number;
}

/** The whole: where its corner lies does not matter. */
export const WHOLE: Look = { zoom: 1, x: 0, y: 0 };

const clamp = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);

/** The part that is seen; it never goes beyond the whole. */
export function partOf(whole: Area, { zoom, x, y }: Look): Area {
  const [width, height] = [whole.width / zoom, whole.height / zoom];
  return {
    x: clamp(x, whole.x, whole.x + whole.width - width),
    y: clamp(y, whole.y, whole.y + whole.height - height),
    width,
    height,
  };
}

/** Larger or smaller by a factor, at most so many times; the point that is meant stays where it is seen. */
export function zoomed(whole: Area, look: Look, at: Point, by: number, most: number): Look {
  const zoom = clamp(look.zoom * by, 1, Math.max(most, 1));
  const part = partOf(whole, look);
  const shrinks = look.zoom / zoom;
  return settled(whole, { zoom, x: at.x - (at.x - part.x) * shrinks, y: at.y - (at.y - part.y) * shrinks }, look);
}

/** Moved by so many pixels of the frame. */
export function panned(whole: Area, look: Look, dx: number, dy: number): Look {
  const part = partOf(whole, look);
  return settled(whole, { zoom: look.zoom, x: part.x + dx, y: part.y + dy }, look);
}

/** Moved no further than is needed for a point to be seen, with so many pixels round it. */
export function brought(whole: Area, look: Look, at: Point, round: number): Look {
  const part = partOf(whole, look);
  const way = (value: number, low: number, length: number) =>
    Math.min(value - round - low, 0) + Math.max(value + round - low - length, 0);
  return panned(whole, look, way(at.x, part.x, part.width), way(at.y, part.y, part.height));
}

/** Within the whole; the look before where nothing has changed. */
function settled(whole: Area, next: Look, before: Look): Look {
  const { x, y } = partOf(whole, next);
  return next.zoom === before.zoom && x === before.x && y === before.y ? before : { zoom: next.zoom, x, y };
}
