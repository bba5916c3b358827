import { QueryCache, QueryClient, useMutation, useQuery } from "@tanstack/react-query";
import { changesEnded } from "../base/settled";
import { say, sayProblem, showFile, useBenchState } from "../base/state";
import {
  type Adjust,
  type Bench,
  type Clipping,
  type Destination,
  type Letter,
  type Outline,
  type ShownPicture,
  type Spot,
  ProblemError,
  api,
  must,
} from "./client";

/** Clippings that were taken off the rack here: what was still being asked of them is not there any more, as it should. */
export const removed = new Set<string>();

function isOfRemoved(error: unknown): boolean {
  if (!(error instanceof ProblemError) || error.problem.code !== "not-found") return false;
  const { key } = error.problem.values;
  return typeof key === "string" && removed.has(key);
}

export const queries = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => {
      if (!query.meta?.["quiet"] && !isOfRemoved(error)) showError(error);
    },
  }),
  defaultOptions: {
    // What the server refuses it refuses again.
    queries: {
      retry: (count, error) => count < 1 && !(error instanceof ProblemError),
      staleTime: 30_000,
      refetchOnWindowFocus: false,
    },
    mutations: { onError: showError },
  },
});

/** Show an error in words, whatever it is. */
export function showError(error: unknown): void {
  if (error instanceof ProblemError) {
    sayProblem(error.problem);
    return;
  }
  sayProblem({
    type: "about:blank",
    title: "Tijera does not answer",
    status: 0,
    detail: error instanceof Error ? error.message : "The connection broke.",
    remedy: "Check that it is still running; nothing that was kept is lost.",
    code: "unreachable",
    values: {},
  });
}

/** A place that was chosen, until the server knows of it. */
let choosing: { destination: string; spot: Spot } | null = null;

/** The bench with the place that is being chosen: an answer that set out earlier does not know it. */
function asChosen(bench: Bench): Bench {
  const { destination } = bench;
  if (!choosing || destination?.id !== choosing.destination) return bench;
  return { ...bench, destination: { ...destination, spot: choosing.spot } };
}

const benchQuery = {
  queryKey: ["bench"],
  queryFn: async (): Promise<Bench> => {
    const { file, set } = useBenchState.getState();
    const query = file === undefined ? {} : { destination: file ?? "" };
    const bench = asChosen(must(await api.GET("/api/v1/bench", { params: { query } })));
    // A window that showed nothing yet goes on with the file that was worked on last, and keeps to it.
    if (useBenchState.getState().file === undefined) set({ file: bench.destination?.id ?? null });
    return bench;
  },
};

export function useBench() {
  return useQuery(benchQuery);
}

/** The bench as it is known, or as it is answered when nothing is known yet. */
async function currentBench(): Promise<Bench> {
  return queries.getQueryData<Bench>(benchQuery.queryKey) ?? queries.query(benchQuery);
}

export function useDestination(): Destination | null {
  return useBench().data?.destination ?? null;
}

export function clippingQuery(clipping: string) {
  return {
    queryKey: ["clipping", clipping],
    queryFn: async () => must(await api.GET("/api/v1/clippings/{clipping}", { params: { path: { clipping } } })),
    meta: { quiet: true },
    retry: false,
  };
}

/** The clipping in hand: the chosen one, else the newest. While a chosen one is being asked for, only its id is known. */
export function useInHand(): { id: string | null; clipping: Clipping | null } {
  const chosen = useBenchState((state) => state.clipping);
  const bench = useBench().data;
  const known = [bench?.newest, ...(bench?.placed ?? [])].find((each) => each?.id === chosen);
  const asked = useQuery({ ...clippingQuery(chosen ?? ""), enabled: chosen !== null && !known });
  const newest = bench?.newest ?? null;
  if (chosen === null || asked.isError) return { id: newest?.id ?? null, clipping: newest };
  const clipping = known ?? asked.data;
  return clipping?.id === chosen ? { id: chosen, clipping } : { id: chosen, clipping: null };
}

/** Which clipping lies in hand at this moment, for what is done now; null where none does. */
export function inHandNow(): string | null {
  return useBenchState.getState().clipping ?? queries.getQueryData<Bench>(["bench"])?.newest?.id ?? null;
}

/** Which place of a file is chosen at this moment: a key right behind a click means what the click chose. */
export function chosenSpotNow(destination: string): string | null {
  const open = queries.getQueryData<Bench>(["bench"])?.destination;
  return open?.id === destination ? (open.spot?.id ?? null) : null;
}

