import { describe, expect, it } from "vitest";
import { PATCH_PX, held, within } from "./patch";

const size = { width: 600, height: 400 };

describe("the patch", () => {
  it("stays on the picture", () => {
    expect(within({ x: -50, y: 900 }, size)).toEqual({ x: PATCH_PX / 2, y: 400 - PATCH_PX / 2 });
    expect(within({ x: 300, y: 200 }, size)).toEqual({ x: 300, y: 200 });
    expect(within({ x: 5, y: 5 }, { width: 100, height: 60 })).toEqual({ x: 50, y: 30 });
  });

  it("cuts the original to itself", () => {
    expect(held({ x: 300, y: 200 }, size)).toBe("inset(140.0px 240.0px 140.0px 240.0px)");
    expect(held({ x: 50, y: 30 }, { width: 100, height: 60 })).toBe("inset(0.0px 0.0px 0.0px 0.0px)");
  });
});
