import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import { type Change, type Kinds, type Mark, type Sheet, newId, useSuggestions } from "../../api/sheet";
import { guidesOf } from "../../area/geometry";
import { AnchorHandle } from "./AnchorHandle";
import { Pending, type PendingMark } from "./Pending";
import { Writing, type Written } from "./Writing";
import { MarkSurface } from "./MarkSurface";
import type { XY } from "./geometry";
import { labelOf, removeMarks } from "./MarkLine";
import { useTrim } from "./state";
import { toolOf } from "./tools";
import { Aim, useAim } from "./Aim";
import { ARROWS } from "./arrows";

interface Props {
  sheet: Sheet;
  kinds: Kinds;
  scale: number;
  host: RefObject<HTMLDivElement | null>;
  canvas: RefObject<HTMLCanvasElement | null>;
  change: (change: Change) => Promise<Sheet | null>;
}

/** Over the picture: where marks are drawn, taken hold of, written in, and reached by keys. */
export function MarkLayer({ sheet, kinds, scale, host, canvas, change }: Props) {
  const { tool, chosen, set } = useTrim();
  const surfaceElement = useRef<HTMLDivElement>(null);
  const surface = useRef<MarkSurface | null>(null);
  const [writing, setWriting] = useState<Written | null>(null);
  const [pending, setPending] = useState<readonly PendingMark[]>([]);
  const kind = kinds.kinds.find((each) => each.id === tool);
  const suggested = useSuggestions(sheet.clipping, sheet.version, tool === "line", true);

  const make = async (points: readonly XY[], pressures: readonly number[]) => {
    if (!kind) return;
    if (kind.id === "text" || kind.id === "callout") {
      surface.current?.clear();
      setWriting({ kind: kind.id, points: points.map(([x, y]) => [x, y]), text: "" });
      return;
    }
    await add(kind.id, points, pressures);
  };
  const add = async (kindId: string, points: readonly XY[], pressures: readonly number[], text?: string) => {
    const id = newId();
    const options = { ...useTrim.getState().styles[kindId], ...(text === undefined ? {} : { text }) };
    const gesture = kinds.kinds.find((each) => each.id === kindId)?.gesture ?? "drag";
    const drawn = { id, gesture, points: points.map(([x, y]): [number, number] => [x, y]), label: "" };
    setPending((now) => [...now, drawn]);
    surface.current?.clear();
    const after = await change({
      do: "add",
      exact: false,
      marks: [{ id, kind: kindId, points: points.map(([x, y]) => [x, y]), pressures: [...pressures], options }],
    });
    setPending((now) => now.filter((each) => each.id !== id));
    if (!after) return;
    const { styles } = useTrim.getState();
    set({ chosen: [id], styles: { ...styles, [kindId]: {} } });
  };
  const open = (mark: Mark) => {
    if (!("text" in mark.options)) return;
    set({ chosen: [mark.id] });
    if (mark.kind === "pennant") document.querySelector<HTMLElement>("[data-says]")?.focus();
    else setWriting({ kind: mark.kind, points: mark.points, text: mark.says, mark: mark.id });
  };
  const latest = { sheet, kind, tool, guides: guidesOf(suggested?.panes ?? []), make, open, change };
  const now = useRef(latest);
  useLayoutEffect(() => {
    now.current = latest;
  });

  useEffect(() => {
    const [element, picture, drawing] = [surfaceElement.current, host.current, canvas.current];
    if (!element || !picture || !drawing) return undefined;
    const made = new MarkSurface(element, {
      host: picture,
      canvas: drawing,
      marks: () => now.current.sheet.marks,
      chosen: () => useTrim.getState().chosen,
      mode: () => now.current.kind ?? (now.current.tool === "part" ? "part" : "select"),
      guides: () => now.current.guides,
      ink: () => "#20282a",
      onMake: (points, pressures) => {
        if (now.current.tool !== "part") {
          void now.current.make(points, pressures);
          return;
        }
        made.clear();
        const area = partOf(points, now.current.sheet);
        if (area) useTrim.getState().set({ parts: [...useTrim.getState().parts, area] });
      },
      onChoose: (ids) => {
        useTrim.getState().set({ chosen: ids });
      },
      onMove: (ids, dx, dy) => {
        void now.current.change({ do: "move", ids: [...ids], dx, dy }).then(() => {
          made.clear();
        });
      },
      onOpen: (mark) => {
        now.current.open(mark);
      },
    });
    surface.current = made;
    return () => {
      made.destroy();
      surface.current = null;
    };
  }, [host, canvas]);
  useEffect(() => {
    surface.current?.setScale(scale);
  }, [scale]);

  const aim = useAim(sheet, kind ?? null, (points) => {
    void make(points, []);
  });
  const onKeyDown = (event: React.KeyboardEvent) => {
    const by = ARROWS[event.key];
    if (kind && aim.onKey(event)) return;
    if (!by || chosen.length === 0) return;
    event.preventDefault();
    const step = event.shiftKey ? 10 : 1;
    void moveChosen(sheet, chosen, by[0] * step, by[1] * step, event.altKey, change);
  };
  const { room, crop, base } = sheet;
  const reach = {
    left: Math.min(0, crop.x - room.left) * scale,
    top: Math.min(0, crop.y - room.top) * scale,
    right: Math.min(0, base.width - crop.x - crop.width - room.right) * scale,
    bottom: Math.min(0, base.height - crop.y - crop.height - room.bottom) * scale,
  };
  const one = chosen.length === 1 ? sheet.marks.find((mark) => mark.id === chosen[0]) : undefined;
  return (
    <div className="mark-layer" data-own-pointer="">
      {/* A drawing surface: roles of widgets don't fit, and it takes the pointer and the arrow keys. */}
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <div
        ref={surfaceElement}
        className={`mark-surface mark-surface-${kind || tool === "part" ? "draws" : "chooses"}`}
        role="group"
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        aria-label={`Picture with ${sheet.marks.length.toString()} marks; ${toolOf(tool).name} in hand. ${kind ? "Arrow keys move the aim, Space sets a point." : "Tab goes from mark to mark."}`}
        style={reach}
        onKeyDown={onKeyDown}
      />
      {sheet.marks.map((mark) => (
        <button
          key={mark.id}
          type="button"
          className="mark-hold"
          aria-label={`${nameOf(mark, kinds)}. Arrow keys move it, Delete deletes it${"text" in mark.options ? ", Enter writes" : ""}.`}
          aria-pressed={chosen.includes(mark.id)}
          style={boxStyle(mark.box, scale)}
          onFocus={() => {
            if (!useTrim.getState().chosen.includes(mark.id)) set({ chosen: [mark.id] });
          }}
          onKeyDown={(event) => {
            const by = ARROWS[event.key];
            if (by) onKeyDown(event);
            else if (event.key === "Enter") open(mark);
            else if (event.key === "Delete") void removeMarks(chosen, change);
            else return;
            event.preventDefault();
            event.stopPropagation();
          }}
        />
      ))}
      <Pending marks={numbered(pending, sheet)} scale={scale} />
      {/* Where each press makes a mark, none is taken for a pull at the one before. */}
      {one && !writing && kind?.gesture !== "click" && <Anchors mark={one} scale={scale} change={change} />}
      {kind && <Aim aim={aim} scale={scale} gesture={kind.gesture} />}
      {writing && (
        <Writing
          key={writing.mark ?? "new"}
          written={writing}
          scale={scale}
          onDone={(text) => {
            setWriting(null);
            surfaceElement.current?.focus({ preventScroll: true });
            if (text === null || (text === "" && !writing.mark)) return;
            if (writing.mark) void change({ do: "restyle", ids: [writing.mark], options: { text } });
            else void add(writing.kind, writing.points, [], text);
          }}
        />
      )}
    </div>
  );
}

