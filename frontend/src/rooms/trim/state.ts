import { create } from "zustand";
import type { Mark, Options } from "../../api/sheet";
import type { Area } from "../../area/geometry";

/** What lies on the mat now: as it is worked on, the very picture that leaves, or as it was taken. */
export type Showing = "work" | "sent" | "original";

interface TrimState {
  tool: string;
  /** The chosen marks, by id. */
  chosen: readonly string[];
  /** Options set for the next mark of a kind, before one is made with them. */
  styles: Record<string, Options>;
  copied: readonly Mark[];
  /** Whether pasting means the copied marks: they were copied last. */
  pastes: boolean;
  showing: Showing;
  /** Parts that are drawn and not yet made. */
  parts: readonly Area[];
  /** A scale that is tried and not yet set. */
  scale: number | null;
  /** Changes that wait for the server. */
  away: number;
  set: (values: Partial<Omit<TrimState, "set">>) => void;
}

export const useTrim = create<TrimState>((set) => ({
  tool: "crop",
  chosen: [],
  styles: {},
  copied: [],
  pastes: false,
  showing: "work",
  parts: [],
  scale: null,
  away: 0,
  set,
}));

export function pickTool(tool: string): void {
  useTrim.getState().set({ tool, chosen: [], showing: "work", parts: [], scale: null });
}
