import { describe, expect, it } from "vitest";
import { KEY_SHEET, combination } from "./keys";

function press(key: string, more: Partial<KeyboardEvent> = {}): KeyboardEvent {
  return { key, code: "", ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more } as KeyboardEvent;
}

describe("combinations", () => {
  it("names letters in capitals and Shift only where it counts", () => {
    expect(combination(press("t"))).toBe("T");
    expect(combination(press("Z", { ctrlKey: true, shiftKey: true }))).toBe("Ctrl+Shift+Z");
    expect(combination(press("z", { metaKey: true }))).toBe("Ctrl+Z");
    expect(combination(press("ArrowLeft", { shiftKey: true }))).toBe("Shift+ArrowLeft");
    expect(combination(press("Enter", { ctrlKey: true }))).toBe("Ctrl+Enter");
  });
  it("takes signs as they are, whatever keys make them", () => {
    expect(combination(press("?", { shiftKey: true, code: "Slash" }))).toBe("?");
    expect(combination(press("/", { shiftKey: true, code: "Digit7" }))).toBe("Shift+7");
    expect(combination(press("+", { shiftKey: true, code: "Equal" }))).toBe("+");
    expect(combination(press(")", { shiftKey: true, code: "Digit0" }))).toBe("Shift+0");
    expect(combination(press("0", { code: "Digit0" }))).toBe("0");
  });
});

describe("the sheet", () => {
  it("lists no key twice in one place", () => {
    for (const group of KEY_SHEET) {
      const keys = group.lines.map((line) => line.keys);
      expect(new Set(keys).size).toBe(keys.length);
    }
  });
});
