import { describe, expect, it } from "vitest";
import type { Mark } from "../../api/sheet";
import { labelOf } from "./MarkLine";
import { ALL_TOOLS, MORE, TOOLS, toolOf } from "./tools";

describe("tools", () => {
  it("stand in groups, each once", () => {
    expect(new Set(ALL_TOOLS.map((tool) => tool.id)).size).toBe(ALL_TOOLS.length);
    expect(TOOLS.flat().filter((tool) => tool.makes)).toHaveLength(9);
    expect(MORE.some((tool) => tool.makes)).toBe(false);
  });

  it("say how to begin where they make a mark", () => {
    for (const tool of ALL_TOOLS.filter((each) => each.makes)) expect(tool.hint).not.toBe("");
  });

  it("are found by id", () => {
    expect(toolOf("ring").name).toBe("Ring");
    expect(() => toolOf("stamp")).toThrow("there is no tool stamp");
  });
});

describe("the label of a pennant", () => {
  const pennant = (number: number, row: string) => ({ number, options: { row } }) as unknown as Mark;

  it("counts in numbers or letters, as the server draws it", () => {
    expect(labelOf(pennant(12, "numbers"))).toBe("12");
    expect([1, 26, 27, 52, 703].map((each) => labelOf(pennant(each, "letters")))).toEqual([
      "a",
      "z",
      "aa",
      "az",
      "aaa",
    ]);
  });
});
