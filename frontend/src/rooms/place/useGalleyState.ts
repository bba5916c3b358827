import { useDeferredValue, useMemo, useState } from "react";
import { chooseSpot, chosenSpotNow, inHandNow, placeClipping, useInHand, useOutline } from "../../api/bench";
import type { Destination } from "../../api/client";
import { useBenchState } from "../../base/state";
import { bySpot, readingOrder } from "./blocks";
import type { GalleyState } from "./GalleyContext";

/** The state that a galley of any shape shares; null until the outline is there. */
export function useGalleyState(
  destination: Destination,
  pxPerMm: number,
  sets: boolean,
): { state: GalleyState; order: string[] } | null {
  const outline = useOutline(destination.id, destination.version).data;
  const { clipping } = useInHand();
  // What lies in hand is only named here: another one need not hold up the room that shows it.
  const inHand = useDeferredValue(clipping);
  const chosenPlacement = useBenchState((state) => state.placement);
  const [focused, setFocused] = useState<string | null>(null);
  const order = useMemo(() => (outline ? readingOrder(outline) : []), [outline]);
  return useMemo(() => {
    if (!outline) return null;
    const { id, placements } = destination;
    const chosenSpot = destination.spot?.id ?? null;
    const { set } = useBenchState.getState();
    const state: GalleyState = {
      destination: id,
      outline,
      placed: bySpot(placements),
      chosenSpot,
      chosenPlacement,
      currentSpot: focused ?? chosenSpot ?? order[0] ?? null,
      inHand,
      pxPerMm,
      sets,
      onFocusSpot: setFocused,
      onSpot: (spot) => {
        const chosen = outline.spots[spot];
        const now = inHandNow();
        if (spot === chosenSpotNow(id) && now !== null) void placeClipping(id, now, spot);
        else if (chosen) void chooseSpot(id, chosen);
      },
      onDropClipping: (spot, dropped) => {
        set({ clipping: dropped });
        void placeClipping(id, dropped, spot);
      },
      onPlacement: (placement) => {
        set({ placement: placement === chosenPlacement ? null : placement });
      },
    };
    return { state, order };
  }, [outline, destination, chosenPlacement, focused, order, inHand, pxPerMm, sets]);
}
