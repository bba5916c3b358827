import { type RefObject, useEffect, useEffectEvent, useState } from "react";
import type { Point } from "../../area/AreaEditor";
import type { Area } from "../../base/units";
import { type XY, watchFingers } from "../../base/pinch";
import { MOST_SCALE, wheelFactor, wheelPixels } from "../../base/zoom";
import { type Look, WHOLE, brought, panned, partOf, zoomed } from "./look";

/** What of a frozen screen is seen, and the ways to see another part of it. */
export interface Looking {
  /** In pixels of the frame. */
  part: Area;
  /** View pixels per pixel of the frame. */
  scale: number;
  isWhole: boolean;
  /** Larger or smaller, about a point of what is seen, in view pixels, or its middle; and moved along by view pixels. */
  zoom: (by: number, about?: XY, moved?: XY) => void;
  /** Moved by view pixels. */
  pan: (dx: number, dy: number) => void;
  /** Moved so that a point of the frame is seen. */
  bring: (at: Point) => void;
  toWhole: () => void;
}

const STILL: XY = { x: 0, y: 0 };
/** Round a point that the view follows, in view pixels. */
const ROUND_PX = 48;

/** A look at what is named; another name begins with the whole again. `fit` is the scale at which the whole is seen. */
export function useLook(name: string, whole: Area | null, fit: number): Looking | null {
  const [kept, keep] = useState<{ name: string; look: Look }>({ name, look: WHOLE });
  const look = kept.name === name ? kept.look : WHOLE;
  if (!whole) return null;
  const part = partOf(whole, look);
  const scale = fit * look.zoom;
  const next = (change: (before: Look) => Look) => {
    keep((before) => {
      const now = before.name === name ? before.look : WHOLE;
      const after = change(now);
      return after === now && before.name === name ? before : { name, look: after };
    });
  };
  return {
    part,
    scale,
    isWhole: look.zoom === 1,
    zoom: (by, about, moved = STILL) => {
      // Of the look as it is by then: hands are quicker than what is drawn.
      next((now) => {
        const { x, y, width, height } = partOf(whole, now);
        const [before, most] = [fit * now.zoom, MOST_SCALE / fit];
        const at = about
          ? { x: x + about.x / before, y: y + about.y / before }
          : { x: x + width / 2, y: y + height / 2 };
        const larger = zoomed(whole, now, at, by, most);
        return panned(whole, larger, -moved.x / (fit * larger.zoom), -moved.y / (fit * larger.zoom));
      });
    },
    pan: (dx, dy) => {
      next((now) => panned(whole, now, dx / (fit * now.zoom), dy / (fit * now.zoom)));
    },
    bring: (at) => {
      next((now) => brought(whole, now, at, ROUND_PX / (fit * now.zoom)));
    },
    toWhole: () => {
      next(() => WHOLE);
    },
  };
}

/** Of how far a drag is beyond the edge, what the view moves by in one frame; and the most of it. */
const FOLLOWS = 0.25;
const MOST_PX = 48;

/**
 * The wheel zooms about the pointer, two fingers about their middle; while something is drawn it scrolls (and zooms with Ctrl), as it does across with Shift.
 * A drag beyond the edge brings what lies there.
 */
export function useLookByHand(screen: RefObject<HTMLElement | null>, looking: Looking): void {
  const turn = useEffectEvent((event: WheelEvent, draws: boolean) => {
    const box = screen.current?.getBoundingClientRect();
    if (!box) return;
    event.preventDefault();
    if ((draws || event.shiftKey || event.deltaY === 0) && !event.ctrlKey && !event.metaKey) {
      const [x, y] = [wheelPixels(event, event.deltaX), wheelPixels(event, event.deltaY)];
      looking.pan(event.shiftKey ? x + y : x, event.shiftKey ? 0 : y);
      return;
    }
    looking.zoom(wheelFactor(event), { x: event.clientX - box.left, y: event.clientY - box.top });
  });
  const pan = useEffectEvent((dx: number, dy: number) => {
    if (!looking.isWhole) looking.pan(dx, dy);
  });
  const pinch = useEffectEvent((factor: number, middle: XY, moved: XY) => {
    const box = screen.current?.getBoundingClientRect();
    if (!box) return;
    looking.zoom(factor, { x: middle.x - moved.x - box.left, y: middle.y - moved.y - box.top }, moved);
  });
  useEffect(() => {
    const element = screen.current;
    if (!element) return undefined;
    const abort = new AbortController();
    const listen = { signal: abort.signal };
    let dragged: { x: number; y: number } | null = null;
    let scheduled = 0;
    const follow = () => {
      scheduled = 0;
      if (!dragged) return;
      const { left, top, right, bottom } = element.getBoundingClientRect();
      const [dx, dy] = [beyond(dragged.x, left, right), beyond(dragged.y, top, bottom)];
      if (dx || dy) pan(dx, dy);
      scheduled = requestAnimationFrame(follow);
    };
    const wheel = (event: WheelEvent) => {
      turn(event, dragged !== null);
    };
    element.addEventListener("wheel", wheel, { ...listen, passive: false });
    element.addEventListener(
      "pointermove",
      (event) => {
        dragged = event.buttons & 1 ? { x: event.clientX, y: event.clientY } : null;
        if (dragged && !scheduled) scheduled = requestAnimationFrame(follow);
      },
      listen,
    );
    watchFingers(element, abort.signal, (factor, middle, moved) => {
      pinch(factor, middle, moved);
    });
    for (const end of ["pointerup", "pointercancel"] as const)
      element.addEventListener(end, () => { dragged = null; }, listen); // prettier-ignore
    return () => {
      abort.abort();
      cancelAnimationFrame(scheduled);
    };
  }, [screen]);
}

function beyond(value: number, low: number, high: number): number {
  const by = Math.min(value - low, 0) + Math.max(value - high, 0);
  return Math.min(Math.max(by * FOLLOWS, -MOST_PX), MOST_PX);
}
