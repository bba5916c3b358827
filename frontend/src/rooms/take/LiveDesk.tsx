import { type PointerEvent, type WheelEvent, useEffect, useRef } from "react";
import { pictureUrl, type LiveView, type LiveWindow } from "../../api/client";
import type { KindName } from "../../base/state";
import { type Area, contains } from "../../area/geometry";
import { holdAt, live, pickWindow } from "./actions";
import { pressLive } from "./liveDrag";
import { scrollThrough } from "./longpage";
import { handle } from "./useDesktop";

interface Props {
  source: string;
  screen: LiveView;
  view: Area;
  scale: number;
  kind: KindName;
  /** A drag on the screen freezes it. */
  onDrag: () => void;
}

const px = (value: number) => `${value.toFixed(1)}px`;
const at = (x: number, y: number) => `translate(${px(x)}, ${px(y)})`;

/** The desk with its windows: a drag draws on it, a click holds a window; bars and menus work as ever. */
export function LiveDesk({ source, screen, view, scale, kind, onDrag }: Props) {
  const follow = (event: PointerEvent<HTMLDivElement>) => {
    const { left, top } = event.currentTarget.getBoundingClientRect();
    live.pointer = {
      x: Math.round((event.clientX - left) / scale),
      y: Math.round((event.clientY - top) / scale),
    };
  };
  const { menu } = screen;
  return (
    <div className="screen" style={{ width: view.width * scale, height: view.height * scale }}>
      <div
        className="live-desk"
        role="group"
        aria-label="Practice desk, live"
        style={{
          width: screen.width * scale,
          height: screen.height * scale,
          transform: at(-view.x * scale, -view.y * scale),
        }}
        onPointerMove={follow}
        onPointerDownCapture={follow}
        onPointerDown={(event) => {
          // A bar that was pressed moves or scrolls.
          if (event.defaultPrevented) return;
          const onMenu = (event.target as HTMLElement).closest(".live-menu, .menu-head, .whole-page") !== null;
          const desk = event.currentTarget;
          pressLive(event.nativeEvent, desk, {
            onDrag,
            onClick: (at) => {
              const inside = desk.contains(event.target as HTMLElement);
              if (onMenu || !inside) return;
              // A menu closes when one presses elsewhere, and nothing else happens.
              if (menu) handle.menu(source, menu.window, null);
              else clickAt(source, screen, kind, { x: at.x * screen.width, y: at.y * screen.height });
            },
          });
        }}
      >
        <img className="ground" src={pictureUrl.ground(source, screen.ground_version)} alt="" draggable={false} />
        {screen.windows.map((window) => (
          <LiveWindowView
            key={window.id}
            {...{ source, window, scale, kind }}
            onBar={() => {
              if (menu) handle.menu(source, menu.window, null);
            }}
          />
        ))}
        {menu && (
          <div
            className="live-menu"
            role="menu"
            aria-label={menu.title}
            style={{
              transform: at(menu.box.x * scale, menu.box.y * scale),
              width: menu.box.width * scale,
              height: menu.box.height * scale,
            }}
          >
            <img src={pictureUrl.menu(source, menu.version)} alt="" draggable={false} />
            {menu.item_boxes.map((box, index) => (
              <button
                key={menu.items[index]}
                type="button"
                role="menuitem"
                aria-label={menu.items[index]}
                style={{
                  transform: at((box.x - menu.box.x) * scale, (box.y - menu.box.y) * scale),
                  width: box.width * scale,
                  height: box.height * scale,
                }}
                onClick={() => {
                  handle.menu(source, menu.window, null);
                }}
              />
            ))}
          </div>
        )}
      </div>
    </div>
  );
}

/** What a click on the live screen means: the window there is held, or scrolled through and joined. */
function clickAt(source: string, screen: LiveView, kind: KindName, at: { x: number; y: number }): void {
  const [window] = screen.windows.filter(({ box }) => contains(box, at.x, at.y)).sort((a, b) => a.depth - b.depth);
  if (window && kind === "long-page" && window.can_scroll) void scrollThrough(source, window.id, window.title);
  else if (window || kind === "screen") void holdAt(kind, () => at);
}

const LINES_PX = 40;
const DRAG_PX = 4;
const NUDGE_PX = 20;

interface WindowProps {
  source: string;
  window: LiveWindow;
  scale: number;
  kind: KindName;
  /** A bar of it was pressed. */
  onBar: () => void;
}

/** A bar that is being dragged: where the pointer was, and where the window or its content stood. */
interface BarDrag {
  what: "title" | "scroll";
  x: number;
  y: number;
  from: { x: number; y: number };
  moved: boolean;
}

