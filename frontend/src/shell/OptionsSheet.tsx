import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import { showError } from "../api/bench";
import { ProblemError } from "../api/client";
import { changeOptions, setOptions, useOptions } from "../api/options";
import { signOut, usePerson } from "../api/session";
import { useBenchState } from "../base/state";
import { LinkSetting } from "./LinkSetting";

const SWITCHES = [
  [
    "keep_at_once",
    "What is drawn goes into the chosen place at once",
    "else it waits, to be moved and pulled, until Enter places it",
  ],
  ["to_clipboard", "What is taken also goes onto the clipboard", "as PNG, ready to be pasted elsewhere"],
  [
    "pointer",
    "Show the mouse pointer in what is taken",
    "where the source gives it; in Trim it can still be hidden or moved",
  ],
  [
    "single_letters",
    "Keys of a single sign",
    "such as T, F or 1; switched off, only keys with Ctrl or Alt and the named ones work",
  ],
  ["by_day", "Divide the rack by days", "else it is simply the newest first"],
] as const;

/** What can be set, all of it kept on the server. */
export function OptionsSheet() {
  const open = useBenchState((state) => state.optionsOpen);
  const set = useBenchState((state) => state.set);
  const options = useOptions();
  const person = usePerson();
  const close = () => {
    set({ optionsOpen: false });
  };
  if (!options) return null;
  return (
    <Dialog open={open} onClose={close} maxWidth="sm" aria-labelledby="options-title">
      <div className="keys-sheet options-sheet">
        <h2 id="options-title" className="title">
          Options
        </h2>
        {SWITCHES.map(([name, title, says]) => (
          <div key={name} className="option">
            <input
              type="checkbox"
              id={`option-${name}`}
              checked={options[name]}
              onChange={(event) => {
                setOptions({ [name]: event.target.checked });
              }}
            />
            <label htmlFor={`option-${name}`}>
              <b>{title}</b>
              <span>{says}</span>
            </label>
          </div>
        ))}
        {person === null && <LinkSetting />}
        {person && <SignedIn person={person} />}
        <NamePattern pattern={options.name_pattern} />
        <div className="sheet-end">
          <Button
            variant="text"
            onClick={() => {
              set({ optionsOpen: false, keysOpen: true });
            }}
          >
            Change keys…
          </Button>
          <Button variant="contained" onClick={close}>
            Close
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

/** Who one is here, and the ways out. */
function SignedIn({ person }: { person: string }) {
  return (
    <p className="option-signed-in">
      <span>
        Signed in as <b>{person}</b>
      </span>
      <button type="button" className="choice" onClick={() => void signOut(false)}>
        sign out
      </button>
      <button type="button" className="choice" onClick={() => void signOut(true)}>
        sign out everywhere
      </button>
    </p>
  );
}

/** How clippings are named without being asked. */
function NamePattern({ pattern }: { pattern: string }) {
  const [typed, setTyped] = useState(pattern);
  const [problem, setProblem] = useState<string | null>(null);
  const commit = async () => {
    if (typed === pattern) return;
    try {
      await changeOptions({ name_pattern: typed });
      setProblem(null);
    } catch (error) {
      if (error instanceof ProblemError) setProblem(`${error.problem.detail} ${error.problem.remedy}`);
      else showError(error);
    }
  };
  const example = typed
    .replace("{window}", "Tide board")
    .replace("{date}", "2026-03-12")
    .replace("{time}", "12.05")
    .replace("{counter}", "1");
  return (
    <div className="option-pattern">
      <label htmlFor="name-pattern">
        <b>Names of clippings</b>
      </label>
      <InputBase
        id="name-pattern"
        value={typed}
        inputProps={{ maxLength: 120 }}
        onChange={(event) => {
          setTyped(event.target.value);
        }}
        onBlur={() => void commit()}
        onKeyDown={(event) => {
          if (event.key === "Enter") void commit();
        }}
      />
      <span>
        of {"{window}"}, {"{date}"}, {"{time}"} and {"{counter}"}; here: <b>{example}</b>
      </span>
      {problem && (
        <span role="alert" className="key-clash">
          {problem}
        </span>
      )}
    </div>
  );
}
