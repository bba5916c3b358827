import { useEffect, useRef } from "react";

/** Every key, for the sheet and for the rooms; a combination is written as in "Ctrl+Shift+Z". */
export interface KeyLine {
  keys: string;
  does: string;
}

export const KEY_SHEET: { where: string; lines: KeyLine[] }[] = [
  {
    where: "Everywhere",
    lines: [
      { keys: "T · R · P · H", does: "to Take, Trim, Place, Hand over" },
      { keys: "Ctrl + Z", does: "undo" },
      { keys: "Ctrl + Shift + Z", does: "redo" },
      { keys: "Ctrl + C", does: "copy the clipping in hand as a picture" },
      { keys: "Ctrl + V", does: "paste a picture onto the rack" },
      { keys: "Ctrl + S", does: "save: the clipping in Take and Trim, the document in Place and Hand over" },
      { keys: "/", does: "find" },
      { keys: "?", does: "this sheet" },
      { keys: "Esc", does: "leave or let go" },
    ],
  },
  {
    where: "Take",
    lines: [
      { keys: "F", does: "freeze the screen" },
      { keys: "Arrows", does: "move the region by a pixel, with Shift by ten" },
      { keys: "Alt + arrows", does: "change its size" },
      { keys: "Enter", does: "keep it on the rack" },
      { keys: "Ctrl + Enter", does: "keep it and land it in the chosen place" },
    ],
  },
  {
    where: "Trim",
    lines: [
      { keys: "Arrows", does: "move the crop, with Shift by ten, with Alt change its size" },
      { keys: "Enter", does: "confirm the crop" },
      { keys: "+ · −", does: "zoom" },
      { keys: "0", does: "fit" },
      { keys: "Shift + 0", does: "screen pixels" },
    ],
  },
  {
    where: "Place",
    lines: [
      { keys: "Arrows", does: "to the next and the previous place" },
      { keys: "Enter", does: "choose the place; once more: put the clipping there" },
      { keys: "Delete", does: "take the chosen picture out" },
    ],
  },
];

type Handlers = Record<string, (event: KeyboardEvent) => void>;

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  return target instanceof HTMLInputElement && !["button", "checkbox", "radio"].includes(target.type);
}

/** "Ctrl+Shift+Z"; Shift is named only where the key itself does not say it. */
export function combination(event: KeyboardEvent): string {
  const letter = event.key.length === 1;
  // A digit with Shift has another sign on every keyboard.
  const digit = event.shiftKey ? /^Digit(\d)$/.exec(event.code)?.[1] : undefined;
  const isSign = letter && !digit && !/[a-z]/i.test(event.key);
  const key = digit ?? (letter ? event.key.toUpperCase() : event.key);
  const shift = event.shiftKey && !isSign;
  return [event.ctrlKey || event.metaKey ? "Ctrl" : "", event.altKey ? "Alt" : "", shift ? "Shift" : "", key]
    .filter(Boolean)
    .join("+");
}

/** Listen for keys while mounted. Nothing is caught while somebody types, except what begins with Ctrl + Enter or S. */
export function useKeys(handlers: Handlers, active = true): void {
  const latest = useRef(handlers);
  useEffect(() => {
    latest.current = handlers;
  });
  useEffect(() => {
    if (!active) return undefined;
    const onKey = (event: KeyboardEvent) => {
      const name = combination(event);
      const handler = latest.current[name];
      if (!handler || event.defaultPrevented) return;
      if (isTyping(event.target) && !["Ctrl+S", "Ctrl+Enter", "Escape"].includes(name)) return;
      // A dialog has keys of its own.
      if (event.target instanceof HTMLElement && event.target.closest('[role="dialog"]')) return;
      handler(event);
    };
    window.addEventListener("keydown", onKey);
    return () => {
      window.removeEventListener("keydown", onKey);
    };
  }, [active]);
}

/** Enter and Space on a focused button belong to that button. */
export function onButton(event: KeyboardEvent): boolean {
  return event.target instanceof HTMLElement && event.target.closest("button, a, input, select, textarea") !== null;
}