export function useClippingInHand(): Clipping | null {
  return useInHand().clipping;
}

/** As much of a text as fills the first lanes. */
const FIRST_BLOCKS = 40;

/** A destination's text. Of a long one the beginning is there first, with `more` set, and the rest soon after. */
export function useOutline(destination: string | undefined, version = "") {
  const queryKey = ["outline", destination, version];
  return useQuery({
    queryKey,
    placeholderData: (before) => before,
    enabled: destination !== undefined,
    staleTime: Infinity,
    queryFn: async () => {
      const id = destination ?? "";
      const head = await outlineOf(id, 0, FIRST_BLOCKS);
      if (!head.more) return head;
      // Where an older version is on view it stays until the newer one is whole: a shorter text would scroll away.
      const seen = queries.getQueriesData({ queryKey: ["outline", destination] }).some(([, data]) => data);
      if (!seen) queries.setQueryData(queryKey, head);
      const rest = await outlineOf(id, FIRST_BLOCKS);
      return {
        ...rest,
        spots: { ...head.spots, ...rest.spots },
        body: { spots: head.body.spots, blocks: [...head.body.blocks, ...rest.body.blocks] },
      };
    },
  });
}

/** Its text from one block on, no more than so many of them. */
async function outlineOf(destination: string, first: number, most?: number): Promise<Outline> {
  const query = most === undefined ? { first } : { first, most };
  return must(
    await api.GET("/api/v1/destinations/{destination}/outline", { params: { path: { destination }, query } }),
  );
}

/** What the written copy weighs; asked again whenever the bench changes. */
export function useWeight() {
  const destination = useDestination();
  return useQuery({
    queryKey: ["weight", destination?.id, destination?.version, destination?.limit_bytes, destination?.placements],
    enabled: destination !== null,
    // What another file weighs is nothing to go by: its pictures are not in this one.
    placeholderData: (before, query) => (query?.queryKey[1] === destination?.id ? before : undefined),
    queryFn: async () =>
      must(
        await api.GET("/api/v1/destinations/{destination}/weight", {
          params: { path: { destination: destination?.id ?? "" } },
        }),
      ),
  });
}

export function useHandovers() {
  return useQuery({ queryKey: ["handovers"], queryFn: async () => must(await api.GET("/api/v1/handovers")) });
}

/** Read the bench anew; resolves when it is there. */
export async function refresh({ sheets = true } = {}): Promise<Bench | undefined> {
  await Promise.all([
    queries.invalidateQueries({ queryKey: ["bench"] }),
    queries.invalidateQueries({ queryKey: ["handovers"] }),
    queries.invalidateQueries({ queryKey: ["rack"] }),
    queries.invalidateQueries({ queryKey: ["clipping"] }),
    sheets ? queries.invalidateQueries({ queryKey: ["sheet"] }) : undefined,
  ]);
  return queries.getQueryData<Bench>(["bench"]);
}

/** A change on the server, followed by a look at the bench. */
export function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  return useMutation({ mutationFn: change, onSettled: () => refresh() });
}

// What several rooms do

export async function undo(): Promise<void> {
  await changesEnded();
  const label = (await currentBench()).undo;
  if (!label) return;
  await api.POST("/api/v1/history/undo").catch(showError);
  await refresh();
  say(`Undone: ${label}`);
}

export async function redo(): Promise<void> {
  await changesEnded();
  const label = (await currentBench()).redo;
  if (!label) return;
  await api.POST("/api/v1/history/redo").catch(showError);
  await refresh();
  say(`Done again: ${label}`);
}

/** Choose the place for the next clipping; it shows at once, the answer only confirms it. */
export async function chooseSpot(destination: string, spot: Spot): Promise<void> {
  const own = { destination, spot };
  choosing = own;
  // Whoever chooses a place takes for it.
  useBenchState.getState().set({ goal: null });
  queries.setQueryData<Bench>(["bench"], (bench) => bench && asChosen(bench));
  await api
    .PUT("/api/v1/destinations/{destination}/spot", { params: { path: { destination } }, body: { spot: spot.id } })
    .catch(showError);
  if (choosing === own) choosing = null;
  await refresh();
}

/** Choose a place by its name, such as some cells of a sheet. */
export async function chooseSpotNamed(destination: string, spot: string | null): Promise<void> {
  await api
    .PUT("/api/v1/destinations/{destination}/spot", { params: { path: { destination } }, body: { spot } })
    .catch(showError);
  await refresh({ sheets: false });
}

