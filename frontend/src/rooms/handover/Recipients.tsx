import Button from "@mui/material/Button";
import { useState } from "react";
import { forgetRecipient, saveRecipient, useRecipients, type TypedRecipient } from "../../api/mail";
import { limitText } from "../../base/format";
import { TypedField } from "../Typed";

const NOBODY: TypedRecipient = { name: "", address: "", subject: "", limit: "" };
const FIELDS = [
  ["name", "Name", "Help desk"],
  ["address", "Address", "name@host"],
  ["subject", "Subject begins with", "{window} is the window’s title"],
  ["limit", "Takes at most", "2 MB"],
] as const;

/** Who is written to often: named, with what their subject begins with and what they take. */
export function Recipients() {
  const saved = useRecipients()?.saved ?? [];
  const [typed, setTyped] = useState<TypedRecipient | null>(null);
  return (
    <div className="mail-server">
      <p>
        Often written to: {saved.length === 0 && "nobody yet. "}
        {saved.map((each) => (
          <span key={each.address}>
            <button
              type="button"
              className="choice"
              title={each.address}
              onClick={() => {
                setTyped({ ...each, limit: each.limit_bytes === null ? "" : limitText(each.limit_bytes) });
              }}
            >
              {each.name}
            </button>
            {" · "}
          </span>
        ))}
        <button
          type="button"
          className="choice"
          aria-expanded={typed !== null}
          onClick={() => {
            setTyped(typed ? null : NOBODY);
          }}
        >
          {typed ? "leave it so" : "add somebody"}
        </button>
      </p>
      {typed && (
        <form
          className="server-form"
          aria-label="Recipient"
          onSubmit={(event) => {
            event.preventDefault();
            void saveRecipient(typed).then((done) => {
              // Somebody else may have been chosen meanwhile.
              if (done) setTyped((now) => (now === typed ? null : now));
            });
          }}
        >
          {FIELDS.map(([name, label, hint]) => (
            <TypedField
              key={name}
              id={`recipient-${name}`}
              label={label}
              value={typed[name]}
              hint={hint}
              onChange={(value) => {
                setTyped({ ...typed, [name]: value });
              }}
            />
          ))}
          <Button type="submit" variant="contained" disabled={!typed.name.trim() || !typed.address.trim()}>
            Save
          </Button>
          {saved.some((each) => each.address === typed.address) && (
            <Button
              variant="outlined"
              onClick={() => {
                void forgetRecipient(typed.address);
                setTyped(null);
              }}
            >
              Forget
            </Button>
          )}
        </form>
      )}
    </div>
  );
}
