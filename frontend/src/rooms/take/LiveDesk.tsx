import { type PointerEvent, type WheelEvent, useEffect, useRef } from "react";
import { pictureUrl, type LiveView, type LiveWindow } from "../../api/client";
import type { KindName } from "../../base/state";
import type { Area } from "../../area/geometry";
import { live } from "./actions";
import { scrollThrough } from "./longpage";
import { handle } from "./useDesktop";

interface Props {
  source: string;
  screen: LiveView;
  view: Area;
  scale: number;
  kind: KindName;
}

const px = (value: number) => `${value.toFixed(1)}px`;
const at = (x: number, y: number) => `translate(${px(x)}, ${px(y)})`;

/** The desk with its windows, which can be raised, moved and scrolled, and their menus opened. */
export function LiveDesk({ source, screen, view, scale, kind }: Props) {
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
        onPointerDownCapture={(event) => {
          follow(event);
          // A menu closes when one presses elsewhere.
          if (menu && !(event.target as HTMLElement).closest(".live-menu, .menu-head"))
            handle.menu(source, menu.window, null);
        }}
      >
        <img className="ground" src={pictureUrl.ground(source, screen.ground_version)} alt="" draggable={false} />
        {screen.windows.map((window) => (
          <LiveWindowView key={window.id} source={source} window={window} scale={scale} kind={kind} />
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

const LINES_PX = 40;
const DRAG_PX = 4;
const NUDGE_PX = 20;

interface WindowProps {
  source: string;
  window: LiveWindow;
  scale: number;
  kind: KindName;
}

function LiveWindowView({ source, window, scale, kind }: WindowProps) {
  const button = useRef<HTMLButtonElement>(null);
  const drag = useRef<{ x: number; y: number; from: { x: number; y: number }; moved: boolean } | null>(null);
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
  const { box } = window;
  const isLongPage = kind === "long-page" && window.can_scroll;
  const act = () => {
    if (isLongPage) void scrollThrough(source, window.id, window.title);
    else handle.raise(source, window.id);
  };
  const does = isLongPage ? "scroll it through and join it" : window.depth === 0 ? "on top" : "raise it";
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
          if (window.depth > 0 && !isLongPage) handle.raise(source, window.id);
          const inBar = event.nativeEvent.offsetY < (window.content.y - box.y) * scale;
          if (!inBar) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          drag.current = { x: event.clientX, y: event.clientY, from: { x: box.x, y: box.y }, moved: false };
        }}
        onPointerMove={(event) => {
          const start = drag.current;
          if (!start) return;
          const [dx, dy] = [event.clientX - start.x, event.clientY - start.y];
          if (!start.moved && Math.hypot(dx, dy) < DRAG_PX) return;
          start.moved = true;
          const to = { x: Math.round(start.from.x + dx / scale), y: Math.round(start.from.y + dy / scale) };
          handle.move(source, window.id, to);
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
        onPointerCancel={() => {
          drag.current = null;
        }}
        onClick={(event) => {
          // Keys come as clicks without a pointer; the pointer has raised it already.
          if (isLongPage || event.detail === 0) act();
        }}
        onKeyDown={(event) => {
          const step = { ArrowDown: 60, ArrowUp: -60, PageDown: 500, PageUp: -500 }[event.key];
          const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
          if (event.shiftKey && move) {
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
