import InputBase from "@mui/material/InputBase";
import { useState } from "react";

interface NumberFieldProps {
  label: string;
  value: number | undefined;
  disabled?: boolean;
  onCommit: (value: number) => void;
}

/** A whole number that is taken over by Enter or on leaving; Esc puts the old one back. */
export function NumberField({ label, value, disabled = false, onCommit }: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const number = Number(typed);
    if (typed !== null && typed.trim() !== "" && Number.isFinite(number) && number !== value)
      onCommit(Math.round(number));
    setTyped(null);
  };
  return (
    <InputBase
      className="number"
      disabled={disabled}
      value={typed ?? value ?? ""}
      inputProps={{ "aria-label": label, inputMode: "numeric", maxLength: 6 }}
      onChange={(event) => {
        setTyped(event.target.value.replace(/[^\d]/g, ""));
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
          setTyped(null);
          event.currentTarget.querySelector("input")?.blur();
        }
      }}
    />
  );
}