function moveChosen(
  sheet: Sheet,
  chosen: readonly string[],
  dx: number,
  dy: number,
  stretches: boolean,
  change: Props["change"],
): Promise<Sheet | null> {
  const one = sheet.marks.find((mark) => mark.id === chosen[0]);
  if (!stretches || !one) return change({ do: "move", ids: [...chosen], dx, dy });
  const last = one.kind === "callout" ? 0 : one.points.length - 1;
  const points = one.points.map(([x, y], index): [number, number] => (index === last ? [x + dx, y + dy] : [x, y]));
  return change({ do: "reshape", id: one.id, points });
}

/** The anchors of the chosen mark, to be pulled or moved by keys; a stroke has none, a bent arrow one in its middle. */
function Anchors({ mark, scale, change }: { mark: Mark; scale: number; change: Props["change"] }) {
  if (mark.kind === "pen" || (mark.kind === "tint" && mark.options["way"] === "free")) return null;
  const ends: [number, number][] =
    mark.kind === "tint" && mark.points.length > 2
      ? ([mark.points[0], mark.points.at(-1)] as [number, number][])
      : mark.points;
  if (mark.kind === "text") return <TextWidth mark={mark} scale={scale} change={change} />;
  const bends = mark.kind === "arrow" && mark.options["line"] === "bent";
  const middle = mark.touch[Math.floor(mark.touch.length / 2)];
  const anchors = bends && ends.length === 2 && middle ? [...ends, middle] : ends;
  return (
    <>
      {anchors.map((at, index) => (
        <AnchorHandle
          key={`${mark.id} ${index.toString()}`}
          at={at}
          name={`Anchor ${(index + 1).toString()} of ${anchors.length.toString()}`}
          scale={scale}
          onSettled={(to) => {
            const points = anchors.map((each, other): [number, number] => (other === index ? to : each));
            return change({ do: "reshape", id: mark.id, points });
          }}
        />
      ))}
    </>
  );
}

