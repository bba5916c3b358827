import { type ReactNode, useSyncExternalStore } from "react";
import { createPortal } from "react-dom";

/** The id of the line at the foot of every room. */
export const FOOT = "foot-hint";

const neverChanges = () => () => undefined;

/** What a room says in the line at its foot: what to do next. What was last said by the workshop stands over it for a while. */
export function FootHint({ children }: { children: ReactNode }) {
  // The line comes into the page along with the room: it is looked for once more when both are there.
  const foot = useSyncExternalStore(neverChanges, () => document.getElementById(FOOT));
  return foot && createPortal(children, foot);
}
