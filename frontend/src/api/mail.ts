import { useQuery } from "@tanstack/react-query";
import { downloadOf, lookAtLeft, openBeside } from "./out";
import { queries, refresh, showError } from "./bench";
import {
  api,
  must,
  ProblemError,
  type Bench,
  type Dispatch,
  type Recipient,
  type Weighed,
  type Weight,
} from "./client";
import { areLinksOn, linkInstead } from "./links";
import { exactWeight, limitText } from "../base/format";
import { settled } from "../base/settled";
import { say, sayProblem, showFile, useBenchState, type NoticeAction } from "../base/state";

/** Sending: who takes the mail, to whom it goes, what became of it. */

const OPEN: readonly Dispatch["state"][] = ["waiting", "going", "unclear"];
const LOOK_MS = 1_000;
/** How long a message is followed in the notice; after that the list says what became of it. */
const FOLLOWED_MS = 15_000;

export const isOpen = (dispatch: Dispatch) => OPEN.includes(dispatch.state);

export function useMail() {
  return useQuery({ queryKey: ["mail"], queryFn: async () => must(await api.GET("/api/v1/mail")) }).data;
}

export function useRecipients() {
  return useQuery({ queryKey: ["recipients"], queryFn: async () => must(await api.GET("/api/v1/recipients")) }).data;
}

const dispatchesQuery = {
  queryKey: ["dispatches"],
  queryFn: async () => must(await api.GET("/api/v1/dispatches")),
};

/** The messages that wait or went, the last first; looked at again as long as one of them waits. */
export function useDispatches() {
  return useQuery({
    ...dispatchesQuery,
    refetchInterval: (query) => (query.state.data?.some(isOpen) ? LOOK_MS : false),
  }).data;
}

export const dispatchUrl = (dispatch: Dispatch) => `/api/v1/dispatches/${dispatch.id}/file`;

/** Begin a message to somebody who is saved; their subject and limit are filled in. */
export async function writeTo(recipient: Recipient): Promise<boolean> {
  try {
    const params = { query: { to: recipient.address } };
    showFile(must(await api.POST("/api/v1/destinations/letter", { params })).id);
    await refresh();
    return true;
  } catch (error) {
    showError(error);
    return false;
  }
}

/** Where the user goes on when something is missing, and how a message is made lighter. */
export interface OnTheWay {
  goTo: (room: string) => void;
  makeItFit: (destination: string) => Promise<boolean>;
}

/** Send a message. Asks once where it is over its limit, or something was given up for it. */
export async function sendMessage(destination: string, way: OnTheWay): Promise<void> {
  try {
    await settled();
    const params = { path: { destination } };
    const weight = must(await api.GET("/api/v1/destinations/{destination}/weight", { params }));
    const limit = weight.limit_bytes;
    const placed = queries.getQueryData<Bench>(["bench"])?.destination?.placements.length;
    const now: NoticeAction = { words: "Send it as it is", run: () => void give(destination, way) };
    if (placed === 0) {
      say("No clipping stands in the message yet.", { detail: "Nothing has been sent.", actions: [now] });
      return;
    }
    if (limit !== null && weight.file_bytes > limit) {
      say(`It weighs ${exactWeight(weight.file_bytes)}, and may weigh ${limitText(limit)}.`, {
        detail: "Nothing has been sent.",
        actions: [...(await lighterWays(destination, way, weight)), now],
      });
      return;
    }
    const given = weight.pictures.filter((each) => each.note !== null && each.clipping !== null);
    if (given.length > 0) {
      say("Something was given up so that it fits.", {
        lines: given.map((each) => `${each.label}: ${each.note ?? ""}`),
        actions: [now],
        canCompare: true,
      });
      return;
    }
    await give(destination, way);
  } catch (error) {
    showError(error);
  }
}

/** What makes a message lighter, each in one action that ends with its being sent. */
async function lighterWays(destination: string, way: OnTheWay, weight: Weight): Promise<NoticeAction[]> {
  const placed = weight.pictures.filter((each) => each.clipping !== null);
  const second = heavierHalf(placed);
  const ways: NoticeAction[] = [{ words: "Make it fit and send it", run: () => void fitAndGive(destination, way) }];
  if (placed.length > 0 && (await areLinksOn()))
    ways.push({ words: "Send pictures as links", run: () => void linkAndGive(destination, way) });
  if (second.length > 0)
    ways.push({ words: "Send two messages", run: () => void splitAndGive(destination, second, way) });
  return ways;
}

