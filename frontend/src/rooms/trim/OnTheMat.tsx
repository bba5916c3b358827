import { type RefObject, memo, useEffect, useRef } from "react";
import { type Clipping, pictureUrl } from "../../api/client";
import { useFoundOn } from "../../api/rack";
import { useBenchState } from "../../base/state";
import { type Change, type Kinds, type Sheet, type Where, matUrl, sentUrl } from "../../api/sheet";
import { type Area, contains } from "../../area/geometry";
import { MarkLayer } from "./MarkLayer";
import { PointerHandle } from "./PointerHandle";
import { useTrim } from "./state";
import type { Zoom } from "./useZoom";

export interface MatProps {
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
  /** When the picture is there. */
  onShown: () => void;
  onLive: (area: Area | null) => void;
  onSettled: (area: Area) => void;
  change: (change: Change) => Promise<Sheet | null>;
}

interface OnTheMatProps extends MatProps {
  scale: number;
  host: RefObject<HTMLDivElement | null>;
  canvas: RefObject<HTMLCanvasElement | null>;
}

/** What lies on the picture: marks, margins, parts that are drawn, the pointer; or the very picture that leaves. */
export function OnTheMat(props: OnTheMatProps) {
  const { clipping, sheet, kinds, where, panes, scale, host, canvas, change, onSettled } = props;
  const { tool, showing, parts, scale: tried } = useTrim();
  if (showing === "original") return null;
  if (showing === "sent" || tool === "scale")
    return <SentPicture sheet={sheet} where={where} scale={scale} tried={tool === "scale" ? tried : null} />;
  const draws = !["crop", "turn", "tones", "edge", "room", "scale"].includes(tool);
  return (
    <>
      <Marks sheet={sheet} scale={scale} />
      <FoundWords clipping={clipping} sheet={sheet} scale={scale} />
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
  const blends = sheet.marks.some((mark) => mark.svg.includes('class="blend-'));
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
        {sheet.marks.map((mark) => (
          <MarkDrawing key={mark.id} svg={mark.svg} />
        ))}
      </svg>
      {hasRoom && (
        <svg className="marks marks-room" {...view} aria-hidden="true">
          <clipPath id="room">
            <path d={`${outer}${inner}`} clipRule="evenodd" />
          </clipPath>
          <path className="room-ground" d={`${outer}${inner}`} fillRule="evenodd" fill={groundOf(sheet)} />
          <g clipPath="url(#room)">
            {sheet.marks.map((mark) => (
              <MarkDrawing key={mark.id} svg={mark.svg} />
            ))}
          </g>
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

/** The words that are looked for on the rack; they were read on the picture as it leaves. */
function FoundWords({ clipping, sheet, scale }: Pick<OnTheMatProps, "clipping" | "sheet" | "scale">) {
  const found = useFoundOn(clipping, useBenchState((state) => state.finding).trim());
  if (!found) return null;
  const { base, crop, inset_px: inset, scale: px } = sheet;
  return (
    <svg
      className="marks found-words"
      width={base.width * scale}
      height={base.height * scale}
      viewBox={`0 0 ${base.width} ${base.height}`}
      aria-hidden="true"
    >
      {found.boxes.map(({ x, y, width, height }) => (
        <rect
          key={`${x} ${y}`}
          x={(x - inset[0]) / px + crop.x - 3}
          y={(y - inset[1]) / px + crop.y - 3}
          width={width / px + 6}
          height={height / px + 6}
        />
      ))}
    </svg>
  );
}

/** One mark; drawn anew only when it changed, for a long stroke has thousands of numbers. */
const MarkDrawing = memo(function MarkDrawing({ svg }: { svg: string }) {
  return <g dangerouslySetInnerHTML={{ __html: svg }} />;
});

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

export function groundOf(sheet: Sheet): string {
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
  const { crop, outer, inset_px } = sheet;
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
          left: crop.x * scale - inset_px[0] * own,
          top: crop.y * scale - inset_px[1] * own,
        }}
      />
    </div>
  );
}

/** Press a pane to crop to it; the smallest under the pointer is framed, also when panes are found only then. */
function PanePicker({ panes, scale, onPick }: { panes: readonly Area[]; scale: number; onPick: (area: Area) => void }) {
  const picker = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const at = useRef<{ clientX: number; clientY: number } | null>(null);
  const paneAt = () => {
    const box = picker.current?.getBoundingClientRect();
    const aim = at.current;
    if (!box || !aim) return undefined;
    return panes.find((pane) => contains(pane, (aim.clientX - box.left) / scale, (aim.clientY - box.top) / scale));
  };
  const show = () => {
    const pane = paneAt();
    const element = frame.current;
    if (!element) return;
    element.hidden = !pane;
    if (pane) Object.assign(element.style, px(boxOf(pane, scale)));
  };
  useEffect(show);
  return (
    <div
      ref={picker}
      className="pane-picker"
      data-own-pointer=""
      onPointerMove={(event) => {
        at.current = event;
        show();
      }}
      onPointerUp={(event) => {
        at.current = event;
        const pane = paneAt();
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
