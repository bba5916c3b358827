import { useRef, useState } from "react";
import { useGoTo } from "../../api/useGoTo";
import { movePlacement } from "../../api/bench";
import type { Outline, Spot } from "../../api/client";
import { head, mm, where, widthWords } from "../../base/format";
import { CLIPPING_TYPE, PLACEMENT_TYPE, isOwnDrag } from "../rack";
import { useGalley } from "./GalleyContext";
import { PlacedFigure } from "./PlacedFigure";

/** What stands at a spot already, and the spot itself behind it. */
export function SpotWithPictures({ id }: { id: string }) {
  const { outline, placed } = useGalley();
  const spot = outline.spots[id];
  if (!spot) return null;
  return (
    <>
      {placed.get(id)?.map((placement) => (
        <PlacedFigure key={placement.id} placement={placement} spot={spot} />
      ))}
      <SpotMark spot={spot} />
    </>
  );
}

/** Letters of a name that a pill has room for in a narrow column. */
const MOST_NAME = 22;

export function widths(spot: Spot): string {
  if (spot.kind === "message") return widthWords(spot);
  return `${spot.widths_emu.map((each) => mm(each)).join(" or ")} mm`;
}

function isBlank(outline: Outline): boolean {
  return outline.body.blocks.every((block) => !block.text.trim() && block.kind !== "table" && block.kind !== "other");
}

function SpotMark({ spot }: { spot: Spot }) {
  const galley = useGalley();
  const goTo = useGoTo();
  const was = useRef(false);
  const [over, setOver] = useState(false);
  const chosen = galley.chosenSpot === spot.id;
  const name = galley.inHand?.name;
  const place = spot.kind === "cell" ? "cell" : where(spot, 22);
  const sure = widthWords(spot);
  const waiting = spot.widths_emu.length > 1 ? widths(spot) : `${place} · ${sure}`;
  const stands = galley.placed.get(spot.id)?.some((each) => each.clipping === galley.inHand?.id) ?? false;
  const called = name ? head(name, MOST_NAME) : "it";
  const enters = `${stands ? `${called} stands here` : `Enter places ${called}`} · ${sure}`;
  // A text without any words yet has one place: it says what it is for.
  const first = galley.chosenSpot === null && galley.currentSpot === spot.id && isBlank(galley.outline);
  const says = over
    ? `Let go: it goes ${where(spot, 22)} · ${sure}`
    : chosen && name
      ? enters
      : first
        ? `Click where the picture goes · ${sure}`
        : waiting;
  const reads = chosen && name && !stands ? `Place ${name} ${where(spot, 40)}` : `Place ${where(spot, 40)}`;
  return (
    <button
      type="button"
      className={`spot ${chosen ? "spot-chosen" : ""} ${first ? "spot-first" : ""} ${over ? "spot-over" : ""}`}
      data-spot={spot.id}
      tabIndex={galley.currentSpot === spot.id ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`${reads}, ${spot.kind === "cell" ? "in a table cell, " : ""}${widths(spot)}`}
      onClick={(event) => {
        if (event.detail !== 2) {
          was.current = chosen;
          galley.onSpot(spot.id);
        } else if (!was.current) goTo("/take"); // The first click of two chose it: now it is taken for.
      }}
      onFocus={() => {
        galley.onFocusSpot(spot.id);
      }}
      onDragOver={(event) => {
        if (!isOwnDrag(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => {
        setOver(false);
      }}
      onDrop={(event) => {
        setOver(false);
        const clipping = event.dataTransfer.getData(CLIPPING_TYPE);
        const moved = event.dataTransfer.getData(PLACEMENT_TYPE);
        if (!clipping && !moved) return;
        event.preventDefault();
        if (moved) void movePlacement(moved, spot.id);
        else galley.onDropClipping(spot.id, clipping);
      }}
    >
      <span className="spot-pill">{says}</span>
    </button>
  );
}
