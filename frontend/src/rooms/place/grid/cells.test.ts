import { describe, expect, it } from "vitest";
import { between, cellsName, cellsOf, columnName, indexAt, sheetOf, startOf, wholeOf, withOwn } from "./cells";

const columns = {
  usual_emu: 64,
  own: [
    [1, 2, 100],
    [5, 5, 0],
  ] as [number, number, number][],
};

describe("names of cells", () => {
  it("count columns as people do", () => {
    expect([0, 25, 26, 701, 702].map(columnName)).toEqual(["A", "Z", "AA", "ZZ", "AAA"]);
  });
  it("are read from a spot, whatever the sheet is called", () => {
    expect(cellsOf("Fares! 2026!B3:F20")).toEqual({ top: 2, left: 1, bottom: 19, right: 5 });
    expect(sheetOf("Fares! 2026!B3:F20")).toBe("Fares! 2026");
    expect(cellsOf("b.1")).toBeNull();
  });
  it("are written shortest", () => {
    expect(cellsName(between({ row: 19, column: 5 }, { row: 2, column: 1 }))).toBe("B3:F20");
    expect(cellsName({ top: 2, left: 1, bottom: 2, right: 1 })).toBe("B3");
  });
  it("stand for all that a cell is merged with", () => {
    expect(wholeOf({ top: 3, left: 2, bottom: 3, right: 2 }, [[2, 1, 4, 3]])).toEqual({
      top: 2,
      left: 1,
      bottom: 4,
      right: 3,
    });
  });
});

describe("where columns lie", () => {
  it("adds up runs of their own size, hidden ones too", () => {
    expect([0, 1, 2, 3, 4, 6].map((each) => startOf(columns, each))).toEqual([0, 64, 164, 264, 328, 392]);
  });
  it("finds the column under a point", () => {
    expect([0, 63, 64, 263, 264, 391, 392].map((each) => indexAt(columns, each, 100))).toEqual([0, 0, 1, 2, 3, 4, 6]);
  });
  it("lets a row grow inside a run", () => {
    const rows = withOwn(
      { usual_emu: 20, own: [[2, 4, 30]] },
      new Map([
        [3, 90],
        [7, 10],
      ]),
    );
    expect([2, 3, 4, 5, 8].map((each) => startOf(rows, each))).toEqual([40, 70, 160, 190, 250]);
  });
});
