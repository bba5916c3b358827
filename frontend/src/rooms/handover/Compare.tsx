import Button from "@mui/material/Button";
import { type KeyboardEvent, type PointerEvent, useState } from "react";
import { useWeight } from "../../api/bench";
import { pictureUrl, type Destination, type Weighed } from "../../api/client";
import { useHeldKey, useKeys } from "../../api/keys";
import { weightOf } from "../../base/format";
import { useBenchState } from "../../base/state";
import { EMU_PER_PX } from "../../base/units";
import { Either } from "../Either";
import { PATCH_PX, held, within, type Point } from "./patch";

type Seen = "placed" | "pixels";
const SEEN = [
  ["placed", "at its placed size"],
  ["pixels", "at screen pixels"],
] as const;
const MOVES: Partial<Record<string, Point>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

/** A picture as it would be written, and the original: whole while a key is held, in a patch that is dragged over it. */
export function Compare({ destination, member }: { destination: Destination; member: string }) {
  const set = useBenchState((state) => state.set);
  const [seen, setSeen] = useState<Seen>("placed");
  const weight = useWeight().data;
  const changed = weight?.pictures.filter((each) => each.note !== null) ?? [];
  const at = Math.max(
    changed.findIndex((each) => each.member === member),
    0,
  );
  const picture = changed[at];
  const leave = () => {
    set({ comparing: null });
  };
  const step = (by: number) => {
    const next = changed[(at + by + changed.length) % changed.length];
    if (next) set({ comparing: next.member });
  };
  useKeys({ leave });
  return (
    <main className="room-body compare">
      <div className="tool-line">
        <span className="tool-name">Compare</span>
        {picture && (
          <span className="tool-says">
            <b>{picture.label}</b> · {weightOf(picture.bytes)} · {picture.note}
          </span>
        )}
        <span className="tool-end mat-view" role="group" aria-label="View">
          <Either label="How large they are seen" value={seen} ways={SEEN} onChange={setSeen} />
          {changed.length > 1 && (
            <>
              <button
                type="button"
                className="choice"
                aria-label="The picture before"
                onClick={() => {
                  step(-1);
                }}
              >
                previous
              </button>
              <span>
                {at + 1} of {changed.length}
              </span>
              <button
                type="button"
                className="choice"
                aria-label="The next picture"
                onClick={() => {
                  step(1);
                }}
              >
                next
              </button>
            </>
          )}
          <Button variant="outlined" onClick={leave}>
            Back to what weighs
          </Button>
        </span>
      </div>
      {picture ? (
        <Both key={picture.member} destination={destination} picture={picture} seen={seen} />
      ) : (
        <p className="galley-empty">{weight ? "Nothing was given up: there is nothing to compare." : "Weighing…"}</p>
      )}
      <p className="compare-says">
        Hold <kbd>C</kbd> for the whole original; drag the patch, or move it with the arrow keys.
      </p>
    </main>
  );
}

/** Both pictures, one on the other, at one size. */
function Both({ destination, picture, seen }: { destination: Destination; picture: Weighed; seen: Seen }) {
  const [whole, setWhole] = useState(false);
  const [natural, setNatural] = useState<{ width: number; height: number } | null>(null);
  const [middle, setMiddle] = useState<Point | null>(null);
  useHeldKey(
    "c",
    () => {
      setWhole(true);
    },
    () => {
      setWhole(false);
    },
  );
  const urls = urlsOf(destination, picture);
  if (!urls) return null;
  const size = sizeOf(picture, natural, seen);
  const at = size && within(middle ?? { x: size.width / 2, y: size.height / 2 }, size);
  const patch = at && !whole ? { at, clipPath: held(at, size) } : null;
  const pull = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setMiddle({ x: event.clientX - box.left, y: event.clientY - box.top });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const move = MOVES[event.key];
    if (!move || !at) return;
    event.preventDefault();
    const by = event.shiftKey ? 10 : 1;
    setMiddle(within({ x: at.x + move.x * by, y: at.y + move.y * by }, size));
  };
  return (
    <div className="compare-ground">
      <button
        type="button"
        className="compare-both"
        aria-label={`${picture.label}, as it would be written; in the patch and while C is held as it was taken`}
        data-whole={whole}
        style={size ?? { visibility: "hidden" }}
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          pull(event);
        }}
        onPointerMove={(event) => {
          if (event.currentTarget.hasPointerCapture(event.pointerId)) pull(event);
        }}
      >
        <img src={urls.now} alt="As it would be written" draggable={false} />
        <img
          className="compare-original"
          src={urls.before}
          alt="As it was taken"
          draggable={false}
          onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) => {
            setNatural({ width: naturalWidth, height: naturalHeight });
          }}
          style={patch ? { clipPath: patch.clipPath } : undefined}
        />
        {patch && (
          <span
            className="compare-patch"
            style={{ left: patch.at.x, top: patch.at.y, width: PATCH_PX, height: PATCH_PX }}
          >
            <span>original</span>
          </span>
        )}
      </button>
    </div>
  );
}

function urlsOf(destination: Destination, picture: Weighed): { now: string; before: string } | null {
  if (picture.placement === null) {
    const { member } = picture;
    return {
      now: pictureUrl.weighed(destination, member, false),
      before: pictureUrl.weighed(destination, member, true),
    };
  }
  const placement = destination.placements.find((each) => each.id === picture.placement);
  return placement ? { now: pictureUrl.placement(placement), before: pictureUrl.asTaken(placement) } : null;
}

/** In CSS pixels: as wide as it is placed, or one pixel of the screen for one of the original. */
function sizeOf(picture: Weighed, natural: { width: number; height: number } | null, seen: Seen) {
  if (!natural) return null;
  const placed = picture.shown_emu[0]?.[0];
  const width = seen === "placed" && placed ? placed / EMU_PER_PX : natural.width / window.devicePixelRatio;
  return { width, height: (width * natural.height) / natural.width };
}
