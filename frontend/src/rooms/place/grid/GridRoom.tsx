import { EMU_PER_PX } from "../../../base/units";
import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import { useEffect, useMemo, useRef, useState } from "react";
import { inHandNow, movePlacement, placeClipping, showError, useGrid, useInHand } from "../../../api/bench";
import { api, type Destination, type Grid } from "../../../api/client";
import { mm, whole } from "../../../base/format";
import { FootHint } from "../../FootHint";
import { OpenAnother } from "../../OpenAnother";
import { useBenchState } from "../../../base/state";
import { CLIPPING_TYPE, PLACEMENT_TYPE } from "../../rack";
import { usePlacedKeys } from "../keys";
import { type Cells, cellsName, cellsOf, sheetOf, startOf, type Tracks, withOwn } from "./cells";
import { grownRows } from "./grown";
import { GridFoot } from "./GridFoot";
import { GridThings } from "./GridThings";
import { GridView, reveal } from "./GridView";
import { useChosenCells } from "./useChosenCells";

/** The sheets of a spreadsheet at their true measures; any cells can take a clipping. */
export function GridRoom({ destination }: { destination: Destination }) {
  const grid = useGrid(destination.id).data;
  if (!grid) return <main className="room-body galley-empty">Reading the sheets…</main>;
  return <Sheets destination={destination} grid={grid} />;
}

function Sheets({ destination, grid }: { destination: Destination; grid: Grid }) {
  const shown = grid.sheets.filter((each) => !each.hidden);
  const placement = useBenchState((state) => state.placement);
  const set = useBenchState((state) => state.set);
  const standing = destination.placements.find((each) => each.id === placement);
  const begin = sheetOf(standing?.spot ?? destination.spot?.id ?? "");
  const [name, setName] = useState(begin || (shown[0]?.name ?? ""));
  const number = Math.max(
    grid.sheets.findIndex((each) => each.name === name),
    0,
  );
  const sheet = grid.sheets[number];
  const { cells: chosen, choose, drop } = useChosenCells(destination, name);
  const { clipping } = useInHand();
  const [pulled, setPulled] = useState<number | null>(null);
  const room = useRef<HTMLElement>(null);
  const rows = useMemo(
    () => (sheet ? withOwn(sheet.rows, grownRows(destination, name)) : null),
    [sheet, destination, name],
  );
  useEffect(() => {
    const at = cellsOf(standing?.spot ?? destination.spot?.id ?? "");
    const ground = room.current?.querySelector<HTMLElement>(".grid-ground");
    if (at && sheet && rows && ground) reveal(ground, sheet.columns, rows, { row: at.top, column: at.left }, sheet);
  }, [name, placement]); // eslint-disable-line react-hooks/exhaustive-deps -- when another sheet or picture is looked at, not while cells are chosen
  usePlacedKeys();
  if (!sheet || !rows) return <main className="room-body galley-empty">There is no sheet to look at.</main>;
  const placeHere = (cells: Cells | null) => {
    const now = inHandNow();
    if (!cells || now === null) return;
    void placeClipping(destination.id, now, `${name}!${cellsName(cells)}`);
  };
  const here = chosen && `${name}!${cellsName(chosen)}`;
  const standsHere = destination.placements.some((each) => each.clipping === clipping?.id && each.spot === here);
  const said = chosen
    ? says(chosen, sheet.columns, clipping?.name ?? null, standsHere)
    : "Choose a cell, or pull over several";
  return (
    <main className="room-body place" ref={room}>
      <div className="tool-line">
        <span className="tool-name">Grid</span>
        <nav aria-label="Sheets" className="grid-tabs">
          {shown.map((each) => (
            <button
              key={each.name}
              type="button"
              className="grid-tab"
              aria-current={each.name === name}
              onClick={() => {
                setName(each.name);
              }}
            >
              {each.name}
            </button>
          ))}
        </nav>
        <span className="tool-says" aria-live="polite" title={said}>
          {said}
        </span>
        <span className="tool-end">
          {chosen && clipping && !standsHere && (
            <Button
              variant="contained"
              onClick={() => {
                placeHere(chosen);
              }}
            >
              Place it {chosen.left === chosen.right && chosen.top === chosen.bottom ? "at" : "over"}{" "}
              {cellsName(chosen)}
            </Button>
          )}
          <FindCell
            destination={destination.id}
            onFound={(found) => {
              const there = grid.sheets[found.sheet];
              if (!there) return;
              setName(there.name);
              const cells = { top: found.row, bottom: found.row, left: found.column, right: found.column };
              choose(cells, true, there.name);
              const ground = room.current?.querySelector<HTMLElement>(".grid-ground") ?? null;
              reveal(ground, there.columns, there.rows, { row: found.row, column: found.column }, there);
            }}
          />
          <OpenAnother />
        </span>
      </div>
      <FootHint>
        <p>
          {chosen
            ? "The cells are chosen: Enter puts the clipping in hand there, a drag in Take a new one."
            : "Click the cell from which the picture hangs, or pull over the cells that it fills."}
        </p>
      </FootHint>
      <GridView
        key={name}
        destination={destination.id}
        number={number}
        sheet={sheet}
        rows={rows}
        chosen={chosen}
        onChoose={choose}
        onEnter={() => {
          placeHere(chosen);
        }}
        onDrop={(cells, data) => {
          const spot = `${name}!${cellsName(cells)}`;
          const dropped = data.getData(CLIPPING_TYPE);
          const moved = data.getData(PLACEMENT_TYPE);
          drop();
          if (moved) void movePlacement(moved, spot);
          else if (dropped) {
            set({ clipping: dropped });
            void placeClipping(destination.id, dropped, spot);
          }
        }}
      >
        <GridThings {...{ destination, sheet, rows, pulled }} onPull={setPulled} />
      </GridView>
      <GridFoot destination={destination} pulled={pulled} />
    </main>
  );
}

