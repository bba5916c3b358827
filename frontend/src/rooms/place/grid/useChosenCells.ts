import { useRef, useState } from "react";
import { chooseSpotNamed } from "../../../api/bench";
import type { Destination } from "../../../api/client";
import { type Cells, cellsName, cellsOf, sheetOf } from "./cells";

const WAIT_MS = 180;

interface ChosenCells {
  cells: Cells | null;
  /** Cells are being chosen; once it is `done`, the place is saved a moment after the last of several steps. */
  choose: (cells: Cells, done: boolean, sheet?: string) => void;
  /** What was being chosen came to nothing. */
  drop: () => void;
}

/** The cells that are chosen on a sheet: those chosen here last, until the server knows of them; else the place that it keeps. */
export function useChosenCells(destination: Destination, shown: string): ChosenCells {
  const [chosen, setChosen] = useState<{ sheet: string; cells: Cells } | null>(null);
  const timer = useRef<number | undefined>(undefined);
  const spot = destination.spot?.id ?? "";
  const kept = sheetOf(spot) === shown ? cellsOf(spot) : null;
  return {
    cells: chosen?.sheet === shown ? chosen.cells : kept,
    choose: (cells, done, sheet = shown) => {
      const own = { sheet, cells };
      setChosen(own);
      window.clearTimeout(timer.current);
      if (!done) return;
      timer.current = window.setTimeout(() => {
        void chooseSpotNamed(destination.id, `${sheet}!${cellsName(cells)}`).then(() => {
          setChosen((now) => (now === own ? null : now));
        });
      }, WAIT_MS);
    },
    drop: () => {
      window.clearTimeout(timer.current);
      setChosen(null);
    },
  };
}
