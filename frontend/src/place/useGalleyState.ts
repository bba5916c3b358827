import { useMemo, useState } from "react";
import { chooseSpot, placeClipping, useInHand, useOutline } from "../api/bench";
import type { Destination } from "../api/client";
import { useBenchState } from "../app/state";
import { bySpot, readingOrder } from "./blocks";
import type { GalleyState } from "./GalleyContext";

/** The state that a galley of any shape shares; null until the outline is there. */
export function useGalleyState(
  destination: Destination,
  pxPerMm: number,
  sets: boolean,
): { state: GalleyState; order: string[] } | null {
  const outline = useOutline(destination.id).data;
  const { id: inHand, clipping } = useInHand();
  const chosenPlacement = useBenchState((state) => state.placement);
  const set = useBenchState((state) => state.set);
  const [focused, setFocused] = useState<string | null>(null);
  const order = useMemo(() => (outline ? readingOrder(outline) : []), [outline]);
  const placed = useMemo(() => bySpot(destination.placements), [destination.placements]);
  if (!outline) return null;
  const chosenSpot = destination.spot?.id ?? null;
  const state: GalleyState = {
    destination: destination.id,
    outline,
    placed,
    chosenSpot,
    chosenPlacement,
    currentSpot: focused ?? chosenSpot ?? order[0] ?? null,
    inHand: clipping,
    pxPerMm,
    sets,
    onFocusSpot: setFocused,
    onSpot: (spot) => {
      const chosen = outline.spots[spot];
      if (spot === chosenSpot && inHand !== null) void placeClipping(destination.id, inHand, spot);
      else if (chosen) void chooseSpot(destination.id, chosen);
    },
    onDropClipping: (spot, dropped) => {
      set({ clipping: dropped });
      void placeClipping(destination.id, dropped, spot);
    },
    onPlacement: (placement) => {
      set({ placement: placement === chosenPlacement ? null : placement });
    },
  };
  return { state, order };
}
