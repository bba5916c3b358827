import { describe, expect, it } from "vitest";
import type { Spot } from "../../api/client";
import { becomes } from "./becomes";

const spot: Spot = {
  id: "b.1",
  kind: "body",
  follows: "paragraph",
  after_text: "Ropes are laid out",
  widths_emu: [3_746_500, 1_905_000],
  height_emu: 8_892_540,
  section: 0,
  stands: ["lines"],
  free_width_emu: null,
  grows_to_emu: null,
};
const area = { x: 10, y: 20, width: 1_560, height: 336 };

describe("what a region becomes", () => {
  it("takes the narrowest of a place's widths", () => {
    expect(becomes(area, { scale_factor: 1.5 }, spot)).toBe("52.9 × 11.4 mm, 749 ppi");
  });
  it("takes its natural size where no place is chosen", () => {
    expect(becomes({ ...area, width: 144 }, { scale_factor: 1.5 }, null)).toBe("25.4 × 59.3 mm, 144 ppi");
  });
  it("is not higher than the page", () => {
    expect(becomes({ ...area, width: 100, height: 9_000 }, { scale_factor: 1 }, spot)).toContain("× 247.0 mm");
  });
});
