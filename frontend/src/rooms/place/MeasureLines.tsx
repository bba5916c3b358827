import { EMU_PER_MM } from "../../base/units";
import InputBase from "@mui/material/InputBase";
import { type PointerEvent, useRef, useState } from "react";
import { adjustPlacement } from "../../api/bench";
import type { Placement } from "../../api/client";
import { mm } from "../../base/format";

const STEP_EMU = EMU_PER_MM;
/** How high a picture must be shown for its height to be written along it, in view pixels. */
const WRITTEN_FROM_PX = 96;

interface MeasureProps {
  placement: Placement;
  /** How wide it is shown now, in EMU: while a line is pulled, as wide as it would be. */
  width: number;
  pxPerMm: number;
  /** While a line is pulled: how wide the picture would be; null when it is let go. */
  onPull: (widthEmu: number | null) => void;
}

function heightOf(placement: Placement, width: number): number {
  return (placement.height_emu / placement.width_emu) * width;
}

/** Whether a picture's height is written along it, not beside its width. */
export function isHigh(placement: Placement, width: number, pxPerMm: number): boolean {
  return (heightOf(placement, width) / EMU_PER_MM) * pxPerMm >= WRITTEN_FROM_PX;
}

interface WidthLineProps extends MeasureProps {
  /** Whether its left edge stays where it is; else it grows to both sides where it stands in the middle. */
  fromLeft?: boolean;
}

/** The dimension line along a picture's width: pulled at its end, moved by arrow keys, or typed in any unit. */
export function WidthLine(props: WidthLineProps) {
  const { placement, width, pxPerMm } = props;
  return (
    <div className="width-line" style={{ width: (width / EMU_PER_MM) * pxPerMm }}>
      <span className="width-line-words">
        <WidthField placement={placement} width={width} withHeight={!isHigh(placement, width, pxPerMm)} />
      </span>
      <WidthEnd {...props} />
    </div>
  );
}

/** The end of a picture's width, to be pulled. */
export function WidthEnd({ placement, pxPerMm, fromLeft = false, onPull }: WidthLineProps) {
  return (
    <LineEnd
      label="Width of the picture"
      className="width-line-end"
      placement={placement}
      // Centred: both ends move, so the width grows twice as fast as the pointer goes.
      emuPerPx={(EMU_PER_MM / pxPerMm) * (!fromLeft && placement.layout.align === "centre" ? 2 : 1)}
      pointer={(event) => event.clientX}
      measure={(emu) => emu}
      onPull={onPull}
    />
  );
}

interface WidthFieldProps {
  placement: Placement;
  width: number;
  /** Whether its height is said, too: it may be written elsewhere. */
  withHeight: boolean;
}

/** The width to be typed in any unit, and whether it fills its place. */
export function WidthField({ placement, width, withHeight }: WidthFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const text = typed?.trim();
    // A bare number means millimetres, as the line shows them.
    if (text) void adjustPlacement(placement.id, { width: /^[\d.,]+$/.test(text) ? `${text} mm` : text });
    setTyped(null);
  };
  const fills = placement.bound_by === "place" && !placement.enlarged && width === placement.width_emu;
  return (
    <>
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
        {withHeight ? `× ${mm(heightOf(placement, width))} mm` : "mm"}
        {fills ? ", fills its place" : ""}
      </span>
    </>
  );
}

/** The dimension line along its height, which follows its width. */
export function HeightLine({ placement, width, pxPerMm, onPull }: MeasureProps) {
  return (
    <div className="height-line">
      {isHigh(placement, width, pxPerMm) && <span>{mm(heightOf(placement, width))} mm</span>}
      <LineEnd
        label="Height of the picture"
        className="height-line-end"
        placement={placement}
        emuPerPx={(EMU_PER_MM / pxPerMm) * (placement.width_emu / placement.height_emu)}
        pointer={(event) => event.clientY}
        measure={(emu) => heightOf(placement, emu)}
        onPull={onPull}
      />
    </div>
  );
}

interface LineEndProps {
  label: string;
  className: string;
  placement: Placement;
  /** By how much the width grows for a view pixel that the pointer goes. */
  emuPerPx: number;
  pointer: (event: PointerEvent) => number;
  /** What the line measures when the picture is so wide. */
  measure: (widthEmu: number) => number;
  onPull: (widthEmu: number | null) => void;
}

/** The end of a dimension line, which is pulled: the ratio is kept, so it always sets the width. */
function LineEnd({ label, className, placement, emuPerPx, pointer, measure, onPull }: LineEndProps) {
  const pull = useRef<{ at: number; from: number } | null>(null);
  const most = placement.spot_width_emu;
  const within = (emu: number) => Math.min(Math.max(emu, STEP_EMU), most);
  const take = (emu: number) => adjustPlacement(placement.id, { width: `${(emu / EMU_PER_MM).toFixed(3)}mm` });
  const follow = (event: PointerEvent) =>
    pull.current && within(pull.current.from + (pointer(event) - pull.current.at) * emuPerPx);
  const [least, now, highest] = [STEP_EMU, placement.width_emu, most].map((each) =>
    Math.round(measure(each) / EMU_PER_MM),
  );
  return (
    <span
      className={className}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={least}
      aria-valuemax={highest}
      aria-valuenow={now}
      aria-valuetext={`${mm(measure(placement.width_emu))} mm`}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        pull.current = { at: pointer(event), from: placement.width_emu };
      }}
      onPointerMove={(event) => {
        const next = follow(event);
        if (next !== null) onPull(next);
      }}
      onPointerUp={(event) => {
        const next = follow(event);
        pull.current = null;
        const moved = next !== null && Math.abs(next - placement.width_emu) > STEP_EMU / 10;
        void (moved ? take(next) : Promise.resolve()).then(() => {
          onPull(null);
        });
      }}
      onKeyDown={(event) => {
        const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
        if (!way) return;
        event.preventDefault();
        event.stopPropagation();
        void take(within(placement.width_emu + way * STEP_EMU * (event.shiftKey ? 10 : 1)));
      }}
    />
  );
}
