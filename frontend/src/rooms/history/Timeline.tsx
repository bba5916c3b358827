import Button from "@mui/material/Button";
import { Fragment } from "react";
import { useNavigate } from "react-router";
import type { Happening } from "../../api/client";
import { goOnWith } from "../../api/files";
import { useHappenings, type HistoryOf } from "../../api/history";
import { exactWeight } from "../../base/format";
import { addressOf, useBenchState } from "../../base/state";

const KINDS: Record<Happening["kind"], string> = {
  taken: "taken",
  changed: "",
  left: "left",
  waiting: "waits to be sent",
  going: "is being sent",
  unclear: "unclear whether it arrived",
  refused: "was not taken",
  withdrawn: "was withdrawn",
  rounds: "began to be taken at set times",
};

/** What happened, the last first, day by day. */
export function Timeline({ of }: { of: HistoryOf }) {
  const { data, hasNextPage, fetchNextPage, isFetchingNextPage } = useHappenings(of);
  const all = data?.pages.flat() ?? [];
  if (data && all.length === 0)
    return <p className="quiet">Nothing {of.words ? "has these words" : "happened yet"}.</p>;
  const days = byDay(all);
  return (
    <>
      {[...days].map(([day, happenings]) => (
        <Fragment key={day}>
          <h4>
            {new Date(day).toLocaleDateString("en-GB", {
              weekday: "long",
              day: "numeric",
              month: "long",
              year: "numeric",
            })}
          </h4>
          <ul className="happenings">
            {happenings.map((each, at) => (
              <HappeningView key={`${each.at} ${at.toString()}`} happening={each} />
            ))}
          </ul>
        </Fragment>
      ))}
      {hasNextPage && (
        <Button variant="outlined" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          Show what was before
        </Button>
      )}
    </>
  );
}

function byDay(all: readonly Happening[]): Map<string, Happening[]> {
  const days = new Map<string, Happening[]>();
  for (const each of all) {
    const day = new Date(each.at).toDateString();
    days.set(day, [...(days.get(day) ?? []), each]);
  }
  return days;
}

function HappeningView({ happening }: { happening: Happening }) {
  const navigate = useNavigate();
  const set = useBenchState((state) => state.set);
  const { at, kind, words, detail, clipping, destination, handover, bytes } = happening;
  return (
    <li className={`happening happening-${kind}`}>
      <time dateTime={at}>{new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}</time>
      <span>
        <b>{words}</b> {KINDS[kind]}
        {detail && ` · ${listed(detail)}`}
        {bytes !== null && ` · ${exactWeight(bytes)}`}
      </span>
      <span className="happening-ways">
        {handover && (
          <a className="choice" href={`/api/v1/handovers/${handover}/file`} download={words}>
            these very bytes
          </a>
        )}
        {clipping && kind !== "changed" && (
          <button
            type="button"
            className="choice"
            aria-label={`Show the clipping ${words}`}
            onClick={() => {
              set({ clipping });
              void navigate(addressOf("/trim"));
            }}
          >
            show
          </button>
        )}
        {destination && (
          <button
            type="button"
            className="choice"
            aria-label={`Go on with ${words}`}
            onClick={() => void goOnWith(destination).then(() => navigate(addressOf("/place")))}
          >
            go on with it
          </button>
        )}
      </span>
    </li>
  );
}

/** Recipients are kept as a list in JSON. */
function listed(detail: string): string {
  return detail.startsWith("[") ? (JSON.parse(detail) as string[]).join(", ") : detail;
}
