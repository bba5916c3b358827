import { EMU_PER_PX } from "../../../base/units";
import {
  type DragEvent,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
  type Ref,
  useCallback,
  useLayoutEffect,
  useRef,
  useState,
} from "react";
import type { GridSheet } from "../../../api/client";
import { isOwnDrag } from "../../rack";
import {
  between,
  type Cells,
  HEAD_PX,
  indexAt,
  MOST_COLUMNS,
  MOST_ROWS,
  SIDE_PX,
  sizeOf,
  startOf,
  type Tracks,
  wholeOf,
} from "./cells";
import { CellLayer, Chosen, ColumnHead, RowHead } from "./GridLayers";
import { useCells } from "./useCells";

const SPARE = 40;

interface GridViewProps {
  destination: string;
  number: number;
  sheet: GridSheet;
  rows: Tracks;
  chosen: Cells | null;
  onChoose: (cells: Cells, done: boolean) => void;
  onEnter: () => void;
  onDrop: (cells: Cells, data: DataTransfer) => void;
  /** What stands on the sheet, placed from its corner. */
  children: ReactNode;
  ref?: Ref<HTMLDivElement>;
}

interface Seen {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A sheet at its true measures: only the cells in view are there, heads and frozen cells stay while it is scrolled. */
export function GridView(props: GridViewProps) {
  const { sheet, rows, chosen, onChoose, onEnter } = props;
  const ground = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState<Seen>({ left: 0, top: 0, width: 1_000, height: 600 });
  const anchor = useRef<{ row: number; column: number } | null>(null);
  const look = useCallback(() => {
    const node = ground.current;
    if (node)
      setSeen({ left: node.scrollLeft, top: node.scrollTop, width: node.clientWidth, height: node.clientHeight });
  }, []);
  useLayoutEffect(() => {
    const node = ground.current;
    if (!node) return undefined;
    look();
    const observer = new ResizeObserver(look);
    observer.observe(node);
    return () => {
      observer.disconnect();
    };
  }, [look]);
  const { columns } = sheet;
  const lastColumn = Math.min(Math.max(sheet.used_columns, chosen?.right ?? 0, 12) + SPARE, MOST_COLUMNS);
  const lastRow = Math.min(Math.max(sheet.used_rows, chosen?.bottom ?? 0, 30) + 4 * SPARE, MOST_ROWS);
  const px = (emu: number) => emu / EMU_PER_PX;
  const firstShown = {
    column: indexAt(columns, seen.left * EMU_PER_PX, lastColumn),
    row: indexAt(rows, seen.top * EMU_PER_PX, lastRow),
  };
  const lastShown = {
    column: indexAt(columns, (seen.left + seen.width) * EMU_PER_PX, lastColumn),
    row: indexAt(rows, (seen.top + seen.height) * EMU_PER_PX, lastRow),
  };
  const cellAt = (event: { clientX: number; clientY: number }) => {
    const box = ground.current?.getBoundingClientRect();
    const [inX, inY] = [event.clientX - (box?.left ?? 0) - SIDE_PX, event.clientY - (box?.top ?? 0) - HEAD_PX];
    const frozenX = px(startOf(columns, sheet.frozen_columns));
    const frozenY = px(startOf(rows, sheet.frozen_rows));
    const x = inX < frozenX ? inX : inX + seen.left;
    const y = inY < frozenY ? inY : inY + seen.top;
    return { column: indexAt(columns, x * EMU_PER_PX, lastColumn), row: indexAt(rows, y * EMU_PER_PX, lastRow) };
  };
  const follow = (event: PointerEvent, done: boolean) => {
    if (anchor.current) onChoose(wholeOf(between(anchor.current, cellAt(event)), sheet.merged), done);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== ground.current) return;
    const way = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[event.key];
    if (event.key === "Enter") {
      event.preventDefault();
      onEnter();
    }
    if (!way || event.ctrlKey || event.altKey) return;
    event.preventDefault();
    const now = chosen ?? { top: 0, left: 0, bottom: -1, right: 0 };
    const corner = event.shiftKey && chosen ? { row: now.top, column: now.left } : null;
    const from = corner ? { row: now.bottom, column: now.right } : { row: now.top, column: now.left };
    const to = {
      row: Math.min(Math.max(from.row + (chosen ? (way[0] ?? 0) : 0), 0), MOST_ROWS - 1),
      column: Math.min(Math.max(from.column + (chosen ? (way[1] ?? 0) : 0), 0), MOST_COLUMNS - 1),
    };
    onChoose(wholeOf(between(corner ?? to, to), sheet.merged), true);
    reveal(ground.current, columns, rows, to, sheet);
  };
  const frozenRows = range(0, sheet.frozen_rows - 1);
  const frozenColumns = range(0, sheet.frozen_columns - 1);
  const shownRows = range(Math.max(firstShown.row, sheet.frozen_rows), lastShown.row);
  const shownColumns = range(Math.max(firstShown.column, sheet.frozen_columns), lastShown.column);
  const cells = useCells(props.destination, props.number, firstShown.row, lastShown.row, sheet.used_rows);
  const heads = useCells(props.destination, props.number, 0, Math.max(sheet.frozen_rows - 1, 0), sheet.used_rows);
  const layer = { sheet, rows };
  // In every layer, each of which shows its own part of it.
  const outline = chosen && (
    <span className="grid-outlined">
      <Chosen cells={chosen} columns={columns} rows={rows} />
    </span>
  );
  return (
    <div
      ref={ground}
      className="grid-ground"
      role="grid"
      tabIndex={0}
      aria-label={`Sheet ${sheet.name}`}
      aria-rowcount={lastRow}
      aria-colcount={lastColumn}
      data-sheet={sheet.name}
      onScroll={look}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        // A menu of something on the sheet is its child here, but stands elsewhere on the page.
        const { target } = event;
        const isOn = target instanceof HTMLElement && event.currentTarget.contains(target);
        if (event.button !== 0 || !isOn || target.closest(".grid-things > *")) return;
        const at = cellAt(event);
        anchor.current = event.shiftKey && chosen ? { row: chosen.top, column: chosen.left } : at;
        event.currentTarget.setPointerCapture(event.pointerId);
        follow(event, false);
      }}
      onPointerMove={(event) => {
        follow(event, false);
      }}
      onPointerUp={(event) => {
        follow(event, true);
        anchor.current = null;
      }}
      onDragOver={(event: DragEvent) => {
        if (!isOwnDrag(event)) return;
        event.preventDefault();
        const at = cellAt(event);
        const inside =
          chosen &&
          chosen.top <= at.row &&
          at.row <= chosen.bottom &&
          chosen.left <= at.column &&
          at.column <= chosen.right;
        if (!inside) onChoose(wholeOf(between(at, at), sheet.merged), false);
      }}
      onDrop={(event: DragEvent) => {
        if (!isOwnDrag(event)) return;
        event.preventDefault();
        const at = cellAt(event);
        props.onDrop(chosen ?? wholeOf(between(at, at), sheet.merged), event.dataTransfer);
      }}
    >
      <div
        className="grid-sheet"
        style={{ width: SIDE_PX + px(startOf(columns, lastColumn)), height: HEAD_PX + px(startOf(rows, lastRow)) }}
      >
        <div className={`grid-cells ${seen.left === 0 && seen.top === 0 ? "grid-cells-unscrolled" : ""}`}>
          <CellLayer {...layer} shownRows={shownRows} shownColumns={shownColumns} cells={cells} />
          {outline}
          <div className="grid-things">{props.children}</div>
        </div>
        <div className="grid-heads" role="row">
          {[...frozenColumns, ...shownColumns].map((column) => (
            <ColumnHead
              key={column}
              column={column}
              columns={columns}
              chosen={chosen}
              pinned={frozenColumns.includes(column)}
            />
          ))}
        </div>
        <div className="grid-sides">
          {shownRows.map((row) => (
            <RowHead key={row} row={row} rows={rows} chosen={chosen} />
          ))}
        </div>
        {frozenRows.length > 0 && (
          <div className="grid-frozen-rows" style={{ height: px(startOf(rows, sheet.frozen_rows)) }}>
            <CellLayer {...layer} shownRows={frozenRows} shownColumns={shownColumns} cells={heads} />
            {outline}
          </div>
        )}
        {frozenColumns.length > 0 && (
          <div className="grid-frozen-columns" style={{ width: px(startOf(columns, sheet.frozen_columns)) }}>
            <CellLayer {...layer} shownRows={shownRows} shownColumns={frozenColumns} cells={cells} />
            {outline}
          </div>
        )}
        <div
          className="grid-corner"
          style={{
            width: SIDE_PX + px(startOf(columns, sheet.frozen_columns)),
            height: HEAD_PX + px(startOf(rows, sheet.frozen_rows)),
          }}
        >
          {frozenRows.map((row) => (
            <RowHead key={row} row={row} rows={rows} chosen={chosen} lowered />
          ))}
          {frozenColumns.map((column) => (
            <ColumnHead key={column} column={column} columns={columns} chosen={chosen} pinned shifted />
          ))}
          <div className="grid-corner-cells">
            <CellLayer {...layer} shownRows={frozenRows} shownColumns={frozenColumns} cells={heads} />
            {outline}
          </div>
        </div>
      </div>
    </div>
  );
}

