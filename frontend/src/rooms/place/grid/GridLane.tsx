import { useEffect, useMemo, useRef } from "react";
import { useGrid } from "../../../api/bench";
import type { Destination, Placement } from "../../../api/client";
import { widthWords } from "../../../base/format";
import { cellsOf, sheetOf, withOwn } from "./cells";
import { grownRows } from "./grown";
import { GridThings } from "./GridThings";
import { GridView, reveal } from "./GridView";

/** The sheet beside the mat: the cells round the picture, or round the chosen place. */
export function GridLane({ destination, placement }: { destination: Destination; placement: Placement | null }) {
  const grid = useGrid(destination.id).data;
  const lane = useRef<HTMLDivElement>(null);
  const spot = placement?.spot ?? destination.spot?.id ?? "";
  const name = sheetOf(spot);
  const number = Math.max(grid?.sheets.findIndex((each) => each.name === name) ?? 0, 0);
  const sheet = grid?.sheets[number];
  const rows = useMemo(
    () => (sheet ? withOwn(sheet.rows, grownRows(destination, sheet.name)) : null),
    [sheet, destination],
  );
  useEffect(() => {
    const at = cellsOf(spot);
    const ground = lane.current?.querySelector<HTMLElement>(".grid-ground");
    if (at && sheet && rows && ground) reveal(ground, sheet.columns, rows, { row: at.top, column: at.left }, sheet);
  }, [spot, sheet, rows]);
  if (!sheet || !rows) return null;
  return (
    <>
      <div className="lane-head">
        <h3>{sheet.name}</h3>
        <span>{destination.spot ? widthWords(destination.spot) : "no place chosen"}</span>
      </div>
      <div className="grid-lane" ref={lane}>
        <GridView
          destination={destination.id}
          number={number}
          sheet={sheet}
          rows={rows}
          chosen={cellsOf(spot)}
          onChoose={() => undefined}
          onEnter={() => undefined}
          onDrop={() => undefined}
        >
          <GridThings destination={destination} sheet={sheet} rows={rows} />
        </GridView>
      </div>
    </>
  );
}
