import { describe, expect, it } from "vitest";
import type { Weight, Weighed } from "../../api/client";
import { railBytes, segments } from "./segments";

function picture(label: string, bytes: number, clipping: string | null = null): Weighed {
  return {
    label,
    member: label,
    width_px: 10,
    height_px: 8,
    shown_emu: [],
    ppi: null,
    bytes,
    record_bytes: bytes,
    times_used: 1,
    clipping,
    placement: null,
    say: null,
    note: null,
  };
}

const weight: Weight = {
  file_bytes: 1_000_000,
  rest_bytes: 100_000,
  limit_bytes: 1_500_000,
  pictures: [picture("chart", 700_000), picture("a", 40_000), picture("b", 30_000), picture("mine", 130_000, "c1")],
};

describe("the weight rail", () => {
  it("puts the limit at three quarters", () => {
    expect(weight.limit_bytes! / railBytes(weight)).toBeCloseTo(0.75);
    expect(railBytes({ file_bytes: 900, limit_bytes: null })).toBeCloseTo(1200);
  });
  it("gathers small pictures of others and keeps every clipping by name", () => {
    expect(segments(weight).map((each) => each.label)).toEqual(["text", "chart", "2 more", "mine"]);
  });
  it("is as long as the file, without gaps", () => {
    const parts = segments(weight);
    parts.slice(1).forEach((part, index) => {
      expect(part.start).toBeCloseTo(parts[index]!.start + parts[index]!.width);
    });
    const last = parts.at(-1)!;
    expect(last.start + last.width).toBeCloseTo(0.5);
  });
  it("ends at the rail's end when the file is far over", () => {
    const last = segments({ ...weight, limit_bytes: 10_000 }).at(-1)!;
    expect(last.start + last.width).toBe(1);
  });
});
