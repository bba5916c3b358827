import type { Begun, Point } from "../../area/AreaEditor";

/**
 * A press on the live screen: let go at once it is a click; drawn on it freezes the screen, and the drag goes on on the
 * frozen one. What was drawn before the frozen picture was there is not lost. Points are shares of the whole picture,
 * because a shared screen's size in pixels is known only when it is frozen.
 */

const DRAG_PX = 4;

interface Drag {
  pointer: number;
  /** The element that shows the whole screen; its box tells where on the screen a point lies. */
  picture: HTMLElement;
  points: Point[];
  isDown: boolean;
  free: boolean;
  drawn: HTMLDivElement | null;
  abort: AbortController;
}

interface Means {
  /** A click, at a share of the screen's width and height. */
  onClick: (at: Point) => void;
  /** A drag has begun: the screen is to be frozen. */
  onDrag: () => void;
}

let drag: Drag | null = null;

/** A press where nothing else is meant by it. */
export function pressLive(event: PointerEvent, picture: HTMLElement, means: Means): void {
  if (event.button !== 0) return;
  drop();
  const abort = new AbortController();
  const mine: Drag = { pointer: event.pointerId, picture, points: [shareOf(event, picture)], isDown: true, free: false, drawn: null, abort }; // prettier-ignore
  drag = mine;
  const { clientX, clientY } = event;
  const ours = (each: PointerEvent) => each.pointerId === mine.pointer;
  const listen = { signal: abort.signal };
  window.addEventListener(
    "pointermove",
    (each) => {
      if (!ours(each)) return;
      const begins = !mine.drawn && Math.hypot(each.clientX - clientX, each.clientY - clientY) >= DRAG_PX;
      if (!mine.drawn && !begins) return;
      mine.free = each.altKey;
      mine.points.push(shareOf(each, picture));
      if (begins) {
        mine.drawn = outlineOn(picture);
        means.onDrag();
      }
      show(mine);
    },
    listen,
  );
  window.addEventListener(
    "pointerup",
    (each) => {
      if (!ours(each)) return;
      if (!mine.drawn) {
        drop();
        means.onClick(shareOf(each, picture));
        return;
      }
      mine.points.push(shareOf(each, picture));
      mine.isDown = false;
      show(mine);
    },
    listen,
  );
  window.addEventListener("pointercancel", (each) => { if (ours(each)) drop(); }, listen); // prettier-ignore
  window.addEventListener(
    "keydown",
    (each) => {
      if (each.key !== "Escape" || !mine.drawn) return;
      each.preventDefault();
      each.stopImmediatePropagation();
      drop();
    },
    { ...listen, capture: true },
  );
}

/** The drag that the frozen screen goes on with, in its pixels; null where none began it. */
export function takeUpDrag(frame: { width: number; height: number }): Begun | null {
  const begun = drag;
  drop();
  if (!begun?.drawn) return null;
  const points = begun.points.map(({ x, y }) => ({ x: x * frame.width, y: y * frame.height }));
  return { pointer: begun.pointer, points, isDown: begun.isDown, free: begun.free };
}

function drop(): void {
  drag?.abort.abort();
  drag?.drawn?.remove();
  drag = null;
}

function shareOf(event: PointerEvent, picture: HTMLElement): Point {
  const { left, top, width, height } = picture.getBoundingClientRect();
  return { x: (event.clientX - left) / width, y: (event.clientY - top) / height };
}

function outlineOn(picture: HTMLElement): HTMLDivElement {
  const drawn = document.createElement("div");
  drawn.className = "live-drawn";
  (picture.parentElement ?? picture).append(drawn);
  return drawn;
}

/** What has been drawn so far, until the frozen picture is there. */
function show({ drawn, picture, points }: Drag): void {
  const [from] = points;
  const to = points.at(-1);
  const around = drawn?.parentElement?.getBoundingClientRect();
  if (!drawn || !from || !to || !around) return;
  const { left, top, width, height } = picture.getBoundingClientRect();
  const [x, y] = [Math.min(from.x, to.x) * width + left - around.left, Math.min(from.y, to.y) * height + top - around.top]; // prettier-ignore
  drawn.style.transform = `translate(${x.toFixed(1)}px, ${y.toFixed(1)}px)`;
  drawn.style.width = `${(Math.abs(to.x - from.x) * width).toFixed(1)}px`;
  drawn.style.height = `${(Math.abs(to.y - from.y) * height).toFixed(1)}px`;
}
