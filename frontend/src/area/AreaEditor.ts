import { onSecondFinger } from "../base/pinch";
import { type Area, type Bounds, type Grip, GRIPS, between, clipped, contains, pulled } from "./geometry";

/** Pointer work on one area, without React: everything is set in one animation frame, by transform only. */

export interface AreaEditorOptions {
  /** The element that the area lies on; its children are made and owned by the editor. */
  host: HTMLElement;
  bounds: Bounds;
  /** Where areas may lie, where that is less than the whole surface. */
  limits?: (() => Bounds) | undefined;
  /** The part that is seen, where that is less than the whole surface: words beside the area stay within it. */
  seen?: (() => Area) | undefined;
  /** Whether dragging on free ground draws a new area. */
  drawsNew: boolean;
  /** Whether what lies outside has a ruling that must not be stretched. */
  ruledVeil: boolean;
  /** After every frame in which the area changed, also while dragging. */
  onChange: (area: Area | null, dragging: boolean) => void;
  /** Words beside the area; none without. */
  label?: ((area: Area) => string) | undefined;
  /** What may happen besides drawing, moving and pulling. */
  also?: Also | undefined;
}

/** Pointing, picking and drawing by hand, where a surface offers them. All in pixels of the surface. */
export interface Also {
  /** What a press on free ground begins: a new area, a pick (a new area if it is dragged), a line by hand. */
  mode: () => "draw" | "pick" | "freehand";
  /** Bring an area that is being drawn or pulled to edges. */
  snap: (area: Area, grip: Grip | "new", scale: number) => Area;
  /** Once a frame: the pixel that is aimed at, null while none is. */
  onAim: (at: Point | null, dragging: boolean) => void;
  onPick: (at: Point) => void;
  /** The line so far, and whether it is closed now. */
  onOutline: (points: readonly (readonly [number, number])[], closed: boolean) => void;
}

export interface Point {
  x: number;
  y: number;
}

interface Client {
  clientX: number;
  clientY: number;
  altKey: boolean;
}

/** A drag that began before the surface was there: a pointer that is still down, or one that was let go. */
export interface Begun {
  pointer: number;
  /** The points that it has been at, in pixels of the surface; the first is where it began. */
  points: readonly Point[];
  isDown: boolean;
  /** Whether it was dragged without snapping. */
  free: boolean;
}

const DRAG_THRESHOLD = 3;
/** Thickness of the cut line, and the side of a veil before it is stretched; both as in styles/area.css. */
const EDGE = 2;
const VEIL = 100;

function make(host: HTMLElement, className: string, parent: HTMLElement = host): HTMLDivElement {
  const element = document.createElement("div");
  element.className = className;
  parent.append(element);
  return element;
}

export class AreaEditor {
  private area: Area | null = null;
  private scale = 1;
  private scheduled = 0;
  private dragging: {
    grip: Grip | "new" | "outline";
    startX: number;
    startY: number;
    from: Area | null;
    moved: boolean;
  } | null = null;
  private line: [number, number][] = [];
  private pointer: Point | null = null;
  /** Where in the window the pointer is: the surface may move under it. */
  private client: Client | null = null;
  private readonly veils: HTMLDivElement[];
  private readonly box: HTMLDivElement;
  private readonly edges: HTMLDivElement[];
  private readonly hairs: HTMLDivElement[];
  private readonly tag: HTMLDivElement;
  private readonly abort = new AbortController();
  private readonly options: AreaEditorOptions;

  constructor(options: AreaEditorOptions) {
    this.options = options;
    const { host } = options;
    this.veils = ["n", "w", "e", "s"].map((side) => make(host, `area-veil area-veil-${side}`));
    this.hairs = options.drawsNew ? [make(host, "cross-hair cross-hair-x"), make(host, "cross-hair cross-hair-y")] : [];
    this.box = make(host, "area-box");
    this.edges = ["n", "s", "w", "e"].map((side) => make(host, `area-edge area-edge-${side}`));
    for (const grip of GRIPS) {
      const handle = make(host, `area-grip area-grip-${grip}`, this.box);
      handle.dataset["grip"] = grip;
    }
    this.tag = make(host, "area-tag");
    const listen = { signal: this.abort.signal };
    host.addEventListener("pointerdown", this.down, listen);
    host.addEventListener("pointermove", this.move, listen);
    host.addEventListener("pointerup", this.up, listen);
    host.addEventListener("pointercancel", this.cancel, listen);
    host.addEventListener("pointerleave", this.leave, listen);
    window.addEventListener("keydown", this.escape, { ...listen, capture: true });
    onSecondFinger(this.abort.signal, this.cancel);
  }

  destroy(): void {
    this.abort.abort();
    cancelAnimationFrame(this.scheduled);
    for (const element of [...this.veils, ...this.hairs, ...this.edges, this.box, this.tag]) element.remove();
  }

  /** View pixels per pixel of the area's own. */
  setScale(scale: number): void {
    this.scale = scale;
    this.schedule();
  }

  set(area: Area | null): void {
    this.area = area;
    this.schedule();
  }

  get(): Area | null {
    return this.area;
  }

