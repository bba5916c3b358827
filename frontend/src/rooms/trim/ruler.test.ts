import { describe, expect, it } from "vitest";
import { ticks } from "./ruler";

describe("the ruler", () => {
  it("counts millimetres from its origin, also to the left of it", () => {
    const found = ticks(100, 6.6, 80, 160);
    expect(found.map((each) => each.mm)).toEqual([-2, 0, 2, 4, 6, 8]);
    expect(found.find((each) => each.mm === 4)?.at).toBeCloseTo(126.4);
  });
  it("takes larger steps when millimetres crowd", () => {
    const found = ticks(0, 0.7, 0, 100);
    expect(found.map((each) => each.mm)).toEqual([0, 20, 40, 60, 80, 100, 120, 140]);
    expect(found.filter((each) => each.long).map((each) => each.mm)).toEqual([0, 100]);
  });
  it("is empty where there is nothing to measure", () => {
    expect(ticks(0, 0, 0, 100)).toEqual([]);
  });
});
