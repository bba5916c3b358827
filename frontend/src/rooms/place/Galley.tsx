import { EMU_PER_MM } from "../../base/units";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import type { Destination, Outline } from "../../api/client";
import { mm } from "../../base/format";
import { FootHint } from "../FootHint";
import { OpenAnother } from "../OpenAnother";
import { useBenchState } from "../../base/state";
import { BlockView, Spots } from "./Blocks";
import { flows } from "./blocks";
import { type Found, FindWords, useFound } from "./FindWords";
import { GalleyContext, toPx } from "./GalleyContext";
import { moveAmongSpots, useEnterPlaces, usePlacedKeys } from "./keys";
import { type Stretch, laneOf, stretches, whereabouts } from "./stretches";
import { useGalleyState } from "./useGalleyState";
import { useStretches } from "./useStretches";

const PX_PER_MM = 4;
/** The edges of two lanes' paper and the ground between them; the same in styles/galley.css. */
const LANE_GAP_PX = 46;
const LANE_EDGE_PX = 14;
const LANE_HEIGHT_PX = 600;

/** The destination's text in lanes of true column width, and the places where a clipping can go. */
export function Galley({ destination }: { destination: Destination }) {
  const galley = useGalleyState(destination, PX_PER_MM, true);
  const [ground, setGround] = useState<HTMLDivElement | null>(null);
  const placement = useBenchState((state) => state.placement);
  const chosenSpot = destination.spot?.id;
  const stands = destination.placements.some((each) => each.id === placement);
  const outline = galley?.state.outline;
  const parts = useMemo(
    () => (outline ? flows(outline).flatMap((flow) => stretches(flow, laneOf(outline, flow.section))) : []),
    [outline],
  );
  const at = useMemo(() => whereabouts(parts), [parts]);
  const [found, setFound] = useState<Found | null>(null);
  const [called, setCalled] = useState("");
  const placedAt = destination.placements.find((each) => each.id === placement)?.spot;
  const wanted = [found?.block, called, galley?.state.currentSpot, chosenSpot, placedAt];
  const ready = outline !== undefined && (!outline.more || [chosenSpot, placedAt].every((id) => !id || at.has(id)));
  const isShown = useStretches(
    ground,
    wanted.map((id) => at.get(id ?? "") ?? -1),
  );
  /** Bring a spot into the page, so that it can have the focus. */
  const reveal = (spot: string) => {
    if (isShown(at.get(spot) ?? -1)) return;
    flushSync(() => {
      setCalled(spot);
    });
  };
  useFound(ground, found);
  usePlacedKeys();
  useEnterPlaces(galley?.state);
  // Come back to where the work is: the chosen picture, else the chosen place.
  useEffect(() => {
    if (!ready || !ground) return;
    const target =
      ground.querySelector(`[data-placement="${placement ?? ""}"]`) ??
      ground.querySelector(`[data-spot="${CSS.escape(chosenSpot ?? "")}"]`);
    // One that goes on in the next lane may be wider than the view: then where it begins is seen.
    const isWide = (target?.getBoundingClientRect().width ?? 0) > ground.clientWidth;
    target?.scrollIntoView({ block: "center", inline: isWide ? "start" : "center" });
  }, [ready, ground, placement, stands]); // eslint-disable-line react-hooks/exhaustive-deps -- not while a place is being chosen

  if (!galley) return <main className="room-body galley-empty">Reading the text…</main>;
  const { state, order } = galley;
  const current = state.outline.spots[state.chosenSpot ?? state.currentSpot ?? ""];
  return (
    <main className="room-body place">
      <div className="tool-line">
        <span className="tool-name">Galley</span>
        <span className="tool-says">
          {sectionWords(state.outline, current?.section ?? 0)} · a proof of the text, not of its pages
        </span>
        <span className="tool-end">
          <FindWords outline={state.outline} onFound={setFound} />
          <OpenAnother />
        </span>
      </div>
      <FootHint>
        <p>
          {destination.spot
            ? "The place is chosen: Enter puts the clipping in hand there, a drag in Take a new one."
            : "Click where the picture goes. A double click chooses the place and goes to take for it."}
        </p>
      </FootHint>
      <GalleyContext value={state}>
        {/* Arrow keys go from place to place. */}
        {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
        <div
          className="galley"
          ref={setGround}
          onKeyDown={(event) => {
            moveAmongSpots(event, order, state.currentSpot, reveal);
          }}
        >
          {parts.map((stretch, index) => (
            <StretchLanes
              key={stretch.key}
              stretch={stretch}
              at={index}
              outline={state.outline}
              shown={isShown(index)}
            />
          ))}
        </div>
      </GalleyContext>
    </main>
  );
}

/** "section 3 of 6, A4, two columns of 78.5 mm". */
export function sectionWords(outline: Outline, index: number): string {
  const section = outline.sections[index];
  if (!section) return "";
  const widths = [...new Set(section.columns_emu.map((each) => mm(each)))];
  const count =
    ["no", "one", "two", "three", "four", "five"][section.columns_emu.length] ?? section.columns_emu.length.toString();
  const columns = `${count} column${section.columns_emu.length === 1 ? "" : "s"} of ${widths.join(" and ")} mm`;
  const page = [section.page_width_emu, section.page_height_emu]
    .sort((a, b) => a - b)
    .map((each) => Math.round(each / EMU_PER_MM));
  const paper =
    page[0] === 210 && page[1] === 297 ? "A4" : `${(page[0] ?? 0).toString()} × ${(page[1] ?? 0).toString()} mm`;
  return `section ${(index + 1).toString()}${outline.more ? "" : ` of ${outline.sections.length.toString()}`}, ${paper}, ${columns}`;
}

interface StretchProps {
  stretch: Stretch;
  at: number;
  outline: Outline;
  shown: boolean;
}

/** A stretch of a section as lanes of its narrowest column; the browser breaks the text into as many as it needs. */
function StretchLanes({ stretch, at, outline, shown }: StretchProps) {
  const box = useRef<HTMLElement>(null);
  const lanes = useRef<HTMLDivElement>(null);
  const end = useRef<HTMLSpanElement>(null);
  const [known, setKnown] = useState<number | null>(null);
  const width = toPx(laneOf(outline, stretch.section) * EMU_PER_MM, PX_PER_MM);
  const pitch = width + LANE_GAP_PX;
  // A box of columns does not grow with the columns that it makes: it is told its width.
  useLayoutEffect(() => {
    const [node, mark, around] = [lanes.current, end.current, box.current];
    if (!node || !mark || !around) return undefined;
    const fit = () => {
      // Counted by where the end mark fell; narrowing the box to measure it would make the galley jump.
      const from = mark.getBoundingClientRect().left - node.getBoundingClientRect().left;
      const count = Math.max(1, Math.round(from / pitch) + 1);
      resize(around, count * pitch);
      setKnown(count);
    };
    fit();
    const observer = new ResizeObserver(fit);
    for (const child of node.children) observer.observe(child);
    if (around.parentElement) observer.observe(around.parentElement);
    return () => {
      observer.disconnect();
    };
  });
  // Where it is not there its lanes are: as many as it had, or as many as its text will take.
  const guess = Math.max(1, Math.ceil((stretch.heightMm * PX_PER_MM) / LANE_HEIGHT_PX));
  useLayoutEffect(() => {
    if (shown || !box.current) return;
    resize(box.current, (known ?? guess) * pitch);
  });
  const section = outline.sections[stretch.section];
  return (
    <section
      className="section"
      ref={box}
      style={{ "--lane": `${width.toString()}px` }}
      aria-label={sectionWords(outline, stretch.section)}
      data-stretch={at}
    >
      {shown && (
        <div className="lanes" ref={lanes} style={{ columnWidth: width }}>
          {stretch.first && <Running says="above every page" text={section?.header} />}
          <Spots ids={stretch.spots} />
          {stretch.blocks.map((block) => (
            <BlockView key={block.id} block={block} />
          ))}
          {stretch.last && <Running says="below every page" text={section?.footer} />}
          {stretch.goesOn && (
            <p className="block-running">
              <span>the text goes on in the next lane</span>
            </p>
          )}
          <span ref={end} className="lanes-end" />
        </div>
      )}
    </section>
  );
}

/** Give a stretch the width of its lanes and of the gaps behind them; what is on view stays where it is when one to the left of it changes. */
function resize(stretch: HTMLElement, lanes: number): void {
  const ground = stretch.parentElement;
  const before = stretch.getBoundingClientRect();
  stretch.style.width = `${(lanes - LANE_GAP_PX + 2 * LANE_EDGE_PX).toString()}px`;
  if (ground && before.right <= ground.getBoundingClientRect().left) {
    ground.scrollLeft += stretch.getBoundingClientRect().width - before.width;
  }
}

/** A header or footer, for context: nothing goes there. */
function Running({ says, text }: { says: string; text: string | undefined }) {
  if (!text) return null;
  return (
    <p className="block-running">
      <span>{says}</span> {text}
    </p>
  );
}
