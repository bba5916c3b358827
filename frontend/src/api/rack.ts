import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { say, useBenchState } from "../base/state";
import { refresh, removed, showError } from "./bench";
import { exactWeight } from "../base/format";
import { api, must, type RackPage, type Slip, upload } from "./client";

/** The rack: what hangs there, page by page; taking clippings off it, joining them, hanging others up. */

/** So many slips come at once. */
const PAGE = 100;

/** The rack, or what was found on it, page by page as far as it was looked at. */
export function useRack(words: string, round: string | null = null) {
  return useInfiniteQuery({
    queryKey: ["rack", words, round],
    placeholderData: (before) => before,
    initialPageParam: 0,
    queryFn: async ({ pageParam }: { pageParam: number }): Promise<RackPage> =>
      must(
        await api.GET("/api/v1/clippings", {
          params: { query: { words, first: pageParam, most: PAGE, ...(round === null ? {} : { round }) } },
        }),
      ),
    getNextPageParam: (last: RackPage) => {
      const next = last.first + last.slips.length;
      return last.slips.length > 0 && next < last.found ? next : undefined;
    },
  });
}

/** Where the words that are looked for stand on a clipping's finished picture. */
export function useFoundOn(clipping: { id: string; version: string }, words: string) {
  return useQuery({
    queryKey: ["found", clipping.id, clipping.version, words],
    enabled: words !== "",
    queryFn: async () =>
      must(
        await api.GET("/api/v1/clippings/{clipping}/found", {
          params: { path: { clipping: clipping.id }, query: { words } },
        }),
      ),
  }).data;
}

/** Take clippings off the rack, all in one step that can be undone. */
export async function removeClippings(slips: readonly { id: string; name: string; places: number }[]): Promise<void> {
  const [first] = slips;
  if (!first) return;
  for (const slip of slips) removed.add(slip.id);
  await api.POST("/api/v1/clippings/removals", { body: { clippings: slips.map((each) => each.id) } }).catch(showError);
  useBenchState.getState().set({ clipping: null });
  await refresh();
  const places = slips.reduce((sum, each) => sum + each.places, 0);
  const out = places === 0 ? "" : ` and out of ${places === 1 ? "its place" : `${places} places`}`;
  const what = slips.length === 1 ? `${first.name} was` : `${slips.length} clippings were`;
  say(`${what} taken off the rack${out}.`, { canUndo: true });
}

/** Join clippings on a new one, in the order in which they are given; they stay. */
export async function joinClippings(slips: readonly { id: string }[], stacked: boolean): Promise<boolean> {
  try {
    const made = must(
      await api.POST("/api/v1/clippings/joins", { body: { clippings: slips.map((each) => each.id), stacked } }),
    );
    useBenchState.getState().set({ clipping: made.clippings[0] ?? null });
    await refresh();
    say(`${slips.length.toString()} clippings are joined on a new one; each can still be changed by itself.`, {
      canUndo: true,
    });
    return true;
  } catch (error) {
    showError(error);
    return false;
  }
}

/** Hang a picture on the rack; a refusal is thrown. */
export async function bringIn(file: Blob, name: string): Promise<{ clipping: string; name: string }> {
  return (await upload("clippings", file, name)) as { clipping: string; name: string };
}

/** Give a clipping another name. */
export async function renameClipping(clipping: string, name: string): Promise<void> {
  const params = { path: { clipping } };
  await api.PATCH("/api/v1/clippings/{clipping}", { params, body: { name } }).catch(showError);
  await refresh();
}

/** Keep a clipping on top of the rack, or let it go. */
export async function pinClipping(slip: Slip): Promise<void> {
  await api
    .PUT("/api/v1/clippings/{clipping}/pin", {
      params: { path: { clipping: slip.id } },
      body: { pinned: !slip.pinned },
    })
    .catch(showError);
  await refresh();
}

/** What may go that is older than so many days. */
export function useClearing(days: number | null) {
  return useQuery({
    queryKey: ["clearing", days],
    enabled: days !== null,
    staleTime: 0,
    queryFn: async () =>
      must(await api.GET("/api/v1/clippings/clearing", { params: { query: { older_days: days ?? 0 } } })),
  }).data;
}

/** Clear out; undo brings it back until it is emptied. */
export async function clearOut(days: number): Promise<void> {
  try {
    const gone = must(await api.POST("/api/v1/clippings/clearing", { body: { older_days: days } }));
    await refresh();
    say(
      `Cleared out: ${gone.count.toString()} ${gone.count === 1 ? "clipping" : "clippings"}, ${exactWeight(gone.bytes)}.`,
      {
        detail: "They can be brought back until they are emptied.",
        canUndo: true,
        actions: [{ words: "Empty for good", run: () => void emptyForGood() }],
      },
    );
  } catch (error) {
    showError(error);
  }
}

/** Forget all that undo could bring back, in every file. */
export async function forgetRemoved(): Promise<void> {
  try {
    const { bytes } = must(await api.DELETE("/api/v1/clippings/removed"));
    await refresh();
    say(`Gone for good: ${exactWeight(bytes)} are free. Undo begins here.`);
  } catch (error) {
    showError(error);
  }
}

async function emptyForGood(): Promise<void> {
  try {
    const { bytes } = must(await api.DELETE("/api/v1/clippings/clearing"));
    await refresh();
    say(`Gone for good: ${exactWeight(bytes)} are free.`);
  } catch (error) {
    showError(error);
  }
}
