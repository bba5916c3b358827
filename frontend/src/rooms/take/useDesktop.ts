import { useQuery } from "@tanstack/react-query";
import { queries, showError } from "../../api/bench";
import { api, must, type LiveView } from "../../api/client";

const LOOK_EVERY_MS = 1_000;

/** A screen as the server sees it live; null for a source that the server can't look at. */
export function useLive(source: string): LiveView | null {
  const query = useQuery({
    queryKey: ["source", source],
    enabled: source === "desk" || source === "screen",
    refetchInterval: LOOK_EVERY_MS,
    queryFn: async () => must(await api.GET("/api/v1/sources/{source}", { params: { path: { source } } })),
  });
  return query.data ?? null;
}

export function useSources() {
  return useQuery({
    queryKey: ["sources"],
    staleTime: Infinity,
    queryFn: async () => must(await api.GET("/api/v1/sources")),
  });
}

function keep(source: string, answer: { data?: LiveView }): void {
  queries.setQueryData(["source", source], must(answer));
}

/** Handling windows of a desktop; each answer is the view after it. */
export const handle = {
  raise(source: string, window: string): void {
    const params = { path: { source, window } };
    api
      .POST("/api/v1/sources/{source}/windows/{window}/raise", { params })
      .then((answer) => {
        keep(source, answer);
      })
      .catch(showError);
  },
  menu(source: string, window: string, title: string | null): void {
    const params = { path: { source, window } };
    api
      .POST("/api/v1/sources/{source}/windows/{window}/menu", { params, body: { title } })
      .then((answer) => {
        keep(source, answer);
      })
      .catch(showError);
  },
  move: gathered(
    (source, window, at: { x: number; y: number }) => {
      const params = { path: { source, window } };
      return api.POST("/api/v1/sources/{source}/windows/{window}/move", { params, body: at });
    },
    (_, latest) => latest,
  ),
  /** Turns of the wheel that come while one is under way are gathered. */
  scroll: gathered(
    (source, window, by: number) => {
      const params = { path: { source, window } };
      return api.POST("/api/v1/sources/{source}/windows/{window}/scroll", { params, body: { by_px: Math.round(by) } });
    },
    (sum, more) => sum + more,
  ),
};

/** A call of which only one is under way for each window; what comes meanwhile is put together. */
function gathered<T>(
  call: (source: string, window: string, value: T) => Promise<{ data?: LiveView }>,
  together: (waiting: T, next: T) => T,
): (source: string, window: string, value: T) => void {
  const waiting = new Map<string, T | null>();
  return (source, window, value) => {
    const key = `${source} ${window}`;
    const before = waiting.get(key);
    if (before !== undefined) {
      waiting.set(key, before === null ? value : together(before, value));
      return;
    }
    waiting.set(key, null);
    void (async () => {
      let next: T | null = value;
      try {
        while (next !== null) {
          keep(source, await call(source, window, next));
          next = waiting.get(key) ?? null;
          waiting.set(key, null);
        }
      } catch (error) {
        showError(error);
      }
      waiting.delete(key);
    })();
  };
}
