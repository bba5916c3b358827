import { refresh, showError } from "../../api/bench";
import { api, must, type Clipping } from "../../api/client";
import type { Change, Sheet } from "../../api/sheet";
import { onButton, useHeldKey, useKeys } from "../../api/keys";
import { say, useBenchState } from "../../base/state";
import type { Area } from "../../area/geometry";
import { copyMarks, putCopied, removeMarks } from "./MarkLine";
import { showPointer } from "./pointer";
import { pickTool, useTrim } from "./state";
import { ALL_TOOLS } from "./tools";
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
    "zoom-in": () => {
      step(1.25);
    },
    "zoom-out": () => {
      step(0.8);
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
  useHeldKey(
    "c",
    () => useTrim.getState().set({ showing: "original" }),
    () => useTrim.getState().set({ showing: "work" }),
  );
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
