import InputBase from "@mui/material/InputBase";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Destination, Outline } from "../api/client";
import { mm } from "../app/format";
import { OpenAnother } from "../app/OpenAnother";
import { useBenchState } from "../app/state";
import { BlockView, Spots } from "./Blocks";
import { type SectionFlow, findWords, flows } from "./blocks";
import { GalleyContext, toPx } from "./GalleyContext";
import { moveAmongSpots, usePlacedKeys } from "./keys";
import { useGalleyState } from "./useGalleyState";

const PX_PER_MM = 4;
/** The edges of two lanes' paper and the ground between them; the same in rooms.css. */
const LANE_GAP_PX = 46;

/** The destination's text in lanes of true column width, and the places where a clipping can go. */
export function Galley({ destination }: { destination: Destination }) {
  const galley = useGalleyState(destination, PX_PER_MM, true);
  const ground = useRef<HTMLDivElement>(null);
  const placement = useBenchState((state) => state.placement);
  const chosenSpot = destination.spot?.id;
  const ready = galley !== null;
  const stands = destination.placements.some((each) => each.id === placement);
  const sections = useMemo(() => (galley ? flows(galley.state.outline) : []), [galley?.state.outline]); // eslint-disable-line react-hooks/exhaustive-deps -- the outline alone decides
  usePlacedKeys();
  // Come back to where the work is: the chosen picture, else the chosen place.
  useEffect(() => {
    if (!ready) return;
    const target =
      ground.current?.querySelector(`[data-placement="${placement ?? ""}"]`) ??
      ground.current?.querySelector(`[data-spot="${CSS.escape(chosenSpot ?? "")}"]`);
    target?.scrollIntoView({ block: "center", inline: "center" });
  }, [ready, placement, stands]); // eslint-disable-line react-hooks/exhaustive-deps -- not while a place is being chosen

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
          <FindWords outline={state.outline} ground={ground} />
          <OpenAnother />
        </span>
      </div>
      <GalleyContext value={state}>
        {/* Arrow keys go from place to place. */}
        {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
        <div
          className="galley"
          ref={ground}
          onKeyDown={(event) => {
            moveAmongSpots(event, order, state.currentSpot);
          }}
        >
          {sections.map((flow) => (
            <SectionLanes key={flow.section} flow={flow} outline={state.outline} />
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
    .map((each) => Math.round(each / 36_000));
  const paper =
    page[0] === 210 && page[1] === 297 ? "A4" : `${(page[0] ?? 0).toString()} × ${(page[1] ?? 0).toString()} mm`;
  return `section ${(index + 1).toString()} of ${outline.sections.length.toString()}, ${paper}, ${columns}`;
}

/** One section as lanes of its narrowest column; the browser breaks the text into as many as it needs. */
function SectionLanes({ flow, outline }: { flow: SectionFlow; outline: Outline }) {
  const lanes = useRef<HTMLDivElement>(null);
  const end = useRef<HTMLSpanElement>(null);
  const columns = outline.sections[flow.section]?.columns_emu ?? [];
  const width = toPx(Math.min(...columns), PX_PER_MM);
  // A box of columns does not grow with the columns that it makes: it is told its width.
  useLayoutEffect(() => {
    const [node, mark] = [lanes.current, end.current];
    if (!node || !mark) return undefined;
    const fit = () => {
      // Counted by where the end mark fell; narrowing the box to measure it would make the galley jump.
      const from = mark.getBoundingClientRect().left - node.getBoundingClientRect().left;
      const count = Math.max(1, Math.round(from / (width + LANE_GAP_PX)) + 1);
      node.style.width = `${(count * (width + LANE_GAP_PX) - LANE_GAP_PX).toString()}px`;
    };
    fit();
    const observer = new ResizeObserver(fit);
    for (const child of node.children) observer.observe(child);
    if (node.parentElement) observer.observe(node.parentElement);
    return () => {
      observer.disconnect();
    };
  });
  return (
    <section
      className="section"
      style={{ "--lane": `${width.toString()}px` }}
      aria-label={sectionWords(outline, flow.section)}
    >
      <div className="lanes" ref={lanes} style={{ columnWidth: width }}>
        <Running says="above every page" text={outline.sections[flow.section]?.header} />
        <Spots ids={flow.spots} />
        {flow.blocks.map((block) => (
          <BlockView key={block.id} block={block} />
        ))}
        <Running says="below every page" text={outline.sections[flow.section]?.footer} />
        <span ref={end} className="lanes-end" />
      </div>
    </section>
  );
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

/** A field that goes to words of the text. */
export function FindWords({ outline, ground }: { outline: Outline; ground: React.RefObject<HTMLDivElement | null> }) {
  const [words, setWords] = useState("");
  const [last, setLast] = useState<string | null>(null);
  const [lost, setLost] = useState(false);
  const go = (from: string | null, wanted: string) => {
    const found = findWords(outline, wanted, from);
    setLast(found);
    setLost(wanted.trim() !== "" && found === null);
    if (found === null) return;
    const target = ground.current?.querySelector(`[data-block="${CSS.escape(found)}"]`);
    target?.scrollIntoView({ block: "center", inline: "center" });
    for (const each of ground.current?.querySelectorAll(".block-found") ?? []) each.classList.remove("block-found");
    target?.classList.add("block-found");
  };
  return (
    <InputBase
      className="find-words"
      placeholder="Go to a heading or words…"
      value={words}
      inputProps={{ "aria-label": "Go to a heading or words", "data-find": "true", "aria-invalid": lost }}
      endAdornment={lost ? <span className="weak">not there</span> : null}
      onChange={(event) => {
        setWords(event.target.value);
        go(null, event.target.value);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") {
          event.stopPropagation();
          go(last, words);
        }
      }}
    />
  );
}
