import { useMemo, useSyncExternalStore } from "react";

/** How far beyond the view a stretch is there already. */
const MARGIN_PX = 1_600;
const FIRST = "0";

/**
 * Which stretches of the galley are there: those near the view, and those that are wanted wherever they lie.
 * `ground` scrolls; the stretches are its children, with their number in `data-stretch`.
 *
 * What is near is asked of the page itself, before each frame: a jump to where nothing was yet shows no empty lane.
 */
export function useStretches(ground: HTMLElement | null, wanted: readonly number[]): (stretch: number) => boolean {
  const [subscribe, snapshot] = useMemo(
    () => [(changed: () => void) => watch(ground, changed), () => (ground ? near(ground) : FIRST)] as const,
    [ground],
  );
  const there = new Set([...useSyncExternalStore(subscribe, snapshot).split(" ").map(Number), ...wanted]);
  return (stretch) => there.has(stretch);
}

function watch(ground: HTMLElement | null, changed: () => void): () => void {
  if (!ground) return () => undefined;
  const observer = new ResizeObserver(changed);
  observer.observe(ground);
  ground.addEventListener("scroll", changed, { passive: true });
  return () => {
    ground.removeEventListener("scroll", changed);
    observer.disconnect();
  };
}

/** The numbers of the stretches that lie in the view or within the margin, with spaces between. */
function near(ground: HTMLElement): string {
  const view = ground.getBoundingClientRect();
  const out: string[] = [];
  for (const node of ground.querySelectorAll<HTMLElement>(":scope > [data-stretch]")) {
    const box = node.getBoundingClientRect();
    if (box.right > view.left - MARGIN_PX && box.left < view.right + MARGIN_PX) out.push(node.dataset["stretch"] ?? "");
  }
  return out.join(" ") || FIRST;
}
