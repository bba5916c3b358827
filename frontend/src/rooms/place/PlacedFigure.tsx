import { type ReactNode, useState } from "react";
import { takeOut } from "../../api/bench";
import { pictureUrl, type Placement, type Spot } from "../../api/client";
import { mm } from "../../base/format";
import { PLACEMENT_TYPE } from "../rack";
import { toPx, useGalley } from "./GalleyContext";
import { HeightLine, WidthLine } from "./MeasureLines";
import { Sentence } from "./Sentence";

/** A clipping in its place, at true size; the chosen one carries its measures and what can be set. */
export function PlacedFigure({ placement, spot }: { placement: Placement; spot: Spot }) {
  const { outline, pxPerMm, chosenPlacement, chosenSpot, onPlacement, sets } = useGalley();
  const [pulled, setPulled] = useState<number | null>(null);
  const chosen = chosenPlacement === placement.id;
  const { layout } = placement;
  const width = pulled ?? placement.width_emu;
  const measures = chosen && sets ? { placement, width, pxPerMm, onPull: setPulled } : null;
  const floats = layout.stand === "text-left" || layout.stand === "text-right";
  return (
    <figure
      className={`placed placed-${layout.stand} placed-at-${layout.align} ${chosen ? "placed-chosen" : ""}`}
      data-placement={placement.id}
      style={floats && !(chosen && sets) ? { width: toPx(placement.width_emu, pxPerMm) } : undefined}
    >
      {measures && <WidthLine {...measures} />}
      {layout.caption && layout.caption_above && <p className="placed-caption">{captioned(placement)}</p>}
      <div className={layout.beside ? "placed-with-text" : ""}>
        <PlacedFace placement={placement} chosen={chosen} width={toPx(width, pxPerMm)} onChoose={onPlacement}>
          {measures && <HeightLine {...measures} />}
        </PlacedFace>
        {layout.beside && <p className="placed-beside">{layout.beside}</p>}
      </div>
      {layout.caption && !layout.caption_above && <p className="placed-caption">{captioned(placement)}</p>}
      {layout.legend && placement.legend.length > 0 && (
        <ol className="placed-legend">
          {placement.legend.map((line) => (
            <li key={line.label}>
              <b>{line.label}</b> {line.text}
            </li>
          ))}
        </ol>
      )}
      {chosen && sets ? (
        <Sentence placement={placement} spot={spot} goesTo={outline.spots[chosenSpot ?? ""] ?? null} />
      ) : (
        <Unseen placement={placement} />
      )}
    </figure>
  );
}

function captioned(placement: Placement): string {
  return placement.caption_number
    ? `${placement.caption_number} ${placement.layout.caption}`
    : placement.layout.caption;
}

interface PlacedFaceProps {
  placement: Placement;
  chosen: boolean;
  /** In view pixels. */
  width: number;
  onChoose: (placement: string) => void;
  /** What stands along its side. */
  children?: ReactNode;
}

/** The picture itself: chosen by a click, dragged to another place, taken out by Delete. */
export function PlacedFace({ placement, chosen, width, onChoose, children }: PlacedFaceProps) {
  return (
    <div className="placed-held">
      <button
        type="button"
        className="placed-face"
        aria-pressed={chosen}
        draggable
        onDragStart={(event) => {
          event.dataTransfer.setData(PLACEMENT_TYPE, placement.id);
          event.dataTransfer.effectAllowed = "move";
        }}
        aria-label={`Placed picture: ${placement.description || "no description"}, ${mm(placement.width_emu)} by ${mm(placement.height_emu)} millimetres`}
        onClick={() => {
          onChoose(placement.id);
        }}
        onKeyDown={(event) => {
          if (event.key !== "Delete") return;
          event.stopPropagation();
          void takeOut(placement.id);
        }}
      >
        <img
          src={pictureUrl.placement(placement)}
          alt=""
          draggable={false}
          style={{ width, aspectRatio: `${placement.width_emu.toString()} / ${placement.height_emu.toString()}` }}
        />
      </button>
      {children}
    </div>
  );
}

function Unseen({ placement }: { placement: Placement }) {
  return (
    <figcaption>
      {placement.description
        ? `Not printed, for those who can’t see it: ${placement.description}`
        : "No description yet: choose the picture to write one."}
    </figcaption>
  );
}
