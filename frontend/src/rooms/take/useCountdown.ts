import { useCallback, useEffect, useRef, useState } from "react";

/** Seconds that run down, then something happens once; null while none run. */
export function useCountdown(then: () => void): {
  left: number | null;
  start: (seconds: number) => void;
  stop: () => void;
} {
  const [left, setLeft] = useState<number | null>(null);
  const latest = useRef(then);
  useEffect(() => {
    latest.current = then;
  });
  const running = left !== null;
  useEffect(() => {
    if (!running) return undefined;
    const timer = setInterval(() => {
      setLeft((now) => (now === null ? null : now - 1));
    }, 1_000);
    return () => {
      clearInterval(timer);
    };
  }, [running]);
  useEffect(() => {
    // Who has gone to another window sees it in the title.
    const title = document.title;
    if (left !== null && left > 0) document.title = `${left.toString()} s · Tijera`;
    return () => {
      document.title = title;
    };
  }, [left]);
  useEffect(() => {
    if (left === null || left > 0) return;
    setLeft(null); // eslint-disable-line react-hooks/set-state-in-effect -- the count is over, whatever it led to
    latest.current();
  }, [left]);
  const stop = useCallback(() => {
    setLeft(null);
  }, []);
  return { left, start: setLeft, stop };
}
