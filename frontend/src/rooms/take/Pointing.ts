import type { Frame } from "../../api/client";
import type { Cut, KindName } from "../../base/state";
import type { Point } from "../../area/AreaEditor";
import { type Area, between } from "../../area/geometry";
import { size } from "../../base/format";
import { Magnifier } from "./Magnifier";
import { type Target, firstOf, targetsAt } from "./picking";

/** What shows while one points at a frozen screen: the target under the pointer, the magnifier, a line by hand. */

export interface Surface {
  frame: Frame;
  kind: KindName;
  contentOnly: boolean;
  panes: readonly Target[];
  bitmap: ImageBitmap | null;
  scale: number;
  /** The part of the frame in view, in frame pixels. */
  view: Area;
  cut: Cut | null;
}

export type Corner = readonly [number, number];

/** Height of the tag with a gap; as in styles/take.css. */
const TAG_PX = 30;
/** From here on a pixel is seen as well without the magnifier, which shows it nine times as large. */
const LARGE_SCALE = 8;
const STEP = { plain: 1, shift: 10, ctrl: 100 };

const clamp = (value: number, most: number) => Math.min(Math.max(value, 0), most);

export class Pointing {
  private surface: Surface;
  private readonly magnifier: Magnifier;
  private readonly box: HTMLDivElement;
  private readonly tag: HTMLDivElement;
  private readonly hairs: HTMLDivElement[];
  private readonly hand: CanvasRenderingContext2D | null;
  private at: Point | null = null;
  /** Steps to larger targets, or with minus to smaller ones, from the one that is meant at first. */
  private deeper = 0;
  /** Where the keys have brought the aim, and the corners set with them. */
  private pen: Point | null = null;
  private corners: Corner[] = [];
  private drawn = 0;

  /** Where the keys have brought the aim. */
  get penAt(): Point | null {
    return this.pen;
  }

  constructor(host: HTMLElement, hand: HTMLCanvasElement, surface: Surface) {
    this.surface = surface;
    this.hand = hand.getContext("2d");
    this.box = this.make(host, "pick-box");
    this.tag = this.make(host, "pick-tag");
    this.hairs = [this.make(host, "cross-hair"), this.make(host, "cross-hair")];
    this.magnifier = new Magnifier(host);
  }

  private make(host: HTMLElement, className: string): HTMLDivElement {
    const element = document.createElement("div");
    element.className = className;
    element.hidden = true;
    host.append(element);
    return element;
  }

  destroy(): void {
    for (const element of [this.box, this.tag, ...this.hairs]) element.remove();
    this.magnifier.destroy();
  }

  update(surface: Surface): void {
    const before = this.surface;
    this.surface = surface;
    // A line that is being drawn is drawn anew from its beginning.
    this.drawn = 0;
    if (before.kind !== surface.kind || before.frame.id !== surface.frame.id) {
      this.pen = null;
      this.corners = [];
      this.deeper = 0;
    }
    this.drawHeld();
    this.show();
  }

  /** The pointer has come to a pixel, or left. */
  aim(at: Point | null, dragging: boolean): void {
    if (at) this.pen = null;
    if (at?.x !== this.at?.x || at?.y !== this.at?.y) this.deeper = 0;
    this.at = at;
    this.show(dragging);
  }

  /** What is under the pointer, the smallest or topmost first. */
  targets(): Target[] {
    const at = this.pen ?? this.at;
    const { kind, frame, panes, contentOnly } = this.surface;
    return at ? targetsAt(kind, frame, panes, at.x, at.y, contentOnly) : [];
  }

  /** The target that a click would take. */
  target(): Target | undefined {
    const all = this.targets();
    return all[clamp(firstOf(all) + this.deeper, all.length - 1)];
  }

  step(by: 1 | -1): void {
    const all = this.targets();
    this.deeper = clamp(firstOf(all) + this.deeper + by, Math.max(all.length - 1, 0)) - firstOf(all);
    this.show();
  }

  /** Arrow keys move the aim where nothing is held. */
  movePen(key: string, keys: { shift: boolean; ctrl: boolean }): boolean {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[key];
    if (!by) return false;
    const { view, frame } = this.surface;
    const step = keys.ctrl ? STEP.ctrl : keys.shift ? STEP.shift : STEP.plain;
    const from = this.pen ?? this.at ?? { x: view.x + view.width / 2, y: view.y + view.height / 2 };
    this.pen = {
      x: Math.min(Math.max(Math.floor(from.x) + (by[0] ?? 0) * step, 0), frame.width),
      y: Math.min(Math.max(Math.floor(from.y) + (by[1] ?? 0) * step, 0), frame.height),
    };
    this.deeper = 0;
    this.show();
    return true;
  }

  /** Space sets a corner: two make a region, three or more an outline; or it takes the target under the aim. */
  setCorner(): Area | Target | null {
    const { kind, frame } = this.surface;
    if (kind === "window" || kind === "pane" || kind === "screen") return this.target() ?? null;
    if (!this.pen) return null;
    this.corners.push([this.pen.x, this.pen.y]);
    const [first, second] = this.corners;
    if (kind === "freehand") {
      this.line(this.corners);
      return null;
    }
    if (!first || !second) return null;
    this.corners = [];
    return between({ x: first[0], y: first[1] }, { x: second[0], y: second[1] }, frame);
  }

