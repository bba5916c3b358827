import { describe, expect, it } from "vitest";
import { waysOut, wordsOf } from "./waysOut";

const help = (kind: string, bytes: number, fits: boolean, name = "") => ({ kind, bytes, fits, name, placements: [] });

function problem(helps: unknown) {
  return { type: "", title: "", status: 413, detail: "", remedy: "", code: "limit-not-met", values: { helps } };
}

describe("what would help", () => {
  it("offers what is enough, and tells what is not with what it would come to", () => {
    const helps = [
      help("own-pictures", 1_200_000, true),
      help("leave-out", 1_500_000, true, "Harbour chart"),
      help("split", 2_400_000, false),
    ];
    const { actions, lines } = waysOut(problem(helps), "one", () => Promise.resolve(true));
    expect(actions?.map((each) => each.words)).toEqual([
      "Also the file's own pictures: 1.200 MB",
      "Leave Harbour chart out: 1.500 MB",
    ]);
    expect(lines).toEqual(["Two messages, the heavier one: 2.400 MB, not enough"]);
  });

  it("says nothing where nothing helps", () => {
    expect(waysOut(problem(undefined), "one", () => Promise.resolve(true))).toEqual({ actions: [], lines: [] });
  });

  it("has words for each way", () => {
    expect(wordsOf({ kind: "attach", name: "", bytes: 900 })).toBe("Attach the pictures only: 900 B");
    expect(wordsOf({ kind: "link", name: "Tides", bytes: 900 })).toBe("Send Tides as a link: 900 B");
    expect(wordsOf({ kind: "below-floor", name: "Tides", bytes: 900 })).toContain("Let Tides become unreadable");
  });
});
