import { describe, expect, it } from "vitest";
import type { Block, Outline, Spot } from "../../api/client";
import { findWords, flows, readingOrder } from "./blocks";

function block(id: string, section: number, spots: string[], text = "", more: Partial<Block> = {}): Block {
  return { id, kind: "paragraph", level: 0, text, section, pictures: [], rows: [], content: null, spots, ...more };
}

function spot(id: string, section: number): Spot {
  return {
    id,
    kind: "body",
    follows: "paragraph",
    after_text: "",
    widths_emu: [1],
    height_emu: 1,
    section,
    stands: ["lines"],
    free_width_emu: null,
    grows_to_emu: null,
  };
}

const cell = {
  column_span: 1,
  row_span: 1,
  width_emu: 9,
  content: { spots: ["c0"], blocks: [block("c1", 1, ["c1"], "Berth")] },
};
const outline: Outline = {
  sections: [],
  more: false,
  spots: Object.fromEntries(
    [spot("b0", 0), spot("b1e", 0), spot("b1", 1), spot("b2", 1), spot("c0", 1), spot("c1", 1)].map((each) => [
      each.id,
      each,
    ]),
  ),
  body: {
    spots: ["b0"],
    blocks: [
      block("b1", 0, ["b1e", "b1"], "The berths of the quay"),
      block("b2", 1, ["b2"], "", { kind: "table", rows: [[cell]] }),
    ],
  },
};

describe("the galley's flow", () => {
  it("puts the spot behind a section's end into the section that follows", () => {
    const [first, second] = flows(outline);
    expect(first?.blocks[0]?.spots).toEqual(["b1e"]);
    expect(second?.spots).toEqual(["b1"]);
  });
  it("reads cells before what lies after their table", () => {
    expect(readingOrder(outline)).toEqual(["b0", "b1e", "b1", "c0", "c1", "b2"]);
  });
  it("finds words onward from where one is, and wraps round", () => {
    expect(findWords(outline, "berth", null)).toBe("b1");
    expect(findWords(outline, "Berth", "b1")).toBe("c1");
    expect(findWords(outline, "berth", "c1")).toBe("b1");
    expect(findWords(outline, "nowhere", null)).toBeNull();
  });
});
