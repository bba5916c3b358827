import { useQuery } from "@tanstack/react-query";
import { clippingQuery, queries, refresh, showError } from "./bench";
import { say } from "../base/state";
import { type Destination, type Placement, ProblemError, type components, api, must } from "./client";

export type Sheet = components["schemas"]["SheetOut"];
export type Mark = components["schemas"]["MarkOut"];
export type Kinds = components["schemas"]["KindsOut"];
export type Kind = components["schemas"]["KindOut"];
export type Option = components["schemas"]["OptionOut"];
export type Smallest = components["schemas"]["SmallestOut"];
export type Door = components["schemas"]["DoorOut"];
export type Edit = components["schemas"]["EditIn"]["edit"];
/** A change, or how to make it of the sheet as it is by then: what was set just before must not be lost. */
export type Change = Edit | ((sheet: Sheet) => Edit);
export type OptionValue = string | number | boolean;
export type Options = Record<string, OptionValue>;

/** Where a clipping stands or would stand: marks are drawn at the size that it has there. */
export interface Where {
  placement?: string;
  destination?: string;
  spot?: string;
}

export function whereOf(placement: Placement | null, destination: Destination | null): Where {
  if (placement) return { placement: placement.id };
  const spot = destination?.spot;
  return destination && spot ? { destination: destination.id, spot: spot.id } : {};
}

const sheetKey = (clipping: string, where: Where) => ["sheet", clipping, where] as const;

function sheetQuery(clipping: string, where: Where) {
  return { queryKey: sheetKey(clipping, where), staleTime: Infinity, queryFn: () => fetchSheet(clipping, where) };
}

/** A clipping as it lies on the mat; asked again when somebody comes back to this window. */
export function useSheet(clipping: string, where: Where, enabled = true) {
  return useQuery({
    ...sheetQuery(clipping, where),
    enabled,
    refetchOnWindowFocus: "always",
    placeholderData: (before) => (before?.clipping === clipping ? before : undefined),
  });
}

export function useKinds() {
  return useQuery({
    queryKey: ["kinds"],
    staleTime: Infinity,
    queryFn: async () => must(await api.GET("/api/v1/marks/kinds")),
  }).data;
}

export function useSuggestions(clipping: string, version: string | undefined, enabled: boolean, panes = false) {
  return useQuery({
    queryKey: ["suggestions", clipping, version, panes],
    enabled: enabled && version !== undefined,
    staleTime: Infinity,
    placeholderData: (before, query) => (query?.queryKey[1] === clipping ? before : undefined),
    queryFn: async () =>
      must(
        await api.GET("/api/v1/clippings/{clipping}/suggestions", { params: { path: { clipping }, query: { panes } } }),
      ),
  }).data;
}

export function useSmallestText(clipping: string, version: string | undefined, where: Where, enabled: boolean) {
  return useQuery({
    queryKey: ["smallest", clipping, version, where],
    enabled: enabled && version !== undefined,
    staleTime: Infinity,
    meta: { quiet: true },
    placeholderData: (before, query) => (query?.queryKey[1] === clipping ? before : undefined),
    queryFn: async () =>
      must(
        await api.GET("/api/v1/clippings/{clipping}/smallest-text", { params: { path: { clipping }, query: where } }),
      ),
  }).data;
}

/** The finished picture; `scale` shows another scale before it is set. */
export function sentUrl(sheet: Sheet, where: Where, scale?: number): string {
  const query = new URLSearchParams({ ...where, v: `${sheet.version} ${sheet.px_per_pt.toFixed(4)}` });
  if (scale !== undefined) query.set("scale", scale.toString());
  return `/api/v1/clippings/${sheet.clipping}/sent.png?${query.toString()}`;
}

/** What lies on the mat beneath the marks; until the sheet is known, as it was taken, which it mostly is. */
export function matUrl(sheet: Pick<Sheet, "clipping" | "mat_version">): string {
  return `/api/v1/clippings/${sheet.clipping}/picture.png?whole=true&v=${sheet.mat_version}`;
}

let early = "";

/** Ask for all that the mat needs as soon as a clipping is chosen, before anything is drawn for it. */
export function fetchEarly(clipping: string, where: Where): void {
  if (early === clipping || queries.getQueriesData({ queryKey: ["sheet", clipping] }).some(([, data]) => data)) return;
  early = clipping;
  const picture = document.createElement("link");
  picture.rel = "preload";
  picture.as = "image";
  picture.href = matUrl({ clipping, mat_version: "as-taken" });
  picture.onload = picture.onerror = () => {
    picture.remove();
  };
  document.head.append(picture);
  queries.query(sheetQuery(clipping, where)).catch(() => undefined);
  queries.query(clippingQuery(clipping)).catch(() => undefined);
}

// Edits: one after the other, each on the version that the one before made

