import { describe, expect, it } from "vitest";
import { exactWeight, limitText, tail, weightOf, where, whole } from "./format";

describe("figures", () => {
  it("puts a thin space between thousands", () => {
    expect(whole(1_234_567)).toBe("1\u2009234\u2009567");
    expect(whole(999)).toBe("999");
  });
  it("writes weights in powers of ten and does not round up to a thousand kB", () => {
    expect([weightOf(950), weightOf(31_200), weightOf(999_499), weightOf(999_500), weightOf(1_490_000)]).toEqual([
      "950 B",
      "31 kB",
      "999 kB",
      "1.00 MB",
      "1.49 MB",
    ]);
    expect(exactWeight(1_996_400)).toBe("1.996 MB");
  });
  it("writes a limit as it was typed", () => {
    expect([2_000_000, 500_000, 10 * 2 ** 20, 1_234].map(limitText)).toEqual(["2 MB", "500 kB", "10 MiB", "1234 B"]);
  });
  it("keeps the last whole words of a text", () => {
    expect(tail("Below one metre the vessel waits outside.", 18)).toBe("…waits outside.");
    expect(tail("short", 18)).toBe("short");
  });
  it("says where a spot lies", () => {
    const spot = (follows: string, after_text = "") => where({ follows, after_text });
    expect([
      spot("paragraph", "Below one metre the vessel waits outside."),
      spot("paragraph"),
      spot("start"),
      spot("table"),
      spot("control"),
    ]).toEqual([
      "after “…waits outside.”",
      "after an empty line",
      "at the start",
      "after the table",
      "after the framed part",
    ]);
  });
});
