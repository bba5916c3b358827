import { refresh, showError } from "../../api/bench";
import { api, type Clipping } from "../../api/client";

/** Show or hide the pointer on a clipping, or move its tip to a pixel of the clipping's area. */
export async function showPointer(clipping: Clipping, shown: boolean, at?: { x: number; y: number }): Promise<void> {
  const params = { path: { clipping: clipping.id } };
  await api.PUT("/api/v1/clippings/{clipping}/pointer", { params, body: { shown, at: at ?? null } }).catch(showError);
  await refresh();
}
