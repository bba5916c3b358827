import { useQuery } from "@tanstack/react-query";
import { queries, showError } from "./bench";
import { api, must, type components } from "./client";

export type Options = components["schemas"]["OptionsOut"];
export type Action = components["schemas"]["ActionOut"];
export type OptionChanges = components["schemas"]["OptionsIn"];

const KEY = ["options"];

/** The options as the server keeps them. */
export function useOptions(): Options | undefined {
  return useQuery({ queryKey: KEY, staleTime: Infinity, queryFn: async () => must(await api.GET("/api/v1/options")) })
    .data;
}

/** The options as they are known, outside of components. */
export function currentOptions(): Options | undefined {
  return queries.getQueryData<Options>(KEY);
}

/** Set some; a refusal is thrown, so that it can be said where it belongs. */
export async function changeOptions(changes: OptionChanges): Promise<void> {
  queries.setQueryData(KEY, must(await api.PATCH("/api/v1/options", { body: changes })));
}

/** Set some where a refusal can't be expected. */
export function setOptions(changes: OptionChanges): void {
  queries.setQueryData<Options>(KEY, (now) => (now ? { ...now, ...(changes as Partial<Options>) } : now));
  changeOptions(changes).catch(showError);
}