/** Pennants that are on their way, with the numbers that they will have. */
function numbered(pending: readonly PendingMark[], sheet: Sheet): PendingMark[] {
  const there = sheet.marks.filter((mark) => mark.kind === "pennant").length;
  return pending.map((each, index) => ({ ...each, label: (there + index + 1).toString() }));
}

/** The corner where a text begins, and its right side: pulled, its lines break at that width. */
function TextWidth({ mark, scale, change }: { mark: Mark; scale: number; change: Props["change"] }) {
  const corner = mark.points[0] ?? [0, 0];
  const [, top, right, bottom] = mark.box;
  const [x, y] = corner;
  return (
    <>
      <AnchorHandle
        at={[x, y]}
        name="Where the text begins"
        scale={scale}
        onSettled={(to) => change({ do: "move", ids: [mark.id], dx: to[0] - x, dy: to[1] - y })}
      />
      <AnchorHandle
        at={[right, (top + bottom) / 2]}
        name="Width at which its lines break"
        scale={scale}
        onSettled={(to) =>
          change({
            do: "reshape",
            id: mark.id,
            points: [
              [x, y],
              [Math.max(to[0], x + 8), y],
            ],
          })
        }
      />
    </>
  );
}

function nameOf(mark: Mark, kinds: Kinds): string {
  const name = kinds.kinds.find((each) => each.id === mark.kind)?.name ?? mark.kind;
  const label = mark.kind === "pennant" ? ` ${labelOf(mark)}` : "";
  return mark.says ? `${name}${label}: ${mark.says}` : `${name}${label}`;
}

function boxStyle([left, top, right, bottom]: readonly [number, number, number, number], scale: number) {
  return {
    transform: `translate(${(left * scale).toFixed(1)}px, ${(top * scale).toFixed(1)}px)`,
    width: (right - left) * scale,
    height: (bottom - top) * scale,
  };
}

/** A part between two corners, inside the picture; null for none. */
function partOf(points: readonly XY[], sheet: Sheet) {
  const [a, b] = [points[0], points[1]];
  if (!a || !b) return null;
  const left = Math.max(Math.round(Math.min(a[0], b[0])), 0);
  const top = Math.max(Math.round(Math.min(a[1], b[1])), 0);
  const right = Math.min(Math.round(Math.max(a[0], b[0])), sheet.base.width);
  const bottom = Math.min(Math.round(Math.max(a[1], b[1])), sheet.base.height);
  return right > left && bottom > top ? { x: left, y: top, width: right - left, height: bottom - top } : null;
}
