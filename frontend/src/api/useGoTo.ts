import { useCallback } from "react";
import { useNavigate } from "react-router";
import { leaveFor } from "../base/leaving";
import { settledSoon } from "../base/settled";
import { addressOf } from "../base/state";

/** How often somebody wished to be elsewhere. */
let wishes = 0;

/** Goes to another room once what is still being typed has been kept; of two wishes in a row the last one counts. */
export function useGoTo(): (room: string) => void {
  const navigate = useNavigate();
  return useCallback(
    (room) => {
      const wish = ++wishes;
      void leaveFor(room)
        .then(settledSoon)
        .then(() => {
          if (wish === wishes) void navigate(addressOf(room));
        });
    },
    [navigate],
  );
}