  /** Whether somebody has hold of it now. */
  isDragged(): boolean {
    return this.dragging !== null;
  }

  private at({ clientX, clientY }: { clientX: number; clientY: number }): Point {
    const { left, top } = this.options.host.getBoundingClientRect();
    return { x: (clientX - left) / this.scale, y: (clientY - top) / this.scale };
  }

  /** The surface was zoomed or scrolled under the pointer: what is being dragged goes along. */
  follow(): void {
    if (!this.client) return;
    this.pointer = this.at(this.client);
    const drag = this.dragging;
    if (drag?.grip === "outline") this.line.push([this.pointer.x, this.pointer.y]);
    else if (drag?.moved) this.stretch(this.pointer.x - drag.startX, this.pointer.y - drag.startY, this.client.altKey);
    this.schedule();
  }

  /** Go on with a drag that began elsewhere, or end it where it was let go. */
  takeOver(begun: Begun): void {
    const [start] = begun.points;
    const now = begun.points.at(-1);
    if (!start || !now) return;
    const freehand = this.options.also?.mode() === "freehand";
    if (freehand) this.line = begun.points.map(({ x, y }) => [x, y]);
    this.dragging = { grip: freehand ? "outline" : "new", startX: start.x, startY: start.y, from: this.area, moved: true }; // prettier-ignore
    this.pointer = now;
    this.stretch(0, 0, begun.free);
    if (begun.isDown) this.options.host.setPointerCapture(begun.pointer);
    else this.end();
    this.schedule();
  }

  private readonly down = (event: PointerEvent): void => {
    if (event.button !== 0) return;
    const grip = this.gripOf(event);
    if (!grip) return;
    this.options.host.setPointerCapture(event.pointerId);
    const { x, y } = this.at(event);
    this.dragging = { grip, startX: x, startY: y, from: this.area, moved: false };
    this.pointer = { x, y };
    if (grip === "outline") this.line = [[x, y]];
    this.schedule();
    event.preventDefault();
    this.options.host.focus({ preventScroll: true });
  };

  /** What was pressed: a grip, the inside, or free ground where a new area may be drawn. */
  private gripOf(event: PointerEvent): Grip | "new" | "outline" | null {
    const target = event.target as HTMLElement;
    // What lies on the surface has pointer work of its own.
    if (target.closest("button, textarea, [data-own-pointer]")) return null;
    const named = target.dataset["grip"] as Grip | undefined;
    if (named && this.area) return named;
    const { x, y } = this.at(event);
    if (this.area && contains(this.area, x, y)) return "move";
    if (this.options.also?.mode() === "freehand") return "outline";
    return this.options.drawsNew ? "new" : null;
  }

  private readonly move = (event: PointerEvent): void => {
    const events = event.getCoalescedEvents();
    const last = events.at(-1) ?? event;
    this.pointer = this.at(last);
    this.client = { clientX: last.clientX, clientY: last.clientY, altKey: event.altKey };
    const drag = this.dragging;
    if (drag?.grip === "outline") {
      for (const each of events.length > 0 ? events : [event]) {
        const { x, y } = this.at(each);
        this.line.push([x, y]);
      }
      drag.moved = true;
      this.schedule();
      return;
    }
    if (drag) {
      const [dx, dy] = [this.pointer.x - drag.startX, this.pointer.y - drag.startY];
      if (!drag.moved && Math.hypot(dx, dy) * this.scale < DRAG_THRESHOLD) return;
      drag.moved = true;
      this.stretch(dx, dy, event.altKey);
    }
    this.schedule();
  };

  /** The area as far as it has been drawn or pulled. */
  private stretch(dx: number, dy: number, free: boolean): void {
    const drag = this.dragging;
    if (!drag || !this.pointer || drag.grip === "outline") return;
    const bounds = this.options.limits?.() ?? this.options.bounds;
    if (drag.grip === "new") {
      const drawn = between({ x: drag.startX, y: drag.startY }, this.pointer, bounds);
      this.area = clipped(this.snap(drawn, "new", free), bounds);
    } else if (drag.from) {
      this.area = clipped(this.snap(pulled(drag.from, drag.grip, dx, dy, bounds), drag.grip, free), bounds);
    }
  }

  private snap(area: Area, grip: Grip | "new", free: boolean): Area {
    const { also } = this.options;
    return also && !free ? also.snap(area, grip, this.scale) : area;
  }

  private readonly up = (event: PointerEvent): void => {
    const drag = this.dragging;
    if (!drag) return;
    this.move(event);
    const { also } = this.options;
    const picks = !drag.moved && also?.mode() === "pick" && (drag.grip === "new" || drag.grip === "move");
    this.end();
    if (picks) also.onPick(this.at(event));
    if (event.pointerType === "touch") this.pointer = this.client = null;
    // At once: a key may follow on what was drawn before the next frame.
    cancelAnimationFrame(this.scheduled);
    this.show();
  };

  private end(): void {
    const drag = this.dragging;
    this.dragging = null;
    if (drag?.grip !== "outline") return;
    this.options.also?.onOutline(this.line, true);
    this.line = [];
  }

