import { describe, expect, it } from "vitest";
import { readNumber, readWhole } from "./numbers";

describe("a typed number", () => {
  it.each([
    ["12.5", 12.5],
    ["12,5", 12.5],
    ["1 200", 1_200],
    ["1\u2009200", 1_200],
    ["1\u00a0200,5", 1_200.5],
    ["1,200", 1_200],
    ["1,200.5", 1_200.5],
    ["1'200", 1_200],
    ["１２００", 1_200],
    ["１２．５", 12.5],
    ["300 px", 300],
    ["\u22123", -3],
    [".5", 0.5],
  ])("%s is %d", (typed, number) => {
    expect(readNumber(typed)).toBe(number);
  });
  it.each(["", " ", "12.5.1", "1,2,3", "wide", "1e5", "12 or 13", "0x10", "--3"])("%j can't be read", (typed) => {
    expect(readNumber(typed)).toBeNull();
  });
});

describe("a whole number of a form", () => {
  it("is read as people type it, and rounded", () => {
    expect(readWhole("Width", "1 200,4 px", 1, 20_000)).toBe(1_200);
  });
  it("names its field and what it may be, where it can't be taken", () => {
    expect(() => readWhole("Width", "wide", 1, 20_000)).toThrow("Width: “wide” is not a number.");
    expect(() => readWhole("Width", "0", 1, 20_000)).toThrow("Width: from 1 to 20\u2009000.");
  });
});
