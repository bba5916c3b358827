/** How surfaces are zoomed: by the wheel, by steps, and how far. */

export const LEAST_SCALE = 0.02;
/** View pixels per pixel. */
export const MOST_SCALE = 32;
/** A step larger; its inverse is a step smaller. */
export const STEP = 1.25;
/** A notch of the wheel, a hundred pixels in most browsers, is a step. */
const PER_PIXEL = Math.log(STEP) / 100;
const LINE_PX = 16;
/** Pads report a pinch as a wheel with Ctrl, in smaller amounts than a wheel's notches. */
const PINCH = 3;

/** An amount of the wheel in pixels, also where the browser reports lines. */
export function wheelPixels(event: { deltaMode: number }, amount: number): number {
  return event.deltaMode === 1 ? amount * LINE_PX : amount;
}

/** The factor that a turn of the wheel zooms by. */
export function wheelFactor(event: { deltaMode: number; deltaY: number; ctrlKey: boolean }): number {
  return Math.exp(-wheelPixels(event, event.deltaY) * PER_PIXEL * (event.ctrlKey ? PINCH : 1));
}

/** From twice its size on each pixel of a picture is a hard square. */
export function isHard(scale: number): boolean {
  return scale * (window.devicePixelRatio || 1) >= 2;
}
