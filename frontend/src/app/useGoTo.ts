import { useCallback } from "react";
import { useNavigate } from "react-router";
import { settledSoon } from "../api/settled";
import { addressOf } from "./state";

/** Goes to another room once what is still being typed has been kept. */
export function useGoTo(): (room: string) => void {
  const navigate = useNavigate();
  return useCallback((room) => void settledSoon().then(() => navigate(addressOf(room))), [navigate]);
}
