import { useQuery } from "@tanstack/react-query";
import { refresh, showError } from "./bench";
import { api, must } from "./client";
import { showFile } from "../base/state";

/** The new, empty files that can be begun, and what each is called. */
export const NEW_FILES = [
  ["docx", "document (.docx)"],
  ["odt", "document (.odt)"],
  ["xlsx", "spreadsheet (.xlsx)"],
  ["ods", "spreadsheet (.ods)"],
  ["eml", "message"],
] as const;

/** The files that were opened before, the last one first. */
export function useOpened() {
  return useQuery({
    queryKey: ["destinations"],
    queryFn: async () => must(await api.GET("/api/v1/destinations")),
  }).data;
}

/** Go on with a file as it was left, or with none. */
export async function goOnWith(id: string | null): Promise<void> {
  showFile(id);
  await api.PUT("/api/v1/destinations/current", { body: { id } }).catch(showError);
  await refresh();
}
