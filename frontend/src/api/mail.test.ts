import { describe, expect, it } from "vitest";
import { heavierHalf } from "./mail";

const picture = (record_bytes: number, ...placements: string[]) => ({ record_bytes, placements });

describe("two messages instead of one", () => {
  it("weigh about the same, and a picture stays in one piece", () => {
    const pictures = [picture(10, "a"), picture(60, "b", "c"), picture(50, "d"), picture(5, "e")];
    // 60 + 5 in the first, 50 + 10 in the second.
    expect(heavierHalf(pictures)).toEqual(["d", "a"]);
  });

  it("are none where there is one picture, or nothing", () => {
    expect(heavierHalf([])).toEqual([]);
    expect(heavierHalf([picture(900, "a", "b")])).toEqual([]);
  });
});
