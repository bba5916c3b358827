import { useQueries } from "@tanstack/react-query";
import { api, must, type GridCell } from "../../../api/client";

const ROWS_AT_ONCE = 200;

/** The cells of the rows in view, asked for in pieces; by row. */
export function useCells(
  destination: string,
  sheet: number,
  first: number,
  last: number,
  used: number,
): Map<number, GridCell[]> {
  const pieces: number[] = [];
  const end = Math.min(last, used - 1);
  for (let piece = Math.floor(first / ROWS_AT_ONCE); piece * ROWS_AT_ONCE <= end; piece += 1) pieces.push(piece);
  return useQueries({
    queries: pieces.map((piece) => ({
      queryKey: ["cells", destination, sheet, piece],
      staleTime: Infinity,
      queryFn: async () =>
        must(
          await api.GET("/api/v1/destinations/{destination}/cells", {
            params: {
              path: { destination },
              query: { sheet, first: piece * ROWS_AT_ONCE, last: (piece + 1) * ROWS_AT_ONCE - 1 },
            },
          }),
        ),
    })),
    combine: (answers) => {
      const rows = new Map<number, GridCell[]>();
      for (const answer of answers)
        for (const cell of answer.data ?? []) {
          const row = rows.get(cell.row);
          if (row) row.push(cell);
          else rows.set(cell.row, [cell]);
        }
      return rows;
    },
  });
}
