import { queries, refresh, showError } from "../../api/bench";
import { ProblemError, api, must, upload, type Clipping, type Frame, type LastArea } from "../../api/client";
import { currentOptions } from "../../api/options";
import { copyClipping } from "../../api/out";
import { type KindName, say, useBenchState, type Cut } from "../../base/state";
import { NOTHING_FOUND, cutOf, firstOf, paneTargets, targetsAt, windowTarget } from "./picking";
import { encodePng } from "./png";
import { grabShared, useShare } from "./share";

/** What taking does, for the room and for the panel beside it. */

/** Where the mouse pointer is on the live desk; null where that is not known. */
export const live: { pointer: { x: number; y: number } | null } = { pointer: null };

const set = useBenchState.getState().set;

/** Freeze what the source shows now; null when it could not be frozen, which has been said. */
export async function freeze(): Promise<Frame | null> {
  const { source } = useBenchState.getState();
  set({ freezing: true });
  try {
    const frame = source === "share" ? await freezeShared() : await freezeOnServer(source);
    set({ frame, cut: null, kept: null });
    return frame;
  } catch (error) {
    showError(error);
    return null;
  } finally {
    set({ freezing: false });
  }
}

async function freezeOnServer(source: string): Promise<Frame> {
  const pointer = source === "desk" ? live.pointer : null;
  const params = { path: { source } };
  return must(await api.POST("/api/v1/sources/{source}/frames", { params, body: { pointer } }));
}

async function freezeShared(): Promise<Frame> {
  const png = await encodePng(await grabShared());
  const scale = window.devicePixelRatio || 1;
  return (await upload("frames", png, useShare.getState().title, `&scale_factor=${scale.toString()}`)) as Frame;
}

/** Take up a frame that was frozen elsewhere, as by the command line. */
export async function takeUpFrame(id: string): Promise<void> {
  try {
    const frame = await frameOf(id);
    set({ frame, cut: null, source: frame.source });
  } catch (error) {
    showError(error);
  }
}

export async function frameOf(id: string): Promise<Frame> {
  return must(await api.GET("/api/v1/frames/{frame}", { params: { path: { frame: id } } }));
}

export function toLive(): void {
  set({ frame: null, cut: null });
}

/** Hold what was clicked on the live screen: the window, pane or monitor there, on a fresh frozen picture. */
export async function holdAt(kind: KindName, at: (frame: Frame) => { x: number; y: number }): Promise<void> {
  const frame = await freeze();
  if (!frame) return;
  const { contentOnly } = useBenchState.getState();
  const { x, y } = at(frame);
  const points = kind === "pane" || kind === "screen" ? kind : "window";
  const panes = points === "pane" ? paneTargets(frame, await panesOf(frame.id)) : [];
  const targets = targetsAt(points, frame, panes, x, y, contentOnly);
  const target = targets[firstOf(targets)];
  if (target) set({ kind: points, cut: cutOf(points, target, contentOnly), monitor: monitorOf({ x, y }, frame) });
}

/** The panes that are found in a frame, asked for once. */
export function panesQuery(frame: string) {
  return {
    queryKey: ["panes", frame],
    staleTime: Infinity,
    queryFn: async () => must(await api.GET("/api/v1/frames/{frame}/panes", { params: { path: { frame } } })),
  };
}

async function panesOf(frame: string) {
  return queries.query(panesQuery(frame)).catch(() => NOTHING_FOUND);
}

/** Hold a whole window of the frozen screen, freezing first where that has not been done. */
export async function pickWindow(id: string): Promise<void> {
  const frame = useBenchState.getState().frame ?? (await freeze());
  const window = frame?.windows.find((each) => each.id === id);
  if (!window) return;
  const { contentOnly } = useBenchState.getState();
  const { area } = windowTarget(window, contentOnly);
  set({ kind: "window", cut: { kind: "window", area, window: id, contentOnly }, monitor: monitorOf(area, frame) });
}

function monitorOf(area: { x: number; y: number }, frame: Frame | null): string | null {
  const { monitor } = useBenchState.getState();
  if (monitor === null) return null;
  const on = frame?.monitors.find(
    ({ box }) => area.x >= box.x && area.x < box.x + box.width && area.y >= box.y && area.y < box.y + box.height,
  );
  return on?.id ?? monitor;
}

