import { useEffect, useRef } from "react";
import type { Destination, Weight } from "../../api/client";
import { makeItFit } from "./fitting";

/**
 * A file that was made to fit stays so: where a clipping more brings it over its limit, all are fitted anew at once.
 *
 * Only what is placed sets this off. Undoing a fit, another limit, another rendition do not: what the user did stands.
 */
export function useKeptFitting(destination: Destination | null, weight: Weight | null): void {
  const seen = useRef<{ id: string; count: number } | null>(null);
  useEffect(() => {
    if (!destination || !weight) return;
    const before = seen.current;
    const count = destination.placements.length;
    seen.current = { id: destination.id, count };
    const isMore = before?.id === destination.id && count > before.count;
    const isOver = weight.limit_bytes !== null && weight.file_bytes > weight.limit_bytes;
    if (isMore && isOver && destination.keeps_fitting) void makeItFit(destination.id);
  }, [destination, weight]);
}
