import Button from "@mui/material/Button";
import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { acceptLooks, lookAnew, lookAtAll, type LookedAt, type Running } from "../../api/anew";
import { showError } from "../../api/bench";
import { addressOf, say } from "../../base/state";
import { LookView } from "./LookView";

interface Progress {
  done: number;
  of: number;
  name: string;
}

/** Clippings beside what their areas show now; of one clipping, or of all of a file, as the address says. */
export function AnewRoom() {
  const [params] = useSearchParams();
  const clipping = params.get("clipping");
  const destination = params.get("of");
  const navigate = useNavigate();
  const { looked, progress, stop } = useLooks(clipping, destination);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [kept, setKept] = useState<ReadonlySet<string>>(new Set());
  const changed = looked?.looks.filter((each) => each.changed) ?? [];
  const chosen = changed.filter((each) => !left.has(each.id));
  const back = destination ? "/place" : "/trim";
  const accept = () =>
    acceptLooks(
      chosen.map((each) => each.id),
      [...kept],
    ).then(() => {
      say(
        chosen.length === 1
          ? `Taken anew: ${chosen[0]?.name ?? ""}`
          : `Taken anew: ${chosen.length.toString()} clippings`,
        {
          canUndo: true,
        },
      );
      return navigate(addressOf(back));
    }, showError);
  return (
    <main className="room-body anew">
      <div className="tool-line">
        <span className="tool-name">Take anew</span>
        <span className="tool-says">
          {looked ? countWords(looked, changed.length) : "looking at today’s screen; nothing is changed yet"}
        </span>
        <span className="tool-end">
          <Button variant="outlined" onClick={() => void navigate(addressOf(back))}>
            Leave all as it is
          </Button>
          <Button variant="contained" disabled={chosen.length === 0} onClick={() => void accept()}>
            {chosen.length === 1 ? "Use the new one" : `Use the new ones (${chosen.length.toString()})`}
          </Button>
        </span>
      </div>
      <div className="anew-list">
        {progress && (
          <p className="anew-progress" role="status">
            <span>
              Looking at {progress.name}, {progress.done + 1} of {progress.of}
            </span>
            <progress max={progress.of} value={progress.done} aria-label="Clippings looked at" />
            <Button variant="outlined" onClick={stop}>
              Stop
            </Button>
          </p>
        )}
        {looked?.failed.map(([name, why, instead]) => (
          <p key={name} className="anew-failed">
            <b>{name} can’t be taken anew.</b> {why} {instead}
          </p>
        ))}
        {looked?.looks.map((each) => (
          <LookView
            key={each.id}
            look={each}
            used={!left.has(each.id)}
            keptIn={kept}
            onUse={(used) => {
              setLeft(toggled(left, each.id, !used));
            }}
            onKeep={(file, keeps) => {
              setKept(toggled(kept, file, keeps));
            }}
          />
        ))}
      </div>
    </main>
  );
}

function toggled(set: ReadonlySet<string>, key: string, isIn: boolean): ReadonlySet<string> {
  const next = new Set(set);
  if (isIn) next.add(key);
  else next.delete(key);
  return next;
}

function countWords({ looks, failed }: LookedAt, changed: number): string {
  const all = looks.length + failed.length;
  if (all === 1) return changed === 1 ? "it shows something else now" : looks.length === 1 ? "it shows the same" : "";
  return `${changed.toString()} of ${all.toString()} changed`;
}

function useLooks(clipping: string | null, destination: string | null) {
  const [looked, setLooked] = useState<LookedAt | null>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [running, setRunning] = useState<Running | null>(null);
  useEffect(() => {
    let isOn = true;
    const show = (found: LookedAt | null) => {
      if (!isOn) return;
      setProgress(null);
      setRunning(null);
      setLooked(found ?? { looks: [], failed: [] });
      if (!found) say("Stopped. Nothing was changed.");
    };
    const wrong = (error: unknown) => {
      if (!isOn) return;
      setProgress(null);
      setLooked({ looks: [], failed: [] });
      showError(error);
    };
    if (destination)
      void lookAtAll(destination, (done, of, name) => {
        if (isOn) setProgress({ done, of, name });
      }).then((begun) => {
        if (isOn) setRunning(begun);
        return begun.done.then(show);
      }, wrong).catch(wrong); // prettier-ignore
    else if (clipping) lookAnew(clipping).then(show, wrong);
    return () => {
      isOn = false;
    };
  }, [clipping, destination]);
  return { looked, progress, stop: () => running?.stop() };
}