  /** The outline set by keys; null with fewer than three corners. */
  closeCorners(): Corner[] | null {
    if (this.corners.length < 3) return null;
    const corners = this.corners;
    this.corners = [];
    return corners;
  }

  /** A line by hand as it grows: only its new end is drawn. */
  line(points: readonly Corner[]): void {
    const { hand } = this;
    if (!hand) return;
    if (this.drawn === 0 || this.drawn > points.length) this.clearHand();
    const ratio = this.handRatio(hand);
    for (const [width, colour] of [
      [4, "#ffffff"],
      [2, "#d3432a"],
    ] as const) {
      hand.lineWidth = width;
      hand.strokeStyle = colour;
      hand.beginPath();
      points.slice(Math.max(this.drawn - 1, 0)).forEach(([x, y], index) => {
        if (index === 0) hand.moveTo(x * ratio, y * ratio);
        else hand.lineTo(x * ratio, y * ratio);
      });
      hand.stroke();
    }
    this.drawn = points.length;
  }

  private clearHand(): void {
    this.hand?.resetTransform();
    this.hand?.clearRect(0, 0, this.hand.canvas.width, this.hand.canvas.height);
    this.drawn = 0;
  }

  /** The canvas lies over what is seen only: its origin is brought to the frame's. Its pixels per pixel of the frame. */
  private handRatio(hand: CanvasRenderingContext2D): number {
    const { scale, view } = this.surface;
    const ratio = scale * (window.devicePixelRatio || 1);
    hand.setTransform(1, 0, 0, 1, -view.x * ratio, -view.y * ratio);
    return ratio;
  }

  /** A held outline: all but its inside lies under a veil. */
  private drawHeld(): void {
    const { hand } = this;
    const { cut, view } = this.surface;
    if (!hand) return;
    this.clearHand();
    if (!cut?.outline) return;
    const ratio = this.handRatio(hand);
    hand.fillStyle = "rgb(20 40 38 / 62%)";
    hand.fillRect(view.x * ratio, view.y * ratio, hand.canvas.width, hand.canvas.height);
    hand.beginPath();
    cut.outline.forEach(([x, y], index) => {
      if (index === 0) hand.moveTo(x * ratio, y * ratio);
      else hand.lineTo(x * ratio, y * ratio);
    });
    hand.closePath();
    hand.save();
    hand.globalCompositeOperation = "destination-out";
    hand.fillStyle = "#000";
    hand.fill();
    hand.restore();
    for (const [width, colour, dash] of [
      [3, "#ffffff", []],
      [2, "#d3432a", [6, 4]],
    ] as const) {
      hand.setLineDash([...dash]);
      hand.lineWidth = width;
      hand.strokeStyle = colour;
      hand.stroke();
    }
    hand.setLineDash([]);
  }

  private show(dragging = false): void {
    const { kind, bitmap, scale, view, cut } = this.surface;
    const at = this.pen ?? this.at;
    const target = dragging ? undefined : this.target();
    const isHeld = target && cut && target.area.x === cut.area.x && target.area.width === cut.area.width && target.area.y === cut.area.y && target.area.height === cut.area.height; // prettier-ignore
    this.box.hidden = this.tag.hidden = !target || !!isHeld;
    if (target) {
      const { x, y, width, height } = target.area;
      this.box.style.transform = `translate(${(x * scale).toFixed(1)}px, ${(y * scale).toFixed(1)}px)`;
      this.box.style.width = `${(width * scale).toFixed(1)}px`;
      this.box.style.height = `${(height * scale).toFixed(1)}px`;
      this.tag.textContent = `${target.title} · ${size(width, height)} px`;
      // Above the target where there is room, so that it hides nothing of it.
      const above = y * scale - TAG_PX >= view.y * scale;
      const top = above ? y * scale - TAG_PX : Math.max(y, view.y) * scale + 6;
      this.tag.style.transform = `translate(${(Math.max(x, view.x) * scale + 6).toFixed(1)}px, ${top.toFixed(1)}px)`;
    }
    const aims = kind === "region" || kind === "freehand" || kind === "pane" || dragging;
    const isLarge = scale >= LARGE_SCALE;
    if (at && bitmap && aims && !isLarge && (dragging || !cut)) {
      const shown = {
        left: view.x * scale,
        top: view.y * scale,
        width: view.width * scale,
        height: view.height * scale,
      };
      // A drag may be beyond what is seen.
      const near = {
        x: clamp(at.x - view.x, view.width - 1 / scale) + view.x,
        y: clamp(at.y - view.y, view.height - 1 / scale) + view.y,
      };
      this.magnifier.show(near, bitmap, scale, shown);
    } else {
      this.magnifier.hide();
    }
    this.drawPen();
  }

  private drawPen(): void {
    const { frame, scale } = this.surface;
    const [across, down] = this.hairs;
    if (!across || !down) return;
    across.hidden = down.hidden = this.pen === null;
    if (!this.pen) return;
    across.style.transform = `translate(0, ${(this.pen.y * scale).toFixed(1)}px)`;
    across.style.width = `${(frame.width * scale).toFixed(0)}px`;
    across.style.height = down.style.width = "1px";
    down.style.transform = `translate(${(this.pen.x * scale).toFixed(1)}px, 0)`;
    down.style.height = `${(frame.height * scale).toFixed(0)}px`;
  }
}
