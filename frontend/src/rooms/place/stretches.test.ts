import { describe, expect, it } from "vitest";
import type { Block } from "../../api/client";
import { heightOf, stretches, whereabouts } from "./stretches";

function text(id: string, more: Partial<Block> = {}): Block {
  const words = "nobody stands beside a rope ".repeat(10);
  return { id, kind: "paragraph", level: 0, text: words, section: 0, pictures: [], rows: [], content: null, spots: [`${id}s`], ...more }; // prettier-ignore
}

function flow(count: number, headings: number[] = []) {
  const blocks = Array.from({ length: count }, (_, at) =>
    text(`b${at.toString()}`, headings.includes(at) ? { kind: "heading", text: "Berths" } : {}),
  );
  return { section: 0, spots: ["start"], blocks };
}

const LANE_MM = 160;

describe("stretches", () => {
  it("keep every block once and in order, the first and last one marked", () => {
    const all = stretches(flow(700), LANE_MM);
    expect(all.length).toBeGreaterThan(3);
    expect(all.flatMap((each) => each.blocks.map((block) => block.id))).toEqual(flow(700).blocks.map(({ id }) => id));
    expect(all.map((each) => each.first)).toEqual(all.map((_, at) => at === 0));
    expect(all.map((each) => each.last)).toEqual(all.map((_, at) => at === all.length - 1));
    expect(all[0]?.spots).toEqual(["start"]);
    expect(all.at(-1)?.goesOn).toBe(false);
  });

  it("stay as they are where the text grows behind them", () => {
    const [short, long] = [stretches(flow(300), LANE_MM), stretches(flow(700), LANE_MM)];
    expect(long.slice(0, short.length - 1).map((each) => each.blocks.length)).toEqual(
      short.slice(0, -1).map((each) => each.blocks.length),
    );
  });

  it("leave a text of a few pages whole, and end before a heading that is near", () => {
    expect(stretches(flow(60), LANE_MM)).toHaveLength(1);
    const [first, second] = stretches(flow(300, [75]), LANE_MM);
    expect(first?.blocks).toHaveLength(75);
    expect([first?.goesOn, second?.key]).toEqual([false, "b75"]);
  });

  it("tell where every block and spot is, those in cells as well", () => {
    const cell = { column_span: 1, row_span: 1, width_emu: 1, content: { spots: ["c0"], blocks: [text("c1")] } };
    const all = stretches({ section: 0, spots: ["b.0"], blocks: [text("t", { rows: [[cell]] })] }, LANE_MM);
    const at = whereabouts(all);
    expect(["b.0", "t", "ts", "c0", "c1", "c1s"].map((id) => at.get(id))).toEqual([0, 0, 0, 0, 0, 0]);
    expect(at.get("elsewhere")).toBeUndefined();
  });

  it("count pictures and the highest cell of a row", () => {
    const picture = { member: "a.png", width_emu: 1, height_emu: 3_600_000, crop: { left: 0, top: 0, right: 0, bottom: 0 } }; // prettier-ignore
    expect(heightOf(text("a", { text: "", pictures: [picture] }), LANE_MM)).toBeCloseTo(102);
    expect(heightOf(text("a", { text: "one\ntwo" }), LANE_MM)).toBeCloseTo(12.2);
  });
});
