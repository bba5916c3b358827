import { type RefObject, useEffect, useRef } from "react";
import { pictureUrl, type Clipping } from "../api/client";
import { type Edit, type Kinds, type Sheet, type Where, matUrl, sentUrl } from "../api/sheet";
import { size } from "../app/format";
import { fittingScale, useSize } from "../app/useFitted";
import { type Area, contains, sameArea } from "../area/geometry";
import { useAreaEditor } from "../area/useAreaEditor";
import { heldTo } from "./CropLine";
import { MarkLayer } from "./MarkLayer";
import { PointerHandle } from "./PointerHandle";
import { Ruler } from "./Ruler";
import { StripMap } from "./StripMap";
import { ticks } from "./ruler";
import { CLIPPING_TYPE } from "../rack";
import { layOn } from "./SheetLines";
import { useTrim } from "./state";
import { type Zoom, useZoom } from "./useZoom";

interface Props {
  clipping: Clipping;
  sheet: Sheet;
  kinds: Kinds | undefined;
  where: Where;
  crop: Area;
  ratio: number | null;
  panes: readonly Area[] | null;
  mmPerPx: number;
  zoom: Zoom;
  onZoom: (zoom: Zoom) => void;
  onLive: (area: Area | null) => void;
  onSettled: (area: Area) => void;
  change: (edit: Edit) => Promise<Sheet | null>;
}

const RULER = 24;
const MARGIN = 84;
const CSS_PX_PER_MM = 96 / 25.4;

/** The picture with its waste, its margins and its marks, and rulers that count millimetres in the destination. */
export function Mat(props: Props) {
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
    current.current = crop;
    if (!sameArea(crop, editor.current?.get() ?? null)) editor.current?.set(crop);
  }, [crop, editor]);

  const crops = tool === "crop";
  const across = Math.max(room.width, far.x);
  const down = Math.max(room.height, far.y);
  return (
    <div className="mat-place">
      <div className="mat" ref={table} data-scale={scale}>
        <div className="mat-sheet" style={{ width: far.x, height: far.y }}>
          <Ruler direction="x" marks={ticks(left + crop.x * scale, pxPerMm, RULER, across)} length={across} />
          <Ruler direction="y" marks={ticks(top + crop.y * scale, pxPerMm, RULER, down)} length={down} />
          {/* A drawing surface: roles of widgets don't fit, and it must take the arrow keys. */}
          <div
            ref={host}
            className={`mat-picture ${crops ? "" : "mat-still"}`}
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
            <img src={matUrl(sheet)} alt={clipping.name} draggable={false} />
            <OnTheMat {...props} scale={scale} host={host} canvas={canvas} />
          </div>
        </div>
      </div>
      <canvas ref={canvas} className="rubber" aria-hidden="true" />
      <StripMap table={table} picture={matUrl(sheet)} width={area.width} height={area.height} />
    </div>
  );
}

interface OnTheMatProps extends Props {
  scale: number;
  host: RefObject<HTMLDivElement | null>;
  canvas: RefObject<HTMLCanvasElement | null>;
}

/** What lies on the picture: marks, margins, parts that are drawn, the pointer; or the very picture that leaves. */
function OnTheMat(props: OnTheMatProps) {
  const { clipping, sheet, kinds, where, panes, scale, host, canvas, change, onSettled } = props;
  const { tool, showing, parts, scale: tried } = useTrim();
  if (showing === "original") return null;
  if (showing === "sent" || tool === "scale")
    return <SentPicture sheet={sheet} where={where} scale={scale} tried={tool === "scale" ? tried : null} />;
  const draws = !["crop", "turn", "tones", "edge", "room", "scale"].includes(tool);
  return (
    <>
      <Marks sheet={sheet} scale={scale} />
      {!clipping.is_turned && <PointerHandle clipping={clipping} scale={scale} />}
      {draws && kinds && (
        <MarkLayer sheet={sheet} kinds={kinds} scale={scale} host={host} canvas={canvas} change={change} />
      )}
      {panes && tool === "crop" && <PanePicker panes={panes} scale={scale} onPick={onSettled} />}
      {parts.map((part, index) => (
        <div key={index} className="part-drawn" style={boxOf(part, scale)}>
          {index + 1}
        </div>
      ))}
    </>
  );
}

/** The marks as the server draws them, in clipping pixels; margins with what stands in them. */
function Marks({ sheet, scale }: { sheet: Sheet; scale: number }) {
  const { crop, room, base } = sheet;
  const blends = sheet.svg.includes('class="blend-');
  const hasRoom = room.left + room.top + room.right + room.bottom > 0;
  const inner = `M${crop.x} ${crop.y}h${crop.width}v${crop.height}h${-crop.width}z`;
  const [left, top] = [crop.x - room.left, crop.y - room.top];
  const [right, bottom] = [crop.x + crop.width + room.right, crop.y + crop.height + room.bottom];
  const outer = `M${left} ${top}H${right}V${bottom}H${left}z`;
  const view = { width: base.width * scale, height: base.height * scale, viewBox: `0 0 ${base.width} ${base.height}` };
  return (
    <>
      {sheet.marks
        .filter((mark) => mark.kind === "inset")
        .map((mark) => (
          <img
            key={mark.id}
            className="inset"
            data-mark-picture={mark.id}
            src={pictureUrl.clipping({ id: String(mark.options["clipping"]), version: mark.picture ?? "" })}
            alt=""
            draggable={false}
            style={boxOf(
              { x: mark.box[0], y: mark.box[1], width: mark.box[2] - mark.box[0], height: mark.box[3] - mark.box[1] },
              scale,
            )}
          />
        ))}
      <svg className="marks" {...view} aria-hidden="true">
        {/* What blends must have the picture beneath it in the same drawing. */}
        {blends && <image href={matUrl(sheet)} width={base.width} height={base.height} preserveAspectRatio="none" />}
        <g dangerouslySetInnerHTML={{ __html: sheet.svg }} />
      </svg>
      {hasRoom && (
        <svg className="marks marks-room" {...view} aria-hidden="true">
          <clipPath id="room">
            <path d={`${outer}${inner}`} clipRule="evenodd" />
          </clipPath>
          <path className="room-ground" d={`${outer}${inner}`} fillRule="evenodd" fill={groundOf(sheet)} />
          <g clipPath="url(#room)" dangerouslySetInnerHTML={{ __html: sheet.svg }} />
        </svg>
      )}
      {(sheet.edge.weight_pt > 0 || sheet.edge.shadow_pt > 0) && (
        <div
          className="edge-shown"
          style={edgeStyle(sheet, { x: left, y: top, width: right - left, height: bottom - top }, scale)}
        />
      )}
    </>
  );
}

