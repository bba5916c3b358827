import { describe, expect, it } from "vitest";
import { colours } from "./tokens";

/** Relative luminance and contrast ratio: WCAG 2.2, definitions of both terms. */
function luminance(hex: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((at) => {
    const channel = parseInt(hex.slice(at, at + 2), 16) / 255;
    return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function ratio(one: string, other: string): number {
  const [light = 0, dark = 0] = [luminance(one), luminance(other)].sort((a, b) => b - a);
  return (light + 0.05) / (dark + 0.05);
}

describe("colour pairs", () => {
  const text: [keyof typeof colours, keyof typeof colours][] = [
    ["ink", "paper"],
    ["ink", "rackPaper"],
    ["softInk", "paper"],
    ["softInk", "rackPaper"],
    ["softInk", "white"],
    ["redText", "paper"],
    ["saffronText", "paper"],
    ["saffronText", "rackPaper"],
    ["seaGlassText", "paper"],
    ["seaGlassText", "rackPaper"],
    ["paper", "mat"],
    ["paper", "deepMat"],
    ["white", "seaGlass"],
    ["white", "cutRed"],
    ["ink", "seaGlassLight"],
    ["ink", "galleyGround"],
  ];
  it.each(text)("%s on %s is readable (4.5 : 1)", (front, ground) => {
    expect(ratio(colours[front], colours[ground])).toBeGreaterThanOrEqual(4.5);
  });
  it.each([
    ["edge", "paper"],
    ["edge", "white"],
    ["cutRed", "paper"],
    ["seaGlass", "paper"],
  ] as [keyof typeof colours, keyof typeof colours][])("%s on %s is visible (3 : 1)", (front, ground) => {
    expect(ratio(colours[front], colours[ground])).toBeGreaterThanOrEqual(3);
  });
});
