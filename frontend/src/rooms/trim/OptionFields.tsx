import { useState } from "react";
import type { Option, OptionValue } from "../../api/sheet";
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
    <span className="choices" role="group" aria-label={option.label}>
      {choices.map((each) => (
        <button
          key={each.value}
          type="button"
          aria-pressed={each.value === value}
          onClick={() => {
            onSet(each.value);
          }}
        >
          {each.label}
        </button>
      ))}
    </span>
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
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? Number(value.toFixed(digits)).toString();
  const commit = () => {
    const number = Number(typed?.replace(",", "."));
    if (typed !== null && typed.trim() !== "" && Number.isFinite(number) && number !== value) onSet(number);
    setTyped(null);
  };
  return (
    <label className="amount">
      {label}
      <input
        inputMode="decimal"
        value={shown}
        maxLength={9}
        aria-label={`${label} in ${unit}`}
        onChange={(event) => {
          setTyped(event.target.value.replace(/[^\d.,-]/g, ""));
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
            setTyped(null);
            event.currentTarget.blur();
          } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
            event.preventDefault();
            onSet(Number((value + (event.key === "ArrowUp" ? step : -step)).toFixed(4)));
            setTyped(null);
          }
        }}
      />
      {unit}
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
