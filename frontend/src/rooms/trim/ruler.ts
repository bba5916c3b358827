/** Ticks of a ruler in millimetres of the destination, at positions in view pixels. */

export interface Tick {
  at: number;
  mm: number;
  long: boolean;
}

/** Millimetres between two ticks, and how many ticks apart the numbers stand: always on round millimetres. */
const STEPS: readonly (readonly [number, number])[] = [
  [0.1, 10],
  [0.2, 5],
  [0.5, 4],
  [1, 5],
  [2, 5],
  [5, 4],
  [10, 5],
  [20, 5],
  [50, 4],
  [100, 5],
  [200, 5],
];
const LEAST_GAP_PX = 12;

/** Ticks from `from` to `to` (view pixels), zero at `origin`; steps are round millimetres that don't crowd. */
export function ticks(origin: number, pxPerMm: number, from: number, to: number): Tick[] {
  if (!(pxPerMm > 0) || to <= from) return [];
  const [step, every] = STEPS.find(([each]) => each * pxPerMm >= LEAST_GAP_PX) ?? [500, 4];
  const first = Math.ceil((from - origin) / pxPerMm / step);
  const last = Math.floor((to - origin) / pxPerMm / step);
  const out: Tick[] = [];
  for (let index = first; index <= last; index += 1) {
    const value = Math.round(index * step * 10) / 10;
    out.push({ at: origin + index * step * pxPerMm, mm: value, long: index % every === 0 });
  }
  return out;
}