function LiveWindowView({ source, window, scale, kind, onBar }: WindowProps) {
  const button = useRef<HTMLButtonElement>(null);
  const drag = useRef<BarDrag | null>(null);
  const turn = (event: WheelEvent | globalThis.WheelEvent) => {
    if (!window.can_scroll) return;
    const unit = event.deltaMode === 1 ? LINES_PX : 1;
    handle.scroll(source, window.id, Math.round((event.deltaY * unit) / scale));
  };
  const latest = useRef(turn);
  useEffect(() => {
    latest.current = turn;
  });
  // React's own wheel listener is passive; the page must not scroll along.
  useEffect(() => {
    const element = button.current;
    if (!element) return undefined;
    const onWheel = (event: globalThis.WheelEvent) => {
      event.preventDefault();
      latest.current(event);
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => {
      element.removeEventListener("wheel", onWheel);
    };
  }, []);
  const { box, scroll_bar: bar } = window;
  const isLongPage = kind === "long-page" && window.can_scroll;
  /** Which bar lies under a press on the window, if one does. */
  const barAt = (event: PointerEvent<HTMLElement>): BarDrag["what"] | null => {
    const { offsetX, offsetY } = event.nativeEvent;
    if (offsetY < (window.content.y - box.y) * scale) return "title";
    const over = bar && contains(bar, box.x + offsetX / scale, box.y + offsetY / scale);
    return over ? "scroll" : null;
  };
  const pull = (event: PointerEvent<HTMLElement>) => {
    const start = drag.current;
    if (!start) return;
    const [dx, dy] = [event.clientX - start.x, event.clientY - start.y];
    if (!start.moved && Math.hypot(dx, dy) < DRAG_PX) return;
    start.moved = true;
    if (start.what === "title") {
      handle.move(source, window.id, { x: Math.round(start.from.x + dx / scale), y: Math.round(start.from.y + dy / scale) }); // prettier-ignore
    } else if (bar) {
      // The bar's whole height stands for the whole page.
      const by = Math.round(((dy / scale) * (window.most_px + bar.height)) / bar.height);
      handle.scroll(source, window.id, by);
      drag.current = { ...start, y: event.clientY };
    }
  };
  const hold = () => {
    if (isLongPage) void scrollThrough(source, window.id, window.title);
    else void pickWindow(window.id);
  };
  const does = isLongPage ? "scroll it through and join it" : window.depth === 0 ? "on top" : "Space raises it";
  return (
    <>
      <button
        ref={button}
        type="button"
        className={`live-window ${isLongPage ? "live-window-long" : ""}`}
        aria-label={`${window.title}, ${does}`}
        data-window={window.id}
        style={{
          transform: at(box.x * scale, box.y * scale),
          width: box.width * scale,
          height: box.height * scale,
          zIndex: 30 - window.depth * 2,
        }}
        onPointerDown={(event) => {
          const what = barAt(event);
          if (what === null || event.button !== 0) return;
          event.preventDefault();
          event.currentTarget.focus({ preventScroll: true });
          onBar();
          if (window.depth > 0) handle.raise(source, window.id);
          event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { what, x: event.clientX, y: event.clientY, from: { x: box.x, y: box.y }, moved: false };
        }}
        onPointerMove={pull}
        onPointerUp={() => {
          drag.current = null;
        }}
        onPointerCancel={() => {
          drag.current = null;
        }}
        onClick={(event) => {
          // Keys come as clicks without a pointer; the pointer's press has done what it meant.
          if (event.detail === 0) hold();
        }}
        onKeyUp={(event) => {
          if (event.key === " ") event.preventDefault();
        }}
        onKeyDown={(event) => {
          const step = { ArrowDown: 60, ArrowUp: -60, PageDown: 500, PageUp: -500 }[event.key];
          const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
          if (event.key === " ") {
            event.preventDefault();
            handle.raise(source, window.id);
          } else if (event.shiftKey && move) {
            event.preventDefault();
            const [dx = 0, dy = 0] = move;
            handle.move(source, window.id, { x: box.x + dx * NUDGE_PX, y: box.y + dy * NUDGE_PX });
          } else if (step !== undefined && window.can_scroll) {
            event.preventDefault();
            handle.scroll(source, window.id, step);
          } else if (event.key === "Enter") {
            event.stopPropagation();
          }
        }}
      >
        <img src={pictureUrl.window(source, window)} alt="" draggable={false} />
      </button>
      {bar && (
        <button
          type="button"
          className="whole-page"
          aria-label={`Whole page of ${window.title}`}
          title="Scrolls it through from top to end and joins it to one picture"
          style={{
            transform: `${at(bar.x * scale, (bar.y + bar.height) * scale)} translate(-100%, -100%)`,
            zIndex: 31 - window.depth * 2,
          }}
          onClick={() => void scrollThrough(source, window.id, window.title)}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.stopPropagation();
          }}
        >
          whole page
        </button>
      )}
      {window.menus.map((menu) => (
        <button
          key={menu.title}
          type="button"
          className="menu-head"
          aria-haspopup="menu"
          aria-label={`${menu.title}, menu of ${window.title}`}
          style={{
            transform: at(menu.box.x * scale, menu.box.y * scale),
            width: menu.box.width * scale,
            height: menu.box.height * scale,
            // The word of an open menu stays above it, so that it can be hit to its lower edge.
            zIndex: window.depth === 0 ? 61 : 31 - window.depth * 2,
          }}
          onClick={() => {
            handle.menu(source, window.id, menu.title);
          }}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.stopPropagation();
          }}
        />
      ))}
    </>
  );
}
