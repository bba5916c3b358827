import InputBase from "@mui/material/InputBase";
import { useId } from "react";
import { useTypedNumber } from "./useTypedNumber";

interface NumberFieldProps {
  label: string;
  value: number | undefined;
  disabled?: boolean;
  onCommit: (value: number) => void;
}

/** A whole number that is taken over by Enter or on leaving; Esc puts the old one back. What can't be read says so. */
export function NumberField({ label, value, disabled = false, onCommit }: NumberFieldProps) {
  const says = useId();
  const { typed, unread, type, commit, drop } = useTypedNumber((number) => {
    if (Math.round(number) !== value) onCommit(Math.round(number));
  });
  return (
    <span className="number-field">
      <InputBase
        className="number"
        disabled={disabled}
        value={typed ?? value ?? ""}
        error={unread}
        inputProps={{ "aria-label": label, "aria-describedby": unread ? says : undefined, inputMode: "decimal", maxLength: 12 }} // prettier-ignore
        onChange={(event) => {
          type(event.target.value);
        }}
        onFocus={(event) => {
          event.target.select();
        }}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.ctrlKey) {
            event.preventDefault();
            commit();
          }
          if (event.key === "Escape") {
            event.stopPropagation();
            event.preventDefault();
            drop();
            event.currentTarget.querySelector("input")?.blur();
          }
        }}
      />
      {unread && <Unread id={says} />}
    </span>
  );
}

/** Said beside a field whose number can't be read. */
export function Unread({ id }: { id?: string }) {
  return (
    <span id={id} role="alert" className="number-unread">
      This is no number. Type it like 1200 or 12.5.
    </span>
  );
}
