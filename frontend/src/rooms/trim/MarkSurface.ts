import { onSecondFinger } from "../../base/pinch";
import type { Kind, Mark } from "../../api/sheet";
import type { Guides } from "../../area/geometry";
import { type XY, markAt, snappedEnd, snappedStart, sweptBy } from "./geometry";

/** Pointer work with marks, without React: the rubber band is drawn by hand in one animation frame; what a mark looks
 *  like, the server says once the pointer is up. */

export interface SurfaceOptions {
  /** The picture on the mat; its left upper corner is the origin of clipping pixels. */
  host: HTMLElement;
  /** Lies over the whole mat and shows the rubber band. */
  canvas: HTMLCanvasElement;
  marks: () => readonly Mark[];
  chosen: () => readonly string[];
  /** What a press begins: a kind of mark, choosing, or a part. */
  mode: () => Kind | "select" | "part";
  guides: () => Guides;
  ink: () => string;
  onMake: (points: readonly XY[], pressures: readonly number[]) => void;
  onChoose: (ids: readonly string[]) => void;
  onMove: (ids: readonly string[], dx: number, dy: number) => void;
  onOpen: (mark: Mark) => void;
}

interface Drag {
  what: "drag" | "box" | "click" | "stroke" | "move" | "sweep";
  from: XY;
  last: XY;
  moved: boolean;
  points: [number, number][];
  pressures: number[];
  adds: boolean;
}

const REACH = { mouse: 7, pen: 9, touch: 18 } as Record<string, number>;
const THRESHOLD = 3;
const SNAP_VIEW_PX = 6;

export class MarkSurface {
  private scale = 1;
  private drag: Drag | null = null;
  private scheduled = 0;
  private drawn = 0;
  private readonly abort = new AbortController();
  private readonly options: SurfaceOptions;

  constructor(surface: HTMLElement, options: SurfaceOptions) {
    this.options = options;
    const listen = { signal: this.abort.signal };
    onSecondFinger(this.abort.signal, this.stop);
    surface.addEventListener("pointerdown", this.down, listen);
    surface.addEventListener("pointermove", this.move, listen);
    surface.addEventListener("pointerup", this.up, listen);
    surface.addEventListener("pointercancel", this.stop, listen);
    surface.addEventListener("dblclick", this.open, listen);
  }

  destroy(): void {
    this.abort.abort();
    cancelAnimationFrame(this.scheduled);
    this.clear();
  }

  setScale(scale: number): void {
    this.scale = scale;
  }

  /** Take the rubber band away: the mark itself is there now, or it was refused. */
  clear(): void {
    const { canvas } = this.options;
    canvas.getContext("2d")?.clearRect(0, 0, canvas.width, canvas.height);
    this.drawn = 0;
    this.shift(0, 0);
  }

  private at(event: { clientX: number; clientY: number }): XY {
    const { left, top } = this.options.host.getBoundingClientRect();
    return [(event.clientX - left) / this.scale, (event.clientY - top) / this.scale];
  }

  private hit(event: PointerEvent | MouseEvent): Mark | undefined {
    const kind = "pointerType" in event ? event.pointerType : "mouse";
    return markAt(this.at(event), this.options.marks(), (REACH[kind] ?? 7) / this.scale);
  }

  private readonly down = (event: PointerEvent): void => {
    if (!event.isPrimary || event.button !== 0) return;
    event.preventDefault();
    const surface = event.currentTarget as HTMLElement;
    surface.focus({ preventScroll: true });
    surface.setPointerCapture(event.pointerId);
    const at = this.at(event);
    const mode = this.options.mode();
    const adds = event.shiftKey || event.ctrlKey || event.metaKey;
    if (mode === "select") this.beginChoice(event, at, adds);
    else {
      const what = mode === "part" ? "box" : mode.gesture;
      const snaps = what === "drag" && mode !== "part" && mode.id === "line" && !event.altKey;
      const from = snaps ? snappedStart(at, this.options.guides(), SNAP_VIEW_PX / this.scale) : at;
      this.drag = { what, from, last: from, moved: false, points: [], pressures: [], adds };
      if (what === "stroke") this.addPoints([event]);
    }
    this.fitCanvas();
    this.schedule();
  };

  private beginChoice(event: PointerEvent, at: XY, adds: boolean): void {
    const mark = this.hit(event);
    const chosen = this.options.chosen();
    if (mark && adds) {
      const without = chosen.filter((id) => id !== mark.id);
      this.options.onChoose(chosen.includes(mark.id) ? without : [...chosen, mark.id]);
    } else if (mark && !chosen.includes(mark.id)) this.options.onChoose([mark.id]);
    else if (!mark && !adds) this.options.onChoose([]);
    this.drag = { what: mark ? "move" : "sweep", from: at, last: at, moved: false, points: [], pressures: [], adds };
  }

