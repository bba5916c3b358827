import { type KeyboardEvent, useEffect, useEffectEvent } from "react";
import { chosenSpotNow, inHandNow, takeOut } from "../../api/bench";
import { useKeys } from "../../api/keys";
import { useBenchState } from "../../base/state";
import type { GalleyState } from "./GalleyContext";

/** The keys that every way of seeing a destination has: take the chosen picture out, let it go. */
export function usePlacedKeys(): void {
  const placement = useBenchState((state) => state.placement);
  const set = useBenchState((state) => state.set);
  useKeys({
    "take-out": () => {
      if (placement) void takeOut(placement);
    },
    leave: () => {
      set({ placement: null });
    },
  });
}

/** Enter means the chosen place also where nothing has the focus: what was clicked may have been drawn anew since. */
export function useEnterPlaces(galley: GalleyState | undefined): void {
  const onEnter = useEffectEvent((event: globalThis.KeyboardEvent) => {
    const { key, ctrlKey, metaKey, altKey, shiftKey, target } = event;
    if (key !== "Enter" || ctrlKey || metaKey || altKey || shiftKey || target !== document.body || !galley) return;
    const spot = chosenSpotNow(galley.destination);
    const stands = galley.placed.get(spot ?? "")?.some((each) => each.clipping === inHandNow()) ?? false;
    if (spot !== null && !stands) galley.onSpot(spot);
  });
  useEffect(() => {
    window.addEventListener("keydown", onEnter);
    return () => {
      window.removeEventListener("keydown", onEnter);
    };
  }, []);
}

/** Arrow keys go from place to place, in reading order. `reveal` brings one that is not there yet. */
export function moveAmongSpots(
  event: KeyboardEvent,
  order: string[],
  current: string | null,
  reveal?: (spot: string) => void,
): void {
  const step = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[event.key];
  const onSpot = event.target instanceof HTMLElement && event.target.dataset["spot"] !== undefined;
  if (step === undefined || !onSpot) return;
  event.preventDefault();
  const next = order[order.indexOf(current ?? "") + step];
  if (next === undefined) return;
  reveal?.(next);
  const target = event.currentTarget.querySelector<HTMLElement>(`[data-spot="${CSS.escape(next)}"]`);
  target?.focus({ preventScroll: true });
  target?.scrollIntoView({ block: "nearest", inline: "nearest" });
}
