import type { Destination } from "../../../api/client";
import { cellsOf, sheetOf } from "./cells";

/** Rows that are made higher for the pictures that hang in them. */
export function grownRows(destination: Destination, name: string): Map<number, number> {
  const grown = new Map<number, number>();
  for (const each of destination.placements) {
    const cells = cellsOf(each.spot);
    if (!each.layout.grows_row || !cells || sheetOf(each.spot) !== name || cells.top !== cells.bottom) continue;
    grown.set(cells.top, Math.max(each.height_emu, grown.get(cells.top) ?? 0));
  }
  return grown;
}
