import { type RefObject, useEffect, useState } from "react";
import { ticks } from "./ruler";

export const RULER = 24;

interface Props {
  table: RefObject<HTMLElement | null>;
  /** The clipping's left upper corner on what scrolls, in view pixels. */
  origin: { x: number; y: number };
  pxPerMm: number;
  /** The mat's inside. */
  room: { width: number; height: number };
}

/** Millimetres in the destination along two edges of the mat. They stay in sight and have the ticks of what is in view only. */
export function Rulers({ table, origin, pxPerMm, room }: Props) {
  const [scrolled, setScrolled] = useState({ left: 0, top: 0 });
  useEffect(() => {
    const element = table.current;
    if (!element) return undefined;
    const read = () => {
      setScrolled({ left: element.scrollLeft, top: element.scrollTop });
    };
    read();
    element.addEventListener("scroll", read, { passive: true });
    return () => {
      element.removeEventListener("scroll", read);
    };
  }, [table]);
  const across = ticks(origin.x - scrolled.left, pxPerMm, RULER, room.width);
  const down = ticks(origin.y - scrolled.top, pxPerMm, RULER, room.height);
  return (
    <>
      <svg className="ruler" width={RULER} height={room.height} aria-hidden="true">
        {down.map(({ mm, at, long }) => (
          <line key={mm} y1={at} y2={at} x1={tickFrom(long)} x2={RULER} />
        ))}
      </svg>
      <svg className="ruler" width={room.width} height={RULER} aria-hidden="true">
        {across.map(({ mm, at, long }) => (
          <line key={mm} x1={at} x2={at} y1={tickFrom(long)} y2={RULER} />
        ))}
        {across
          .filter(({ long, at }) => long && at > RULER + 4)
          .map(({ mm, at }) => (
            <text key={mm} x={at + 4} y={11}>
              {mm}
              {mm === 0 ? " mm" : ""}
            </text>
          ))}
      </svg>
    </>
  );
}

function tickFrom(long: boolean): number {
  return RULER - (long ? 11 : 6);
}
