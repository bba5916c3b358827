import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { api, must, type Happening } from "./client";

/** What was done before: files found again, what happened, where a clipping stands. */

const PAGE = 50;

export function useWorks(words: string) {
  return useQuery({
    queryKey: ["works", words],
    staleTime: 0,
    placeholderData: (before) => before,
    queryFn: async () => must(await api.GET("/api/v1/works", { params: { query: { words } } })),
  }).data;
}

export interface HistoryOf {
  words: string;
  clipping?: string | undefined;
  destination?: string | undefined;
}

/** Page by page, each from before the last moment of the one before it. */
export function useHappenings(of: HistoryOf) {
  return useInfiniteQuery({
    queryKey: ["happenings", of],
    staleTime: 0,
    initialPageParam: "",
    queryFn: async ({ pageParam }): Promise<Happening[]> => {
      const query = {
        words: of.words,
        before: pageParam,
        most: PAGE,
        ...(of.clipping ? { clipping: of.clipping } : {}),
        ...(of.destination ? { destination: of.destination } : {}),
      };
      return must(await api.GET("/api/v1/happenings", { params: { query } }));
    },
    getNextPageParam: (last: Happening[]) => (last.length < PAGE ? undefined : last.at(-1)?.at),
  });
}

export function usePlacesOf(clipping: string | undefined) {
  return useQuery({
    queryKey: ["places", clipping],
    enabled: clipping !== undefined,
    staleTime: 0,
    queryFn: async () => {
      const params = { path: { clipping: clipping ?? "" } };
      return must(await api.GET("/api/v1/clippings/{clipping}/places", { params }));
    },
  }).data;
}