/** "B3:F20, 84.7 mm (320 px) wide", and what Enter does. */
function says(cells: Cells, columns: Tracks, inHand: string | null, standsHere: boolean): string {
  const emu = startOf(columns, cells.right + 1) - startOf(columns, cells.left);
  const wide = `${cellsName(cells)}: ${mm(emu)} mm, ${whole(emu / EMU_PER_PX)} px wide`;
  if (inHand === null) return wide;
  return standsHere ? `${wide}; ${inHand} stands there` : `${wide}; Enter places ${inHand}`;
}

interface Found {
  sheet: number;
  row: number;
  column: number;
}

function FindCell({ destination, onFound }: { destination: string; onFound: (found: Found) => void }) {
  const [words, setWords] = useState("");
  const [last, setLast] = useState<Found | null>(null);
  const [lost, setLost] = useState(false);
  const go = async (from: Found | null) => {
    const after = from ? `${from.sheet.toString()},${from.row.toString()},${from.column.toString()}` : undefined;
    try {
      const answer = await api.GET("/api/v1/destinations/{destination}/found-cell", {
        params: { path: { destination }, query: after === undefined ? { words } : { words, after } },
      });
      const found = answer.data ?? null;
      setLast(found);
      setLost(words.trim() !== "" && found === null);
      if (found) onFound(found);
    } catch (error) {
      showError(error);
    }
  };
  return (
    <InputBase
      className="find-words"
      placeholder="Go to words…"
      value={words}
      inputProps={{ "aria-label": "Go to words", "data-find": "true", "aria-invalid": lost }}
      endAdornment={lost ? <span className="weak">not there</span> : null}
      onChange={(event) => {
        setWords(event.target.value);
        setLast(null);
        setLost(false);
      }}
      onKeyDown={(event) => {
        if (event.key !== "Enter") return;
        event.stopPropagation();
        void go(last);
      }}
    />
  );
}
