import type { Point } from "../../area/AreaEditor";

/** The pixels round the one that is aimed at, with their grid, its colour and its place. Set by hand, never by React. */

const PIXELS = 15;
const SIDE = 135;
const FOOT = 24;
const AWAY = 26;

export class Magnifier {
  private readonly box: HTMLDivElement;
  private readonly canvas: HTMLCanvasElement;
  private readonly words: HTMLDivElement;
  private readonly pixels: CanvasRenderingContext2D | null;
  private last = "";

  constructor(host: HTMLElement) {
    this.box = document.createElement("div");
    this.box.className = "magnifier";
    this.box.hidden = true;
    this.box.setAttribute("aria-hidden", "true");
    this.canvas = document.createElement("canvas");
    this.canvas.width = this.canvas.height = PIXELS;
    this.pixels = this.canvas.getContext("2d", { willReadFrequently: true });
    const grid = document.createElement("div");
    grid.className = "magnifier-grid";
    this.words = document.createElement("div");
    this.words.className = "magnifier-words";
    this.box.append(this.canvas, grid, this.words);
    host.append(this.box);
  }

  destroy(): void {
    this.box.remove();
  }

  hide(): void {
    this.box.hidden = true;
  }

  /** Show the pixel at a point of the bitmap; `shown` is the part of the surface in view, in surface pixels. */
  show(
    at: Point,
    bitmap: ImageBitmap,
    scale: number,
    shown: { left: number; top: number; width: number; height: number },
  ): void {
    const x = Math.min(Math.max(Math.floor(at.x), 0), bitmap.width - 1);
    const y = Math.min(Math.max(Math.floor(at.y), 0), bitmap.height - 1);
    this.box.hidden = false;
    const key = `${x} ${y}`;
    if (key !== this.last && this.pixels) {
      this.last = key;
      const half = (PIXELS - 1) / 2;
      this.pixels.fillStyle = "#143a35";
      this.pixels.fillRect(0, 0, PIXELS, PIXELS);
      this.pixels.drawImage(bitmap, x - half, y - half, PIXELS, PIXELS, 0, 0, PIXELS, PIXELS);
      const [r = 0, g = 0, b = 0] = this.pixels.getImageData(half, half, 1, 1).data;
      this.words.textContent = `${x}, ${y} ${hex(r, g, b)}`;
    }
    const { left, top } = beside({ x: (at.x + 0.5) * scale, y: (at.y + 0.5) * scale }, shown);
    this.box.style.transform = `translate(${left.toFixed(1)}px, ${top.toFixed(1)}px)`;
  }
}

export function hex(r: number, g: number, b: number): string {
  return `#${[r, g, b]
    .map((each) => each.toString(16).padStart(2, "0"))
    .join("")
    .toUpperCase()}`;
}

/** Where it stands: right below what is aimed at, on the other side where there is no room; never over it. */
export function beside(
  at: { x: number; y: number },
  shown: { left: number; top: number; width: number; height: number },
): { left: number; top: number } {
  const right = at.x + AWAY + SIDE <= shown.left + shown.width;
  const below = at.y + AWAY + SIDE + FOOT <= shown.top + shown.height;
  const left = right ? at.x + AWAY : at.x - AWAY - SIDE;
  const top = below ? at.y + AWAY : at.y - AWAY - SIDE - FOOT;
  const kept = { left: Math.max(left, shown.left), top: Math.max(top, shown.top) };
  // Pushed back into view in both directions it could lie over what is aimed at: then it steps aside.
  const covers = kept.left <= at.x && at.x < kept.left + SIDE && kept.top <= at.y && at.y < kept.top + SIDE + FOOT;
  return covers ? { left: at.x + AWAY, top: kept.top } : kept;
}
