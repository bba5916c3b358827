import { useRef, useState } from "react";
import { pictureUrl, type Clipping } from "../../api/client";
import { ARROWS } from "./arrows";
import { showPointer } from "./pointer";

/** The pointer on the mat: dragged or moved by arrow keys to where it should point. */
export function PointerHandle({ clipping, scale }: { clipping: Clipping; scale: number }) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const [natural, setNatural] = useState({ width: 0, height: 0 });
  const drag = useRef<{ x: number; y: number; from: { x: number; y: number } } | null>(null);
  if (!clipping.pointer || !clipping.pointer_hot) return null;
  const tip = at ?? clipping.pointer;
  const settle = (to: { x: number; y: number }) => {
    setAt(to);
    void showPointer(clipping, true, to).then(() => {
      setAt(null);
    });
  };
  const [left, top] = [(tip.x - clipping.pointer_hot.x) * scale, (tip.y - clipping.pointer_hot.y) * scale];
  return (
    <button
      type="button"
      className="pointer-handle"
      aria-label={`Pointer at ${tip.x.toString()}, ${tip.y.toString()}. Arrow keys move it, Delete hides it.`}
      style={{ transform: `translate(${left.toFixed(1)}px, ${top.toFixed(1)}px)` }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, y: event.clientY, from: tip };
      }}
      onPointerMove={(event) => {
        const start = drag.current;
        if (!start) return;
        const [dx, dy] = [(event.clientX - start.x) / scale, (event.clientY - start.y) / scale];
        setAt({ x: Math.round(start.from.x + dx), y: Math.round(start.from.y + dy) });
      }}
      onPointerUp={() => {
        drag.current = null;
        if (at) settle(at);
      }}
      onKeyDown={(event) => {
        const by = ARROWS[event.key];
        if (by) {
          event.preventDefault();
          event.stopPropagation();
          const step = event.shiftKey ? 10 : 1;
          settle({ x: tip.x + by[0] * step, y: tip.y + by[1] * step });
        } else if (event.key === "Delete") {
          event.preventDefault();
          event.stopPropagation();
          void showPointer(clipping, false);
        }
      }}
    >
      <img
        src={pictureUrl.pointer(clipping.frame)}
        alt=""
        draggable={false}
        width={natural.width * scale || undefined}
        onLoad={(event) => {
          setNatural({ width: event.currentTarget.naturalWidth, height: event.currentTarget.naturalHeight });
        }}
      />
    </button>
  );
}
