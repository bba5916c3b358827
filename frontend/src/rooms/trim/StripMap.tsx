import { type RefObject, useEffect, useState } from "react";

interface Props {
  table: RefObject<HTMLElement | null>;
  picture: string;
  width: number;
  height: number;
}

const MAP_WIDTH = 44;
const LEAST_OVER = 1.6;

/** A tall picture as a narrow strip, with what is in view framed; pressed or dragged, the mat goes there. */
export function StripMap({ table, picture, width, height }: Props) {
  const [view, setView] = useState({ top: 0, share: 1 });
  useEffect(() => {
    const element = table.current;
    if (!element) return undefined;
    const read = () => {
      setView({ top: element.scrollTop / element.scrollHeight, share: element.clientHeight / element.scrollHeight });
    };
    read();
    const abort = new AbortController();
    element.addEventListener("scroll", read, { signal: abort.signal, passive: true });
    const observer = new ResizeObserver(read);
    observer.observe(element);
    if (element.firstElementChild) observer.observe(element.firstElementChild);
    return () => {
      abort.abort();
      observer.disconnect();
    };
  }, [table]);
  if (view.share * LEAST_OVER > 1 || height < width) return null;
  const go = (event: React.PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const element = table.current;
    if (!element) return;
    const share = (event.clientY - box.top) / box.height;
    element.scrollTo({ top: share * element.scrollHeight - element.clientHeight / 2 });
  };
  return (
    <div
      className="strip-map"
      style={{ width: MAP_WIDTH }}
      aria-hidden="true"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        go(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons === 1) go(event);
      }}
    >
      <img src={picture} alt="" draggable={false} />
      <div
        className="strip-map-view"
        style={{ top: `${(view.top * 100).toFixed(2)}%`, height: `${(view.share * 100).toFixed(2)}%` }}
      />
    </div>
  );
}
