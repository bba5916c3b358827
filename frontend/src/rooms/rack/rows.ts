import type { Slip } from "../../api/client";

/** The rack as rows of fixed height, of which only those in view are in the page. */

export const SLIP_HEIGHT = 146;
export const DAY_HEIGHT = 30;

export type Row = { top: number; height: number } & ({ day: string } | { slip: Slip; index: number });

/** Rows from top to bottom; with `byDay` each day begins with a heading. */
export function rowsOf(slips: readonly Slip[], byDay: boolean, dayOf: (takenAt: string) => string): Row[] {
  const rows: Row[] = [];
  let top = 0;
  let day = "";
  slips.forEach((slip, index) => {
    const its = byDay ? (slip.pinned ? "Pinned" : dayOf(slip.taken_at)) : "";
    if (its !== day) {
      day = its;
      rows.push({ top, height: DAY_HEIGHT, day });
      top += DAY_HEIGHT;
    }
    rows.push({ top, height: SLIP_HEIGHT, slip, index });
    top += SLIP_HEIGHT;
  });
  return rows;
}

/** The rows that a view of so much height shows when it is scrolled so far, and as many again above and below. */
export function inView(rows: readonly Row[], scrolled: number, height: number): Row[] {
  const [from, to] = [scrolled - height, scrolled + 2 * height];
  let low = 0;
  let high = rows.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    const row = rows[middle];
    if (row && row.top + row.height < from) low = middle + 1;
    else high = middle;
  }
  const shown: Row[] = [];
  for (let at = low; at < rows.length; at += 1) {
    const row = rows[at];
    if (!row || row.top > to) break;
    shown.push(row);
  }
  return shown;
}

export function wholeHeight(rows: readonly Row[]): number {
  const last = rows.at(-1);
  return last ? last.top + last.height : 0;
}

/** "Wednesday 25 November", or today and yesterday. */
export function dayWords(takenAt: string, now: Date = new Date()): string {
  const at = new Date(takenAt);
  const midnight = (date: Date) => new Date(date.getFullYear(), date.getMonth(), date.getDate()).getTime();
  const days = Math.round((midnight(now) - midnight(at)) / 86_400_000);
  if (days === 0) return "Today";
  if (days === 1) return "Yesterday";
  const year = at.getFullYear() === now.getFullYear() ? "" : ` ${at.getFullYear()}`;
  const weekday = at.toLocaleDateString("en-GB", { weekday: "long" });
  return `${weekday} ${at.getDate()} ${at.toLocaleDateString("en-GB", { month: "long" })}${year}`;
}

/** Slips from one index to another, whichever comes first. */
export function between(slips: readonly Slip[], from: number, to: number): string[] {
  return slips.slice(Math.min(from, to), Math.max(from, to) + 1).map((each) => each.id);
}
