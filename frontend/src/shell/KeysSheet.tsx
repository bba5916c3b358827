import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import InputBase from "@mui/material/InputBase";
import { Fragment, type KeyboardEvent, useState } from "react";
import { changeOptions, useOptions, type Action, type Options } from "../api/options";
import { ProblemError } from "../api/client";
import { showError } from "../api/bench";
import { byPlace, combination, readable } from "../api/keys";
import { useBenchState } from "../base/state";

const PLACES: Record<string, string> = {
  everywhere: "Everywhere",
  take: "Take",
  trim: "Trim",
  place: "Place",
  "hand over": "Hand over",
};

/** The places of all keys: a place may have only keys that always mean the same. */
function placesOf(options: Options | undefined): [string, Action[]][] {
  const places = byPlace(options?.actions ?? []);
  const named = new Set(places.map(([where]) => where));
  const others = new Set((options?.fixed ?? []).map((each) => each.where).filter((where) => !named.has(where)));
  return [...places, ...[...others].map((where): [string, Action[]] => [where, []])];
}

/** What is found of them by the key or by what it does. */
function found(places: [string, Action[]][], options: Options | undefined, sought: string): [string, Action[]][] {
  return places
    .map(([where, actions]): [string, Action[]] => [where, actions.filter((each) => isSought(each, sought))])
    .filter(
      ([where, actions]) =>
        actions.length > 0 || options?.fixed.some((each) => each.where === where && isSought(each, sought)),
    );
}

function isSought({ key, does }: { key: string; does: string }, sought: string): boolean {
  const words = `${readable(key)} ${does}`.toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => words.includes(word));
}

/** A combination as the caps of a keyboard. */
function Caps({ keys }: { keys: string }) {
  return (
    <>
      {readable(keys)
        .split(" + ")
        .map((cap, index) => (
          <Fragment key={cap}>
            {index > 0 && " + "}
            <kbd className="keycap">{cap}</kbd>
          </Fragment>
        ))}
    </>
  );
}

/** All keys; each can be changed here. */
export function KeysSheet() {
  const open = useBenchState((state) => state.keysOpen);
  const set = useBenchState((state) => state.set);
  const options = useOptions();
  const [asking, setAsking] = useState<string | null>(null);
  const [clash, setClash] = useState<{ id: string; words: string } | null>(null);
  const [sought, setSought] = useState("");
  const places = found(placesOf(options), options, sought);
  const close = () => {
    setAsking(null);
    setClash(null);
    set({ keysOpen: false });
  };
  const change = async (id: string, key: string) => {
    const changed = Object.fromEntries((options?.actions ?? []).map((each) => [each.id, each.key]));
    try {
      await changeOptions({ keys: { ...changed, [id]: key } });
      setAsking(null);
      setClash(null);
    } catch (error) {
      if (error instanceof ProblemError) setClash({ id, words: `${error.problem.detail} ${error.problem.remedy}` });
      else showError(error);
    }
  };
  return (
    <Dialog open={open} onClose={close} maxWidth="md" aria-labelledby="keys-title">
      <div className="keys-sheet">
        <h2 id="keys-title" className="title">
          Keys
        </h2>
        <div className="keys-head">
          <p>
            Choose a key to change it; Esc leaves it as it is.
            {options?.single_letters === false && " Keys of a single sign are switched off in the options."}
          </p>
          <InputBase
            value={sought}
            placeholder="Find a key or what it does…"
            inputProps={{ "aria-label": "Find a key or what it does" }}
            onChange={(event) => {
              setSought(event.target.value);
            }}
          />
        </div>
        <div className="keys-columns">
          {places.length === 0 && <p>No key is called so, and none does that.</p>}
          {places.map(([where, actions]) => (
            <section key={where} aria-label={PLACES[where]}>
              <h3>{PLACES[where]}</h3>
              <dl>
                {actions.map((action) => (
                  <KeyRow
                    key={action.id}
                    action={action}
                    asking={asking === action.id}
                    clash={clash?.id === action.id ? clash.words : null}
                    onAsk={(asked) => {
                      setAsking(asked ? action.id : null);
                      setClash(null);
                    }}
                    onChange={(key) => void change(action.id, key)}
                  />
                ))}
                {(options?.fixed ?? [])
                  .filter((each) => each.where === where && isSought(each, sought))
                  .map((each) => (
                    <div key={each.key}>
                      <dt>
                        <Caps keys={each.key} />
                      </dt>
                      <dd>{each.does}</dd>
                    </div>
                  ))}
              </dl>
            </section>
          ))}
        </div>
        <div className="sheet-end">
          <Button
            variant="text"
            onClick={() => {
              close();
              set({ optionsOpen: true });
            }}
          >
            Options…
          </Button>
          <Button variant="text" onClick={() => void changeOptions({ keys: {} }).catch(showError)}>
            All as they were at first
          </Button>
          <Button variant="contained" onClick={close}>
            Close
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

interface KeyRowProps {
  action: Action;
  asking: boolean;
  clash: string | null;
  onAsk: (asked: boolean) => void;
  onChange: (key: string) => void;
}

function KeyRow({ action, asking, clash, onAsk, onChange }: KeyRowProps) {
  const onKey = (event: KeyboardEvent) => {
    if (!asking || ["Control", "Shift", "Alt", "Meta", "Tab"].includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === "Escape" && action.id !== "leave") onAsk(false);
    else onChange(combination(event.nativeEvent));
  };
  return (
    <div>
      <dt>
        <button
          type="button"
          className={`key-button ${action.key === action.default ? "" : "key-changed"}`}
          aria-label={`${action.does}: ${readable(action.key)}${asking ? ", press the new key" : ", change it"}`}
          onClick={() => {
            onAsk(!asking);
          }}
          onKeyDown={onKey}
          onBlur={() => {
            if (asking && !clash) onAsk(false);
          }}
        >
          {asking ? "press it…" : <Caps keys={action.key} />}
        </button>
      </dt>
      <dd>
        {action.does}
        {clash && (
          <span role="alert" className="key-clash">
            {clash}
          </span>
        )}
      </dd>
    </div>
  );
}
