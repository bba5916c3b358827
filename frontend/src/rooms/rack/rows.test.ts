import { describe, expect, it } from "vitest";
import type { Slip } from "../../api/client";
import { DAY_HEIGHT, SLIP_HEIGHT, between, dayWords, inView, rowsOf, wholeHeight } from "./rows";

const slips = Array.from({ length: 5_000 }, (_, index): Slip => ({
  id: `c${index}`,
  name: `Tide board ${index}`,
  window: null,
  taken_at: index < 3 ? "2026-03-12T12:05:00Z" : "2026-03-10T09:00:00Z",
  kind: "region",
  width: 300,
  height: 200,
  version: "1",
  places: 0,
  rank: 0,
  pinned: false,
  round: null,
}));

describe("the rack's rows", () => {
  it("leaves no gap in view, wherever it is scrolled", () => {
    const rows = rowsOf(slips, true, (at) => at.slice(0, 10));
    const height = 600;
    for (let scrolled = 0; scrolled < wholeHeight(rows) - height; scrolled += 997) {
      const shown = inView(rows, scrolled, height);
      expect(shown[0]!.top).toBeLessThanOrEqual(scrolled);
      expect(shown.at(-1)!.top + shown.at(-1)!.height).toBeGreaterThanOrEqual(scrolled + height);
      expect(shown.length).toBeLessThan(20);
      shown.slice(1).forEach((row, at) => {
        expect(row.top).toBe(shown[at]!.top + shown[at]!.height);
      });
    }
  });
  it("begins each day with a heading where it is divided by days", () => {
    const rows = rowsOf(slips.slice(0, 5), true, (at) => at.slice(0, 10));
    expect(rows.map((row) => ("day" in row ? row.day : row.slip.id))).toEqual([
      "2026-03-12", "c0", "c1", "c2", "2026-03-10", "c3", "c4",
    ]); // prettier-ignore
    expect(wholeHeight(rows)).toBe(5 * SLIP_HEIGHT + 2 * DAY_HEIGHT);
    expect(rowsOf(slips.slice(0, 5), false, () => "x")).toHaveLength(5);
  });
  it("names days as people do", () => {
    const now = new Date(2026, 2, 12, 15, 0);
    expect(dayWords(new Date(2026, 2, 12, 0, 5).toISOString(), now)).toBe("Today");
    expect(dayWords(new Date(2026, 2, 11, 23, 55).toISOString(), now)).toBe("Yesterday");
    expect(dayWords(new Date(2026, 2, 9, 12, 0).toISOString(), now)).toBe("Monday 9 March");
    expect(dayWords(new Date(2025, 11, 31, 12, 0).toISOString(), now)).toBe("Wednesday 31 December 2025");
  });
  it("chooses a stretch in either direction", () => {
    expect(between(slips, 4, 2)).toEqual(["c2", "c3", "c4"]);
  });
});
