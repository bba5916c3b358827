import { onButton, useKeys } from "../../api/keys";
import { setOptions, useOptions } from "../../api/options";
import { say, useBenchState } from "../../base/state";
import { STEP } from "../../base/zoom";
import { lastAreaAgain, toLive } from "./actions";
import { KINDS } from "./KindsRow";
import type { Held } from "./useHeld";
import type { Looking } from "./useLook";
import type { Moments } from "./useMoments";

/** The keys of this room. */
export function useTakeKeys(moments: Moments, held: Held, looking: Looking | null): void {
  const { frame, cut, contentOnly, set } = useBenchState();
  const options = useOptions();
  useKeys({
    ...Object.fromEntries(KINDS.map((each) => [`kind-${each.kind}`, () => { held.setKind(each.kind); }])), // prettier-ignore
    freeze: () => void moments.freeze(),
    "count-down": moments.countDown,
    "last-area": () => void lastAreaAgain(),
    smaller: () => {
      held.step(-1);
    },
    larger: () => {
      held.step(1);
    },
    "look-closer": () => looking?.zoom(STEP),
    "look-wider": () => looking?.zoom(1 / STEP),
    "look-whole": () => looking?.toWhole(),
    part: () => {
      held.setPart(!contentOnly);
    },
    pointer: () => {
      setOptions({ pointer: !options?.pointer });
    },
    leave: () => {
      if (moments.count.left !== null) moments.count.stop();
      else if (cut) set({ cut: null });
      else toLive();
    },
    keep: (event) => {
      if (onButton(event)) return;
      event.preventDefault();
      if (frame) void held.keep(cut, held.most);
      else void moments.freeze();
    },
    place: (event) => {
      event.preventDefault();
      if (held.canPlace) void held.keep(cut, held.most === "place" ? "rack" : "place");
      else say("No place is chosen yet: choose one in Place, or keep the clipping on the rack with Enter.");
    },
  });
}
