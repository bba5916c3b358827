import { useState } from "react";
import { readNumber } from "./numbers";

interface TypedNumber {
  /** What is being typed; null while nothing is. */
  typed: string | null;
  /** Whether what was typed can't be read. */
  unread: boolean;
  type: (text: string) => void;
  /** Take over what was typed; what can't be read stays and is said. */
  commit: () => void;
  /** Forget what was typed. */
  drop: () => void;
}

/** A number while somebody types it. */
export function useTypedNumber(onRead: (number: number) => void): TypedNumber {
  const [typed, setTyped] = useState<string | null>(null);
  const [unread, setUnread] = useState(false);
  const set = (text: string | null) => {
    setTyped(text);
    setUnread(false);
  };
  return {
    typed,
    unread,
    type: set,
    drop: () => {
      set(null);
    },
    commit: () => {
      if (typed === null) return;
      const number = readNumber(typed);
      if (number === null && typed.trim() !== "") {
        setUnread(true);
        return;
      }
      set(null);
      if (number !== null) onRead(number);
    },
  };
}