  private readonly move = (event: PointerEvent): void => {
    const { drag } = this;
    if (!drag || !event.isPrimary) return;
    const coalesced = event.getCoalescedEvents();
    const events = coalesced.length > 0 ? coalesced : [event];
    const to = this.at(event);
    const far = Math.hypot(to[0] - drag.from[0], to[1] - drag.from[1]) * this.scale;
    if (!drag.moved && far < THRESHOLD) return;
    drag.moved = true;
    drag.last = this.snapped(drag, to, event.altKey);
    if (drag.what === "stroke") this.addPoints(events);
    this.schedule();
  };

  private snapped(drag: Drag, to: XY, free: boolean): XY {
    const mode = this.options.mode();
    if (free || drag.what !== "drag" || typeof mode === "string" || mode.id !== "line") return to;
    return snappedEnd(drag.from, to, this.options.guides(), SNAP_VIEW_PX / this.scale);
  }

  private addPoints(events: readonly PointerEvent[]): void {
    const { drag } = this;
    if (!drag) return;
    for (const event of events) {
      const [x, y] = this.at(event);
      drag.points.push([x, y]);
      // A mouse reports half pressure all the time: that is no pressure.
      if (event.pointerType === "pen" && event.pressure > 0) drag.pressures.push(event.pressure);
    }
  }

  private readonly up = (event: PointerEvent): void => {
    const { drag } = this;
    if (!drag) return;
    this.move(event);
    this.drag = null;
    const { onMake, onMove, onChoose, marks, chosen } = this.options;
    const { from, last } = drag;
    if (drag.what === "move") {
      if (drag.moved) onMove(chosen(), last[0] - from[0], last[1] - from[1]);
    } else if (drag.what === "sweep") {
      if (drag.moved) {
        const ids = sweptBy(from, last, marks()).map((mark) => mark.id);
        onChoose(drag.adds ? [...new Set([...chosen(), ...ids])] : ids);
      }
      this.clear();
    } else if (drag.what === "click") onMake([last], []);
    else if (drag.what === "stroke")
      onMake(drag.points, drag.pressures.length === drag.points.length ? drag.pressures : []);
    else if (drag.moved) onMake([from, last], []);
    else if (this.hit(event)) {
      // A press that draws nothing chooses what lies there.
      onChoose([this.hit(event)?.id ?? ""]);
      this.clear();
    }
  };

  private readonly stop = (): void => {
    this.drag = null;
    this.clear();
  };

  private readonly open = (event: MouseEvent): void => {
    const mark = this.hit(event);
    if (mark) this.options.onOpen(mark);
  };

  private fitCanvas(): void {
    const { canvas } = this.options;
    const { width, height } = canvas.getBoundingClientRect();
    const ratio = window.devicePixelRatio || 1;
    canvas.width = Math.round(width * ratio);
    canvas.height = Math.round(height * ratio);
    this.drawn = 0;
  }

  private schedule(): void {
    if (this.scheduled) return;
    this.scheduled = requestAnimationFrame(() => {
      this.scheduled = 0;
      this.draw();
    });
  }

  private draw(): void {
    const { drag } = this;
    const { canvas, host } = this.options;
    const context = canvas.getContext("2d");
    if (!drag || !context) return;
    if (drag.what === "move") {
      this.shift(drag.last[0] - drag.from[0], drag.last[1] - drag.from[1]);
      return;
    }
    const [own, picture] = [canvas.getBoundingClientRect(), host.getBoundingClientRect()];
    const ratio = window.devicePixelRatio || 1;
    const scale = this.scale * ratio;
    context.setTransform(scale, 0, 0, scale, (picture.left - own.left) * ratio, (picture.top - own.top) * ratio);
    context.lineWidth = 2 / this.scale;
    context.strokeStyle = this.options.ink();
    context.lineCap = context.lineJoin = "round";
    if (drag.what === "stroke") {
      this.drawOn(context, drag.points);
      return;
    }
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, canvas.width, canvas.height);
    context.restore();
    if (!drag.moved) return;
    const [[ax, ay], [bx, by]] = [drag.from, drag.last];
    context.setLineDash([6 / this.scale, 4 / this.scale]);
    context.beginPath();
    if (drag.what === "drag") {
      context.moveTo(ax, ay);
      context.lineTo(bx, by);
    } else context.rect(ax, ay, bx - ax, by - ay);
    context.stroke();
    context.setLineDash([]);
  }

  /** Only what is new of a stroke: the longer it gets, the less a frame may depend on that. */
  private drawOn(context: CanvasRenderingContext2D, points: readonly [number, number][]): void {
    const first = points[Math.max(this.drawn - 1, 0)];
    if (!first) return;
    context.beginPath();
    context.moveTo(...first);
    for (const point of points.slice(this.drawn)) context.lineTo(...point);
    context.stroke();
    this.drawn = points.length;
  }

  /** Chosen marks follow the pointer. */
  private shift(dx: number, dy: number): void {
    const move = dx === 0 && dy === 0 ? null : `translate(${dx.toFixed(2)} ${dy.toFixed(2)})`;
    for (const id of this.options.chosen()) {
      for (const element of this.options.host.querySelectorAll(`[data-mark="${CSS.escape(id)}"]`)) {
        if (move) element.setAttribute("transform", move);
        else element.removeAttribute("transform");
      }
    }
  }
}
