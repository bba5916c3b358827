import { useEffect, useRef } from "react";
import { pictureUrl, type Clipping } from "../api/client";
import { size } from "../app/format";
import { fittingScale, useSize } from "../app/useFitted";
import { type Area, sameArea } from "../area/geometry";
import { useAreaEditor } from "../area/useAreaEditor";
import { PointerHandle } from "./PointerHandle";
import { ticks } from "./ruler";

/** "fit" the mat, "placed" as large as in the document, "pixels" one to one, or a factor of fit. */
export type Zoom = "fit" | "placed" | "pixels" | number;

interface Props {
  clipping: Clipping;
  crop: Area;
  mmPerPx: number;
  zoom: Zoom;
  onLive: (area: Area | null) => void;
  onSettled: (area: Area) => void;
}

const RULER = 24;
const MARGIN = 84;
const CSS_PX_PER_MM = 96 / 25.4;

/** The picture with its waste, and rulers that count millimetres in the destination from its left upper corner. */
export function Mat({ clipping, crop, mmPerPx, zoom, onLive, onSettled }: Props) {
  const table = useRef<HTMLDivElement>(null);
  const host = useRef<HTMLDivElement>(null);
  const room = useSize(table);
  const { area } = clipping;
  const scale = scaleOf(zoom, fittingScale(area, room, MARGIN), mmPerPx);
  const [width, height] = [area.width * scale, area.height * scale];
  const left = Math.max((room.width - RULER - width) / 2 + RULER, RULER + 24);
  const top = Math.max((room.height - RULER - height) / 2 + RULER, RULER + 24);
  const pxPerMm = scale / mmPerPx;

  const current = useRef(crop);
  const editor = useAreaEditor({
    host,
    bounds: area,
    scale,
    drawsNew: false,
    onLive: (each) => {
      if (each && !sameArea(each, current.current)) onLive(each);
    },
    onSettled: (each) => {
      if (!each || sameArea(each, current.current)) return;
      current.current = each;
      onSettled(each);
    },
  });
  useEffect(() => {
    current.current = crop;
    if (!sameArea(crop, editor.current?.get() ?? null)) editor.current?.set(crop);
  }, [crop, editor]);

  return (
    <div className="mat" ref={table} data-scale={scale}>
      <div className="mat-sheet" style={{ width: left + width + 24, height: top + height + 40 }}>
        <Ruler
          direction="x"
          marks={ticks(left + crop.x * scale, pxPerMm, RULER, Math.max(room.width, left + width + 24))}
          length={Math.max(room.width, left + width + 24)}
        />
        <Ruler
          direction="y"
          marks={ticks(top + crop.y * scale, pxPerMm, RULER, Math.max(room.height, top + height + 40))}
          length={Math.max(room.height, top + height + 40)}
        />
        {/* A drawing surface: roles of widgets don't fit, and it must take the arrow keys. */}
        <div
          ref={host}
          className="mat-picture"
          role="group"
          // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
          tabIndex={0}
          aria-label={`${clipping.name}, crop of ${size(crop.width, crop.height)} pixels. Arrow keys move it, with Alt they change its size.`}
          style={{ width, height, transform: `translate(${left.toString()}px, ${top.toString()}px)` }}
        >
          <img src={pictureUrl.whole(clipping)} alt={clipping.name} draggable={false} />
          <PointerHandle clipping={clipping} scale={scale} />
        </div>
      </div>
    </div>
  );
}

function scaleOf(zoom: Zoom, fit: number, mmPerPx: number): number {
  if (zoom === "pixels") return 1 / (window.devicePixelRatio || 1);
  if (zoom === "placed") return mmPerPx * CSS_PX_PER_MM;
  return typeof zoom === "number" ? fit * zoom : fit;
}

function Ruler({
  direction,
  marks,
  length,
}: {
  direction: "x" | "y";
  marks: ReturnType<typeof ticks>;
  length: number;
}) {
  const across = direction === "x";
  return (
    <svg
      className={`ruler ruler-${direction}`}
      width={across ? length : RULER}
      height={across ? RULER : length}
      aria-hidden="true"
    >
      {marks.map((mark) => {
        const from = RULER - (mark.long ? 11 : 6);
        return across ? (
          <line key={mark.at} x1={mark.at} x2={mark.at} y1={from} y2={RULER} />
        ) : (
          <line key={mark.at} y1={mark.at} y2={mark.at} x1={from} x2={RULER} />
        );
      })}
      {across &&
        marks
          .filter((mark) => mark.long && mark.at > RULER + 4)
          .map((mark) => (
            <text key={mark.at} x={mark.at + 4} y={11}>
              {mark.mm}
              {mark.mm === 0 ? " mm" : ""}
            </text>
          ))}
    </svg>
  );
}
