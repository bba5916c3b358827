import type { Tick } from "./ruler";

const RULER = 24;

/** Millimetres in the destination, from the picture's left upper corner. */
export function Ruler({ direction, marks, length }: { direction: "x" | "y"; marks: Tick[]; length: number }) {
  const across = direction === "x";
  return (
    <svg
      className={`ruler ruler-${direction}`}
      width={across ? length : RULER}
      height={across ? RULER : length}
      aria-hidden="true"
    >
      {marks.map((mark) => {
        const from = RULER - (mark.long ? 11 : 6);
        return across ? (
          <line key={mark.at} x1={mark.at} x2={mark.at} y1={from} y2={RULER} />
        ) : (
          <line key={mark.at} y1={mark.at} y2={mark.at} x1={from} x2={RULER} />
        );
      })}
      {across &&
        marks
          .filter((mark) => mark.long && mark.at > RULER + 4)
          .map((mark) => (
            <text key={mark.at} x={mark.at + 4} y={11}>
              {mark.mm}
              {mark.mm === 0 ? " mm" : ""}
            </text>
          ))}
    </svg>
  );
}
