import { type RefObject, useEffect, useRef } from "react";
import { AreaEditor, type Also } from "./AreaEditor";
import { type Area, type Bounds, nudged } from "./geometry";

interface Options {
  host: RefObject<HTMLElement | null>;
  bounds: Bounds | null;
  /** Where areas may lie, where that is less than the whole surface. */
  limits?: Bounds;
  /** The part that is seen, where that is less than the whole surface. */
  seen?: Area;
  scale: number;
  drawsNew: boolean;
  label?: (area: Area) => string;
  also?: Also;
  /** While dragging: set text by hand, don't set state. */
  onLive: (area: Area | null) => void;
  /** When the area has come to rest. */
  onSettled: (area: Area | null) => void;
}

/** One editor for the life of its host and bounds; callbacks may change at every render. */
export function useAreaEditor(options: Options): RefObject<AreaEditor | null> {
  const editor = useRef<AreaEditor | null>(null);
  const latest = useRef(options);
  useEffect(() => {
    latest.current = options;
  });
  const { host, scale, drawsNew } = options;
  const width = options.bounds?.width ?? 0;
  const height = options.bounds?.height ?? 0;
  useEffect(() => {
    const element = host.current;
    if (!element || !width || !height) return undefined;
    const bounds = { width, height };
    const made = new AreaEditor({
      host: element,
      bounds,
      limits: () => latest.current.limits ?? bounds,
      seen: () => latest.current.seen ?? { x: 0, y: 0, ...bounds },
      drawsNew,
      ruledVeil: !drawsNew,
      label: latest.current.label,
      also: latest.current.also && {
        mode: () => latest.current.also?.mode() ?? "draw",
        snap: (area, grip, view) => latest.current.also?.snap(area, grip, view) ?? area,
        onAim: (at, dragging) => latest.current.also?.onAim(at, dragging),
        onPick: (at) => latest.current.also?.onPick(at),
        onOutline: (points, closed) => latest.current.also?.onOutline(points, closed),
      },
      onChange: (area, dragging) => {
        latest.current.onLive(area);
        if (!dragging) latest.current.onSettled(area);
      },
    });
    made.setScale(latest.current.scale);
    editor.current = made;
    const onKey = (event: KeyboardEvent) => {
      const area = made.get();
      // What lies on the surface has keys of its own.
      if (!area || event.ctrlKey || event.metaKey || event.target !== element) return;
      const next = nudged(
        area,
        event.key,
        { shift: event.shiftKey, alt: event.altKey },
        latest.current.limits ?? bounds,
      );
      if (!next) return;
      event.preventDefault();
      event.stopPropagation();
      made.set(next);
    };
    element.addEventListener("keydown", onKey);
    return () => {
      element.removeEventListener("keydown", onKey);
      made.destroy();
      editor.current = null;
    };
  }, [host, width, height, drawsNew]);
  useEffect(() => {
    editor.current?.setScale(scale);
  }, [scale]);
  return editor;
}
