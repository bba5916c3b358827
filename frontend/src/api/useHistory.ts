import { useLocation } from "react-router";
import { redo, undo, useBench, useClippingInHand, useDestination } from "./bench";
import { stepBack, useSheet, whereOf } from "./sheet";
import { say, useBenchState } from "../base/state";

interface History {
  undo: string | null;
  redo: string | null;
  step: (way: "undo" | "redo") => Promise<void>;
}

/** What undo and redo mean here: in Trim the history of the clipping on the mat, elsewhere that of the whole bench. */
export function useHistory(): History {
  const bench = useBench().data;
  const clipping = useClippingInHand();
  const destination = useDestination();
  const chosen = useBenchState((state) => state.placement);
  const onMat = useLocation().pathname === "/trim" && clipping !== null;
  const own = destination?.placements.filter((each) => each.clipping === clipping?.id) ?? [];
  const where = whereOf(own.find((each) => each.id === chosen) ?? own[0] ?? null, destination);
  const sheet = useSheet(clipping?.id ?? "", where, onMat).data;
  if (!onMat) {
    const { undo: before = null, redo: after = null } = bench ?? {};
    return { undo: before, redo: after, step: (way) => (way === "undo" ? undo() : redo()) };
  }
  return {
    undo: sheet?.undo ?? null,
    redo: sheet?.redo ?? null,
    step: async (way) => {
      const label = await stepBack(clipping.id, where, way);
      if (label) say(`${way === "undo" ? "Undone" : "Done again"}: ${label}`);
    },
  };
}
