import { describe, expect, it } from "vitest";
import type { Options } from "./options";
import { combination, keyOf, layout, meant, readable } from "./keys";

const event = (values: Partial<KeyboardEvent>) =>
  ({ key: "", code: "", ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...values }) as KeyboardEvent;
const options = {
  single_letters: true,
  actions: [
    { id: "freeze", where: "take", does: "freeze", key: "F", default: "F" },
    { id: "zoom-in", where: "trim", does: "larger", key: "+", default: "+" },
    { id: "undo", where: "everywhere", does: "undo", key: "Ctrl+Z", default: "Ctrl+Z" },
    { id: "leave", where: "everywhere", does: "leave", key: "Escape", default: "Escape" },
  ],
} as unknown as Options;

describe("key combinations", () => {
  it("name modifiers in one order", () => {
    expect(combination(event({ key: "z", ctrlKey: true, shiftKey: true }))).toBe("Ctrl+Shift+Z");
    expect(combination(event({ key: "z", metaKey: true }))).toBe("Ctrl+Z");
    expect(combination(event({ key: "Enter", ctrlKey: true }))).toBe("Ctrl+Enter");
    expect(combination(event({ key: "ArrowLeft", altKey: true }))).toBe("Alt+ArrowLeft");
  });
  it("name a sign as it is typed, and a digit with Shift by its digit", () => {
    expect(combination(event({ key: "?", code: "Slash", shiftKey: true }))).toBe("?");
    expect(combination(event({ key: "+", code: "Equal", shiftKey: true }))).toBe("+");
    expect(combination(event({ key: "=", code: "Digit0", shiftKey: true }))).toBe("Shift+0");
  });
  it("name a digit that needs Shift on some keyboards by the digit alone", () => {
    layout.digitsNeedShift = true;
    expect(combination(event({ key: "1", code: "Digit1", shiftKey: true }))).toBe("1");
    layout.digitsNeedShift = false;
    expect(combination(event({ key: "1", code: "Digit1", shiftKey: true }))).toBe("Shift+1");
  });
});

describe("what a key means", () => {
  it("is what the options say, for the actions that are there", () => {
    expect(meant("F", ["freeze", "undo"], options)).toBe("freeze");
    expect(meant("F", ["undo"], options)).toBeUndefined();
    expect(meant("=", ["zoom-in"], options)).toBe("zoom-in");
    const changed = { ...options, actions: options.actions.map((each) => (each.id === "freeze" ? { ...each, key: "Ctrl+Alt+F" } : each)) }; // prettier-ignore
    expect(meant("F", ["freeze"], changed)).toBeUndefined();
    expect(meant("Ctrl+Alt+F", ["freeze"], changed)).toBe("freeze");
  });
  it("is nothing for a single sign that is switched off", () => {
    const off = { ...options, single_letters: false };
    expect([keyOf(off, "freeze"), keyOf(off, "zoom-in"), keyOf(off, "undo"), keyOf(off, "leave")]).toEqual([
      null,
      null,
      "Ctrl+Z",
      "Escape",
    ]);
  });
  it("is read as people write it", () => {
    expect(["Ctrl+Shift+Z", "Escape", "+", "Ctrl++", "ArrowUp"].map(readable)).toEqual([
      "Ctrl + Shift + Z",
      "Esc",
      "+",
      "Ctrl + +",
      "↑",
    ]);
  });
});