/** Bring a cell into view, beside the heads and what is frozen. */
export function reveal(
  ground: HTMLElement | null,
  columns: Tracks,
  rows: Tracks,
  at: { row: number; column: number },
  sheet: GridSheet,
): void {
  if (!ground) return;
  const frozenX = startOf(columns, sheet.frozen_columns) / EMU_PER_PX;
  const frozenY = startOf(rows, sheet.frozen_rows) / EMU_PER_PX;
  const [x, y] = [startOf(columns, at.column) / EMU_PER_PX, startOf(rows, at.row) / EMU_PER_PX];
  const [wide, high] = [sizeOf(columns, at.column) / EMU_PER_PX, sizeOf(rows, at.row) / EMU_PER_PX];
  if (x - frozenX < ground.scrollLeft) ground.scrollLeft = x - frozenX;
  else if (x + wide > ground.scrollLeft + ground.clientWidth - SIDE_PX)
    ground.scrollLeft = x + wide - ground.clientWidth + SIDE_PX;
  if (y - frozenY < ground.scrollTop) ground.scrollTop = y - frozenY;
  else if (y + high > ground.scrollTop + ground.clientHeight - HEAD_PX)
    ground.scrollTop = y + high - ground.clientHeight + HEAD_PX;
}

function range(first: number, last: number): number[] {
  return Array.from({ length: Math.max(last - first + 1, 0) }, (_, index) => first + index);
}
