import { useRef } from "react";
import { useOptions } from "../../api/options";
import { useBenchState } from "../../base/state";
import { freeze } from "./actions";
import { useCountdown } from "./useCountdown";

/** When the screen is frozen: at once, or after a delay. */
export interface Moments {
  freeze: () => Promise<void>;
  countDown: () => void;
  count: ReturnType<typeof useCountdown>;
  /** How long the delay is. */
  seconds: number;
}

const USUAL_SECONDS = 4;

export function useMoments(): Moments {
  const frame = useBenchState((state) => state.frame);
  const seconds = useOptions()?.delay_seconds ?? USUAL_SECONDS;
  const busy = useRef(false);
  const now = async () => {
    if (frame || busy.current) return;
    busy.current = true;
    await freeze();
    busy.current = false;
  };
  const count = useCountdown(() => void now());
  return {
    count,
    seconds,
    freeze: async () => {
      count.stop();
      await now();
    },
    countDown: () => {
      if (!frame) count.start(seconds);
    },
  };
}
