import { describe, expect, it } from "vitest";
import type { Clipping, Placement } from "../../api/client";
import type { Sheet } from "../../api/sheet";
import { measuresOf } from "./placed";

const crop = { x: 0, y: 0, width: 200, height: 90 };
const clipping = { scale_factor: 1, crop } as Clipping;
const bound = { width_emu: 5_940_000, height_emu: 8_892_000, rule: "fill" as const };
/** Filled: 165 mm wide, 74.25 mm high, as it is written. */
const sheet = { crop, scale: 1, outer: { width: 200, height: 90 }, width_emu: 5_940_000, height_emu: 2_673_000, bound } as Sheet; // prettier-ignore
const mm = (emu: number) => Math.round(emu / 3_600) / 10;

describe("what a crop becomes where it stands", () => {
  it("is what the server says, as long as nothing is pulled", () => {
    const odd = { ...sheet, width_emu: 1_234_567, height_emu: 555_555 };
    const found = measuresOf(crop, odd, clipping, null);
    expect([found.widthEmu, found.heightEmu]).toEqual([1_234_567, 555_555]);
    expect(found.ppi).toBeCloseTo(200 / (1_234_567 / 914_400), 9);
  });

  it("follows the pointer within the bounds and by the rule that the server gives", () => {
    const pulled = { ...crop, height: 45 };
    expect(mm(measuresOf(pulled, sheet, clipping, null).heightEmu)).toBe(37.1);
    const fit = { ...sheet, bound: { ...bound, rule: "fit" as const } };
    expect(mm(measuresOf(pulled, fit, clipping, null).widthEmu)).toBe(52.9);
    const given = { ...sheet, width_emu: 1_188_000, bound: { ...bound, rule: "given" as const } };
    expect(mm(measuresOf(pulled, given, clipping, null).widthEmu)).toBe(33);
    const low = { ...sheet, bound: { ...bound, height_emu: 360_000 } };
    expect(mm(measuresOf(pulled, low, clipping, null).heightEmu)).toBe(10);
  });

  it("keeps the scale of a placement that keeps it", () => {
    const half = { ...sheet, width_emu: 952_500, bound: { ...bound, rule: "given" as const } };
    const placement = { keeps_scale: true } as Placement;
    const pulled = { ...crop, width: 100 };
    expect(measuresOf(pulled, half, clipping, placement).widthEmu).toBe(476_250);
    expect(measuresOf(pulled, half, clipping, null).widthEmu).toBe(952_500);
  });
});
