import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { queries, refresh, showError } from "./bench";
import { api, must, type Round } from "./client";
import { settled } from "../base/settled";
import { say } from "../base/state";

/** Rounds: areas that are taken at set times, with nobody there. */

const LOOK_MS = 5_000;

/** All rounds, the last begun first; while some go on, what they take hangs on the rack soon after. */
export function useRounds(): readonly Round[] {
  const rounds =
    useQuery({
      queryKey: ["rounds"],
      queryFn: async () => must(await api.GET("/api/v1/rounds")),
      refetchInterval: (query) => (query.state.data?.some((each) => each.state === "going") ? LOOK_MS : false),
    }).data ?? NONE;
  const taken = rounds.reduce((sum, each) => sum + each.taken, 0);
  useEffect(() => {
    void queries.invalidateQueries({ queryKey: ["rack"] });
  }, [taken]);
  return rounds;
}

const NONE: readonly Round[] = [];

export interface RoundWish {
  name: string;
  every_min: number | null;
  at: string;
  until: string;
  only_changed: boolean;
}

/** Begin rounds. Throws what the server refuses, to be said where it was typed. */
export async function beginRounds(clipping: { id: string }, wish: RoundWish): Promise<void> {
  await settled();
  const begun = must(
    await api.POST("/api/v1/clippings/{clipping}/rounds", { params: { path: { clipping: clipping.id } }, body: wish }),
  );
  await queries.invalidateQueries({ queryKey: ["rounds"] });
  say(`${begun.name} is taken ${whenOf(begun)}.`, {
    detail: `First at ${clockOf(begun.next_at ?? begun.until)}; it hangs on the rack as one slip that opens.`,
  });
}

export async function stopRounds(round: Round): Promise<void> {
  await api.DELETE("/api/v1/rounds/{round}", { params: { path: { round: round.id } } }).catch(showError);
  await queries.invalidateQueries({ queryKey: ["rounds"] });
  await refresh();
}

/** "every 10 min until 18:00". */
export function whenOf({ every_min: every, at, until }: Pick<Round, "every_min" | "at" | "until">): string {
  const when = every === null ? `at ${at.join(", ")}` : every === 1 ? "every minute" : `every ${every.toString()} min`;
  return `${when} until ${clockOf(until)}`;
}

/** "18:00" today, else with its day. */
export function clockOf(moment: string): string {
  const at = new Date(moment);
  const clock = at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  if (at.toDateString() === new Date().toDateString()) return clock;
  return `${at.toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short" }).replace(",", "")}, ${clock}`;
}
