import { useCallback } from "react";
import { useNavigate } from "react-router";
import { settledSoon } from "../base/settled";
import { addressOf } from "../base/state";

/** Goes to another room once what is still being typed has been kept. */
export function useGoTo(): (room: string) => void {
  const navigate = useNavigate();
  return useCallback((room) => void settledSoon().then(() => navigate(addressOf(room))), [navigate]);
}
