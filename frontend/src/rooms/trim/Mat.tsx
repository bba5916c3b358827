import { useEffect, useRef } from "react";
import { type Sheet, matUrl } from "../../api/sheet";
import { size } from "../../base/format";
import { fittingScale, useSize } from "../../base/useFitted";
import { isHard } from "../../base/zoom";
import { sameArea } from "../../area/geometry";
import { useAreaEditor } from "../../area/useAreaEditor";
import { heldTo } from "./CropLine";
import { type MatProps, OnTheMat, groundOf } from "./OnTheMat";
import { RULER, Rulers } from "./Ruler";
import { StripMap } from "./StripMap";
import { CLIPPING_TYPE } from "../rack";
import { layOn } from "./SheetLines";
import { useTrim } from "./state";
import { type Zoom, useZoom } from "./useZoom";

/** Round a picture at fit: as much as what is said at the mat's foot takes. */
const MARGIN = 100;
const CSS_PX_PER_MM = 96 / 25.4;

/** The picture with its waste, its margins and its marks, and rulers that count millimetres in the destination. */
export function Mat(props: MatProps) {
  const { clipping, sheet, crop, mmPerPx, zoom, onZoom, onLive, onSettled } = props;
  const tool = useTrim((state) => state.tool);
  const table = useRef<HTMLDivElement>(null);
  const host = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const room = useSize(table);
  const area = { width: sheet.base.width, height: sheet.base.height };
  const reach = reachOf(sheet);
  const scale = scaleOf(zoom, fittingScale(reach, room, MARGIN), mmPerPx);
  const [width, height] = [area.width * scale, area.height * scale];
  // On whole pixels, so that a picture at its own size stays sharp.
  const left = Math.round(
    Math.max((room.width - RULER - reach.width * scale) / 2 + RULER, RULER + 24) + reach.left * scale,
  );
  const top = Math.round(
    Math.max((room.height - RULER - reach.height * scale) / 2 + RULER, RULER + 24) + reach.top * scale,
  );
  const pxPerMm = scale / mmPerPx;
  const far = { x: left + reach.right * scale + 24, y: top + reach.bottom * scale + 40 };
  useZoom(table, host, scale, onZoom);

  const current = useRef(crop);
  const held = useRef({ ratio: props.ratio, area });
  useEffect(() => {
    held.current = { ratio: props.ratio, area };
  });
  const editor = useAreaEditor({
    host,
    bounds: area,
    scale,
    drawsNew: false,
    also: {
      mode: () => "draw",
      snap: (each, grip) =>
        held.current.ratio && grip !== "move" && grip !== "new"
          ? heldTo(each, grip, held.current.ratio, held.current.area)
          : each,
      onAim: () => undefined,
      onPick: () => undefined,
      onOutline: () => undefined,
    },
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
    // The same area again, as the server has it now: what is being pulled goes on.
    if (editor.current?.isDragged() && sameArea(crop, current.current)) return;
    current.current = crop;
    if (!sameArea(crop, editor.current?.get() ?? null)) editor.current?.set(crop);
  }, [crop, editor]);

  const crops = tool === "crop";
  return (
    <div className="mat-place">
      <div className="mat" ref={table} data-scale={scale}>
        <div className="mat-sheet" style={{ width: far.x, height: far.y }}>
          {/* A drawing surface: roles of widgets don't fit, and it must take the arrow keys. */}
          <div
            ref={host}
            className={`mat-picture ${crops ? "" : "mat-still"} ${isHard(scale) ? "mat-hard" : ""}`}
            role="group"
            // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
            tabIndex={crops ? 0 : -1}
            aria-label={`${clipping.name}, crop of ${size(crop.width, crop.height)} pixels. Arrow keys move it, with Alt they change its size.`}
            style={{
              width,
              height,
              transform: `translate(${left.toString()}px, ${top.toString()}px)`,
              backgroundColor: sheet.ground ? groundOf(sheet) : undefined,
            }}
            onDragOver={(event) => {
              if (event.dataTransfer.types.includes(CLIPPING_TYPE)) event.preventDefault();
            }}
            onDrop={(event) => {
              const laid = event.dataTransfer.getData(CLIPPING_TYPE);
              if (!laid) return;
              event.preventDefault();
              const box = event.currentTarget.getBoundingClientRect();
              const at: [number, number] = [(event.clientX - box.left) / scale, (event.clientY - box.top) / scale];
              void layOn(laid, at, props.change);
            }}
          >
            <img src={matUrl(sheet)} alt={clipping.name} draggable={false} onLoad={afterPaint(props.onShown)} />
            <OnTheMat {...props} scale={scale} host={host} canvas={canvas} />
          </div>
        </div>
      </div>
      <Rulers
        table={table}
        origin={{ x: left + crop.x * scale, y: top + crop.y * scale }}
        pxPerMm={pxPerMm}
        room={room}
      />
      <canvas ref={canvas} className="rubber" aria-hidden="true" />
      <StripMap table={table} picture={matUrl(sheet)} width={area.width} height={area.height} />
    </div>
  );
}

/** A picture that has come is decoded and painted before anything else is worked out: two frames. */
function afterPaint(then: () => void) {
  return () => {
    requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(then)));
  };
}

/** How far the picture and all that leaves round it reach (margins, edge, shadow), in clipping pixels from the
 *  picture's left upper corner. */
function reachOf({ base, crop, outer, inset_px: [x, y], scale }: Sheet) {
  const left = Math.max(0, x / scale - crop.x);
  const top = Math.max(0, y / scale - crop.y);
  const right = Math.max(base.width, crop.x + (outer.width - x) / scale);
  const bottom = Math.max(base.height, crop.y + (outer.height - y) / scale);
  return { left, top, right, bottom, width: left + right, height: top + bottom };
}

function scaleOf(zoom: Zoom, fit: number, mmPerPx: number): number {
  if (zoom === "pixels") return 1 / (window.devicePixelRatio || 1);
  if (zoom === "placed") return mmPerPx * CSS_PX_PER_MM;
  return typeof zoom === "number" ? zoom : fit;
}
