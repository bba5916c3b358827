import { Fragment, type ReactNode } from "react";
import { useNavigate } from "react-router";
import { adjustPlacement, movePlacement, setAlike, takeOut, useBench, useDestination } from "../../api/bench";
import type { Placement, Spot } from "../../api/client";
import { mm, where } from "../../base/format";
import { addressOf, useBenchState } from "../../base/state";
import { Choice, type Option } from "./Choice";
import { PlacedWords } from "./PlacedWords";

const STANDS: Record<string, string> = {
  lines: "on lines of its own",
  word: "like a word",
  "text-left": "text left of it",
  "text-right": "text right of it",
  under: "under the text",
  hangs: "hangs from",
  stretches: "stretches with the cells from",
  stays: "stays on the sheet at",
  "in-body": "in the body",
  attached: "attached as a file",
  both: "in the body and attached",
};
const PLACES = { body: "the column", cell: "the cell", message: "the message" };
const ALIGNS: readonly Option[] = [
  { id: "left", words: "at the left" },
  { id: "centre", words: "centred" },
  { id: "right", words: "at the right" },
];
const MARGINS: readonly Option[] = [
  { id: "usual", words: "the usual margin" },
  { id: "0", words: "no margin" },
  { id: "1 mm", words: "1 mm clear" },
  { id: "3 mm", words: "3 mm clear" },
  { id: "5 mm", words: "5 mm clear" },
  { id: "10 mm", words: "10 mm clear" },
];

interface SentenceProps {
  placement: Placement;
  spot: Spot;
  /** The place that was chosen for the next clipping, where this one could go. */
  goesTo: Spot | null;
}

/** How a picture stands, in one sentence: each underlined word is a choice. */
export function Sentence({ placement, spot, goesTo }: SentenceProps) {
  const { layout } = placement;
  const flows = spot.kind === "body" || spot.kind === "cell";
  const takesRoom = (flows || spot.kind === "message") && layout.stand !== "word" && layout.stand !== "attached";
  const beside = layout.stand === "text-left" || layout.stand === "text-right";
  // A comma stays with the word that it follows: each clause is one piece.
  const clauses: ReactNode[] = [
    <>
      <Stand placement={placement} spot={spot} />
      {spot.kind === "sheet" && <b> {spot.after_text.split(":")[0]}</b>}
    </>,
    ...(takesRoom && !beside ? [<Side key="side" placement={placement} />] : []),
    ...(takesRoom ? [<Margin key="margin" placement={placement} />] : []),
    <Width key="width" placement={placement} spot={spot} />,
    `${Math.round(placement.ppi).toString()} ppi;`,
  ];
  return (
    <div className="sentence">
      <p>
        {spot.kind === "sheet" ? "It " : "Stands "}
        {clauses.map((clause, index) => (
          <Fragment key={index}>
            <span className="choice-unit">
              {clause}
              {index < clauses.length - 1 && ","}
            </span>{" "}
          </Fragment>
        ))}
        {placement.enlarged && <b className="weak">larger than natural, it looks soft; </b>}
        <Scale placement={placement} />
        {spot.grows_to_emu !== null && (
          <>
            ; its row{" "}
            <Choice
              label="Height of the row"
              says={layout.grows_row ? "grows to fit" : "keeps its height"}
              options={[
                { id: "no", words: "keeps its height" },
                { id: "yes", words: "grows to fit the picture" },
              ]}
              onPick={(id) => void adjustPlacement(placement.id, { layout: { grows_row: id === "yes" } })}
            />
          </>
        )}
        .{placement.note && <> Made to fit: {placement.note}.</>}
      </p>
      <Actions placement={placement} spot={spot} goesTo={goesTo} />
      <PlacedWords placement={placement} spot={spot} />
    </div>
  );
}

function Side({ placement }: { placement: Placement }) {
  const { align } = placement.layout;
  return (
    <Choice
      label="Side"
      says={ALIGNS.find((each) => each.id === align)?.words ?? "centred"}
      options={ALIGNS}
      chosen={align}
      onPick={(id) => void adjustPlacement(placement.id, { layout: { align: id as "left" } })}
    />
  );
}

function Margin({ placement }: { placement: Placement }) {
  const { margin_emu, stand } = placement.layout;
  const usual = ["text-left", "text-right", "under"].includes(stand) ? "3.0 mm clear" : "usual margin";
  return (
    <Choice
      label="Margin"
      says={margin_emu === null ? usual : `${mm(margin_emu)} mm clear`}
      options={MARGINS}
      typed="another margin, such as 4 mm"
      onPick={(id) => void adjustPlacement(placement.id, { layout: { margin: id } })}
    />
  );
}

