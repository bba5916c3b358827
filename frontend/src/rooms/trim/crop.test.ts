import { describe, expect, it } from "vitest";
import { heldTo } from "./CropLine";

const BOUNDS = { width: 800, height: 500 };

describe("a crop held to a ratio", () => {
  it("follows the width, or the height where that is pulled", () => {
    const area = { x: 100, y: 100, width: 300, height: 50 };
    expect(heldTo(area, "e", 1.5, BOUNDS)).toEqual({ ...area, height: 200 });
    expect(heldTo({ ...area, height: 120 }, "s", 1.5, BOUNDS)).toEqual({ x: 100, y: 100, width: 180, height: 120 });
  });

  it("leaves the side that is not pulled where it is", () => {
    const area = { x: 100, y: 100, width: 300, height: 200 };
    const after = heldTo({ ...area, x: 160, width: 240 }, "nw", 1.5, BOUNDS);
    expect([after.x + after.width, after.y + after.height]).toEqual([400, 300]);
  });

  it("never leaves the picture", () => {
    for (const grip of ["n", "ne", "e", "se", "s", "sw", "w", "nw"]) {
      const after = heldTo({ x: 10, y: 20, width: 780, height: 470 }, grip, 4 / 3, BOUNDS);
      expect(after.x).toBeGreaterThanOrEqual(0);
      expect(after.y).toBeGreaterThanOrEqual(0);
      expect(after.x + after.width).toBeLessThanOrEqual(800);
      expect(after.y + after.height).toBeLessThanOrEqual(500);
      expect(after.width / after.height).toBeCloseTo(4 / 3, 1);
    }
  });
});
