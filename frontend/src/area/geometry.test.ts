import { describe, expect, it } from "vitest";
import { between, nudged, pulled, resized, within } from "./geometry";

const bounds = { width: 300, height: 200 };
const area = { x: 40, y: 30, width: 100, height: 60 };

describe("drawing an area", () => {
  it("takes the corners in any order and rounds them", () => {
    expect(between({ x: 140.4, y: 20.6 }, { x: 40.2, y: 90 }, bounds)).toEqual({
      x: 40,
      y: 21,
      width: 100,
      height: 69,
    });
  });
  it("stops at the bounds", () => {
    expect(between({ x: 250, y: 150 }, { x: 900, y: -50 }, bounds)).toEqual({ x: 250, y: 0, width: 50, height: 150 });
  });
  it("has at least one pixel, also in the far corner", () => {
    expect(between({ x: 300, y: 200 }, { x: 300, y: 200 }, bounds)).toEqual({ x: 299, y: 199, width: 1, height: 1 });
  });
});

describe("pulling a grip", () => {
  it("moves only the sides that it names", () => {
    expect(pulled(area, "nw", 5, -7, bounds)).toEqual({ x: 45, y: 23, width: 95, height: 67 });
    expect(pulled(area, "e", 20, 99, bounds)).toEqual({ x: 40, y: 30, width: 120, height: 60 });
  });
  it("stops a side one pixel before the opposite one", () => {
    expect(pulled(area, "w", 500, 0, bounds)).toEqual({ x: 139, y: 30, width: 1, height: 60 });
    expect(pulled(area, "s", 0, -500, bounds)).toEqual({ x: 40, y: 30, width: 100, height: 1 });
  });
  it("moves the whole without changing its size", () => {
    expect(pulled(area, "move", 900, -900, bounds)).toEqual({ x: 200, y: 0, width: 100, height: 60 });
  });
});

describe("typing and keys", () => {
  it("keeps the corner when a size is typed, unless it would not fit", () => {
    expect(resized(area, 120, 80, bounds)).toEqual({ x: 40, y: 30, width: 120, height: 80 });
    expect(resized(area, 280, 190, bounds)).toEqual({ x: 20, y: 10, width: 280, height: 190 });
    expect(resized(area, 0, 1e9, bounds)).toEqual({ x: 40, y: 0, width: 1, height: 200 });
  });
  it("brings an area inside", () => {
    expect(within({ x: -10, y: 500, width: 20, height: 30 }, bounds)).toEqual({ x: 0, y: 170, width: 20, height: 30 });
  });
  it("moves by one or ten and changes the size with Alt", () => {
    expect(nudged(area, "ArrowLeft", { shift: false, alt: false }, bounds)).toEqual({ ...area, x: 39 });
    expect(nudged(area, "ArrowDown", { shift: true, alt: false }, bounds)).toEqual({ ...area, y: 40 });
    expect(nudged(area, "ArrowRight", { shift: true, alt: true }, bounds)).toEqual({ ...area, width: 110 });
    expect(nudged(area, "a", { shift: false, alt: false }, bounds)).toBeNull();
  });
});