/** Hold the last area once more, on a fresh frame where the screen is live. */
export async function lastAreaAgain(): Promise<void> {
  const frame = useBenchState.getState().frame ?? (await freeze());
  if (!frame) return;
  try {
    const params = { path: { frame: frame.id } };
    const last = must(await api.GET("/api/v1/frames/{frame}/last-area", { params })) as LastArea | null;
    if (!last) {
      say("Nothing has been taken yet: there is no last area.");
      return;
    }
    const cut: Cut = { kind: last.kind, area: last.area, contentOnly: last.content_only };
    if (last.outline) cut.outline = last.outline;
    if (last.window !== null) cut.window = last.window;
    set({ kind: last.kind === "long-page" ? "region" : last.kind, cut, monitor: monitorOf(last.area, frame) });
    if (last.note) say(last.note);
  } catch (error) {
    showError(error);
  }
}

const RETRY_AFTER_MS = [500, 1_000, 2_000, 4_000, 8_000];

/** An id for a clipping that is still to be made: asked again with it, the server makes it once. */
function freshId(): string {
  return [...crypto.getRandomValues(new Uint8Array(8))].map((each) => each.toString(16).padStart(2, "0")).join("");
}

/** Ask again while nobody answers; a refusal is an answer. */
async function retried<T>(ask: () => Promise<T>): Promise<T> {
  for (const wait of RETRY_AFTER_MS) {
    try {
      return await ask();
    } catch (error) {
      if (error instanceof ProblemError && error.problem.code !== "unreadable") throw error;
      say("Tijera does not answer; trying again. What you hold is kept.");
      await new Promise((resolve) => setTimeout(resolve, wait));
    }
  }
  return ask();
}

let keeping = false;

/** Keep what is held, and land it in the chosen place if asked. Resolves to whether it stands in a document now. */
export async function keep(frame: Frame, cut: Cut, place: boolean): Promise<"kept" | "placed" | "failed"> {
  // The second of two quick keys means the same clipping.
  if (keeping) return "failed";
  keeping = true;
  try {
    return await keepOnce(frame, cut, place);
  } finally {
    keeping = false;
  }
}

/** Keep what is held on the frozen screen, if anything is, and give it: what is copied or saved then is just that. */
export async function keepHeld(): Promise<Clipping | null> {
  const { frame, cut } = useBenchState.getState();
  if (!frame || !cut || (await keep(frame, cut, false)) === "failed") return null;
  const clipping = useBenchState.getState().clipping ?? "";
  return must(await api.GET("/api/v1/clippings/{clipping}", { params: { path: { clipping } } }));
}

async function keepOnce(frame: Frame, cut: Cut, place: boolean): Promise<"kept" | "placed" | "failed"> {
  const options = currentOptions();
  const body = {
    id: freshId(),
    kind: cut.kind,
    area: cut.area,
    outline: cut.outline ? cut.outline.map(([x, y]): [number, number] => [x, y]) : null,
    window: cut.window ?? null,
    content_only: cut.contentOnly ?? false,
    pointer: (options?.pointer ?? false) && frame.has_pointer,
    place,
    destination: fileNow(),
  };
  try {
    const params = { path: { frame: frame.id } };
    const taken = await retried(async () => must(await api.POST("/api/v1/frames/{frame}/clippings", { params, body })));
    await refresh();
    set({ clipping: taken.clipping, placement: taken.placement ?? null });
    // A joined page is one of its own: the next thing is taken as most are.
    if (useBenchState.getState().kind === "long-page") set({ kind: "region" });
    if (!taken.placement) set({ kept: { id: taken.clipping, name: taken.name } });
    toLive();
    await tell(taken, options?.to_clipboard ?? false);
    return taken.placement ? "placed" : "kept";
  } catch (error) {
    showError(error);
    return "failed";
  }
}

/** The file of this window as the server is told of it: an empty name for none. */
function fileNow(): string | null {
  const { file } = useBenchState.getState();
  return file === undefined ? null : (file ?? "");
}

interface Taken {
  clipping: string;
  name: string;
  placement: string | null;
  note?: string | null;
}

async function tell(taken: Taken, toClipboard: boolean): Promise<void> {
  const more = { canUndo: true, ...(taken.note ? { detail: taken.note } : {}) };
  const document = queries.getQueryData<{ destination: { name: string } | null }>(["bench"])?.destination?.name;
  if (toClipboard) {
    const kept = await api.GET("/api/v1/clippings/{clipping}", { params: { path: { clipping: taken.clipping } } });
    await copyClipping(must(kept));
  } else if (taken.placement) {
    say(`${taken.name} stands in ${document ?? "the document"}.`, more);
  } else {
    say(`${taken.name} hangs on the rack.`, more);
  }
}
