import { create } from "zustand";
import type { components } from "./schema";
import type { Area } from "./units";

type Frame = components["schemas"]["FrameOut"];
type Problem = components["schemas"]["Problem"];

export type KindName = "region" | "window" | "pane" | "freehand" | "screen" | "long-page";

/** What is held on a frozen screen, to be kept or placed. */
export interface Cut {
  kind: KindName;
  area: Area;
  outline?: readonly (readonly [number, number])[];
  window?: string;
  contentOnly?: boolean;
}

export interface Intake {
  done: number;
  of: number;
  stop: () => void;
}

/** What only this window knows: what is in hand, which panel is open, what was last said. */

export interface Notice {
  kind: "done" | "problem" | "fitted";
  title: string;
  detail?: string;
  remedy?: string;
  lines?: string[];
  canUndo?: boolean;
  href?: string;
  /** Whether what was given up can be looked at. */
  canCompare?: boolean;
  /** What can be done about it, each in one action. */
  actions?: NoticeAction[];
  /** It may go by itself: what it offers can be had elsewhere too. */
  isBrief?: boolean;
}

export interface NoticeAction {
  words: string;
  run: () => void;
}

export interface Fitting {
  job: string;
  done: number;
  of: number;
  doing: string;
}

/** What fitting would make of a picture: of a clipping in its places, or of one of the file's own. */
export interface ProposedPicture {
  placements: string[];
  member: string | null;
  bytes: number;
  note: string;
}

/** What *Make it fit* would do to a file of so many bytes. */
export interface Proposal {
  destination: string;
  of_bytes: number;
  file_bytes: number;
  pictures: ProposedPicture[];
}

interface State {
  /** The file that this window shows, by its id; null for none, undefined until the server has said which was last. */
  file: string | null | undefined;
  /** The clipping in hand; null means the newest. */
  clipping: string | null;
  placement: string | null;
  panel: "rack" | "screen";
  rackOpen: boolean;
  galleyOpen: boolean;
  keysOpen: boolean;
  notice: Notice | null;
  fitting: Fitting | null;
  proposal: Proposal | null;
  /** The picture that is compared with its original, by its member; empty for the first that gave something up. */
  comparing: string | null;
  optionsOpen: boolean;
  /** What is looked for on the rack; its words are marked on the pictures. */
  finding: string;
  /** Which part of Hand over is shown; null for the first. */
  handOver: "arrives" | "weighs" | "sending" | "links" | "files" | null;
  intake: Intake | null;
  /** Where pictures are taken from, by which kind of cut, and which monitor is looked at (null: all). */
  source: string;
  kind: KindName;
  contentOnly: boolean;
  monitor: string | null;
  /** The frozen screen and what is held on it: kept while one goes to choose a place. */
  frame: Frame | null;
  cut: Cut | null;
  /** Whether a frozen picture is on its way. */
  freezing: boolean;
  /** What was just kept and has not been gone on with. */
  kept: { id: string; name: string } | null;
  /** What is taken for, where that is no place in a file: a picture saved under a name of one's own. */
  goal: "picture" | null;
  /** The tool that is to be in hand when Trim opens. */
  wishedTool: string | null;
  /** Bytes that the area in hand would add, for the weight rail. */
  about: number | null;
  /** What is on its way to its place: the weight rail counts it before the server has answered. */
  placing: readonly { id: string; destination: string; clipping: string }[];
  set: (values: Partial<Omit<State, "set">>) => void;
}

/** The file that the address of this window names. */
function fileOfAddress(): string | null {
  return typeof location === "undefined" ? null : new URLSearchParams(location.search).get("file");
}

export const useBenchState = create<State>((set) => ({
  file: fileOfAddress() ?? undefined,
  clipping: null,
  placement: null,
  panel: "rack",
  rackOpen: false,
  galleyOpen: false,
  keysOpen: false,
  notice: null,
  fitting: null,
  proposal: null,
  comparing: null,
  optionsOpen: false,
  finding: "",
  handOver: null,
  intake: null,
  source: "desk",
  kind: "region",
  contentOnly: false,
  monitor: "left",
  frame: null,
  cut: null,
  freezing: false,
  kept: null,
  goal: null,
  wishedTool: null,
  about: null,
  placing: [],
  set,
}));

/** Show another file in this window, or none; what was said of the one before goes with it. */
export function showFile(file: string | null): void {
  useBenchState.getState().set({ file, placement: null, notice: null, comparing: null, goal: null });
}

/** A room's address in this window, with the file that it shows. */
export function addressOf(room: string): string {
  const { file } = useBenchState.getState();
  return file ? `${room}?file=${file}` : room;
}

export function say(title: string, more: Omit<Notice, "kind" | "title"> = {}): void {
  useBenchState.getState().set({ notice: { kind: "done", title, ...more } });
}

export function sayProblem(problem: Problem, more: Pick<Notice, "actions" | "lines"> = {}): void {
  const { title, detail, remedy } = problem;
  useBenchState.getState().set({ notice: { kind: "problem", title, detail, remedy, ...more } });
}
