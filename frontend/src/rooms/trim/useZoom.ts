import { type RefObject, useEffect, useLayoutEffect, useRef } from "react";
import { type XY, watchFingers } from "../../base/pinch";
import { LEAST_SCALE, MOST_SCALE, wheelFactor } from "../../base/zoom";

/** "fit" the mat, "placed" as large as in the document, "pixels" one to one, or view pixels per clipping pixel. */
export type Zoom = "fit" | "placed" | "pixels" | number;

/** Zoom about the pointer: by the wheel, by two fingers, and whatever else changes the scale. */
export function useZoom(
  table: RefObject<HTMLElement | null>,
  picture: RefObject<HTMLElement | null>,
  scale: number,
  onZoom: (scale: number) => void,
): void {
  /** A point of the picture, in clipping pixels, that stays where it is in the window until the pointer moves. */
  const held = useRef<{ at: XY; client: XY } | null>(null);
  const latest = useRef({ scale, onZoom });

  useLayoutEffect(() => {
    latest.current = { scale, onZoom };
    const [view, image] = [table.current, picture.current];
    if (!view || !image || !held.current) return;
    // Also after scroll bars came or went, which moves the picture a little.
    const { at, client } = held.current;
    const box = image.getBoundingClientRect();
    view.scrollLeft += box.left + at.x * scale - client.x;
    view.scrollTop += box.top + at.y * scale - client.y;
  });

  useEffect(() => {
    const view = table.current;
    if (!view) return undefined;
    const abort = new AbortController();
    const hold = (client: XY) => {
      const box = picture.current?.getBoundingClientRect();
      const now = latest.current.scale;
      if (box) held.current = { at: { x: (client.x - box.left) / now, y: (client.y - box.top) / now }, client };
    };
    // A wheel reports whole pixels, a pointer parts of them.
    const isHeldNear = (client: XY) => {
      const now = held.current?.client;
      return now !== undefined && Math.abs(now.x - client.x) < 1 && Math.abs(now.y - client.y) < 1;
    };
    const zoomAbout = (client: XY, by: number) => {
      // Zoomed again about the same point, that point is meant: the window's whole pixels don't add up.
      if (!isHeldNear(client)) hold(client);
      latest.current.onZoom(Math.min(Math.max(latest.current.scale * by, LEAST_SCALE), MOST_SCALE));
    };
    const listen = { signal: abort.signal, capture: true };
    view.addEventListener(
      "wheel",
      (event) => {
        // With Ctrl, as pads report a pinch; without it a picture that is larger than the mat scrolls.
        const scrolls = view.scrollHeight > view.clientHeight + 1 || view.scrollWidth > view.clientWidth + 1;
        if (!event.ctrlKey && !event.metaKey && scrolls) {
          held.current = null;
          return;
        }
        event.preventDefault();
        zoomAbout({ x: event.clientX, y: event.clientY }, wheelFactor(event));
      },
      { passive: false, signal: abort.signal },
    );
    view.addEventListener(
      "pointermove",
      (event) => {
        const client = { x: event.clientX, y: event.clientY };
        if (!isHeldNear(client)) hold(client);
      },
      listen,
    );
    view.addEventListener(
      "pointerdown",
      () => {
        held.current = null;
      },
      listen,
    );
    watchFingers(view, abort.signal, (factor, middle, moved) => {
      // What lay between the fingers goes where they go.
      hold({ x: middle.x - moved.x, y: middle.y - moved.y });
      if (held.current) held.current.client = middle;
      latest.current.onZoom(Math.min(Math.max(latest.current.scale * factor, LEAST_SCALE), MOST_SCALE));
    });
    const release = () => {
      held.current = null;
    };
    view.addEventListener("pointerleave", release, { signal: abort.signal });
    view.addEventListener(
      "scroll",
      () => {
        // Somebody scrolls by the bar or by keys: nothing is held any more, or the next render would take it back.
        const [image, point] = [picture.current, held.current];
        if (!image || !point) return;
        const off = image.getBoundingClientRect().left + point.at.x * latest.current.scale - point.client.x;
        const down = image.getBoundingClientRect().top + point.at.y * latest.current.scale - point.client.y;
        if (Math.abs(off) + Math.abs(down) > 4) release();
      },
      { signal: abort.signal },
    );
    return () => {
      abort.abort();
    };
  }, [table, picture]);
}
