import InputBase from "@mui/material/InputBase";
import { useEffect, useRef, useState } from "react";
import { writeLetter } from "../../../api/bench";
import type { Destination, Letter, Recipient } from "../../../api/client";
import { useRecipients } from "../../../api/mail";

const WAIT_MS = 500;
const FIELDS = [
  ["to", "To", "addresses, parted by commas"],
  ["cc", "Copy to", ""],
  ["sender", "From", "your own address"],
  ["subject", "Subject", "what it is about"],
] as const;

function sameLetter(one: Letter, other: Letter): boolean {
  return one.text === other.text && FIELDS.every(([name]) => one[name] === other[name]);
}

/** What a new message says; it is kept a moment after the last key, and on leaving a field. */
export function LetterForm({ destination, letter }: { destination: Destination; letter: Letter }) {
  const [typed, setTyped] = useState<Letter | null>(null);
  const timer = useRef<number | undefined>(undefined);
  const latest = useRef<Letter | null>(null);
  const now = typed ?? letter;
  const known = useRecipients()?.used ?? [];
  const keep = () => {
    window.clearTimeout(timer.current);
    const letterNow = latest.current;
    if (!letterNow) return;
    void writeLetter(destination.id, letterNow).then(() => {
      if (latest.current === letterNow) latest.current = null;
    });
  };
  // What was typed stays until the message says the same: an older look at it must not come in between.
  if (typed && sameLetter(typed, letter)) setTyped(null);
  // What was typed is kept even if the room is left at once.
  useEffect(() => keep, []); // eslint-disable-line react-hooks/exhaustive-deps -- on leaving only
  const change = (changed: Partial<Letter>) => {
    const next = { ...now, ...changed };
    latest.current = next;
    setTyped(next);
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(keep, WAIT_MS);
  };
  return (
    <form
      className="letter"
      aria-label="New message"
      onSubmit={(event) => {
        event.preventDefault();
      }}
    >
      <Saved
        onChoose={({ address, subject }) => {
          change({ to: now.to ? now.to : address, subject: now.subject || subject });
          keep();
        }}
      />
      <datalist id="letter-known">
        {known.map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
      {FIELDS.map(([name, label, hint]) => (
        <label key={name} className="letter-field" htmlFor={`letter-${name}`}>
          <span>{label}</span>
          <InputBase
            fullWidth
            id={`letter-${name}`}
            value={now[name]}
            placeholder={hint}
            inputProps={{ maxLength: 20_000, ...(name === "to" || name === "cc" ? { list: "letter-known" } : {}) }}
            onChange={(event) => {
              change({ [name]: event.target.value });
            }}
            onBlur={keep}
          />
        </label>
      ))}
      <label className="letter-text" htmlFor="letter-text">
        <span>Text; an empty line begins a paragraph</span>
        <InputBase
          fullWidth
          multiline
          id="letter-text"
          minRows={10}
          value={now.text}
          onChange={(event) => {
            change({ text: event.target.value });
          }}
          onBlur={keep}
        />
      </label>
    </form>
  );
}

/** Those who are written to often: one click fills in address and subject. */
function Saved({ onChoose }: { onChoose: (recipient: Recipient) => void }) {
  const saved = useRecipients()?.saved ?? [];
  if (saved.length === 0) return null;
  return (
    <p className="letter-saved">
      To{" "}
      {saved.map((each, index) => (
        <span key={each.address}>
          {index > 0 && " · "}
          <button
            type="button"
            className="choice"
            title={each.address}
            onClick={() => {
              onChoose(each);
            }}
          >
            {each.name}
          </button>
        </span>
      ))}
    </p>
  );
}
