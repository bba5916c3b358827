/** Bitmaps become PNG in a worker of their own; one is kept for all. */

let worker: Worker | null = null;
let count = 0;
const waiting = new Map<number, (png: Blob) => void>();

export function encodePng(bitmap: ImageBitmap): Promise<Blob> {
  if (!worker) {
    worker = new Worker(new URL("./encoder.ts", import.meta.url), { type: "module" });
    worker.addEventListener("message", (event: MessageEvent<{ id: number; png: Blob }>) => {
      waiting.get(event.data.id)?.(event.data.png);
      waiting.delete(event.data.id);
    });
  }
  count += 1;
  const id = count;
  const running = worker;
  return new Promise((resolve) => {
    waiting.set(id, resolve);
    running.postMessage({ id, bitmap }, [bitmap]);
  });
}
