import { type RefObject, useEffect, useLayoutEffect, useRef } from "react";

/** "fit" the mat, "placed" as large as in the document, "pixels" one to one, or view pixels per clipping pixel. */
export type Zoom = "fit" | "placed" | "pixels" | number;

export const LEAST_SCALE = 0.02;
export const MOST_SCALE = 32;
const WHEEL_STEP = 0.0016;

interface Held {
  /** A point of the picture, in clipping pixels, and where it is in the window. */
  at: { x: number; y: number };
  client: { x: number; y: number };
}

/** Zoom about the pointer: by the wheel, by two fingers, and whatever else changes the scale. */
export function useZoom(
  table: RefObject<HTMLElement | null>,
  picture: RefObject<HTMLElement | null>,
  scale: number,
  onZoom: (scale: number) => void,
): void {
  const pointer = useRef<{ x: number; y: number } | null>(null);
  const held = useRef<Held | null>(null);
  const latest = useRef({ scale, onZoom });
  const drawn = useRef(scale);

  // The point under the pointer stays under it.
  useLayoutEffect(() => {
    const [view, image] = [table.current, picture.current];
    if (!view || !image || drawn.current === scale) return;
    const before = drawn.current;
    drawn.current = scale;
    latest.current.scale = scale;
    const client = held.current?.client ?? pointer.current;
    if (!client) return;
    const box = image.getBoundingClientRect();
    const at = held.current?.at ?? heldAt.current ?? null;
    held.current = null;
    if (!at || before <= 0) return;
    view.scrollLeft += box.left + at.x * scale - client.x;
    view.scrollTop += box.top + at.y * scale - client.y;
  });

  // Where the pointer is on the picture is read before anything changes.
  const heldAt = useRef<{ x: number; y: number } | null>(null);
  useEffect(() => {
    latest.current = { scale, onZoom };
  });
  useEffect(() => {
    const view = table.current;
    if (!view) return undefined;
    const abort = new AbortController();
    const fingers = new Map<number, { x: number; y: number }>();
    let apart = 0;
    const pointOf = (client: { x: number; y: number }) => {
      const box = picture.current?.getBoundingClientRect();
      const now = latest.current.scale;
      return box ? { x: (client.x - box.left) / now, y: (client.y - box.top) / now } : null;
    };
    const zoomAbout = (client: { x: number; y: number }, by: number) => {
      const at = pointOf(client);
      if (at) held.current = { at, client };
      latest.current.onZoom(Math.min(Math.max(latest.current.scale * by, LEAST_SCALE), MOST_SCALE));
    };
    view.addEventListener(
      "wheel",
      (event) => {
        // With Ctrl, as pads report a pinch; without it a picture that is larger than the mat scrolls.
        const scrolls = view.scrollHeight > view.clientHeight + 1 || view.scrollWidth > view.clientWidth + 1;
        if (!event.ctrlKey && !event.metaKey && scrolls) return;
        event.preventDefault();
        const lines = event.deltaMode === 1 ? event.deltaY * 16 : event.deltaY;
        zoomAbout({ x: event.clientX, y: event.clientY }, Math.exp(-lines * WHEEL_STEP * (event.ctrlKey ? 3 : 1)));
      },
      { passive: false, signal: abort.signal },
    );
    const follow = (event: PointerEvent) => {
      pointer.current = { x: event.clientX, y: event.clientY };
      heldAt.current = pointOf(pointer.current);
      if (event.pointerType !== "touch" || !fingers.has(event.pointerId)) return;
      fingers.set(event.pointerId, pointer.current);
      const [a, b] = [...fingers.values()];
      if (!a || !b) return;
      const now = Math.hypot(a.x - b.x, a.y - b.y);
      if (apart > 0 && now > 0) zoomAbout({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, now / apart);
      apart = now;
    };
    const listen = { signal: abort.signal, capture: true };
    view.addEventListener("pointermove", follow, listen);
    view.addEventListener(
      "pointerdown",
      (event) => {
        if (event.pointerType !== "touch") return;
        fingers.set(event.pointerId, { x: event.clientX, y: event.clientY });
        apart = 0;
        // The second finger begins a pinch and nothing else.
        if (fingers.size > 1) event.stopPropagation();
      },
      listen,
    );
    const lift = (event: PointerEvent) => {
      fingers.delete(event.pointerId);
      apart = 0;
    };
    view.addEventListener("pointerup", lift, listen);
    view.addEventListener("pointercancel", lift, listen);
    view.addEventListener("pointerleave", () => {
      pointer.current = null;
      heldAt.current = null;
    });
    return () => {
      abort.abort();
    };
  }, [table, picture]);
}
