import { useState } from "react";
import type { Kind, Sheet } from "../../api/sheet";
import type { XY } from "./geometry";
import { ARROWS } from "./arrows";

/** Drawing by keys: an aim that arrows move and Space sets. */
export interface AimState {
  at: XY | null;
  points: readonly XY[];
  onKey: (event: React.KeyboardEvent) => boolean;
}

export function useAim(sheet: Sheet, kind: Kind | null, onMake: (points: readonly XY[]) => void): AimState {
  const [at, setAt] = useState<XY | null>(null);
  const [points, setPoints] = useState<readonly XY[]>([]);
  const { crop } = sheet;
  const middle: XY = [Math.round(crop.x + crop.width / 2), Math.round(crop.y + crop.height / 2)];
  const onKey = (event: React.KeyboardEvent): boolean => {
    if (!kind) return false;
    const by = ARROWS[event.key];
    const now = at ?? middle;
    if (by) {
      const step = event.shiftKey ? 10 : 1;
      const next: XY = at ? [now[0] + by[0] * step, now[1] + by[1] * step] : now;
      setAt(next);
      // A stroke follows the aim once it has begun.
      if (kind.gesture === "stroke" && points.length > 0) setPoints([...points, next]);
    } else if (event.key === " ") {
      const all = [...points, now];
      setAt(now);
      const needed = kind.gesture === "click" ? 1 : 2;
      if (all.length >= needed) {
        onMake(all);
        setPoints([]);
      } else setPoints(all);
    } else if (event.key === "Escape" && points.length > 0) setPoints([]);
    else return false;
    event.preventDefault();
    event.stopPropagation();
    return true;
  };
  return { at, points, onKey };
}

/** The aim, and what is set so far. */
export function Aim({ aim, scale, gesture }: { aim: AimState; scale: number; gesture: string }) {
  const { at, points } = aim;
  const [first] = points;
  if (!at) return null;
  const [x, y] = [at[0] * scale, at[1] * scale];
  return (
    <svg className="aim" aria-hidden="true">
      {first && gesture === "drag" && <line x1={first[0] * scale} y1={first[1] * scale} x2={x} y2={y} />}
      {first && gesture === "box" && (
        <rect
          x={Math.min(first[0] * scale, x)}
          y={Math.min(first[1] * scale, y)}
          width={Math.abs(x - first[0] * scale)}
          height={Math.abs(y - first[1] * scale)}
        />
      )}
      {first && gesture === "stroke" && (
        <polyline
          points={points.map(([px, py]) => `${(px * scale).toString()},${(py * scale).toString()}`).join(" ")}
        />
      )}
      <path className="aim-edge" d={`M${x.toString()} ${y.toString()}m-14 0h28m-14 -14v28`} />
      <path d={`M${x.toString()} ${y.toString()}m-14 0h28m-14 -14v28`} />
    </svg>
  );
}
