/** Two fingers on a surface zoom it and move it along; one does what it does without. */

export interface XY {
  x: number;
  y: number;
}

/** By which factor two fingers are further apart, the middle between them in the window, and how far that has gone. */
type OnPinch = (factor: number, middle: XY, moved: XY) => void;

/** Once a second finger is laid down, what the first one had begun is not meant. */
export function onSecondFinger(signal: AbortSignal, letGo: () => void): void {
  const down = (event: PointerEvent) => {
    if (event.pointerType === "touch" && !event.isPrimary) letGo();
  };
  window.addEventListener("pointerdown", down, { signal, capture: true });
}

/** Watches two fingers on an element, and keeps from all on it what they do together. */
export function watchFingers(element: HTMLElement, signal: AbortSignal, onPinch: OnPinch): void {
  const fingers = new Map<number, XY>();
  let before: { apart: number; middle: XY } | null = null;
  const listen = { signal, capture: true };
  const where = () => {
    const [a, b] = [...fingers.values()];
    return a && b && { apart: Math.hypot(a.x - b.x, a.y - b.y), middle: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 } };
  };
  element.addEventListener(
    "pointerdown",
    (event) => {
      if (event.pointerType !== "touch") return;
      fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
      before = where() ?? null;
      if (fingers.size > 1) event.stopPropagation();
    },
    listen,
  );
  element.addEventListener(
    "pointermove",
    (event) => {
      if (!fingers.has(event.pointerId)) return;
      fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
      const now = where();
      if (!now) return;
      event.stopPropagation();
      if (before && before.apart > 0 && now.apart > 0) {
        const { middle } = before;
        onPinch(now.apart / before.apart, now.middle, { x: now.middle.x - middle.x, y: now.middle.y - middle.y });
      }
      before = now;
    },
    listen,
  );
  for (const end of ["pointerup", "pointercancel"] as const)
    element.addEventListener(
      end,
      (event) => {
        fingers.delete(event.pointerId);
        before = where() ?? null;
      },
      listen,
    );
}
