import { type WheelEvent, useEffect, useRef } from "react";
import { pictureUrl, type LiveView, type LiveWindow } from "../api/client";
import type { useDesk } from "./useDesk";

interface Props {
  desk: ReturnType<typeof useDesk>;
  view: LiveView;
  scale: number;
  onFreeze: () => void;
}

/** The desk with its windows, which can be raised and scrolled. */
export function LiveDesk({ desk, view, scale }: Props) {
  return (
    <div
      className="screen"
      role="group"
      aria-label="Practice desk, live"
      style={{ width: view.width * scale, height: view.height * scale }}
    >
      <img className="ground" src={pictureUrl.ground(desk.source, view.ground_version)} alt="" draggable={false} />
      {view.windows.map((window) => (
        <LiveWindowView key={window.id} desk={desk} window={window} scale={scale} />
      ))}
    </div>
  );
}

const LINES_PX = 40;

function LiveWindowView({
  desk,
  window,
  scale,
}: {
  desk: ReturnType<typeof useDesk>;
  window: LiveWindow;
  scale: number;
}) {
  const button = useRef<HTMLButtonElement>(null);
  const turn = (event: WheelEvent | globalThis.WheelEvent) => {
    if (!window.can_scroll) return;
    const unit = event.deltaMode === 1 ? LINES_PX : 1;
    desk.scroll(window.id, Math.round((event.deltaY * unit) / scale));
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
  return (
    <button
      ref={button}
      type="button"
      className="live-window"
      aria-label={`${window.title}${window.depth === 0 ? ", on top" : ", raise it"}`}
      style={{
        transform: `translate(${(box.x * scale).toString()}px, ${(box.y * scale).toString()}px)`,
        width: box.width * scale,
        height: box.height * scale,
        zIndex: 10 - window.depth,
      }}
      onPointerDown={() => {
        if (window.depth > 0) desk.raise(window.id);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter" || event.key === " ") {
          event.preventDefault();
          event.stopPropagation();
          desk.raise(window.id);
        }
        const step = { ArrowDown: 60, ArrowUp: -60, PageDown: 500, PageUp: -500 }[event.key];
        if (step !== undefined && window.can_scroll) {
          event.preventDefault();
          desk.scroll(window.id, step);
        }
      }}
    >
      <img src={pictureUrl.window(desk.source, window)} alt="" draggable={false} />
    </button>
  );
}
