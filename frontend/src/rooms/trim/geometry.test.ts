import { describe, expect, it } from "vitest";
import type { Mark } from "../../api/sheet";
import { guidesOf } from "../../area/geometry";
import { type XY, distance, isInside, markAt, snappedEnd, snappedStart, sweptBy } from "./geometry";

const BOX: XY[] = [
  [10, 10],
  [60, 10],
  [60, 40],
  [10, 40],
];
const NONE = { xs: [], ys: [] };

function mark(id: string, touch: XY[], closed: boolean): Mark {
  return {
    id,
    kind: "ring",
    svg: "",
    points: touch as [number, number][],
    options: {},
    touch: touch as [number, number][],
    touch_closed: closed,
    box: [0, 0, 0, 0],
    number: 1,
    says: "",
    missing: "",
    derived: {},
    picture: null,
  };
}

const degrees = (from: XY, to: XY) => (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;

describe("taking hold of a mark", () => {
  it("counts the inside of closed ones only", () => {
    expect(isInside([30, 20], BOX)).toBe(true);
    expect(isInside([30, 50], BOX)).toBe(false);
    expect(distance([30, 20], { touch: BOX as [number, number][], touch_closed: true })).toBe(0);
    expect(distance([30, 22], { touch: BOX as [number, number][], touch_closed: false })).toBe(12);
  });

  it("measures to the nearest part of a line, and beyond its ends", () => {
    const line = {
      touch: [
        [0, 0],
        [30, 40],
      ] as [number, number][],
      touch_closed: false,
    };
    expect(distance([15, 20], line)).toBeCloseTo(0);
    expect(distance([19, 17], line)).toBeCloseTo(5);
    expect(distance([33, 44], line)).toBeCloseTo(5);
  });

  it("measures to a single point", () => {
    expect(distance([3, 4], { touch: [[0, 0]], touch_closed: false })).toBe(5);
  });

  it("finds the topmost within reach", () => {
    const marks = [mark("below", BOX, true), mark("above", BOX, true)];
    expect(markAt([30, 20], marks, 3)?.id).toBe("above");
    expect(markAt([64, 20], marks, 5)?.id).toBe("above");
    expect(markAt([70, 20], marks, 5)).toBeUndefined();
  });

  it("sweeps over what lies in the box, drawn in any direction", () => {
    const marks = [
      mark("one", BOX, false),
      mark(
        "two",
        [
          [100, 100],
          [140, 130],
        ],
        false,
      ),
    ];
    expect(sweptBy([0, 0], [200, 200], marks)).toHaveLength(2);
    expect(sweptBy([70, 50], [5, 5], marks).map((each) => each.id)).toEqual(["one"]);
    expect(sweptBy([61, 41], [99, 99], marks)).toEqual([]);
  });
});

describe("drawing a line", () => {
  it("comes to the next multiple of 15 degrees where it is nearly there", () => {
    for (const [to, angle] of [
      [[100, 3], 0],
      [[3, 100], 90],
      [[98, 100], 45],
      [[-100, -2], 180],
      [[90, -50], -30],
    ] as const) {
      const end = snappedEnd([0, 0], to, NONE, 6);
      expect(Math.abs(degrees([0, 0], end))).toBeCloseTo(Math.abs(angle), 6);
    }
  });

  it("keeps its length there", () => {
    const end = snappedEnd([10, 20], [108, 120], NONE, 6);
    expect(Math.hypot(end[0] - 10, end[1] - 20)).toBeCloseTo(Math.hypot(98, 100), 6);
  });

  it("stays free between the steps", () => {
    expect(snappedEnd([0, 0], [100, 13], NONE, 6)).toEqual([100, 13]);
    expect(snappedEnd([5, 5], [5, 5], NONE, 6)).toEqual([5, 5]);
  });

  it("ends on an edge of the picture that lies close by", () => {
    const guides = guidesOf([{ x: 50, y: 30, width: 200, height: 100 }]);
    expect(snappedEnd([0, 60], [247, 62], guides, 6)).toEqual([250, 60]);
    const lower = guidesOf([{ x: 50, y: 42, width: 200, height: 90 }]);
    expect(snappedEnd([0, 0], [100, 40], lower, 6)).toEqual([100, 42]);
    expect(snappedStart([52, 33], guides, 6)).toEqual([50, 30]);
    expect(snappedStart([52, 300], guides, 6)).toEqual([52, 300]);
  });
});
