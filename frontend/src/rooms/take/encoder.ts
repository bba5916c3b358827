/** A bitmap as PNG, worked out beside the page so that nothing stalls. */
self.addEventListener("message", (event: MessageEvent<{ id: number; bitmap: ImageBitmap }>) => {
  const { id, bitmap } = event.data;
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext("2d", { alpha: false })?.drawImage(bitmap, 0, 0);
  bitmap.close();
  void canvas.convertToBlob({ type: "image/png" }).then((png) => {
    self.postMessage({ id, png });
  });
});
