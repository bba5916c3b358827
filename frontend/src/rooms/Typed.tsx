import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";

interface FieldProps {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  type?: "text" | "number" | "password" | "date" | "datetime-local";
  /** What stands in it while it is empty. */
  hint?: string;
  /** It takes the focus when the form comes. */
  first?: boolean;
  wide?: boolean;
}

/** A field of a form, under its label. */
export function TypedField({ id, label, value, onChange, type = "text", hint, first, wide }: FieldProps) {
  return (
    <div className={wide ? "save-wide" : ""}>
      <label htmlFor={id}>{label}</label>
      <InputBase
        id={id}
        // Numbers are read as people type them, which the browser's own field for numbers does not.
        type={type === "number" ? "text" : type}
        autoFocus={first ?? false}
        value={value}
        placeholder={hint ?? ""}
        inputProps={{ maxLength: 300, autoComplete: "off", inputMode: type === "number" ? "decimal" : undefined }}
        onChange={(event) => {
          onChange(event.target.value);
        }}
      />
    </div>
  );
}

/** How a form in a sheet of its own ends: what was refused, and the two ways on. */
export function FormEnd({
  words,
  refusal,
  disabled,
  onEnd,
}: {
  words: string;
  refusal: string;
  disabled?: boolean;
  onEnd: () => void;
}) {
  return (
    <>
      {refusal && (
        <p role="alert" className="too-heavy">
          {refusal}
        </p>
      )}
      <div className="save-end">
        <Button variant="text" type="button" onClick={onEnd}>
          Cancel
        </Button>
        <Button variant="contained" type="submit" disabled={disabled ?? false}>
          {words}
        </Button>
      </div>
    </>
  );
}
