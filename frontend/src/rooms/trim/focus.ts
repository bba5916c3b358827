/** What was typed or picked is taken: the keys belong to the mat again. */
export function backToMat(): void {
  const mat =
    document.querySelector<HTMLElement>(".mark-surface") ?? document.querySelector<HTMLElement>(".mat-picture");
  mat?.focus({ preventScroll: true });
}
