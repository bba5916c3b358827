import Popover from "@mui/material/Popover";
import { useState } from "react";
import type { Slip } from "../../api/client";
import { useRefusal } from "../../api/refusal";
import { beginRounds } from "../../api/rounds";
import { readWhole } from "../../base/numbers";
import { FormEnd, TypedField } from "../Typed";

/** *Rounds…*: a clipping's area at set times. */
export function RoundsButton({ slip }: { slip: Slip }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const end = () => {
    setAnchor(null);
  };
  return (
    <>
      <button
        type="button"
        title="Its area again and again at set times, with nobody there"
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        Rounds
      </button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        anchorOrigin={{ vertical: "top", horizontal: "right" }}
        transformOrigin={{ vertical: "bottom", horizontal: "left" }}
        onClose={end}
      >
        <RoundsForm slip={slip} onEnd={end} />
      </Popover>
    </>
  );
}

const EVENING = 18;

/** The evening, or eight hours from now where that is over: as a field of the browser has it. */
function proposedEnd(now = new Date()): string {
  const end = new Date(now);
  if (now.getHours() < EVENING - 1) end.setHours(EVENING, 0, 0, 0);
  else end.setHours(now.getHours() + 8, 0, 0, 0);
  const two = (value: number) => value.toString().padStart(2, "0");
  return `${end.getFullYear().toString()}-${two(end.getMonth() + 1)}-${two(end.getDate())}T${two(end.getHours())}:${two(end.getMinutes())}`;
}

function RoundsForm({ slip, onEnd }: { slip: Slip; onEnd: () => void }) {
  const [name, setName] = useState(slip.name);
  const [byTimes, setByTimes] = useState(false);
  const [minutes, setMinutes] = useState("10");
  const [at, setAt] = useState("8:00, 12:00, 16:00");
  const [until, setUntil] = useState(proposedEnd);
  const [onlyChanged, setOnlyChanged] = useState(false);
  const [refusal, tried] = useRefusal();
  const begin = async () => {
    const every = byTimes ? null : readWhole("Minutes", minutes, 1, 10_080);
    await beginRounds(slip, { name, every_min: every, at: byTimes ? at : "", until, only_changed: onlyChanged });
    onEnd();
  };
  return (
    <form
      className="save-as"
      aria-label={`Take ${slip.name} at set times`}
      onSubmit={(event) => {
        event.preventDefault();
        void tried(begin);
      }}
    >
      <TypedField id="rounds-name" label="Name" wide first value={name} onChange={setName} />
      <div>
        <label htmlFor="rounds-kind">Taken</label>
        <select
          id="rounds-kind"
          value={byTimes ? "times" : "minutes"}
          onChange={(event) => {
            setByTimes(event.target.value === "times");
          }}
        >
          <option value="minutes">every …</option>
          <option value="times">at …</option>
        </select>
      </div>
      {byTimes ? (
        <TypedField id="rounds-at" label="Times" value={at} onChange={setAt} />
      ) : (
        <TypedField id="rounds-minutes" label="Minutes" type="number" value={minutes} onChange={setMinutes} />
      )}
      <TypedField id="rounds-until" label="Until" type="datetime-local" value={until} onChange={setUntil} />
      <p className="rounds-only">
        <input
          id="rounds-changed"
          type="checkbox"
          checked={onlyChanged}
          onChange={(event) => {
            setOnlyChanged(event.target.checked);
          }}
        />
        <label htmlFor="rounds-changed">keep only what changed</label>
      </p>
      <FormEnd words="Begin" refusal={refusal} disabled={until === ""} onEnd={onEnd} />
    </form>
  );
}
