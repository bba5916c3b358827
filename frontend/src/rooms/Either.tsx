interface Props<Way extends string> {
  /** What is chosen between. */
  label: string;
  value: Way;
  ways: readonly (readonly [Way, string])[];
  onChange: (way: Way) => void;
  disabled?: boolean;
}

/** The one form of every either-or: segments side by side, the chosen one in ink. */
export function Either<Way extends string>({ label, value, ways, onChange, disabled = false }: Props<Way>) {
  return (
    <span className="either" role="group" aria-label={label}>
      {ways.map(([way, words]) => (
        <button
          key={way}
          type="button"
          aria-pressed={way === value}
          disabled={disabled}
          onClick={() => {
            onChange(way);
          }}
        >
          {words}
        </button>
      ))}
    </span>
  );
}
