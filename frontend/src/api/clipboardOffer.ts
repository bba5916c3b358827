import { create } from "zustand";

/** A picture that came onto the clipboard while one was elsewhere, offered when one comes back. */

interface Offer {
  picture: Blob | null;
  set: (picture: Blob | null) => void;
}

export const useClipboardOffer = create<Offer>((set) => ({
  picture: null,
  set: (picture) => {
    set({ picture });
  },
}));

/** What was seen last, so that the same picture is not offered twice, nor our own. */
let seen = "";

async function fingerprint(picture: Blob): Promise<string> {
  const digest = await crypto.subtle.digest("SHA-256", await picture.arrayBuffer());
  return [...new Uint8Array(digest)].map((each) => each.toString(16).padStart(2, "0")).join("");
}

async function pictureOnClipboard(): Promise<Blob | null> {
  // Reading without leave would bring up a question of the browser: then nothing is read.
  const leave = await navigator.permissions.query({ name: "clipboard-read" as PermissionName }).catch(() => null);
  if (leave?.state !== "granted" || !document.hasFocus()) return null;
  const items = await navigator.clipboard.read().catch(() => []);
  for (const item of items) if (item.types.includes("image/png")) return item.getType("image/png");
  return null;
}

/** Remember what we have just put there ourselves. */
export async function noteOwnCopy(): Promise<void> {
  const picture = await pictureOnClipboard().catch(() => null);
  if (picture) seen = await fingerprint(picture);
}

/** Look on coming back to the window; the first look only remembers what was there before. */
export function watchClipboard(signal: AbortSignal): void {
  let left = false;
  window.addEventListener("blur", () => (left = true), { signal });
  window.addEventListener(
    "focus",
    () => {
      if (!left) return;
      left = false;
      void pictureOnClipboard().then(async (picture) => {
        if (!picture) return;
        const now = await fingerprint(picture);
        if (now !== seen) useClipboardOffer.getState().set(picture);
        seen = now;
      });
    },
    { signal },
  );
  void noteOwnCopy();
}
