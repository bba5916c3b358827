import { describe, expect, it } from "vitest";
import { WHOLE, brought, panned, partOf, zoomed } from "./look";

const LEFT = { x: 0, y: 0, width: 2560, height: 1440 };
/** A monitor beside another: its pixels begin elsewhere. */
const RIGHT = { x: 2560, y: 200, width: 1920, height: 1080 };

describe("how a frozen screen is looked at", () => {
  it("sees all of a monitor at first", () => {
    expect(partOf(RIGHT, WHOLE)).toEqual(RIGHT);
  });

  it("keeps the pixel that is pointed at where it is seen", () => {
    const at = { x: 3000, y: 900 };
    let look = WHOLE;
    const share = (part: { x: number; y: number; width: number; height: number }) => [
      (at.x - part.x) / part.width,
      (at.y - part.y) / part.height,
    ];
    const before = share(partOf(RIGHT, look));
    for (let notch = 0; notch < 9; notch += 1) {
      look = zoomed(RIGHT, look, at, 1.25, 40);
      share(partOf(RIGHT, look)).forEach((value, side) => {
        expect(value).toBeCloseTo(before[side] ?? 0, 9);
      });
    }
    expect(look.zoom).toBeCloseTo(1.25 ** 9);
  });

  it("goes neither beyond the most nor below the whole", () => {
    expect(zoomed(LEFT, WHOLE, { x: 9, y: 9 }, 1000, 40).zoom).toBe(40);
    expect(zoomed(LEFT, { zoom: 2, x: 1280, y: 700 }, { x: 2000, y: 1000 }, 0.01, 40)).toEqual(WHOLE);
  });

  it("stays on the monitor however far it is moved", () => {
    const look = panned(RIGHT, { zoom: 4, x: 2600, y: 300 }, 99_999, -99_999);
    expect(partOf(RIGHT, look)).toEqual({ x: 4000, y: 200, width: 480, height: 270 });
  });

  it("is the very same where nothing moves, so that nothing is drawn anew", () => {
    const look = { zoom: 4, x: 0, y: 0 };
    expect(panned(LEFT, look, -5, -5)).toBe(look);
    expect(brought(LEFT, look, { x: 300, y: 200 }, 20)).toBe(look);
  });

  it("follows a point no further than is needed", () => {
    const look = brought(LEFT, { zoom: 4, x: 100, y: 100 }, { x: 760, y: 90 }, 20);
    expect(look).toEqual({ zoom: 4, x: 140, y: 70 });
  });
});