const GROUNDS: Record<string, string> = {
  white: "#ffffff",
  ink: "#20282a",
  glass: "#2f7f74",
  harbour: "#1f5f9e",
  rust: "#b5351f",
  plum: "#7a3a78",
  "light-glass": "#8cc0b5",
  saffron: "#f0c24b",
  paper: "#fbf8f1",
};

function groundOf(sheet: Sheet): string {
  return GROUNDS[sheet.ground ?? ""] ?? "rgb(255 255 255 / 60%)";
}

function edgeStyle(sheet: Sheet, area: Area, scale: number) {
  const px = (sheet.px_per_pt / sheet.scale) * scale;
  const { weight_pt, dash, colour, shadow_pt } = sheet.edge;
  const edge = weight_pt * px;
  const box = {
    x: area.x - edge / scale,
    y: area.y - edge / scale,
    width: area.width + (2 * edge) / scale,
    height: area.height + (2 * edge) / scale,
  };
  const fall = shadow_pt * px;
  return {
    ...boxOf(box, scale),
    border: edge > 0 ? `${edge.toFixed(2)}px ${dash} ${GROUNDS[colour] ?? "#20282a"}` : "0",
    boxShadow:
      fall > 0
        ? `${(fall * 0.35).toFixed(1)}px ${(fall * 0.35).toFixed(1)}px ${(fall * 0.6).toFixed(1)}px rgb(20 34 36 / 45%)`
        : "none",
  };
}

/** The finished picture where the crop lies, or what it becomes at a scale that is tried. */
function SentPicture({
  sheet,
  where,
  scale,
  tried,
}: {
  sheet: Sheet;
  where: Where;
  scale: number;
  tried: number | null;
}) {
  const { crop, outer } = sheet;
  const own = scale / sheet.scale;
  const [width, height] = [outer.width * own, outer.height * own];
  return (
    <div
      className="sent"
      data-own-pointer=""
      style={{ width: sheet.base.width * scale, height: sheet.base.height * scale }}
    >
      <img
        className="sent-picture"
        src={sentUrl(sheet, where, tried ?? undefined)}
        alt="As it is sent"
        draggable={false}
        style={{
          width,
          height,
          left: (crop.x + crop.width / 2) * scale - width / 2,
          top: (crop.y + crop.height / 2) * scale - height / 2,
        }}
      />
    </div>
  );
}

/** Press a pane to crop to it; the smallest under the pointer is framed. */
function PanePicker({ panes, scale, onPick }: { panes: readonly Area[]; scale: number; onPick: (area: Area) => void }) {
  const frame = useRef<HTMLDivElement>(null);
  const paneAt = (event: React.PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [(event.clientX - box.left) / scale, (event.clientY - box.top) / scale];
    return panes.find((pane) => contains(pane, x, y));
  };
  return (
    <div
      className="pane-picker"
      data-own-pointer=""
      onPointerMove={(event) => {
        const pane = paneAt(event);
        const element = frame.current;
        if (!element) return;
        element.hidden = !pane;
        if (pane) Object.assign(element.style, px(boxOf(pane, scale)));
      }}
      onPointerDown={(event) => {
        event.stopPropagation();
      }}
      onPointerUp={(event) => {
        const pane = paneAt(event);
        if (pane) onPick(pane);
      }}
    >
      <div ref={frame} className="pane-frame" hidden />
    </div>
  );
}

function boxOf(area: Area, scale: number) {
  return {
    transform: `translate(${(area.x * scale).toFixed(2)}px, ${(area.y * scale).toFixed(2)}px)`,
    width: area.width * scale,
    height: area.height * scale,
  };
}

function px(box: ReturnType<typeof boxOf>) {
  return { ...box, width: `${box.width.toString()}px`, height: `${box.height.toString()}px` };
}

/** How far picture and margins reach, in clipping pixels, from the picture's left upper corner. */
function reachOf({ base, crop, room }: Sheet) {
  const left = Math.max(0, room.left - crop.x);
  const top = Math.max(0, room.top - crop.y);
  const right = Math.max(base.width, crop.x + crop.width + room.right);
  const bottom = Math.max(base.height, crop.y + crop.height + room.bottom);
  return { left, top, right, bottom, width: left + right, height: top + bottom };
}

function scaleOf(zoom: Zoom, fit: number, mmPerPx: number): number {
  if (zoom === "pixels") return 1 / (window.devicePixelRatio || 1);
  if (zoom === "placed") return mmPerPx * CSS_PX_PER_MM;
  return typeof zoom === "number" ? zoom : fit;
}
