/** What is still being typed or sent: whatever leaves, and every change of room, waits until it is kept. */

let underWay = 0;
const waiting = new Set<() => void>();

function ended(): void {
  underWay -= 1;
  if (underWay > 0) return;
  for (const done of waiting) done();
  waiting.clear();
}

/** Has a field take over what was typed into it, as leaving it would, and be typed into further. */
function takeOverTyped(): void {
  const field = document.activeElement;
  if (!(field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement)) return;
  field.blur();
  // Where taking over does not end it, one goes on typing.
  if (field.isConnected) field.focus();
}

const drafts = new Set<() => void>();

/** What lies there unconfirmed, such as a crop that was pulled: whatever leaves, or leaves the room, takes it as it is. */
export function onSettling(confirm: () => void): () => void {
  drafts.add(confirm);
  return () => {
    drafts.delete(confirm);
  };
}

function confirmDrafts(): void {
  for (const confirm of drafts) confirm();
}

/** Whether the page is being left: what is sent now must outlive it. */
let leaving = false;

/** As the page is left, what was typed is sent all the same. */
export function keepOnLeaving(): void {
  window.addEventListener("beforeunload", () => {
    leaving = true;
    takeOverTyped();
    confirmDrafts();
    // Where somebody stays after all.
    setTimeout(() => {
      leaving = false;
    });
  });
}

/**
 * Fetch, and count changes until they are answered, whatever the answer is. One that is sent while the page is left goes on
 * without it. (Browsers take 64 kB that way.)
 *
 * No middleware does the counting: with one, nothing would leave before the page was drawn anew.
 */
export async function fetchToTheEnd(request: Request): Promise<Response> {
  if (request.method === "GET") return fetch(request);
  underWay += 1;
  try {
    return await fetch(leaving ? new Request(request, { keepalive: true }) : request);
  } finally {
    ended();
  }
}

/** Resolves when all that was typed or changed has been kept. */
export async function settled(): Promise<void> {
  takeOverTyped();
  confirmDrafts();
  // What leaving a field sets off has been sent by then.
  await new Promise((resolve) => setTimeout(resolve));
  await changesEnded();
}

/** Resolves when no change is on its way any more: undo means the last one, also where its answer is not there yet. */
export async function changesEnded(): Promise<void> {
  if (underWay > 0) await new Promise<void>((resolve) => waiting.add(resolve));
}

const MOST_WAIT_MS = 3_000;

/** The same for a change of room, which does not wait for a server that is away. */
export async function settledSoon(): Promise<void> {
  await Promise.race([settled(), new Promise((resolve) => setTimeout(resolve, MOST_WAIT_MS))]);
}
