import { type ReactNode, type Ref, useImperativeHandle, useLayoutEffect, useRef } from "react";
import type { Frame, Spot } from "../../api/client";
import { NumberField } from "../../base/NumberField";
import { type Area, overlap, resized, within } from "../../area/geometry";
import { becomes } from "./becomes";
import { scaleFactorOf } from "./picking";

const FIELDS = [
  ["width", "Width in pixels", "wide"],
  ["height", "Height in pixels", "high"],
  ["x", "Left edge in pixels", "from left"],
  ["y", "Top edge in pixels", "from top"],
] as const;

export interface CutLineHandle {
  /** Follow the pointer: sets text and numbers by hand, no state. */
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
  const line = useRef<HTMLDivElement>(null);
  const describe = (each: Area | null) => {
    if (!frame || !each) return "";
    const scale = scaleFactorOf(each, frame);
    const touched = frame.monitors.filter((monitor) => overlap(monitor.box, each) > 0);
    const across = touched.some((monitor) => monitor.scale_factor !== scale);
    return `${becomes(each, { scale_factor: scale }, spot)}${across ? `, across two monitors: counts as ${Math.round(scale * 100)} %` : ""}`;
  };
  const show = (each: Area | null) => {
    if (words.current) words.current.textContent = describe(each);
    const fields = line.current?.querySelectorAll("input") ?? [];
    FIELDS.forEach(([field], index) => {
      const input = fields[index];
      // What is being typed stays.
      if (input && input !== document.activeElement) input.value = each?.[field].toString() ?? "";
    });
  };
  const live = useRef({ area, shown: area });
  useImperativeHandle(ref, () => ({
    show: (each) => {
      live.current.shown = each;
      show(each);
    },
  }));
  useLayoutEffect(() => {
    // Whatever was drawn anew in the middle of a drag: the numbers of what is drawn stay.
    if (live.current.area !== area) live.current = { area, shown: area };
    else if (live.current.shown !== area) show(live.current.shown);
  });
  const change = (field: keyof Area, value: number) => {
    if (!frame) return;
    const from = area ?? { x: 0, y: 0, width: Math.min(400, frame.width), height: Math.min(300, frame.height) };
    const next = { ...from, [field]: value };
    onArea(
      field === "width" || field === "height" ? resized(from, next.width, next.height, frame) : within(next, frame),
    );
  };
  return (
    <div className="tool-line" ref={line}>
      <span className="tool-name">{title}</span>
      {FIELDS.map(([field, label, words]) => (
        <label key={field} className="line-field">
          {words}
          <NumberField
            label={label}
            value={area?.[field]}
            disabled={!frame}
            onCommit={(value) => {
              change(field, value);
            }}
          />
        </label>
      ))}
      <span ref={words} className="becomes" data-testid="becomes">
        {describe(area)}
      </span>
      <span className="tool-end">{actions}</span>
    </div>
  );
}