function Stand({ placement, spot }: { placement: Placement; spot: Spot }) {
  const { layout } = placement;
  const says = STANDS[layout.stand] ?? layout.stand;
  if (spot.stands.length < 2) return <>{says}</>;
  const cell = spot.kind === "sheet" ? ` ${spot.after_text.split(":")[0] ?? ""}` : "";
  const options: Option[] = spot.stands.map((id) => ({ id, words: `${STANDS[id] ?? id}${cell}` }));
  const beside = layout.stand === "text-left" || layout.stand === "text-right";
  if (beside && placement.has_outline) options.push({ id: "outline", words: "text along its outline" });
  return (
    <Choice
      label="Standing"
      says={beside && layout.along_outline ? `${says}, along its outline` : says}
      options={options}
      chosen={layout.stand}
      onPick={(id) =>
        void adjustPlacement(placement.id, {
          layout: id === "outline" ? { along_outline: !layout.along_outline } : { stand: id as "lines" },
        })
      }
    />
  );
}

function Width({ placement, spot }: { placement: Placement; spot: Spot }) {
  const place = spot.kind === "sheet" ? columnsOf(spot) : PLACES[spot.kind];
  const plain = {
    place: `fills ${place}`,
    natural: "at natural size",
    height: "as high as the place allows",
    given: "at the width typed",
  }[placement.bound_by];
  const says = placement.keeps_scale ? "at its scale, whatever is cropped" : plain;
  const options: Option[] = [
    { id: "fit", words: "its natural size, no wider than the place" },
    { id: "fill", words: `fills ${place}: ${mm(placement.place_width_emu)} mm` },
    { id: "keep", words: "keeps its scale, whatever is cropped" },
    ...spot.widths_emu
      .filter((each) => each !== placement.place_width_emu)
      .map((each) => ({ id: each.toString(), words: `it falls into the ${mm(each)} mm column` })),
  ];
  const pick = (id: string) => {
    const column = Number(id);
    if (id === "keep") {
      void adjustPlacement(placement.id, { keeps_scale: true });
      return;
    }
    void adjustPlacement(placement.id, column > 0 ? { place_width_emu: column, width: "fit" } : { width: id });
  };
  return <Choice label="Width" says={says} options={options} onPick={pick} />;
}

/** "columns B–F" of "B3:F20". */
function columnsOf(spot: Spot): string {
  const [first, last] = spot.after_text.split(":").map((corner) => corner.replace(/\d+/, ""));
  return last && last !== first ? `columns ${first ?? ""}–${last}` : `column ${first ?? ""}`;
}

/** One scale for all that belong together: text on them has one size. */
function Scale({ placement }: { placement: Placement }) {
  const destination = useDestination();
  const bench = useBench().data;
  const nameOf = (each: Placement) => bench?.placed.find((one) => one.id === each.clipping)?.name ?? "another picture";
  const others = destination?.placements.filter((each) => each.id !== placement.id) ?? [];
  if (others.length === 0) return <>sized by itself</>;
  const group = placement.alike ? others.filter((each) => each.alike === placement.alike) : [];
  const [first] = group;
  const says = first
    ? `same scale as ${nameOf(first)}${group.length > 1 ? ` and ${(group.length - 1).toString()} more` : ""}`
    : "sized by itself";
  const options = [
    { id: "", words: "sized by itself" },
    ...others.map((each) => ({ id: each.id, words: `same scale as ${nameOf(each)}` })),
  ];
  return (
    <Choice label="Scale" says={says} options={options} onPick={(id) => void setAlike(placement.id, id || null)} />
  );
}

function Actions({ placement, spot, goesTo }: SentenceProps) {
  const set = useBenchState((state) => state.set);
  const inHand = useBenchState((state) => state.clipping);
  const bench = useBench().data;
  const navigate = useNavigate();
  const other = inHand !== null && inHand !== placement.clipping ? inHand : null;
  const otherName =
    [bench?.newest, ...(bench?.placed ?? [])].find((each) => each?.id === other)?.name ?? "the clipping in hand";
  return (
    <p className="sentence-choices">
      {goesTo && goesTo.id !== spot.id && (
        <button type="button" className="choice" onClick={() => void movePlacement(placement.id, goesTo.id)}>
          move it {where(goesTo, 22)}
        </button>
      )}
      {other && (
        <button
          type="button"
          className="choice"
          onClick={() => void adjustPlacement(placement.id, { clipping: other })}
        >
          put {otherName} here instead
        </button>
      )}
      <button
        type="button"
        className="choice"
        onClick={() => {
          set({ clipping: placement.clipping });
          void navigate(addressOf("/trim"));
        }}
      >
        trim it
      </button>
      <button type="button" className="choice" onClick={() => void takeOut(placement.id)}>
        take it out
      </button>
    </p>
  );
}
