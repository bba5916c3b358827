import type { Kind } from "../../api/sheet";

/** A mark that was drawn and is on its way to the server. */
export interface PendingMark {
  id: string;
  gesture: Kind["gesture"];
  points: readonly (readonly [number, number])[];
  /** What a pennant will say. */
  label: string;
}

/** What was drawn, at once and roughly, until the server says how it looks: quick hands see each of their presses. */
export function Pending({ marks, scale }: { marks: readonly PendingMark[]; scale: number }) {
  if (marks.length === 0) return null;
  return (
    <svg className="aim pending" aria-hidden="true">
      {marks.map((mark) => {
        const points = mark.points.map(([x, y]) => [x * scale, y * scale] as const);
        const [[ax, ay] = [0, 0], [bx, by] = [0, 0]] = points;
        if (mark.gesture === "click")
          return (
            <g key={mark.id} className="pending-flag">
              <path d={`M${ax.toFixed(1)} ${ay.toFixed(1)} v-26 h24 l-5 9 l5 9 h-24`} />
              <text x={ax + 5} y={ay - 11}>
                {mark.label}
              </text>
            </g>
          );
        if (mark.gesture === "box")
          return <rect key={mark.id} x={Math.min(ax, bx)} y={Math.min(ay, by)} width={Math.abs(bx - ax)} height={Math.abs(by - ay)} />; // prettier-ignore
        return <polyline key={mark.id} points={points.map((each) => each.map((value) => value.toFixed(1)).join(",")).join(" ")} />; // prettier-ignore
      })}
    </svg>
  );
}
