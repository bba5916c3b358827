import { type ReactNode, type Ref, useImperativeHandle, useRef } from "react";
import type { Frame, Spot } from "../../api/client";
import { NumberField } from "../../base/NumberField";
import { type Area, overlap, resized, within } from "../../area/geometry";
import { becomes } from "./becomes";
import { scaleFactorOf } from "./picking";

export interface CutLineHandle {
  /** Follow the pointer: sets text by hand, no state. */
  show: (area: Area | null) => void;
}

interface Props {
  ref: Ref<CutLineHandle>;
  frame: Frame | null;
  area: Area | null;
  spot: Spot | null;
  onArea: (area: Area) => void;
  title: string;
  actions: ReactNode;
}

/** The numbers of what is held, what it becomes in the chosen place, and the ways on. */
export function CutLine({ ref, frame, area, spot, title, onArea, actions }: Props) {
  const words = useRef<HTMLSpanElement>(null);
  const describe = (each: Area | null) => {
    if (!frame || !each) return "";
    const scale = scaleFactorOf(each, frame);
    const touched = frame.monitors.filter((monitor) => overlap(monitor.box, each) > 0);
    const across = touched.some((monitor) => monitor.scale_factor !== scale);
    return `${becomes(each, { scale_factor: scale }, spot)}${across ? `, across two monitors: counts as ${Math.round(scale * 100)} %` : ""}`;
  };
  useImperativeHandle(ref, () => ({
    show: (each) => {
      if (words.current) words.current.textContent = describe(each);
    },
  }));
  const change = (field: keyof Area, value: number) => {
    if (!frame) return;
    const from = area ?? { x: 0, y: 0, width: Math.min(400, frame.width), height: Math.min(300, frame.height) };
    const next = { ...from, [field]: value };
    onArea(
      field === "width" || field === "height" ? resized(from, next.width, next.height, frame) : within(next, frame),
    );
  };
  return (
    <div className="tool-line">
      <span className="tool-name">{title}</span>
      <NumberField
        label="Width in pixels"
        value={area?.width}
        disabled={!frame}
        onCommit={(v) => {
          change("width", v);
        }}
      />
      <span aria-hidden="true">×</span>
      <NumberField
        label="Height in pixels"
        value={area?.height}
        disabled={!frame}
        onCommit={(v) => {
          change("height", v);
        }}
      />
      <span>px at</span>
      <NumberField
        label="Left edge in pixels"
        value={area?.x}
        disabled={!frame}
        onCommit={(v) => {
          change("x", v);
        }}
      />
      <NumberField
        label="Top edge in pixels"
        value={area?.y}
        disabled={!frame}
        onCommit={(v) => {
          change("y", v);
        }}
      />
      <span ref={words} className="becomes" data-testid="becomes">
        {describe(area)}
      </span>
      <span className="tool-end">{actions}</span>
    </div>
  );
}