/** What goes into the second of two messages, so that both weigh about the same; nothing where there is one picture only. */
export function heavierHalf(pictures: readonly Pick<Weighed, "record_bytes" | "placements">[]): string[] {
  if (pictures.length < 2) return [];
  const halves = [0, 0];
  const second: string[] = [];
  for (const each of [...pictures].sort((one, other) => other.record_bytes - one.record_bytes)) {
    const at = (halves[0] ?? 0) <= (halves[1] ?? 0) ? 0 : 1;
    halves[at] = (halves[at] ?? 0) + each.record_bytes;
    if (at === 1) second.push(...each.placements);
  }
  return second;
}

async function linkAndGive(destination: string, way: OnTheWay): Promise<void> {
  try {
    await linkInstead(destination);
    await refresh();
    await give(destination, way);
  } catch (error) {
    showError(error);
  }
}

async function splitAndGive(destination: string, placements: string[], way: OnTheWay): Promise<void> {
  try {
    const params = { path: { destination } };
    const body = { placements };
    const { second } = must(await api.POST("/api/v1/destinations/{destination}/split", { params, body }));
    await refresh();
    // Neither leaves before both are light enough.
    if (!(await way.makeItFit(second)) || !(await way.makeItFit(destination))) return;
    await Promise.all([give(destination, way), give(second, way)]);
  } catch (error) {
    showError(error);
  }
}

async function fitAndGive(destination: string, way: OnTheWay): Promise<void> {
  if (await way.makeItFit(destination)) await give(destination, way);
}

async function give(destination: string, way: OnTheWay): Promise<void> {
  try {
    const params = { path: { destination } };
    const sent = must(await api.POST("/api/v1/destinations/{destination}/dispatches", { params }));
    say(`On its way to ${sent.recipients.join(", ")}: ${exactWeight(sent.bytes)}.`);
    await queries.invalidateQueries({ queryKey: ["dispatches"] });
    await queries.invalidateQueries({ queryKey: ["recipients"] });
    await follow(sent, way);
  } catch (error) {
    if (error instanceof ProblemError) await sayWhatHelps(error, destination, way);
    else showError(error);
  }
}

const PLACE_OF: Record<string, string> = { "no-address": "letter-to", "address-unreadable": "letter-to" };

async function sayWhatHelps({ problem }: ProblemError, destination: string, way: OnTheWay): Promise<void> {
  const missing = PLACE_OF[problem.code] ?? (problem.code === "recipient-not-taken" ? "letter-to" : null);
  const actions: NoticeAction[] = [];
  if (missing !== null) {
    const field = problem.values["what"] === "your own address" ? "letter-sender" : missing;
    actions.push({ words: "Go there", run: () => { goToField(field, way); } }); // prettier-ignore
  }
  if (problem.code === "sender-not-taken")
    actions.push({ words: "Go there", run: () => { goToField("letter-sender", way); } }); // prettier-ignore
  if (problem.code === "taken-too-heavy") {
    const params = { path: { destination } };
    const weight = must(await api.GET("/api/v1/destinations/{destination}/weight", { params }));
    actions.push(...(await lighterWays(destination, way, weight)));
  }
  if (problem.code === "mail-not-set-up")
    actions.push({ words: "Set one up", run: () => { showSending(way); } }); // prettier-ignore
  sayProblem(problem, { actions });
}

function showSending(way: OnTheWay): void {
  useBenchState.getState().set({ handOver: "sending" });
  way.goTo("/hand-over");
}

function goToField(id: string, way: OnTheWay): void {
  way.goTo("/place");
  // The room is drawn first.
  requestAnimationFrame(() => requestAnimationFrame(() => document.getElementById(id)?.focus()));
}

/** Say what became of a message, once that is decided or the server has said that it can't take it now. */
async function follow(sent: Dispatch, way: OnTheWay): Promise<void> {
  const until = Date.now() + FOLLOWED_MS;
  while (Date.now() < until) {
    const now = (await queries.query({ ...dispatchesQuery, staleTime: 0 })).find((each) => each.id === sent.id);
    if (now && now.tried > 0 && now.state !== "going") {
      void queries.invalidateQueries({ queryKey: ["handovers"] });
      sayWhatBecame(now, way);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS / 4));
  }
}