interface Waiting {
  clipping: string;
  where: Where;
  change: Change;
  made?: Edit;
  /** How often it was made anew because another window was quicker. */
  tries: number;
  done: (sheet: Sheet | null) => void;
}

const queue: Waiting[] = [];
let running = false;
let onAway: (count: number) => void = () => undefined;
const RETRY_MS = 1_500;
const MOST_TRIES = 5;

/** Tell how many changes wait while the server does not answer; 0 when none does. */
export function watchAway(listener: (count: number) => void): void {
  onAway = listener;
}

export function newId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(6)), (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Make one change; null when it was refused, which has been said then. */
export function edit(clipping: string, where: Where, change: Change): Promise<Sheet | null> {
  return new Promise((done) => {
    queue.push({ clipping, where, change, tries: 0, done });
    void run();
  });
}

async function run(): Promise<void> {
  if (running) return;
  running = true;
  while (queue[0]) {
    const next = queue[0];
    try {
      const sheet = await apply(next);
      onAway(0);
      queue.shift();
      next.done(sheet);
    } catch (error) {
      if (error instanceof ProblemError) {
        queue.shift();
        next.done(await refused(next, error));
        continue;
      }
      // Nobody answers: what was drawn is kept here and sent again.
      onAway(queue.length);
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    }
  }
  running = false;
}

async function apply(waiting: Waiting): Promise<Sheet> {
  const { clipping, where, change } = waiting;
  const key = sheetKey(clipping, where);
  const known = queries.getQueryData<Sheet>(key) ?? (await fetchSheet(clipping, where));
  waiting.made = typeof change === "function" ? change(known) : change;
  const sheet = whole(
    await api.POST("/api/v1/clippings/{clipping}/edits", {
      params: { path: { clipping }, query: where },
      body: { version: known.version, edit: waiting.made },
    }),
  );
  keep(sheet, where);
  return sheet;
}

/** The client's types lose that a point is a pair. */
function whole(answer: { data?: unknown }): Sheet {
  return must(answer) as Sheet;
}

async function fetchSheet(clipping: string, where: Where): Promise<Sheet> {
  const params = { path: { clipping }, query: where };
  return whole(await api.GET("/api/v1/clippings/{clipping}/sheet", { params }));
}

/** A refused change: shown in words, unless it was made already and only its answer got lost. */
async function refused(next: Waiting, error: ProblemError): Promise<Sheet | null> {
  const isElsewhere = ["changed-elsewhere", "superseded"].includes(error.problem.code);
  if (isElsewhere && next.tries < MOST_TRIES) {
    next.tries += 1;
    const sheet = await fetchSheet(next.clipping, next.where).catch(() => null);
    if (sheet) keep(sheet, next.where);
    const ids = next.made?.do === "add" ? next.made.marks.map((mark) => mark.id) : [];
    if (sheet && ids.length > 0 && ids.every((id) => sheet.marks.some((mark) => mark.id === id))) return sheet;
    // What was drawn here is made once more, on what the other window made of the clipping.
    try {
      const after = await apply(next);
      say("Changed in another window meanwhile; your change is made on top of that.", { canUndo: true });
      return after;
    } catch (again) {
      if (again instanceof ProblemError) return refused(next, again);
      showError(again);
      return null;
    }
  }
  showError(error);
  return null;
}

function keep(sheet: Sheet, where: Where): void {
  queries.setQueryData(sheetKey(sheet.clipping, where), sheet);
  // The same clipping elsewhere: other places of it, the rack, what it weighs.
  void queries.invalidateQueries({
    predicate: ({ queryKey: [name, id, other] }) =>
      name === "sheet" && id === sheet.clipping && JSON.stringify(other) !== JSON.stringify(where),
  });
  refreshSoon();
}

let soon: ReturnType<typeof setTimeout> | undefined;
const SOON_MS = 250;

/** The rest of the bench may follow a little later: strokes come quickly one after the other. */
function refreshSoon(): void {
  clearTimeout(soon);
  soon = setTimeout(() => {
    void refresh({ sheets: false });
    void queries.invalidateQueries({ queryKey: ["kinds"] });
  }, SOON_MS);
}

/** Take back or make again the last change of one clipping. */
export async function stepBack(clipping: string, where: Where, way: "undo" | "redo"): Promise<string | null> {
  const known = queries.getQueryData<Sheet>(sheetKey(clipping, where));
  const label = way === "undo" ? known?.undo : known?.redo;
  if (!label) return null;
  try {
    const params = { path: { clipping }, query: where };
    const sheet = whole(
      way === "undo"
        ? await api.POST("/api/v1/clippings/{clipping}/history/undo", { params })
        : await api.POST("/api/v1/clippings/{clipping}/history/redo", { params }),
    );
    keep(sheet, where);
    return label;
  } catch (error) {
    showError(error);
    return null;
  }
}
