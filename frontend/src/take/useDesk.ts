import { useQuery } from "@tanstack/react-query";
import { queries, showError } from "../api/bench";
import { api, must, type LiveView } from "../api/client";

const SOURCE = "desk";
const LOOK_EVERY_MS = 2_000;

/** The practice desk as it is seen live, and what can be done to its windows. */
export function useDesk() {
  const query = useQuery({
    queryKey: ["source", SOURCE],
    refetchInterval: LOOK_EVERY_MS,
    queryFn: async () => must(await api.GET("/api/v1/sources/{source}", { params: { path: { source: SOURCE } } })),
  });
  return { source: SOURCE, view: query.data ?? null, raise, scroll };
}

function keep(view: LiveView): void {
  queries.setQueryData(["source", SOURCE], view);
}

function raise(window: string): void {
  const params = { path: { source: SOURCE, window } };
  api
    .POST("/api/v1/sources/{source}/windows/{window}/raise", { params })
    .then((answer) => {
      keep(must(answer));
    })
    .catch(showError);
}

const waiting = new Map<string, number>();

/** Scroll a window; turns of the wheel that come while one is under way are gathered. */
function scroll(window: string, byPx: number): void {
  const before = waiting.get(window);
  waiting.set(window, (before ?? 0) + byPx);
  if (before !== undefined) return;
  void (async () => {
    const params = { path: { source: SOURCE, window } };
    while (waiting.get(window)) {
      const by = Math.round(waiting.get(window) ?? 0);
      waiting.set(window, 0);
      try {
        const body = { by_px: by };
        keep(must(await api.POST("/api/v1/sources/{source}/windows/{window}/scroll", { params, body })));
      } catch (error) {
        showError(error);
        break;
      }
    }
    waiting.delete(window);
  })();
}

export async function freeze() {
  return must(await api.POST("/api/v1/sources/{source}/frames", { params: { path: { source: SOURCE } } }));
}