function sayWhatBecame(dispatch: Dispatch, way: OnTheWay): void {
  const look: NoticeAction = {
    words: "Look at it",
    run: () => void openBeside(`/api/v1/dispatches/${dispatch.id}/openings`),
  };
  const list: NoticeAction = { words: "Show what was sent", run: () => { showSending(way); } }; // prettier-ignore
  const words = dispatch.tries.at(-1)?.words ?? "";
  if (dispatch.state === "sent")
    say(`Sent to ${dispatch.reached.join(", ")}: ${exactWeight(dispatch.bytes)}.`, {
      detail: `The server says: ${words}`,
      actions: [look],
    });
  else if (dispatch.state === "unclear")
    say("Nobody knows whether it arrived.", {
      detail: `No reply came after the whole message was given (${words}). It is tried again under the same Message-ID.`,
      actions: [list],
    });
  else if (dispatch.state === "waiting")
    say("The server does not take it now; it waits and is tried again.", { detail: words, actions: [list] });
  else say("The server does not take it.", { detail: words, actions: [list] });
}

export async function tryNow(dispatch: Dispatch): Promise<void> {
  await api
    .POST("/api/v1/dispatches/{dispatch}/tries", { params: { path: { dispatch: dispatch.id } } })
    .catch(showError);
  await queries.invalidateQueries({ queryKey: ["dispatches"] });
}

export async function withdraw(dispatch: Dispatch): Promise<void> {
  await api.DELETE("/api/v1/dispatches/{dispatch}", { params: { path: { dispatch: dispatch.id } } }).catch(showError);
  await queries.invalidateQueries({ queryKey: ["dispatches"] });
}

/** The message as a file that the user's own mail program opens for writing. */
export async function haveDraft(destination: string): Promise<void> {
  try {
    await settled();
    const params = { path: { destination } };
    const draft = must(await api.POST("/api/v1/destinations/{destination}/drafts", { params }));
    downloadOf(`/api/v1/handovers/${draft.id}/file`, draft.name);
    say(`Saved to your downloads: ${draft.name}, ${exactWeight(draft.bytes)}.`, {
      detail: "Open it, and your mail program shows it as a message that was not sent yet.",
      actions: [{ words: "Look at it", run: () => { lookAtLeft(draft); } }], // prettier-ignore
    });
    await queries.invalidateQueries({ queryKey: ["handovers"] });
  } catch (error) {
    showError(error);
  }
}

/** The message's text and pictures on the clipboard, to be pasted into a message that is written elsewhere. */
export async function copyMessage(destination: string): Promise<void> {
  try {
    const params = { path: { destination } };
    const kept = settled();
    const html = kept
      .then(() => fetch(`/api/v1/destinations/${destination}/arrival/page`))
      .then((answer) => answer.blob())
      .then((page) => new Blob([page], { type: "text/html" }));
    const plain = kept
      .then(() => api.GET("/api/v1/destinations/{destination}/arrival", { params }))
      .then((answer) => new Blob([must(answer).plain], { type: "text/plain" }));
    await navigator.clipboard.write([new ClipboardItem({ "text/html": html, "text/plain": plain })]);
    say(`The message is on the clipboard, with its pictures: ${exactWeight((await html).size)}.`, {
      detail: "Paste it into a message of your mail program; address and subject stay here.",
    });
  } catch (error) {
    showError(error);
  }
}

/** Somebody as they are typed; the limit as people write it. */
export interface TypedRecipient {
  name: string;
  address: string;
  subject: string;
  limit: string;
}

export async function saveRecipient({ limit, ...typed }: TypedRecipient): Promise<boolean> {
  try {
    await api.PUT("/api/v1/recipients", { body: { ...typed, limit: limit.trim() || null } });
    await queries.invalidateQueries({ queryKey: ["recipients"] });
    return true;
  } catch (error) {
    showError(error);
    return false;
  }
}

export async function forgetRecipient(address: string): Promise<void> {
  await api.DELETE("/api/v1/recipients/{address}", { params: { path: { address } } }).catch(showError);
  await queries.invalidateQueries({ queryKey: ["recipients"] });
}

export interface MailServer {
  host: string;
  port: number;
  security: "none" | "starttls" | "tls";
  user: string;
  password: string;
}

export async function setUpMail(server: MailServer | null): Promise<boolean> {
  try {
    if (server) await api.PUT("/api/v1/mail", { body: server });
    else await api.DELETE("/api/v1/mail");
    await queries.invalidateQueries({ queryKey: ["mail"] });
    return true;
  } catch (error) {
    showError(error);
    return false;
  }
}
