import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import Popover from "@mui/material/Popover";
import { useState } from "react";
import { api, type Destination, type Weight } from "../../api/client";
import { refresh, showError, useBench, useClippingInHand, useDestination, useWeight } from "../../api/bench";
import { limitText, weightOf } from "../../base/format";
import { useBenchState } from "../../base/state";
import { makeItFit, stopFitting } from "./fitting";
import { NOTCH, aboutBytes, railBytes, segments } from "./segments";
import { useKeptFitting } from "./useKeptFitting";

const LABEL_SHARE = 0.05;

/** What the file will weigh, against what it may. */
export function WeightRail() {
  const destination = useDestination();
  const { data: weight, isPlaceholderData: isOlder } = useWeight();
  const weighs = destination && weight;
  const about = useEstimate(destination, weighs ? weight : null, isOlder);
  const over = weighs && about === null && weight.limit_bytes !== null && weight.file_bytes > weight.limit_bytes;
  useKeptFitting(destination, weighs && !isOlder ? weight : null);
  return (
    <footer className="rail" aria-label="Weight">
      <div className="rail-sum">
        <span
          className={`rail-figure ${over ? "too-heavy" : ""}`}
          data-bytes={weighs && about === null ? weight.file_bytes : undefined}
        >
          {about !== null ? `about ${weightOf(about)}` : weighs ? weightOf(weight.file_bytes) : "–"}
        </span>
        <span className="rail-name">
          {about === null && (weighs || !destination) ? destination?.name : "measuring…"}
        </span>
      </div>
      {destination && (
        <div className={`rail-middle ${weighs && weight.limit_bytes === null ? "rail-open" : ""}`}>
          {weighs && <Bar weight={weight} more={about === null ? 0 : about - weight.file_bytes} />}
          <Limit destination={destination} />
        </div>
      )}
      <div className="rail-end">
        <Verdict destination={destination} weight={weighs ? weight : null} isOlder={isOlder || about !== null} />
      </div>
    </footer>
  );
}

/** What is shown until the written copy has been weighed; null where that is known. It counts what is on its way. */
function useEstimate(destination: Destination | null, weight: Weight | null, isOlder: boolean): number | null {
  const placed = useBench().data?.placed ?? [];
  const inHand = useClippingInHand();
  const placing = useBenchState((state) => state.placing).filter((each) => each.destination === destination?.id);
  if (!destination || !weight || !(isOlder || placing.length > 0)) return null;
  const known = inHand && !placed.some((each) => each.id === inHand.id) ? [...placed, inHand] : placed;
  return aboutBytes(weight, [...destination.placements, ...placing], known);
}

/** `more` is what is about to be added, while it is being measured. */
function Bar({ weight, more }: { weight: Weight; more: number }) {
  const held = useBenchState((state) => state.about);
  const about = more > 0 ? more : held;
  const isMessage = useDestination()?.view === "message";
  const parts = segments(weight, isMessage ? "text and the rest" : "text");
  const last = parts.at(-1);
  const end = last ? last.start + last.width : 0;
  const hasLimit = weight.limit_bytes !== null;
  const limitShare = hasLimit ? NOTCH : 1;
  const aboutWidth = about ? Math.min(about / railBytes(weight), 1 - end) : 0;
  const percent = (share: number) => `${(share * 100).toFixed(3)}%`;
  return (
    <>
      <div className="rail-labels" aria-hidden="true">
        {parts
          // The limit's own words stand behind its line: no name runs into them.
          .map((part) => ({ ...part, room: Math.min(part.width, Math.max(limitShare - part.start, 0)) }))
          .filter((part) => part.room >= LABEL_SHARE)
          .map((part) => (
            <span key={part.key} style={{ left: percent(part.start), maxWidth: percent(part.room) }}>
              {part.label}
            </span>
          ))}
        {aboutWidth > 0 && about !== null && end < 0.62 && (
          <span style={{ left: percent(end) }}>this one: about {weightOf(about)}</span>
        )}
      </div>
      <ul className="rail-bar" aria-label="What weighs">
        {parts.map((part) => (
          <li
            key={part.key}
            className={`segment segment-${part.kind}`}
            style={{ left: percent(part.start), width: percent(part.width) }}
            title={`${part.label}: ${weightOf(part.bytes)}`}
          >
            <span className="unseen">
              {part.label}: {weightOf(part.bytes)}
            </span>
          </li>
        ))}
        {hasLimit && end < limitShare && (
          <li
            aria-hidden="true"
            className="segment segment-free"
            style={{ left: percent(end), width: percent(limitShare - end) }}
          />
        )}
        {end > limitShare && (
          <li
            aria-hidden="true"
            className="segment segment-over"
            style={{ left: percent(limitShare), width: percent(end - limitShare) }}
          />
        )}
        {aboutWidth > 0 && (
          <li
            aria-hidden="true"
            className="segment segment-about"
            style={{ left: percent(end), width: percent(aboutWidth) }}
          />
        )}
      </ul>
    </>
  );
}