  private readonly cancel = (): void => {
    if (this.dragging) this.area = this.dragging.from;
    if (this.dragging?.grip === "outline") this.options.also?.onOutline([], false);
    this.dragging = null;
    this.line = [];
    this.schedule();
  };

  /** Esc lets go of what is being dragged, and of nothing else. */
  private readonly escape = (event: KeyboardEvent): void => {
    if (event.key !== "Escape" || !this.dragging) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    this.cancel();
  };

  private readonly leave = (): void => {
    this.pointer = null;
    this.client = null;
    this.schedule();
  };

  private schedule(): void {
    if (this.scheduled) return;
    this.scheduled = requestAnimationFrame(() => {
      this.show();
    });
  }

  private show(): void {
    this.scheduled = 0;
    this.draw();
    const { also } = this.options;
    if (this.dragging?.grip === "outline") also?.onOutline(this.line, false);
    else this.options.onChange(this.area, this.dragging?.moved ?? false);
    also?.onAim(this.aim(), this.dragging !== null);
  }

  /** The corner that is being dragged, else the pixel under the pointer. */
  private aim(): Point | null {
    const grip = this.dragging?.grip;
    const area = this.area;
    if (!area || !grip || grip === "new" || grip === "outline") return this.pointer;
    if (grip === "move") return null;
    const x = grip.includes("w") ? area.x : grip.includes("e") ? area.x + area.width - 1 : this.pointer?.x;
    const y = grip.includes("n") ? area.y : grip.includes("s") ? area.y + area.height - 1 : this.pointer?.y;
    return x === undefined || y === undefined ? null : { x, y };
  }

  private draw(): void {
    const { bounds, label } = this.options;
    const [viewWidth, viewHeight] = [bounds.width * this.scale, bounds.height * this.scale];
    const area = this.area;
    const hidden = area === null;
    this.box.hidden = hidden;
    const isAll = area !== null && area.width === bounds.width && area.height === bounds.height;
    this.tag.hidden = hidden || !label || isAll;
    this.drawHairs(viewWidth, viewHeight);
    for (const element of [...this.veils, ...this.edges]) element.hidden = hidden;
    if (!area) return;
    const [x, y, w, h] = [area.x, area.y, area.width, area.height].map((value) => value * this.scale) as [
      number,
      number,
      number,
      number,
    ];
    const boxes: [number, number, number, number][] = [
      [0, 0, viewWidth, y],
      [0, y, x, h],
      [x + w, y, viewWidth - x - w, h],
      [0, y + h, viewWidth, viewHeight - y - h],
    ];
    boxes.forEach(([left, top, width, height], index) => {
      const veil = this.veils[index];
      if (veil) (this.options.ruledVeil ? place : stretch)(veil, left, top, width, height);
    });
    place(this.box, x, y, w, h);
    const sides: [number, number, number, number][] = [
      [x - EDGE, y - EDGE, w + 2 * EDGE, EDGE],
      [x - EDGE, y + h, w + 2 * EDGE, EDGE],
      [x - EDGE, y, EDGE, h],
      [x + w, y, EDGE, h],
    ];
    sides.forEach(([left, top, width, height], index) => {
      const edge = this.edges[index];
      if (edge) place(edge, left, top, width, height);
    });
    if (!label) return;
    this.tag.textContent = label(area);
    const seen = this.options.seen?.() ?? { x: 0, y: 0, ...bounds };
    const [west, north] = [seen.x * this.scale, seen.y * this.scale];
    const south = north + seen.height * this.scale;
    const [left, top] = [Math.max(x + 6, west + 6), Math.max(y + h + 30 < south ? y + h + 8 : y + h - 30, north + 8)];
    this.tag.style.transform = `translate(${left.toFixed(1)}px, ${Math.min(top, south - 30).toFixed(1)}px)`;
  }

  private drawHairs(viewWidth: number, viewHeight: number): void {
    const draws = (this.options.also?.mode() ?? "draw") === "draw";
    const show = this.pointer !== null && ((!this.area && draws) || this.dragging?.grip === "new");
    const [across, down] = this.hairs;
    if (!across || !down) return;
    across.hidden = down.hidden = !show;
    if (!show || !this.pointer) return;
    place(across, 0, this.pointer.y * this.scale, viewWidth, 1);
    place(down, this.pointer.x * this.scale, 0, 1, viewHeight);
  }
}

/** A plain surface, stretched from its size in the style sheet: nothing is laid out or painted anew. */
function stretch(element: HTMLElement, x: number, y: number, width: number, height: number): void {
  const [sx, sy] = [Math.max(width, 0) / VEIL, Math.max(height, 0) / VEIL];
  element.style.transform = `translate(${x.toFixed(2)}px, ${y.toFixed(2)}px) scale(${sx.toFixed(5)}, ${sy.toFixed(5)})`;
}

function place(element: HTMLElement, x: number, y: number, width: number, height: number): void {
  element.style.transform = `translate(${x.toFixed(2)}px, ${y.toFixed(2)}px)`;
  element.style.width = `${Math.max(width, 0).toFixed(2)}px`;
  element.style.height = `${Math.max(height, 0).toFixed(2)}px`;
}
