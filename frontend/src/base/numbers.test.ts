import { describe, expect, it } from "vitest";
import { readNumber } from "./numbers";

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