function Limit({ destination }: { destination: Destination }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const limit = destination.limit_bytes;
  return (
    <div className="rail-notch" style={{ left: `${(NOTCH * 100).toString()}%` }}>
      <span>
        {limit === null ? (
          "no limit yet"
        ) : (
          <>
            limit <b>{limitText(limit)}</b>
          </>
        )}
        {" · "}
        <button
          type="button"
          className="choice"
          onClick={(event) => {
            setAnchor(event.currentTarget);
          }}
        >
          {limit === null ? "set one" : "change"}
        </button>
      </span>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        anchorOrigin={{ vertical: "top", horizontal: "center" }}
        transformOrigin={{ vertical: "bottom", horizontal: "center" }}
        onClose={() => {
          setAnchor(null);
        }}
      >
        <LimitForm
          destination={destination}
          onEnd={() => {
            setAnchor(null);
          }}
        />
      </Popover>
    </div>
  );
}

function LimitForm({ destination, onEnd }: { destination: Destination; onEnd: () => void }) {
  const [text, setText] = useState(destination.limit_bytes === null ? "" : limitText(destination.limit_bytes));
  const [problem, setProblem] = useState("");
  const [keeps, setKeeps] = useState(destination.keeps_fitting);
  const send = async (limit: string | null) => {
    const params = { path: { destination: destination.id } };
    try {
      await api.PUT("/api/v1/destinations/{destination}/limit", { params, body: { limit } });
      await refresh();
      onEnd();
    } catch (error) {
      if (error instanceof Error && "problem" in error) setProblem(`${error.message} Type a number with its unit.`);
      else showError(error);
    }
  };
  const keep = async (wanted: boolean) => {
    setKeeps(wanted);
    const params = { path: { destination: destination.id } };
    await api
      .PUT("/api/v1/destinations/{destination}/keeps-fitting", { params, body: { keeps_fitting: wanted } })
      .catch(showError);
    await refresh();
  };
  return (
    <form
      className="limit-form"
      onSubmit={(event) => {
        event.preventDefault();
        void send(text);
      }}
    >
      <label htmlFor="limit">What may the file weigh?</label>
      <div>
        <InputBase
          id="limit"
          autoFocus
          value={text}
          placeholder="2 MB"
          onChange={(event) => {
            setText(event.target.value);
          }}
        />
        <Button type="submit" variant="contained">
          Set
        </Button>
        <Button type="button" variant="outlined" onClick={() => void send(null)}>
          No limit
        </Button>
      </div>
      <label className="keeps-fitting">
        <input type="checkbox" checked={keeps} onChange={(event) => void keep(event.target.checked)} />
        Keep it under the limit: what is placed later is made to fit at once
      </label>
      <p role="alert">{problem || "2 MB, 500 kB or 10 MiB: what the mail or the form takes."}</p>
    </form>
  );
}

interface VerdictProps {
  destination: Destination | null;
  weight: Weight | null;
  isOlder: boolean;
}

function Verdict({ destination, weight, isOlder }: VerdictProps) {
  const fitting = useBenchState((state) => state.fitting);
  if (fitting) {
    return (
      <div className="fitting" role="status">
        <progress value={fitting.done} max={fitting.of} aria-label="Making it fit" />
        <span>{fitting.doing}</span>
        <Button variant="outlined" onClick={() => void stopFitting(fitting.job)}>
          Stop
        </Button>
      </div>
    );
  }
  if (!destination) return <span className="quiet">Nothing to weigh</span>;
  if (!weight || isOlder) return <span className="quiet">measuring…</span>;
  if (weight.limit_bytes === null)
    return (
      <span className="quiet">
        {weight.pictures.length === 1 ? "1 picture" : `${weight.pictures.length.toString()} pictures`}
      </span>
    );
  const over = weight.file_bytes - weight.limit_bytes;
  if (over <= 0) return <span className="fits">Fits, {weightOf(-over)} free</span>;
  return (
    <>
      <span className="too-heavy">{weightOf(over)} over</span>
      <Button variant="contained" onClick={() => void makeItFit(destination.id)}>
        Make it fit
      </Button>
    </>
  );
}
