import { useEffect, useRef } from "react";

/** Words that are being written on the picture: of a new mark, or of one that is there. */
export interface Written {
  kind: string;
  points: readonly (readonly [number, number])[];
  text: string;
  mark?: string;
}

interface Props {
  written: Written;
  scale: number;
  /** With the text, or null when it was left. */
  onDone: (text: string | null) => void;
}

/** A field where the words will stand; Enter ends, Shift + Enter begins a new line, Esc leaves. */
export function Writing({ written, scale, onDone }: Props) {
  const field = useRef<HTMLTextAreaElement>(null);
  const over = useRef(false);
  useEffect(() => {
    field.current?.focus({ preventScroll: true });
    field.current?.select();
  }, []);
  const [x, y] = written.points.at(-1) ?? [0, 0];
  const end = (text: string | null) => {
    if (over.current) return;
    over.current = true;
    onDone(text);
  };
  return (
    <textarea
      ref={field}
      className="writing"
      rows={2}
      maxLength={2_000}
      defaultValue={written.text}
      placeholder="Write, then Enter"
      aria-label={`Words of the ${written.kind}. Enter ends, Shift and Enter begins a new line.`}
      style={{ transform: `translate(${(x * scale).toFixed(1)}px, ${(y * scale).toFixed(1)}px)` }}
      onBlur={(event) => {
        end(event.target.value.trim() === "" ? null : event.target.value);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !event.shiftKey) {
          event.preventDefault();
          end(event.currentTarget.value);
        } else if (event.key === "Escape") {
          event.preventDefault();
          event.stopPropagation();
          end(null);
        }
      }}
    />
  );
}
