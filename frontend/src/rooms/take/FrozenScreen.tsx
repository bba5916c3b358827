import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useEffectEvent, useLayoutEffect, useMemo, useRef, useState } from "react";
import { showError } from "../../api/bench";
import { pictureUrl, type Frame } from "../../api/client";
import { size } from "../../base/format";
import type { Cut, KindName } from "../../base/state";
import { isHard } from "../../base/zoom";
import { type Area, boundsOf, guidesOf, overlap, sameArea, snapped } from "../../area/geometry";
import { useAreaEditor } from "../../area/useAreaEditor";
import { panesQuery } from "./actions";
import { takeUpDrag } from "./liveDrag";
import { type Looking, useLookByHand } from "./useLook";
import { type Corner, Pointing, type Surface } from "./Pointing";
import { NOTHING_FOUND, type Target, cutOf, paneTargets } from "./picking";

interface Props {
  frame: Frame;
  /** The monitor that is shown, or all of them. */
  whole: Area;
  /** The scale at which the whole fits. */
  fit: number;
  looking: Looking;
  kind: KindName;
  contentOnly: boolean;
  cut: Cut | null;
  pointingRef: RefObject<Pointing | null>;
  panes: readonly Target[];
  onLive: (area: Area | null) => void;
  onCut: (cut: Cut | null) => void;
  /** A drag has ended that drew something new. */
  onDrawn: (cut: Cut) => void;
}

const SNAP_PX = 6;
const SAYS: Record<KindName, string> = {
  region: "Drag to draw a region, or type its size above. Arrow keys move the aim, Space sets a corner.",
  window: "Choose a window here or in the list beside.",
  pane: "Choose a pane; the keys for smaller and larger go through what lies there.",
  freehand: "Draw round what you want. With keys: arrows move the aim, Space sets a corner, Enter closes the outline.",
  screen: "Choose a monitor.",
  "long-page": "The joined page.",
};

/** Rectangles found in a frame, with its windows and monitors. */
export function usePanes(frame: Frame | null): readonly Target[] {
  const found = useQuery({ ...panesQuery(frame?.id ?? ""), enabled: frame !== null }).data;
  return useMemo(() => {
    return frame ? paneTargets(frame, found ?? NOTHING_FOUND) : [];
  }, [frame, found]);
}

