import { whole } from "../../../base/format";
import { EMU_PER_PX } from "../../../base/units";
import type { GridCell, GridSheet } from "../../../api/client";
import { type Cells, cellsName, columnName, HEAD_PX, SIDE_PX, sizeOf, startOf, type Tracks, wholeOf } from "./cells";

interface CellLayerProps {
  sheet: GridSheet;
  rows: Tracks;
  shownRows: number[];
  shownColumns: number[];
  cells: Map<number, GridCell[]>;
}

/** The lines and the words of some cells. Text that is longer than its cell runs on over empty ones. */
export function CellLayer({ sheet, rows, shownRows, shownColumns, cells }: CellLayerProps) {
  const { columns } = sheet;
  const px = (emu: number) => emu / EMU_PER_PX;
  const [first, last] = [shownColumns[0] ?? 0, shownColumns.at(-1) ?? -1];
  return (
    <>
      {shownRows.map((row) => {
        const own = cells.get(row) ?? [];
        const top = px(startOf(rows, row));
        const height = px(sizeOf(rows, row));
        if (height === 0) return null;
        return (
          <div key={row} className="grid-row" role="row" aria-rowindex={row + 1}>
            {shownColumns.map((column) => (
              <span
                key={column}
                className="grid-cell"
                style={{ left: px(startOf(columns, column)), top, width: px(sizeOf(columns, column)), height }}
              />
            ))}
            {own
              .filter((cell) => cell.column >= first && cell.column <= last)
              .map((cell) => {
                const whole = wholeOf({ top: row, bottom: row, left: cell.column, right: cell.column }, sheet.merged);
                const next = own.find((each) => each.column > cell.column)?.column ?? cell.column + 8;
                const until = whole.right > cell.column ? whole.right + 1 : cell.is_number ? cell.column + 1 : next;
                return (
                  <span
                    key={cell.column}
                    className={`grid-words ${cell.is_number ? "grid-number" : ""}`}
                    role="gridcell"
                    aria-colindex={cell.column + 1}
                    style={{
                      left: px(startOf(columns, cell.column)),
                      top,
                      width: px(startOf(columns, until) - startOf(columns, cell.column)),
                      height: px(startOf(rows, whole.bottom + 1)) - top,
                    }}
                  >
                    {cell.text}
                  </span>
                );
              })}
          </div>
        );
      })}
    </>
  );
}

export function ColumnHead({
  column,
  columns,
  chosen,
  pinned,
  shifted = false,
}: {
  column: number;
  columns: Tracks;
  chosen: Cells | null;
  pinned: boolean;
  shifted?: boolean;
}) {
  const width = sizeOf(columns, column) / EMU_PER_PX;
  if (width === 0 || (pinned && !shifted)) return null;
  const inside = chosen !== null && chosen.left <= column && column <= chosen.right;
  const left = startOf(columns, column) / EMU_PER_PX + (shifted ? SIDE_PX : 0);
  return (
    <span
      className={`grid-head ${inside ? "grid-head-in" : ""}`}
      role="columnheader"
      style={{ left, width }}
      title={`${columnName(column)}, ${whole(width)} px`}
    >
      {columnName(column)}
    </span>
  );
}

export function RowHead({
  row,
  rows,
  chosen,
  lowered = false,
}: {
  row: number;
  rows: Tracks;
  chosen: Cells | null;
  lowered?: boolean;
}) {
  const height = sizeOf(rows, row) / EMU_PER_PX;
  if (height === 0) return null;
  const inside = chosen !== null && chosen.top <= row && row <= chosen.bottom;
  return (
    <span
      className={`grid-side ${inside ? "grid-head-in" : ""}`}
      role="rowheader"
      style={{ top: startOf(rows, row) / EMU_PER_PX + (lowered ? HEAD_PX : 0), height }}
    >
      {row + 1}
    </span>
  );
}

export function Chosen({ cells, columns, rows }: { cells: Cells; columns: Tracks; rows: Tracks }) {
  const [left, top] = [startOf(columns, cells.left) / EMU_PER_PX, startOf(rows, cells.top) / EMU_PER_PX];
  const width = startOf(columns, cells.right + 1) / EMU_PER_PX - left;
  const height = startOf(rows, cells.bottom + 1) / EMU_PER_PX - top;
  return <span className="grid-chosen" data-cells={cellsName(cells)} style={{ left, top, width, height }} />;
}
