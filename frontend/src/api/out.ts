import { api, must, pictureUrl, type Clipping, type Handover } from "./client";
import { settled } from "../base/settled";
import { refresh, showError } from "./bench";
import { exactWeight } from "../base/format";
import { noteOwnCopy } from "./clipboardOffer";
import { say } from "../base/state";

/** The ways out: clipboard, a saved picture, the copy of a document. */

export interface Outgoing {
  id: string;
  name: string;
  version: string;
}

/** A clipping once all that was changed on it has been kept. */
async function asKept(clipping: string): Promise<Clipping> {
  await settled();
  return must(await api.GET("/api/v1/clippings/{clipping}", { params: { path: { clipping } } }));
}

export async function copyClipping(clipping: Outgoing): Promise<void> {
  try {
    // The promise goes into the item, so that the write still counts as caused by the key press.
    const picture = asKept(clipping.id)
      .then((kept) => fetch(pictureUrl.clipping(kept)))
      .then((answer) => answer.blob());
    await navigator.clipboard.write([new ClipboardItem({ "image/png": picture })]);
    const { size } = await picture;
    await noteOwnCopy();
    say(`${clipping.name} is on the clipboard as PNG, ${exactWeight(size)}.`);
  } catch (error) {
    showError(error);
  }
}

/** How a clipping is saved; what is left out is as it comes. */
export interface SaveWish {
  name?: string;
  share?: number;
  density_ppi?: number;
  limit?: string;
}

/** Save a clipping as it is; what goes wrong is said. */
export async function saveClipping(clipping: Pick<Outgoing, "id">, format: "png" | "jpeg"): Promise<void> {
  await saveAs(clipping, format, {}).catch(showError);
}

/** Save several clippings as one file, each under its own name. */
export async function saveClippings(clippings: readonly Pick<Outgoing, "id">[]): Promise<void> {
  try {
    await settled();
    const body = { clippings: clippings.map((each) => each.id), format: "png" as const };
    fetchToDisk(must(await api.POST("/api/v1/clippings/saves", { body })));
  } catch (error) {
    showError(error);
  }
}

/** Save a clipping in a way of one's own. Throws what the server refuses, for who asked to say it where it was typed. */
export async function saveAs(clipping: Pick<Outgoing, "id">, format: "png" | "jpeg", wish: SaveWish): Promise<void> {
  await settled();
  const saved = must(
    await api.POST("/api/v1/clippings/{clipping}/saves", {
      params: { path: { clipping: clipping.id } },
      body: { format, ...wish },
    }),
  );
  fetchToDisk(saved);
}

export async function downloadCopy(destination: string): Promise<void> {
  try {
    await settled();
    const written = must(
      await api.POST("/api/v1/destinations/{destination}/handovers", { params: { path: { destination } } }),
    );
    fetchToDisk(written);
  } catch (error) {
    showError(error);
  }
}

export const handoverUrl = (handover: Handover) => `/api/v1/handovers/${handover.id}/file`;

/** Let the browser save what lies at an address. */
export function downloadOf(address: string, name: string): void {
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  document.body.append(link);
  link.click();
  link.remove();
}

/** Let the browser save what left, and say what it is and how heavy. */
function fetchToDisk(handover: Handover): void {
  downloadOf(handoverUrl(handover), handover.name);
  const [, note] = /^clipping, (.*)$/.exec(handover.what) ?? [];
  say(`Saved to your downloads: ${handover.name}, ${exactWeight(handover.bytes)}.`, note ? { detail: `${note}.` } : {});
  void refresh();
}
