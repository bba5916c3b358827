/** Ticks of a ruler in millimetres of the destination, at positions in view pixels. */

export interface Tick {
  at: number;
  mm: number;
  long: boolean;
}

const STEPS_MM = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500];
const LEAST_GAP_PX = 13;
const TICKS_A_NUMBER = 4;

/** Ticks from `from` to `to` (view pixels), zero at `origin`; steps are round millimetres that don't crowd. */
export function ticks(origin: number, pxPerMm: number, from: number, to: number): Tick[] {
  if (!(pxPerMm > 0) || to <= from) return [];
  const step = STEPS_MM.find((each) => each * pxPerMm >= LEAST_GAP_PX) ?? 1_000;
  const first = Math.ceil((from - origin) / pxPerMm / step);
  const last = Math.floor((to - origin) / pxPerMm / step);
  const out: Tick[] = [];
  for (let index = first; index <= last; index += 1) {
    const value = Math.round(index * step * 10) / 10;
    out.push({ at: origin + index * step * pxPerMm, mm: value, long: index % TICKS_A_NUMBER === 0 });
  }
  return out;
}
