import { useState } from "react";
import type { Option, OptionValue } from "../../api/sheet";
import { Unread } from "../../base/NumberField";
import { useTypedNumber } from "../../base/useTypedNumber";
import { Either } from "../Either";
import { backToMat } from "./focus";

interface FieldProps {
  option: Option;
  value: OptionValue;
  onSet: (value: OptionValue) => void;
}

/** The field of one option, by its form. */
export function OptionField({ option, value, onSet }: FieldProps) {
  if (option.form === "colour") return <Swatches option={option} value={value} onSet={onSet} />;
  if (option.form === "choice") return <Choices option={option} value={value} onSet={onSet} />;
  if (option.form === "switch")
    return (
      <label className="option-switch">
        <input
          type="checkbox"
          checked={value === true}
          onChange={(event) => {
            onSet(event.target.checked);
          }}
        />
        {option.label}
      </label>
    );
  if (option.form === "amount")
    return <Amount label={option.label} unit={option.unit} value={Number(value)} onSet={onSet} />;
  return <Words option={option} value={String(value)} onSet={onSet} />;
}

function Swatches({ option, value, onSet }: FieldProps) {
  const choices = option.choices ?? [];
  const chosen = choices.find((each) => each.value === value);
  return (
    <span className="swatches" role="group" aria-label={`${option.label}: ${chosen?.label ?? ""}`}>
      <span className="option-label">{option.label}</span>
      {choices.map((each) => (
        <button
          key={each.value}
          type="button"
          className={each.colour ? "swatch" : "swatch swatch-none"}
          style={each.colour ? { background: each.colour } : undefined}
          aria-label={each.label}
          title={each.label}
          aria-pressed={each.value === value}
          onClick={() => {
            onSet(each.value);
          }}
        />
      ))}
    </span>
  );
}

function Choices({ option, value, onSet }: FieldProps) {
  const choices = option.choices ?? [];
  return (
    <Either
      label={option.label}
      value={String(value)}
      ways={choices.map((each) => [each.value, each.label] as const)}
      onChange={onSet}
    />
  );
}

interface AmountProps {
  label: string;
  unit: string;
  value: number;
  step?: number;
  digits?: number;
  onSet: (value: number) => void;
}

/** A number with its unit, taken over by Enter or on leaving; Up and Down change it by a step. */
export function Amount({ label, unit, value, step = 0.5, digits = 2, onSet }: AmountProps) {
  const { typed, unread, type, commit, drop } = useTypedNumber((number) => {
    if (number !== value) onSet(number);
  });
  const shown = typed ?? Number(value.toFixed(digits)).toString();
  return (
    <label className="amount number-field">
      {label}
      <input
        inputMode="decimal"
        value={shown}
        maxLength={12}
        aria-label={`${label} in ${unit}`}
        aria-invalid={unread}
        onChange={(event) => {
          type(event.target.value);
        }}
        onFocus={(event) => {
          event.target.select();
        }}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") {
            event.preventDefault();
            commit();
            backToMat();
          } else if (event.key === "Escape") {
            event.stopPropagation();
            event.preventDefault();
            drop();
            event.currentTarget.blur();
          } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
            event.preventDefault();
            onSet(Number((value + (event.key === "ArrowUp" ? step : -step)).toFixed(4)));
            drop();
          }
        }}
      />
      {unit}
      {unread && <Unread />}
    </label>
  );
}

function Words({ option, value, onSet }: { option: Option; value: string; onSet: (value: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed !== value) onSet(typed);
    setTyped(null);
  };
  return (
    <label className="words">
      {option.label.toLowerCase()}
      <textarea
        rows={1}
        value={typed ?? value}
        maxLength={2_000}
        data-says=""
        aria-label={option.label}
        onChange={(event) => {
          setTyped(option.lines ? event.target.value : event.target.value.replace(/\n/g, " "));
        }}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !(option.lines && event.shiftKey)) {
            event.preventDefault();
            commit();
            backToMat();
          } else if (event.key === "Escape") {
            event.stopPropagation();
            event.preventDefault();
            setTyped(null);
            event.currentTarget.blur();
          }
        }}
      />
    </label>
  );
}