/** Change a placement; what is left out stays. */
export async function adjustPlacement(placement: string, body: Adjust): Promise<void> {
  await api.PATCH("/api/v1/placements/{placement}", { params: { path: { placement } }, body }).catch(showError);
  await refresh();
}

/** Give a placement the scale of another one, or with null a scale of its own. */
export async function setAlike(placement: string, other: string | null): Promise<void> {
  await api
    .PUT("/api/v1/placements/{placement}/alike", { params: { path: { placement } }, body: { placement: other } })
    .catch(showError);
  await refresh();
}

export function useGrid(destination: string) {
  return useQuery({
    queryKey: ["grid", destination],
    staleTime: Infinity,
    queryFn: async () =>
      must(await api.GET("/api/v1/destinations/{destination}/grid", { params: { path: { destination } } })),
  });
}

export function useMessage(destination: string, version: string) {
  return useQuery({
    queryKey: ["message", destination, version],
    placeholderData: (before) => before,
    queryFn: async () =>
      must(await api.GET("/api/v1/destinations/{destination}/message", { params: { path: { destination } } })),
  });
}

/** Place a clipping and choose it there; one that stands there already is only chosen. */
export async function placeClipping(destination: string, clipping: string, spot: string): Promise<void> {
  // A double click places once.
  const id = `${clipping} to ${spot}`;
  const { placing, set } = useBenchState.getState();
  if (placing.some((each) => each.id === id)) return;
  set({ placing: [...placing, { id, destination, clipping }] });
  const before = queries.getQueryData<Bench>(["bench"])?.destination?.placements ?? [];
  try {
    const placed = must(
      await api.POST("/api/v1/destinations/{destination}/placements", {
        params: { path: { destination } },
        body: { clipping, spot },
      }),
    );
    await refresh();
    set({ placement: placed.placement ?? null });
    if (before.some((each) => each.id === placed.placement)) say("It stands there already.");
  } catch (error) {
    showError(error);
  } finally {
    set({ placing: useBenchState.getState().placing.filter((each) => each.id !== id) });
  }
}

/** Place a clipping where the file of this window has its chosen place; false where none is chosen. */
export async function placeAtChosen(clipping: string): Promise<boolean> {
  const file = (await currentBench()).destination;
  if (!file?.spot) {
    say("No place is chosen yet: choose one in Place.");
    return false;
  }
  await placeClipping(file.id, clipping, file.spot.id);
  return true;
}

/** Move a placed clipping to another spot. */
export async function movePlacement(placement: string, spot: string): Promise<void> {
  await api
    .PATCH("/api/v1/placements/{placement}", { params: { path: { placement } }, body: { spot } })
    .catch(showError);
  await refresh();
  useBenchState.getState().set({ placement });
}

/** Take a picture that stands in a document onto the rack, with the crop that it has there. */
export async function takePictureOut(
  destination: string,
  { member, crop }: Pick<ShownPicture, "member" | "crop">,
): Promise<void> {
  try {
    const params = { path: { destination } };
    const taken = must(await api.POST("/api/v1/destinations/{destination}/media", { params, body: { member, crop } }));
    useBenchState.getState().set({ clipping: taken.clipping, panel: "rack" });
    await refresh();
    say(`${taken.name} hangs on the rack; in the document it stays as it is.`);
  } catch (error) {
    showError(error);
  }
}

export async function takeOut(placement: string): Promise<void> {
  await api.DELETE("/api/v1/placements/{placement}", { params: { path: { placement } } }).catch(showError);
  useBenchState.getState().set({ placement: null });
  await refresh();
}

/** Change what a new message says. */
export async function writeLetter(destination: string, body: Letter): Promise<void> {
  await api
    .PUT("/api/v1/destinations/{destination}/letter", { params: { path: { destination } }, body })
    .catch(showError);
  await refresh({ sheets: false });
}

/** Begin with a new, empty file; a new message can be written here. */
export async function openNew(format: "docx" | "odt" | "xlsx" | "ods" | "eml"): Promise<boolean> {
  try {
    const opened =
      format === "eml"
        ? must(await api.POST("/api/v1/destinations/letter"))
        : must(await api.POST("/api/v1/destinations/new", { body: { format } }));
    showFile(opened.id);
    await refresh();
    return true;
  } catch (error) {
    showError(error);
    return false;
  }
}

/** Open one of the made-up files, fresh. */
export async function openExample(name: string): Promise<void> {
  try {
    showFile(must(await api.POST("/api/v1/destinations/example", { body: { name } })).id);
  } catch (error) {
    showError(error);
  }
  await refresh();
}
