import { useEffect, useLayoutEffect, useRef } from "react";
import { useOptions, type Action, type Options } from "./options";

/** What a key does, by the action's id; which key it is, the options say. */
type Handlers = Record<string, (event: KeyboardEvent) => void>;

/** Keys that work while somebody types. */
const ALSO_WHILE_TYPING = new Set(["save", "place", "leave"]);

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target instanceof HTMLTextAreaElement) return true;
  return target instanceof HTMLInputElement && !["button", "checkbox", "radio"].includes(target.type);
}

interface KeyboardApi {
  getLayoutMap: () => Promise<ReadonlyMap<string, string>>;
}

const keyboard = typeof navigator === "undefined" ? undefined : (navigator as { keyboard?: KeyboardApi }).keyboard;

/** What is known of the keyboard. Where the browser doesn't tell, a digit that comes with Shift is taken for the digit. */
export const layout = { digitsNeedShift: keyboard === undefined };
keyboard
  ?.getLayoutMap()
  .then((signs) => {
    layout.digitsNeedShift = !/^\d$/.test(signs.get("Digit1") ?? "1");
  })
  .catch(() => undefined);

/** "Ctrl+Shift+Z"; Shift is named only where the key itself does not say it. */
export function combination(event: KeyboardEvent): string {
  const letter = event.key.length === 1;
  // A digit with Shift has another sign on most keyboards; where digits need Shift, the digit itself is what is meant.
  const isDigit = layout.digitsNeedShift && /^\d$/.test(event.key);
  const digit = event.shiftKey && !isDigit ? /^Digit(\d)$/.exec(event.code)?.[1] : undefined;
  const isSign = letter && !digit && !/[a-z]/i.test(event.key);
  const key = digit ?? (letter ? event.key.toUpperCase() : event.key);
  const shift = event.shiftKey && !isSign;
  return [event.ctrlKey || event.metaKey ? "Ctrl" : "", event.altKey ? "Alt" : "", shift ? "Shift" : "", key]
    .filter(Boolean)
    .join("+");
}

/** Whether a key is a single sign, which somebody may hit without meaning it. */
export function isSingle(key: string): boolean {
  return key.length === 1;
}

/** The key of an action as it stands; null where it is switched off. */
export function keyOf(options: Options | undefined, id: string): string | null {
  const key = options?.actions.find((each) => each.id === id)?.key ?? null;
  return key !== null && options?.single_letters === false && isSingle(key) ? null : key;
}

/** "Ctrl + Shift + Z", as people read it; a name of an arrow as the arrow. */
export function readable(key: string): string {
  if (key === "+") return "+";
  const parts = key.endsWith("++") ? [...key.slice(0, -2).split("+"), "+"] : key.split("+");
  const signs: Record<string, string> = {
    ArrowUp: "↑",
    ArrowDown: "↓",
    ArrowLeft: "←",
    ArrowRight: "→",
    Escape: "Esc",
    "-": "−",
    " ": "Space",
  };
  return parts.map((part) => signs[part] ?? part).join(" + ");
}

/** Of the actions that a component handles, the one that a combination means now. */
export function meant(name: string, ids: readonly string[], options: Options): string | undefined {
  // The plus stands on the equals sign's key, and nobody presses Shift for it.
  const names = name === "=" ? ["=", "+"] : [name];
  return ids.find((id) => {
    const key = keyOf(options, id);
    return key !== null && names.includes(key);
  });
}

/** Listen for the keys of some actions while mounted; most are not caught while somebody types. */
export function useKeys(handlers: Handlers): void {
  const latest = useRef(handlers);
  const options = useOptions();
  // With the new view, not a moment later: a key may follow at once on what it shows.
  useLayoutEffect(() => {
    latest.current = handlers;
  });
  useEffect(() => {
    if (!options) return undefined;
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented) return;
      const id = meant(combination(event), Object.keys(latest.current), options);
      const handler = id === undefined ? undefined : latest.current[id];
      if (id === undefined || !handler) return;
      if (isTyping(event.target) && !ALSO_WHILE_TYPING.has(id)) return;
      // A dialog has keys of its own.
      if (event.target instanceof HTMLElement && event.target.closest('[role="dialog"]')) return;
      handler(event);
    };
    window.addEventListener("keydown", onKey);
    return () => {
      window.removeEventListener("keydown", onKey);
    };
  }, [options]);
}

/** While a key is held down; not while somebody types. */
export function useHeldKey(key: string, onDown: () => void, onUp: () => void): void {
  useEffect(() => {
    let held = false;
    const abort = new AbortController();
    window.addEventListener(
      "keydown",
      (event) => {
        if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
        if (event.target instanceof HTMLSelectElement) return;
        if (!held) onDown();
        held = true;
      },
      { signal: abort.signal },
    );
    const release = () => {
      if (held) onUp();
      held = false;
    };
    window.addEventListener(
      "keyup",
      (event) => {
        if (event.key === key) release();
      },
      { signal: abort.signal },
    );
    window.addEventListener("blur", release, { signal: abort.signal });
    return () => {
      abort.abort();
    };
    // The handlers only touch the store.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
}

/** The key of an action, for writing it on its button. */
export function useKeyOf(id: string): string | null {
  const key = keyOf(useOptions(), id);
  return key === null ? null : readable(key);
}

/** Enter and Space on a focused button belong to that button. */
export function onButton(event: KeyboardEvent): boolean {
  return event.target instanceof HTMLElement && event.target.closest("button, a, input, select, textarea") !== null;
}

/** Actions by where they work, in the order of the sheet. */
export function byPlace(actions: readonly Action[]): [string, Action[]][] {
  const places = new Map<string, Action[]>();
  for (const action of actions) places.set(action.where, [...(places.get(action.where) ?? []), action]);
  return [...places];
}
