import { create } from "zustand";
import type { Frame, Problem } from "../api/client";
import type { Area } from "../area/geometry";

/** What only this window knows: what is in hand, which panel is open, what was last said. */

export interface Notice {
  kind: "done" | "problem" | "fitted";
  title: string;
  detail?: string;
  remedy?: string;
  lines?: string[];
  canUndo?: boolean;
  href?: string;
}

export interface Fitting {
  job: string;
  done: number;
  of: number;
  doing: string;
}

interface State {
  /** The clipping in hand; null means the newest. */
  clipping: string | null;
  placement: string | null;
  panel: "rack" | "screen";
  rackOpen: boolean;
  galleyOpen: boolean;
  keysOpen: boolean;
  notice: Notice | null;
  fitting: Fitting | null;
  /** The frozen screen and the region on it: kept while one goes to choose a place. */
  frame: Frame | null;
  area: Area | null;
  /** Bytes that the area in hand would add, for the weight rail. */
  about: number | null;
  set: (values: Partial<Omit<State, "set">>) => void;
}

export const useBenchState = create<State>((set) => ({
  clipping: null,
  placement: null,
  panel: "rack",
  rackOpen: false,
  galleyOpen: false,
  keysOpen: false,
  notice: null,
  fitting: null,
  frame: null,
  area: null,
  about: null,
  set,
}));

export function say(title: string, more: Omit<Notice, "kind" | "title"> = {}): void {
  useBenchState.getState().set({ notice: { kind: "done", title, ...more } });
}

export function sayProblem(problem: Problem): void {
  const pictures = problem.values["pictures"];
  const lines = Array.isArray(pictures)
    ? (pictures as { name: string; bytes: number }[]).map(
        (each) => `${each.name}: ${(each.bytes / 1000).toFixed(0)} kB`,
      )
    : [];
  useBenchState.getState().set({
    notice: { kind: "problem", title: problem.title, detail: problem.detail, remedy: problem.remedy, lines },
  });
}
