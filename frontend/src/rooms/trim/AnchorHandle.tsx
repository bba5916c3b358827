import { useRef, useState } from "react";
import { ARROWS } from "./arrows";

interface Props {
  at: readonly [number, number];
  name: string;
  scale: number;
  onSettled: (to: [number, number]) => Promise<unknown>;
}

/** An anchor of the chosen mark: dragged, or moved by arrow keys. */
export function AnchorHandle({ at, name, scale, onSettled }: Props) {
  const [live, setLive] = useState<[number, number] | null>(null);
  const drag = useRef<{ x: number; y: number; from: readonly [number, number] } | null>(null);
  const [x, y] = live ?? at;
  const settle = async (to: [number, number]) => {
    setLive(to);
    await onSettled(to);
    setLive(null);
  };
  return (
    <button
      type="button"
      className="anchor"
      aria-label={`${name}, at ${x.toFixed(0)}, ${y.toFixed(0)}. Arrow keys move it.`}
      style={{ transform: `translate(${(x * scale).toFixed(1)}px, ${(y * scale).toFixed(1)}px)` }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, y: event.clientY, from: [x, y] };
      }}
      onPointerMove={(event) => {
        const start = drag.current;
        if (!start) return;
        const [dx, dy] = [(event.clientX - start.x) / scale, (event.clientY - start.y) / scale];
        setLive([start.from[0] + dx, start.from[1] + dy]);
      }}
      onPointerUp={() => {
        drag.current = null;
        if (live) void settle(live);
      }}
      onPointerCancel={() => {
        drag.current = null;
        setLive(null);
      }}
      onKeyDown={(event) => {
        const by = ARROWS[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        const step = event.shiftKey ? 10 : 1;
        void settle([x + by[0] * step, y + by[1] * step]);
      }}
    />
  );
}
