import { describe, expect, it } from "vitest";
import type { Frame } from "../../api/client";
import { beside, hex } from "./Magnifier";
import { paneTargets, panesAt, scaleFactorOf, screenTargets, snappedInto, stepped, windowsAt } from "./picking";

const box = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
const frame: Frame = {
  id: "f",
  source: "desk",
  width: 4_480,
  height: 1_440,
  scale_factor: 1.5,
  monitors: [
    { id: "left", name: "Left monitor", box: box(0, 0, 2_560, 1_440), scale_factor: 1.5 },
    { id: "right", name: "Right monitor", box: box(2_560, 240, 1_920, 1_080), scale_factor: 1 },
  ],
  windows: [
    { id: "log", title: "Engine log", box: box(600, 400, 500, 300), content: box(602, 440, 496, 258), depth: 0, is_covered: false, is_whole: false },
    { id: "tide", title: "Tide board", box: box(100, 100, 700, 500), content: box(102, 140, 696, 458), depth: 1, is_covered: true, is_whole: true },
  ],
  pointer: null,
  has_pointer: false,
  taken_at: "2026-03-12T12:05:00Z",
}; // prettier-ignore
const panes = paneTargets(frame, {
  panes: [box(150, 200, 300, 120), box(100, 100, 700, 41), box(601, 401, 499, 299)],
  cells: [],
});

describe("what a point means", () => {
  it("is the topmost window first, whatever was visited before", () => {
    expect(windowsAt(frame, 650, 450, false).map((each) => each.window)).toEqual(["log", "tide"]);
    expect(windowsAt(frame, 650, 450, true)[0]!.area).toEqual(box(602, 440, 496, 258));
    expect(windowsAt(frame, 3_000, 700, false)).toEqual([]);
  });
  it("is the smallest pane first, a window's own box counted once", () => {
    expect(panesAt(frame, panes, 200, 250).map((each) => each.area.width)).toEqual([300, 696, 700, 2_560]);
    expect(panes.filter((each) => each.area.x === 601)).toEqual([]);
  });
  it("leaves out the panes of a window that is covered there", () => {
    expect(panesAt(frame, panes, 650, 450).map((each) => each.title)).toEqual([
      "Engine log, content",
      "Engine log",
      "Left monitor",
    ]);
  });
  it("goes on to larger and smaller panes", () => {
    const there = panesAt(frame, panes, 200, 250);
    expect(stepped(there, there[0]!.area, 1)?.area.width).toBe(696);
    expect(stepped(there, there[1]!.area, -1)?.area.width).toBe(300);
    expect(stepped(there, there[0]!.area, -1)).toBeUndefined();
  });
});

describe("a held area in another kind", () => {
  const region = { kind: "region" as const, area: box(140, 190, 330, 150) };
  it("snaps into the pane, the window or the monitor that it shows", () => {
    expect(snappedInto("pane", region, frame, panes, false)?.area).toEqual(box(150, 200, 300, 120));
    expect(snappedInto("window", region, frame, panes, false)).toMatchObject({
      window: "tide",
      area: box(100, 100, 700, 500),
    });
    expect(snappedInto("screen", region, frame, panes, false)?.area.width).toBe(2_560);
    expect(snappedInto("freehand", region, frame, panes, false)).toBeNull();
  });
  it("is none where no window is meant", () => {
    expect(snappedInto("window", { kind: "region", area: box(3_000, 400, 50, 50) }, frame, panes, false)).toBeNull();
  });
});

describe("monitors", () => {
  it("give their scale factor; across two of them the larger one counts", () => {
    expect(scaleFactorOf(box(3_000, 400, 50, 50), frame)).toBe(1);
    expect(scaleFactorOf(box(2_500, 400, 200, 50), frame)).toBe(1.5);
    expect(scaleFactorOf(box(3_000, 10, 50, 50), frame)).toBe(1);
    expect(screenTargets(frame).map((each) => each.title)).toEqual(["Left monitor", "Right monitor", "All monitors"]);
  });
});

describe("the magnifier", () => {
  it("stands beside what is aimed at and never over it", () => {
    const shown = { left: 0, top: 0, width: 900, height: 600 };
    for (let x = 0; x <= 900; x += 30) {
      for (let y = 0; y <= 600; y += 30) {
        const { left, top } = beside({ x, y }, shown);
        const covers = left <= x && x < left + 135 && top <= y && y < top + 159;
        expect(covers).toBe(false);
      }
    }
  });
  it("names a colour in hexadecimal", () => {
    expect(hex(241, 246, 4)).toBe("#F1F604");
  });
});
