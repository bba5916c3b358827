import type { GridSheet } from "../../../api/client";

/** Cells by the names that people type, and where columns and rows lie; counted from 0, in EMU from the sheet's corner. */

export interface Cells {
  top: number;
  left: number;
  bottom: number;
  right: number;
}

export type Tracks = GridSheet["columns"];

export const MOST_ROWS = 1_048_576;
export const MOST_COLUMNS = 16_384;
/** The heads of columns and rows. */
export const HEAD_PX = 24;
export const SIDE_PX = 46;
const LETTERS = 26;

/** The letters of a column: 0 is A, 26 is AA. */
export function columnName(index: number): string {
  let letters = "";
  for (let number = index + 1; number > 0; number = Math.floor((number - 1) / LETTERS))
    letters = String.fromCharCode(65 + ((number - 1) % LETTERS)) + letters;
  return letters;
}

export function columnIndex(letters: string): number {
  return (
    letters
      .toUpperCase()
      .split("")
      .reduce((sum, letter) => sum * LETTERS + letter.charCodeAt(0) - 64, 0) - 1
  );
}

/** "B3" or "B3:F20". */
export function cellsName({ top, left, bottom, right }: Cells): string {
  const first = `${columnName(left)}${(top + 1).toString()}`;
  return top === bottom && left === right ? first : `${first}:${columnName(right)}${(bottom + 1).toString()}`;
}

/** The cells of a spot's id, "Timetable!B3:F20"; null for anything else. */
export function cellsOf(spot: string): Cells | null {
  const match = /^([A-Z]{1,3})(\d+)(?::([A-Z]{1,3})(\d+))?$/i.exec(spot.slice(spot.lastIndexOf("!") + 1));
  if (!match) return null;
  const [, left = "", top = "", right = left, bottom = top] = match;
  return { top: Number(top) - 1, left: columnIndex(left), bottom: Number(bottom) - 1, right: columnIndex(right) };
}

export function sheetOf(spot: string): string {
  return spot.slice(0, Math.max(spot.lastIndexOf("!"), 0));
}

/** Two corners as a rectangle of cells. */
export function between(a: { row: number; column: number }, b: { row: number; column: number }): Cells {
  return {
    top: Math.min(a.row, b.row),
    left: Math.min(a.column, b.column),
    bottom: Math.max(a.row, b.row),
    right: Math.max(a.column, b.column),
  };
}

/** The cells that are meant: one that is merged with others stands for all of them. */
export function wholeOf(cells: Cells, merged: readonly number[][]): Cells {
  if (cells.top !== cells.bottom || cells.left !== cells.right) return cells;
  const found = merged.find(
    ([top = 0, left = 0, bottom = 0, right = 0]) =>
      top <= cells.top && cells.top <= bottom && left <= cells.left && cells.left <= right,
  );
  const [top, left, bottom, right] = found ?? [];
  return top === undefined || left === undefined || bottom === undefined || right === undefined
    ? cells
    : { top, left, bottom, right };
}

/** Tracks of which some have another size: rows that grew. */
export function withOwn(tracks: Tracks, grown: ReadonlyMap<number, number>): Tracks {
  if (grown.size === 0) return tracks;
  const own: number[][] = [];
  for (const [first = 0, last = 0, size = 0] of tracks.own) {
    let from = first;
    for (const row of [...grown.keys()].filter((each) => each >= first && each <= last).sort((a, b) => a - b)) {
      if (row > from) own.push([from, row - 1, size]);
      from = row + 1;
    }
    if (from <= last) own.push([from, last, size]);
  }
  for (const [row, size] of grown) own.push([row, row, Math.max(size, sizeOf(tracks, row))]);
  return { usual_emu: tracks.usual_emu, own: own.sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0)) };
}

/** How wide or high one is. */
export function sizeOf(tracks: Tracks, index: number): number {
  return tracks.own.find(([first = 0, last = -1]) => first <= index && index <= last)?.[2] ?? tracks.usual_emu;
}

/** How far one begins from the corner. */
export function startOf(tracks: Tracks, index: number): number {
  let at = index * tracks.usual_emu;
  for (const [first = 0, last = 0, size = 0] of tracks.own) {
    if (first >= index) break;
    at += (Math.min(last + 1, index) - first) * (size - tracks.usual_emu);
  }
  return at;
}

/** Which one lies so far from the corner. */
export function indexAt(tracks: Tracks, offset: number, most: number): number {
  let low = 0;
  let high = most - 1;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (startOf(tracks, middle) <= offset) low = middle;
    else high = middle - 1;
  }
  return low;
}
