import InputBase from "@mui/material/InputBase";
import { type PointerEvent, useRef, useState } from "react";
import { adjustPlacement } from "../api/bench";
import type { Placement } from "../api/client";
import { mm } from "../app/format";

const EMU_PER_MM = 36_000;
const STEP_EMU = 36_000;

interface WidthLineProps {
  placement: Placement;
  pxPerMm: number;
  /** Whether its left edge stays where it is; else it grows to both sides where it stands in the middle. */
  fromLeft?: boolean;
  /** While the line is pulled: how wide the picture would be; null when it is let go. */
  onPull: (widthEmu: number | null) => void;
}

/** The dimension line over a picture: pulled at its end, moved by arrow keys, or typed in any unit. */
export function WidthLine({ placement, pxPerMm, fromLeft = false, onPull }: WidthLineProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [pulled, setPulled] = useState<number | null>(null);
  const pull = useRef<{ x: number; from: number } | null>(null);
  const most = placement.spot_width_emu;
  const width = pulled ?? placement.width_emu;
  const height = (placement.height_emu / placement.width_emu) * width;
  const take = (emu: number) => adjustPlacement(placement.id, { width: `${(emu / EMU_PER_MM).toFixed(3)}mm` });
  const commit = () => {
    const text = typed?.trim();
    // A bare number means millimetres, as the line shows them.
    if (text) void adjustPlacement(placement.id, { width: /^[\d.,]+$/.test(text) ? `${text} mm` : text });
    setTyped(null);
  };
  const follow = (event: PointerEvent) => {
    if (!pull.current) return null;
    // Centred: both ends move, so the width grows twice as fast as the pointer goes.
    const by =
      ((event.clientX - pull.current.x) / pxPerMm) *
      EMU_PER_MM *
      (!fromLeft && placement.layout.align === "centre" ? 2 : 1);
    return Math.min(Math.max(pull.current.from + by, EMU_PER_MM), most);
  };
  const fills = placement.bound_by === "place" && !placement.enlarged && pulled === null;
  return (
    <div className="width-line" style={{ width: (width / EMU_PER_MM) * pxPerMm }}>
      <span className="width-line-words">
        <InputBase
          className="number"
          value={typed ?? mm(width)}
          inputProps={{ "aria-label": "Width: a number with mm, cm, in, px, pt or %", maxLength: 20 }}
          title="Type a width: 60, 6 cm, 2.4 in, 226 px or 50 % of the place"
          onFocus={(event) => {
            event.target.select();
          }}
          onChange={(event) => {
            setTyped(event.target.value);
          }}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === "Enter") {
              event.stopPropagation();
              commit();
            }
            if (event.key === "Escape") {
              event.stopPropagation();
              setTyped(null);
            }
          }}
        />
        <span>
          × {mm(height)} mm{fills ? ", fills its place" : ""}
        </span>
      </span>
      <span
        className="width-line-end"
        role="slider"
        tabIndex={0}
        aria-label="Width of the picture"
        aria-valuemin={1}
        aria-valuemax={Math.round(most / EMU_PER_MM)}
        aria-valuenow={Math.round(width / EMU_PER_MM)}
        aria-valuetext={`${mm(width)} mm`}
        onPointerDown={(event) => {
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          pull.current = { x: event.clientX, from: placement.width_emu };
        }}
        onPointerMove={(event) => {
          const next = follow(event);
          if (next === null) return;
          setPulled(next);
          onPull(next);
        }}
        onPointerUp={(event) => {
          const next = follow(event);
          pull.current = null;
          if (next !== null && Math.abs(next - placement.width_emu) > STEP_EMU / 10) {
            void take(next).then(() => {
              setPulled(null);
              onPull(null);
            });
          } else {
            setPulled(null);
            onPull(null);
          }
        }}
        onKeyDown={(event) => {
          const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
          if (!way) return;
          event.preventDefault();
          event.stopPropagation();
          void take(
            Math.min(Math.max(placement.width_emu + way * STEP_EMU * (event.shiftKey ? 10 : 1), STEP_EMU), most),
          );
        }}
      />
    </div>
  );
}