/** The frozen screen: what is seen of it drawn into a canvas of view size, and what is held on it. */
export function FrozenScreen(props: Props) {
  const { frame, whole, fit, looking, kind, contentOnly, cut, pointingRef, panes, onLive, onCut, onDrawn } = props;
  const { part, scale } = looking;
  const screen = useRef<HTMLDivElement>(null);
  const host = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const hand = useRef<HTMLCanvasElement>(null);
  const bitmap = useBitmap(frame.id);
  const current = useRef(cut);
  const guides = useMemo(() => guidesOf(panes.map((each) => each.area)), [panes]);
  const covered = useWholeWindow(frame, cut);
  useLookByHand(screen, looking);

  const { x, y, width, height } = part;
  useLayoutEffect(() => {
    const target = canvas.current;
    if (!target || !bitmap) return;
    const dpr = window.devicePixelRatio || 1;
    sized(target, { width: width * scale * dpr, height: height * scale * dpr });
    const context = target.getContext("2d", { alpha: false });
    if (!context) return;
    context.imageSmoothingEnabled = !isHard(scale);
    context.imageSmoothingQuality = "high";
    context.drawImage(bitmap, x, y, width, height, 0, 0, target.width, target.height);
  }, [bitmap, x, y, width, height, scale]);

  const take = (target: Target) => {
    onCut(cutOf(kind, target, contentOnly));
  };
  const close = (points: readonly Corner[]) => {
    const outline = points.map(([x, y]): Corner => [clamp(x, frame.width), clamp(y, frame.height)]);
    const area = boundsOf(outline, frame);
    if (area.width < 3 || area.height < 3) return;
    const next: Cut = { kind: "freehand", area, outline };
    onCut(next);
    onDrawn(next);
  };
  const editor = useAreaEditor({
    host,
    bounds: frame,
    // What lies on a monitor that is not shown can't be meant.
    limits: whole,
    seen: part,
    scale,
    drawsNew: true,
    label: (each) => `${size(each.width, each.height)} px`,
    also: {
      mode: () => (kind === "freehand" ? "freehand" : kind === "region" || kind === "long-page" ? "draw" : "pick"),
      snap: (area, grip, at) => snapped(area, grip, guides, SNAP_PX / at),
      onAim: (at, dragging) => pointingRef.current?.aim(at, dragging),
      onPick: (at) => {
        // A finger has not hovered before it taps.
        pointingRef.current?.aim(at, false);
        const target = pointingRef.current?.target();
        if (target) take(target);
      },
      onOutline: (points, closed) => {
        if (closed) close(points);
        else pointingRef.current?.line(points);
      },
    },
    onLive,
    onSettled: (area) => {
      const before = current.current;
      if (sameArea(area, before?.area ?? null)) return;
      const next = area ? changed(before, area) : null;
      current.current = next;
      onCut(next);
      if (next && !before) onDrawn(next);
    },
  });
  const seeAll = useEffectEvent((area: Area) => {
    if (overlap(area, part) === 0) looking.toWhole();
  });
  useEffect(() => {
    current.current = cut;
    if (sameArea(cut?.area ?? null, editor.current?.get() ?? null)) return;
    editor.current?.set(cut?.area ?? null);
    if (cut) seeAll(cut.area);
  }, [cut, editor]);
  useEffect(() => {
    editor.current?.follow();
  }, [x, y, scale, editor]);

  // A drag that began on the live screen goes on here, once what is held stands as it does.
  useEffect(() => {
    const begun = takeUpDrag(frame);
    if (begun) editor.current?.takeOver(begun);
  }, [frame, editor]);

  const surface: Surface = { frame, kind, contentOnly, panes, bitmap, scale, view: part, cut };
  const latest = useRef(surface);
  useEffect(() => {
    latest.current = surface;
    const target = hand.current;
    const dpr = window.devicePixelRatio || 1;
    if (target) sized(target, { width: width * scale * dpr, height: height * scale * dpr });
    pointingRef.current?.update(surface);
  });
  useEffect(() => {
    if (!host.current || !hand.current) return undefined;
    const made = new Pointing(host.current, hand.current, latest.current);
    pointingRef.current = made;
    return () => {
      made.destroy();
      pointingRef.current = null;
    };
  }, [pointingRef]);
  useEffect(() => {
    host.current?.focus({ preventScroll: true });
  }, [kind]);

  const onKey = useEffectEvent((event: KeyboardEvent) => {
    const aim = pointingRef.current;
    if (!aim || event.defaultPrevented) return;
    if (!cut && !event.altKey && aim.movePen(event.key, { shift: event.shiftKey, ctrl: event.ctrlKey })) {
      event.preventDefault();
      if (aim.penAt) looking.bring(aim.penAt);
    } else if (event.key === " ") {
      event.preventDefault();
      const made = aim.setCorner();
      if (made && "title" in made) take(made);
      else if (made) onCut({ kind: "region", area: made });
    } else if (event.key === "Enter" && !event.ctrlKey && kind === "freehand" && !cut) {
      const corners = aim.closeCorners();
      if (!corners) return;
      event.preventDefault();
      event.stopPropagation();
      close(corners);
    }
  });
  useEffect(() => {
    const element = host.current;
    element?.addEventListener("keydown", onKey);
    return () => element?.removeEventListener("keydown", onKey);
  }, []);

  const seen = {
    transform: `translate(${(x * scale).toFixed(1)}px, ${(y * scale).toFixed(1)}px)`,
    width: width * scale,
    height: height * scale,
  };
  return (
    <div ref={screen} className="screen" style={{ width: whole.width * fit, height: whole.height * fit }}>
      <div
        ref={host}
        className={`frozen frozen-${kind} ${cut?.outline ? "frozen-by-hand" : ""}`}
        role="group"
        // A drawing surface: roles of widgets don't fit, and it must take the arrow keys.
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        aria-label={cut ? heldWords(cut) : `Frozen screen. ${SAYS[kind]}`}
        data-ready={bitmap !== null}
        style={{
          width: frame.width * scale,
          height: frame.height * scale,
          transform: `translate(${(-x * scale).toFixed(1)}px, ${(-y * scale).toFixed(1)}px)`,
        }}
      >
        <canvas ref={canvas} style={seen} aria-hidden="true" />
        {covered && (
          <img
            className={`whole-window ${isHard(scale) ? "hard" : ""}`}
            src={covered.src}
            alt=""
            draggable={false}
            style={{
              transform: `translate(${(covered.box.x * scale).toFixed(1)}px, ${(covered.box.y * scale).toFixed(1)}px)`,
              width: covered.box.width * scale,
              height: covered.box.height * scale,
            }}
          />
        )}
        <canvas ref={hand} className="by-hand" style={seen} aria-hidden="true" />
      </div>
    </div>
  );
}

/** Setting the size of a canvas empties it, also where it is the same. */
function sized(canvas: HTMLCanvasElement, size: { width: number; height: number }): void {
  const [width, height] = [Math.round(size.width), Math.round(size.height)];
  if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
}

function clamp(value: number, most: number): number {
  return Math.min(Math.max(value, 0), most);
}

function heldWords(cut: Cut): string {
  const { x, y, width, height } = cut.area;
  return `${cut.kind === "region" ? "Region" : "Area"} of ${size(width, height)} pixels at ${x}, ${y}. Arrow keys move it.`;
}

/** What is held after its area was moved or pulled: an outline moves along, anything else becomes a region. */
function changed(before: Cut | null, area: Area): Cut {
  if (before?.outline && area.width === before.area.width && area.height === before.area.height) {
    const [dx, dy] = [area.x - before.area.x, area.y - before.area.y];
    return { kind: "freehand", area, outline: before.outline.map(([x, y]): Corner => [x + dx, y + dy]) };
  }
  return { kind: before?.kind === "long-page" ? "long-page" : "region", area };
}

/** The frame's full bitmap, for the magnifier and the cut. */
function useBitmap(frame: string): ImageBitmap | null {
  const [bitmap, setBitmap] = useState<{ frame: string; made: ImageBitmap } | null>(null);
  useEffect(() => {
    let wanted = true;
    fetch(pictureUrl.frame(frame))
      .then((answer) => answer.blob())
      .then(createImageBitmap)
      .then((made) => {
        if (wanted) setBitmap({ frame, made });
        else made.close();
      })
      .catch(showError);
    return () => {
      wanted = false;
    };
  }, [frame]);
  return bitmap?.frame === frame ? bitmap.made : null;
}

/** The whole picture of a held window that others cover in part. */
function useWholeWindow(frame: Frame, cut: Cut | null) {
  const window = frame.windows.find((each) => each.id === cut?.window);
  if (!window?.is_whole) return null;
  return { src: pictureUrl.wholeWindow(frame.id, window.id), box: window.box };
}
