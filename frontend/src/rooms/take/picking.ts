import type { Frame, WindowBox } from "../../api/client";
import type { Cut, KindName } from "../../base/state";
import { type Area, contains, overlap, sameArea } from "../../area/geometry";

/** What can be pointed at on a frozen screen, and what of it a point or a held area means. Pure: no page, no state. */

export interface Target {
  area: Area;
  title: string;
  window?: string;
  /** Of a table: whoever points there means a row or a column first. */
  isCell?: boolean;
}

/** What is found in a picture. */
export interface Found {
  panes: readonly Area[];
  cells: readonly Area[];
}

export const NOTHING_FOUND: Found = { panes: [], cells: [] };

export function areaOf(box: Area): Area {
  return { x: box.x, y: box.y, width: box.width, height: box.height };
}

export function windowTarget(window: WindowBox, contentOnly: boolean): Target {
  const area = areaOf((contentOnly ? window.content : null) ?? window.box);
  return { area, title: window.title, window: window.id };
}

/** Windows under a point, the topmost first. */
export function windowsAt(frame: Frame, x: number, y: number, contentOnly: boolean): Target[] {
  return frame.windows
    .filter((each) => contains(each.box, x, y))
    .sort((a, b) => a.depth - b.depth)
    .map((each) => windowTarget(each, contentOnly));
}

/** Everything on a frame that could be a pane: what was found in the picture, windows and their contents, monitors. */
export function paneTargets(frame: Frame, found: Found): Target[] {
  const known: Target[] = [
    ...frame.windows.flatMap((each) => [
      { area: areaOf(each.box), title: each.title },
      ...(each.content ? [{ area: areaOf(each.content), title: `${each.title}, content` }] : []),
    ]),
    ...frame.monitors.map((each) => ({ area: areaOf(each.box), title: each.name })),
  ];
  const isNew = (pane: Area) => !known.some((each) => near(each.area, pane));
  const news: Target[] = [
    ...found.panes.filter(isNew).map((area) => ({ area, title: "Pane" })),
    ...found.cells.filter(isNew).map((area) => ({ area, title: "Cell", isCell: true })),
  ];
  return [...news, ...known].sort((a, b) => a.area.width * a.area.height - b.area.width * b.area.height);
}

const NEAR = 3;

function near(a: Area, b: Area): boolean {
  const sides = [a.x - b.x, a.y - b.y, a.x + a.width - b.x - b.width, a.y + a.height - b.y - b.height];
  return sides.every((side) => Math.abs(side) <= NEAR);
}

/** Panes under a point, the smallest first; those of a window that is covered there are left out. */
export function panesAt(frame: Frame, targets: readonly Target[], x: number, y: number): Target[] {
  const top = [...frame.windows].sort((a, b) => a.depth - b.depth).find((each) => contains(each.box, x, y));
  const above = (target: Target) =>
    !top || !frame.windows.some((each) => each.depth > top.depth && (near(each.box, target.area) || (each.content && near(each.content, target.area)))); // prettier-ignore
  return targets.filter((each) => contains(each.area, x, y) && above(each));
}

/** Which of the targets at a point is held at first: the smallest that is no cell of a table. */
export function firstOf(targets: readonly Target[]): number {
  return Math.max(
    targets.findIndex((each) => !each.isCell),
    0,
  );
}

/** Monitors, and all of them together where there are several. */
export function screenTargets(frame: Frame): Target[] {
  const each = frame.monitors.map((monitor) => ({ area: areaOf(monitor.box), title: monitor.name }));
  const all = { area: { x: 0, y: 0, width: frame.width, height: frame.height }, title: "All monitors" };
  return each.length > 1 ? [...each, all] : [all];
}

export function targetsAt(
  kind: KindName,
  frame: Frame,
  panes: readonly Target[],
  x: number,
  y: number,
  contentOnly: boolean,
): Target[] {
  if (kind === "window") return windowsAt(frame, x, y, contentOnly);
  if (kind === "pane") return panesAt(frame, panes, x, y);
  if (kind === "screen") return screenTargets(frame).filter((each) => contains(each.area, x, y));
  return [];
}

export function cutOf(kind: KindName, target: Target, contentOnly: boolean): Cut {
  if (kind !== "window" || target.window === undefined) return { kind, area: target.area };
  return { kind, area: target.area, window: target.window, contentOnly };
}

/** The held area in another kind: the window or pane that it shows most of, its monitor, or as a region. */
export function snappedInto(
  kind: KindName,
  cut: Cut,
  frame: Frame,
  panes: readonly Target[],
  contentOnly: boolean,
): Cut | null {
  const { area } = cut;
  if (kind === "region") return { kind, area };
  if (kind === "freehand" || kind === "long-page") return kind === cut.kind ? cut : null;
  if (kind === "window") {
    const best = most(
      frame.windows.map((each) => windowTarget(each, contentOnly)),
      (each) => overlap(each.area, area) * 1_000 - (frame.windows.find((w) => w.id === each.window)?.depth ?? 0),
    );
    return best && overlap(best.area, area) > 0 ? cutOf(kind, best, contentOnly) : null;
  }
  // Of panes and monitors the one that agrees best: what both share, of what either covers.
  const best = most(kind === "pane" ? panes : screenTargets(frame), (each) => agreement(each.area, area));
  return best && overlap(best.area, area) > 0 ? cutOf(kind, best, contentOnly) : null;
}

function agreement(a: Area, b: Area): number {
  const shared = overlap(a, b);
  return shared / (a.width * a.height + b.width * b.height - shared);
}

function most<T>(all: readonly T[], worth: (each: T) => number): T | undefined {
  return all.reduce<T | undefined>(
    (best, each) => (best === undefined || worth(each) > worth(best) ? each : best),
    undefined,
  );
}

/** The next smaller or larger target round what is held. */
export function stepped(targets: readonly Target[], held: Area, by: 1 | -1): Target | undefined {
  const at = targets.findIndex((each) => sameArea(each.area, held));
  return at === -1 ? targets[0] : targets[at + by];
}

/** The scale factor of an area: the largest of the monitors that it touches. */
export function scaleFactorOf(area: Area, frame: Frame): number {
  const touched = frame.monitors.filter((each) => overlap(each.box, area) > 0).map((each) => each.scale_factor);
  return touched.length > 0 ? Math.max(...touched) : 1;
}
