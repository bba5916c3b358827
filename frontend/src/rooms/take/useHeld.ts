import { type RefObject } from "react";
import { useNavigate } from "react-router";
import { useDestination } from "../../api/bench";
import { useOptions } from "../../api/options";
import { addressOf, type Cut, type KindName, say, useBenchState } from "../../base/state";
import type { Area } from "../../base/units";
import { keep, toLive } from "./actions";
import { joinWhileScrolling } from "./longpage";
import { cutOf, scaleFactorOf, snappedInto, stepped, type Target, targetsAt } from "./picking";
import type { Pointing } from "./Pointing";
import { useShare } from "./share";

/** What can be done with what is held on the frozen screen, or is about to be. */
export interface Held {
  canPlace: boolean;
  /** Whether it is taken to be saved as a picture, whatever place is chosen. */
  isPicture: boolean;
  keep: (held: Cut | null, where: "place" | "rack") => Promise<void>;
  /** The most wanted of both: into the chosen place, else onto the rack. */
  most: "place" | "rack";
  /** A region has just been drawn: some want it kept at once. */
  drawn: (held: Cut) => void;
  setKind: (next: KindName) => void;
  /** To the next smaller or larger thing at the same place. */
  step: (by: 1 | -1) => void;
  /** Of a window its content only, or all of it. */
  setPart: (content: boolean) => void;
  /** Join a page while somebody scrolls it. */
  join: () => void;
}

export function useHeld(panes: readonly Target[], pointing: RefObject<Pointing | null>, view: Area | null): Held {
  const { frame, cut, kind, source, contentOnly, goal, set } = useBenchState();
  const navigate = useNavigate();
  const canPlace = !!useDestination()?.spot;
  const isPicture = goal === "picture";
  const most = canPlace && !isPicture ? "place" : "rack";
  const keepAtOnce = useOptions()?.keep_at_once ?? true;
  const keepIt: Held["keep"] = async (held, where) => {
    if (frame && held && (await keep(frame, held, where === "place")) === "placed") void navigate(addressOf("/place"));
  };
  return {
    canPlace,
    isPicture,
    keep: keepIt,
    most,
    drawn: (held) => {
      // Where it goes is known: nothing is left to ask.
      if (keepAtOnce && (canPlace || isPicture)) void keepIt(held, most);
    },
    setKind: (next) => {
      if (next === "long-page" && frame && source === "desk") toLive();
      const held = frame && cut ? snappedInto(next, cut, frame, panes, contentOnly) : null;
      set({ kind: next, cut: next === "long-page" ? cut : held });
      if (frame && cut && !held && next === "window") say("There is no window under that region: point at one.");
    },
    step: (by) => {
      if (!frame || !cut) {
        pointing.current?.step(by);
        return;
      }
      const [x, y] = [cut.area.x + cut.area.width / 2, cut.area.y + cut.area.height / 2];
      const next = stepped(targetsAt(kind, frame, panes, x, y, contentOnly), cut.area, by);
      if (next) set({ cut: cutOf(kind, next, contentOnly) });
    },
    setPart: (content) => {
      set({ contentOnly: content });
      const window = frame?.windows.find((each) => each.id === cut?.window);
      if (window && cut)
        set({ cut: { ...cut, area: (content ? window.content : null) ?? window.box, contentOnly: content } });
    },
    join: () => {
      const title = source === "share" ? useShare.getState().title : "This screen";
      const area = cut?.area ?? (source === "screen" ? view : null);
      const factor = frame && area ? scaleFactorOf(area, frame) : window.devicePixelRatio || 1;
      void joinWhileScrolling(source, title, factor, area);
      toLive();
    },
  };
}
