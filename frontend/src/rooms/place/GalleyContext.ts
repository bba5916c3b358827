import { EMU_PER_MM } from "../../base/units";
import { createContext, useContext } from "react";
import type { Outline, Placement } from "../../api/client";

/** What every part of a galley needs to know. */
export interface GalleyState {
  destination: string;
  outline: Outline;
  placed: Map<string, Placement[]>;
  chosenSpot: string | null;
  chosenPlacement: string | null;
  /** The spot that the Tab key reaches; arrows move it. */
  currentSpot: string | null;
  inHand: { id: string; name: string } | null;
  /** View pixels per millimetre. */
  pxPerMm: number;
  /** Whether the chosen picture carries what can be set; beside the mat it only stands there. */
  sets: boolean;
  onSpot: (spot: string) => void;
  onFocusSpot: (spot: string) => void;
  onDropClipping: (spot: string, clipping: string) => void;
  onPlacement: (placement: string) => void;
}

export const GalleyContext = createContext<GalleyState | null>(null);

export function useGalley(): GalleyState {
  const state = useContext(GalleyContext);
  if (!state) throw new Error("outside a galley");
  return state;
}

/** View pixels of a length. */
export function toPx(emu: number, pxPerMm: number): number {
  return (emu / EMU_PER_MM) * pxPerMm;
}
