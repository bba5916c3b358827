import { useEffect, useRef, useState } from "react";
import { pictureUrl, type Frame } from "../api/client";
import { showError } from "../api/bench";
import { size } from "../app/format";
import { type Area, sameArea } from "../area/geometry";
import { useAreaEditor } from "../area/useAreaEditor";

interface Props {
  frame: Frame;
  scale: number;
  area: Area | null;
  onLive: (area: Area | null) => void;
  onSettled: (area: Area | null) => void;
}

/** The frozen screen, drawn once into a canvas of view size, and the region over it. */
export function FrozenScreen({ frame, scale, area, onLive, onSettled }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [bitmap, setBitmap] = useState<ImageBitmap | null>(null);
  const current = useRef(area);

  useEffect(() => {
    let wanted = true;
    fetch(pictureUrl.frame(frame.id))
      .then((answer) => answer.blob())
      .then(createImageBitmap)
      .then((made) => {
        if (wanted) setBitmap(made);
        else made.close();
      })
      .catch(showError);
    return () => {
      wanted = false;
    };
  }, [frame.id]);

  useEffect(() => {
    const target = canvas.current;
    if (!target || !bitmap) return;
    const dpr = window.devicePixelRatio || 1;
    target.width = Math.round(frame.width * scale * dpr);
    target.height = Math.round(frame.height * scale * dpr);
    const context = target.getContext("2d", { alpha: false });
    if (!context) return;
    context.imageSmoothingQuality = "high";
    context.drawImage(bitmap, 0, 0, target.width, target.height);
  }, [bitmap, frame, scale]);

  const editor = useAreaEditor({
    host,
    bounds: frame,
    scale,
    drawsNew: true,
    label: (each) => `${size(each.width, each.height)} px`,
    onLive,
    onSettled: (settled) => {
      if (sameArea(settled, current.current)) return;
      current.current = settled;
      onSettled(settled);
    },
  });
  useEffect(() => {
    current.current = area;
    if (!sameArea(area, editor.current?.get() ?? null)) editor.current?.set(area);
  }, [area, editor]);
  useEffect(() => {
    host.current?.focus({ preventScroll: true });
  }, []);

  const label = area
    ? `Region of ${size(area.width, area.height)} pixels at ${area.x}, ${area.y}. Arrow keys move it.`
    : "Frozen screen. Drag to draw a region, or type its size above.";
  return (
    <div
      ref={host}
      className="screen frozen"
      role="group"
      // A drawing surface: roles of widgets don't fit, and it must take the arrow keys.
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      aria-label={label}
      data-ready={bitmap !== null}
      style={{ width: frame.width * scale, height: frame.height * scale }}
    >
      <canvas ref={canvas} aria-hidden="true" />
    </div>
  );
}
