import { describe, expect, it } from "vitest";
import type { Weight, Weighed } from "../../api/client";
import { aboutBytes, railBytes, segments } from "./segments";

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
    hidden_share: 0,
    placements: [],
    was_bytes: null,
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
    expect(railBytes({ file_bytes: 900, limit_bytes: null })).toBeCloseTo(1500);
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

describe("the estimate while it is measured", () => {
  const picture = (clipping: string | null, placements: string[], bytes: number) => ({
    clipping,
    placements,
    record_bytes: bytes,
  });
  const weight = {
    file_bytes: 1_000_000,
    pictures: [picture(null, [], 400_000), picture("a", ["1"], 300_000)] as Weight["pictures"],
  };
  const clippings = [
    { id: "a", outer: { width: 1_000, height: 1_000 } },
    { id: "b", outer: { width: 1_000, height: 500 } },
  ];

  it("adds what is new by its pixels, once however often it stands there", () => {
    const placements = [
      { id: "1", clipping: "a" },
      { id: "2", clipping: "b" },
      { id: "3", clipping: "b" },
      { id: "4", clipping: "a" },
    ];
    expect(aboutBytes(weight, placements, clippings)).toBe(1_150_000);
  });

  it("takes away what is gone", () => {
    expect(aboutBytes(weight, [], clippings)).toBe(700_000);
  });
});
