import { useCallback, useEffect, useRef } from "react";
import { refresh, removed, showError } from "../../api/bench";
import { useGoTo } from "../../api/useGoTo";
import { onSettling } from "../../base/settled";
import { placeIt } from "./WaysOut";
import { api, must, type Clipping } from "../../api/client";
import type { Change, Sheet } from "../../api/sheet";
import { onButton, useHeldKey, useKeys } from "../../api/keys";
import { say, useBenchState } from "../../base/state";
import type { Area } from "../../area/geometry";
import { copyMarks, putCopied, removeMarks } from "./MarkLine";
import { showPointer } from "./pointer";
import { pickTool, useTrim } from "./state";
import { ALL_TOOLS } from "./tools";
import { STEP } from "../../base/zoom";
import type { Zoom } from "./useZoom";

interface Context {
  clipping: Clipping;
  sheet: Sheet | undefined;
  crop: Area;
  changed: boolean;
  change: (change: Change) => Promise<Sheet | null>;
  settle: (area: Area | null) => void;
  setZoom: (zoom: Zoom) => void;
  step: (by: number) => void;
}

/** The keys of this room. */
export function useTrimKeys({ clipping, sheet, crop, changed, change, settle, setZoom, step }: Context): void {
  const { chosen, tool, set } = useTrim();
  const order = (to: "up" | "down") => () => {
    if (chosen.length > 0) void change({ do: "order", ids: [...chosen], to });
  };
  const goTo = useGoTo();
  /** The pulled crop that is on its way to the server. */
  const sent = useRef<Area | null>(null);
  const latest = useRef({ pending: false, crop, change });
  // Not in the effect below: what is confirmed as that one ends is what was there before.
  useEffect(() => {
    latest.current = { pending: changed && !removed.has(clipping.id), crop, change };
  });
  // A crop that was pulled counts when anything leaves, when another tool is taken, and when the mat is left.
  const confirm = useCallback(() => {
    const { pending, crop: pulled, change: make } = latest.current;
    if (!pending || sent.current === pulled) return;
    sent.current = pulled;
    void make({ do: "crop", crop: pulled }).finally(() => {
      if (sent.current === pulled) sent.current = null;
    });
  }, []);
  useEffect(() => {
    const stop = onSettling(confirm);
    return () => {
      stop();
      confirm();
    };
  }, [clipping.id, tool, confirm]);
  // Of quick hands the tool is another one before the crop that was pulled has been drawn.
  useEffect(() => {
    if (changed && tool !== "crop") confirm();
  }, [changed, tool, confirm]);
  useKeys({
    ...Object.fromEntries(
      ALL_TOOLS.map(({ id }) => [
        `tool-${id}`,
        () => {
          pickTool(id);
        },
      ]),
    ),
    "confirm-crop": (event) => {
      if (onButton(event)) return;
      if (tool === "part" && useTrim.getState().parts.length > 0) void makeParts(clipping);
      else if (changed) void change({ do: "crop", crop });
    },
    leave: () => {
      settle(null);
      set({ chosen: [], parts: [], showing: "work", scale: null });
    },
    "place-it": (event) => {
      event.preventDefault();
      void placeIt(clipping.id, goTo);
    },
    "zoom-in": () => {
      step(STEP);
    },
    "zoom-out": () => {
      step(1 / STEP);
    },
    "trim-pointer": () => {
      if (clipping.has_pointer) void showPointer(clipping, clipping.pointer === null);
      else say("This clipping came without a pointer.");
    },
    fit: () => {
      setZoom("fit");
    },
    "screen-pixels": () => {
      setZoom("pixels");
    },
    "as-sent": () => {
      set({ showing: useTrim.getState().showing === "sent" ? "work" : "sent" });
    },
    "delete-marks": () => {
      if (chosen.length > 0) void removeMarks(chosen, change);
    },
    "choose-all": (event) => {
      event.preventDefault();
      if (sheet) set({ tool: "select", chosen: sheet.marks.map((mark) => mark.id) });
    },
    "copy-marks": () => {
      copyMarks(sheet?.marks.filter((mark) => chosen.includes(mark.id)) ?? []);
    },
    "put-marks": () => {
      set({ tool: "select" });
      void putCopied(change);
    },
    "order-up": order("up"),
    "order-down": order("down"),
  });
  useMarkClipboard(sheet, change);
  useHeldKey(
    "c",
    () => useTrim.getState().set({ showing: "original" }),
    () => useTrim.getState().set({ showing: "work" }),
  );
}

/** Ctrl + C on chosen marks copies them, and Ctrl + V puts them here until something else is copied in another program. */
function useMarkClipboard(sheet: Sheet | undefined, change: Context["change"]): void {
  const latest = useRef({ sheet, change });
  useEffect(() => {
    latest.current = { sheet, change };
  });
  useEffect(() => {
    const abort = new AbortController();
    const { set } = useTrim.getState();
    const onKey = (event: KeyboardEvent) => {
      const { target, key } = event;
      const isText = target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.shiftKey || isText) return;
      const { chosen, pastes } = useTrim.getState();
      const marks = latest.current.sheet?.marks.filter((mark) => chosen.includes(mark.id)) ?? [];
      if (key.toLowerCase() === "c" && marks.length > 0) copyMarks(marks);
      else if (key.toLowerCase() === "v" && pastes) void putCopied(latest.current.change);
      else {
        if (key.toLowerCase() === "c") set({ pastes: false });
        return;
      }
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    window.addEventListener("keydown", onKey, { signal: abort.signal, capture: true });
    // Whoever goes elsewhere may come back with something else.
    window.addEventListener("blur", () => { set({ pastes: false }); }, { signal: abort.signal }); // prettier-ignore
    return () => {
      abort.abort();
    };
  }, []);
}

/** Make clippings of the parts that are drawn; the first of them comes onto the mat. */
export async function makeParts(clipping: Clipping): Promise<void> {
  const { parts } = useTrim.getState();
  try {
    const made = must(
      await api.POST("/api/v1/clippings/{clipping}/parts", {
        params: { path: { clipping: clipping.id } },
        body: { areas: parts.map((part) => ({ ...part })) },
      }),
    ).clippings;
    pickTool("crop");
    useBenchState.getState().set({ clipping: made[0] ?? null });
    await refresh();
    const words =
      made.length === 1 ? "The part is a clipping of its own" : `${made.length.toString()} parts hang on the rack`;
    say(`${words}; the whole one stays.`, { canUndo: true });
  } catch (error) {
    showError(error);
  }
}
