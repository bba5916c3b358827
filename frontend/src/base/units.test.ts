import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { measure } from "./units";

interface Case {
  name: string;
  pixels: [number, number];
  scale_factor: number;
  place: [number, number];
  rule: "fit" | "fill" | number;
  width: number;
  height: number;
  ppi: number;
  enlarged: boolean;
}

// The same cases check tijera.core.fit: what the pointer shows is what will be written.
const cases = JSON.parse(
  readFileSync(new URL("../../../tests/data/fit_cases.json", import.meta.url), "utf-8"),
) as Case[];

describe("measures", () => {
  it.each(cases)("$name", ({ pixels, scale_factor, place, rule, ...wanted }) => {
    const found = measure(pixels[0], pixels[1], scale_factor, { widthEmu: place[0], heightEmu: place[1] }, rule);
    expect([found.widthEmu, found.heightEmu]).toEqual([wanted.width, wanted.height]);
    expect(found.ppi).toBeCloseTo(wanted.ppi, 2);
    expect(found.enlarged).toBe(wanted.enlarged);
  });
  it("takes natural size where no place is chosen", () => {
    expect(measure(300, 200, 1.5, null)).toMatchObject({ widthEmu: 1_905_000, heightEmu: 1_270_000 });
  });
});
