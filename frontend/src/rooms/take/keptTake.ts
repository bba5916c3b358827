import { useBenchState, type Cut, type KindName } from "../../base/state";
import { frameOf } from "./actions";

/** The frozen screen and what is held on it outlive a reload of the page, in this window alone. */

const KEY = "tijera.take";

interface Kept {
  frame: string;
  cut: Cut | null;
  kind: KindName;
  source: string;
  monitor: string | null;
  contentOnly: boolean;
}

let restored = false;

/** Bring back what was frozen before a reload, once, and note from then on what is. */
export async function keepTakeAcrossReloads(): Promise<void> {
  if (restored) return;
  restored = true;
  await bringBack();
  useBenchState.subscribe(({ frame, cut, kind, source, monitor, contentOnly }, before) => {
    if (frame === before.frame && cut === before.cut && kind === before.kind) return;
    if (!frame) sessionStorage.removeItem(KEY);
    else sessionStorage.setItem(KEY, JSON.stringify({ frame: frame.id, cut, kind, source, monitor, contentOnly } satisfies Kept)); // prettier-ignore
  });
}

async function bringBack(): Promise<void> {
  const { frame: now, set } = useBenchState.getState();
  const text = sessionStorage.getItem(KEY);
  if (now || text === null) return;
  try {
    const { frame: id, ...rest } = JSON.parse(text) as Kept;
    const frame = await frameOf(id);
    // Somebody may have frozen anew meanwhile.
    if (!useBenchState.getState().frame) set({ frame, ...rest });
  } catch {
    // The frame is gone, or what was noted can't be read: the live screen is as good a beginning.
    sessionStorage.removeItem(KEY);
  }
}
