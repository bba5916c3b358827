import { api, must, pictureUrl, ProblemError, type Bench, type Clipping, type Handover, type Problem } from "./client";
import { chooseFile, writeInto } from "./folders";
import { whereOf } from "./sheet";
import type { components } from "../base/schema";
import { settled } from "../base/settled";
import { queries, refresh, showError } from "./bench";
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
    // The promises go into the item, so that the write still counts as caused by the key press.
    const kept = asKept(clipping.id);
    const picture = kept.then((now) => fetch(pictureUrl.clipping(now))).then((answer) => answer.blob());
    const html = kept.then((now) => fetch(copyUrl(now))).then((answer) => answer.blob());
    const sized = html.then((page) => new Blob([page], { type: "text/html" }));
    await navigator.clipboard.write([new ClipboardItem({ "image/png": picture, "text/html": sized })]);
    const copied = await picture;
    await noteOwnCopy();
    say(`${clipping.name} is on the clipboard as PNG, ${exactWeight(copied.size)}.`, {
      detail: "Also with the size that it has in its place, for programs that take it so.",
      isBrief: true,
      actions: [{ words: "Look at it", run: () => { lookAtBlob(copied); } }], // prettier-ignore
    });
  } catch (error) {
    showError(error);
  }
}

/** A clipping as HTML, as large as it stands in the file that is worked on, or would stand there. */
function copyUrl(clipping: Clipping): string {
  const destination = queries.getQueryData<Bench>(["bench"])?.destination ?? null;
  const placed = destination?.placements.find((each) => each.clipping === clipping.id) ?? null;
  const query = new URLSearchParams({ ...whereOf(placed, destination) });
  return `/api/v1/clippings/${clipping.id}/copy.html?${query.toString()}`;
}

function lookAtBlob(blob: Blob): void {
  window.open(URL.createObjectURL(blob), "_blank");
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
export async function saveAs(
  clipping: Pick<Outgoing, "id">,
  format: "png" | "jpeg",
  wish: SaveWish,
  into: FileSystemFileHandle | null = null,
): Promise<void> {
  await settled();
  const saved = must(
    await api.POST("/api/v1/clippings/{clipping}/saves", {
      params: { path: { clipping: clipping.id } },
      body: { format, ...wish },
    }),
  );
  if (into) await saveInto(into, saved);
  else fetchToDisk(saved);
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

/** The copy into a folder of the user's, under a name of theirs; both are proposed again the next time. */
export async function saveCopyInFolder(destination: { id: string; name: string }): Promise<void> {
  try {
    const into = await chooseFile(destination.id, destination.name);
    if (!into) return;
    await settled();
    const params = { path: { destination: destination.id } };
    await saveInto(into, must(await api.POST("/api/v1/destinations/{destination}/handovers", { params })));
  } catch (error) {
    showError(error);
  }
}

async function saveInto(into: FileSystemFileHandle, handover: Handover): Promise<void> {
  await writeInto(into, handoverUrl(handover));
  tell(`Saved as ${into.name}, ${exactWeight(handover.bytes)}.`, handover);
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
  tell(`Saved to your downloads: ${handover.name}, ${exactWeight(handover.bytes)}.`, handover);
}

function tell(title: string, handover: Handover): void {
  const [, note] = /^clipping, (.*)$/.exec(handover.what) ?? [];
  say(title, {
    ...(note ? { detail: `${note}.` } : {}),
    isBrief: true,
    actions: [{ words: "Look at it", run: () => { lookAtLeft(handover); } }], // prettier-ignore
  });
  void refresh();
}

/** Open the very bytes that left: a picture as it is, a document or a message in a window of its own. */
export function lookAtLeft(handover: Handover): void {
  if (handover.media_type.startsWith("image/"))
    window.open(`${handoverUrl(handover)}?shown=true`, "_blank", "noopener");
  else if (handover.media_type === "application/zip") downloadOf(handoverUrl(handover), handover.name);
  else void openBeside(`/api/v1/handovers/${handover.id}/openings`);
}

/** Open a file that left beside this window, which shows what it showed. */
export async function openBeside(openings: string): Promise<void> {
  // Opened at once: after waiting, the browser would not let it.
  const beside = window.open("about:blank", "_blank");
  try {
    const answer = await fetch(openings, { method: "POST" });
    if (!answer.ok) throw new ProblemError((await answer.json()) as Problem);
    const look = (await answer.json()) as components["schemas"]["OpenedCopyOut"];
    const room = look.view === "message" ? "/hand-over" : "/place";
    if (beside) beside.location.href = `${room}?file=${look.destination}`;
  } catch (error) {
    beside?.close();
    showError(error);
  }
}
