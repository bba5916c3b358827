import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import { useNavigate } from "react-router";
import { movePlacement, refresh, showError, takeOut } from "../api/bench";
import { api, pictureUrl, type Placement, type Spot } from "../api/client";
import { mm, where } from "../app/format";
import { useBenchState } from "../app/state";
import { PLACEMENT_TYPE } from "../rack";
import { toPx, useGalley } from "./GalleyContext";

/** A clipping in its place, at true size; the chosen one carries its measures and what can be set. */
export function PlacedFigure({ placement, spot }: { placement: Placement; spot: Spot }) {
  const { pxPerMm, chosenPlacement, onPlacement, sets } = useGalley();
  const chosen = chosenPlacement === placement.id;
  const width = toPx(placement.width_emu, pxPerMm);
  return (
    <figure className={`placed ${chosen ? "placed-chosen" : ""}`} data-placement={placement.id}>
      {chosen && sets && <WidthLine placement={placement} />}
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
          onPlacement(placement.id);
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
      {chosen && sets ? <Sentence placement={placement} spot={spot} /> : <Caption placement={placement} />}
    </figure>
  );
}

async function adjust(placement: Placement, body: { width?: string; place_width_emu?: number; description?: string }) {
  await api
    .PATCH("/api/v1/placements/{placement}", { params: { path: { placement: placement.id } }, body })
    .catch(showError);
  await refresh();
}

function WidthLine({ placement }: { placement: Placement }) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const value = Number(typed?.replace(",", "."));
    if (typed !== null && value > 0) void adjust(placement, { width: `${value.toString()}mm` });
    setTyped(null);
  };
  const fills = placement.bound_by === "place" && !placement.enlarged;
  return (
    <div className="width-line">
      <InputBase
        className="number"
        value={typed ?? mm(placement.width_emu)}
        inputProps={{ "aria-label": "Width in millimetres", inputMode: "decimal" }}
        onFocus={(event) => {
          event.target.select();
        }}
        onChange={(event) => {
          setTyped(event.target.value.replace(/[^\d.,]/g, ""));
        }}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") {
            event.stopPropagation();
            commit();
          }
          if (event.key === "Escape") setTyped(null);
        }}
      />
      <span>
        × {mm(placement.height_emu)} mm{fills ? ", fills the column" : ""}
      </span>
    </div>
  );
}

function Sentence({ placement, spot }: { placement: Placement; spot: Spot }) {
  const set = useBenchState((state) => state.set);
  const navigate = useNavigate();
  const { outline, chosenSpot } = useGalley();
  const goesTo = outline.spots[chosenSpot ?? ""];
  const { bound_by } = placement;
  const fills = bound_by === "place";
  const words = {
    place: "fills the column",
    natural: "at natural size",
    height: "as high as the page allows",
    given: "at the width typed",
  }[bound_by];
  return (
    <div className="sentence">
      <p>
        Stands on lines of its own, centred, <b>{words}</b>, {Math.round(placement.ppi)} ppi
        {placement.enlarged && <b className="weak">: larger than natural, it looks soft</b>}.
        {placement.note && <> Made to fit: {placement.note}.</>}
      </p>
      <p className="sentence-choices">
        {!fills && (
          <button type="button" className="choice" onClick={() => void adjust(placement, { width: "fill" })}>
            fill the column
          </button>
        )}
        {bound_by !== "natural" && (bound_by === "given" || placement.enlarged) && (
          <button type="button" className="choice" onClick={() => void adjust(placement, { width: "fit" })}>
            fit, not enlarged
          </button>
        )}
        {spot.widths_emu
          .filter((each) => each !== placement.place_width_emu)
          .map((each) => (
            <button
              key={each}
              type="button"
              className="choice"
              onClick={() => void adjust(placement, { place_width_emu: each, width: "fit" })}
            >
              it falls into the {mm(each)} mm column
            </button>
          ))}
        {goesTo && goesTo.id !== placement.spot && (
          <button type="button" className="choice" onClick={() => void movePlacement(placement.id, goesTo.id)}>
            move it {where(goesTo, 22)}
          </button>
        )}
        <button
          type="button"
          className="choice"
          onClick={() => {
            set({ clipping: placement.clipping });
            void navigate("/trim");
          }}
        >
          trim it
        </button>
        <button type="button" className="choice" onClick={() => void takeOut(placement.id)}>
          take it out
        </button>
      </p>
      <Description key={placement.description} placement={placement} />
      {placement.leaves_as !== placement.description && <HeldBack placement={placement} />}
    </div>
  );
}

/** The alternative text, edited in place. */
function Description({ placement }: { placement: Placement }) {
  const [text, setText] = useState(placement.description);
  const commit = () => {
    if (text.trim() !== placement.description) void adjust(placement, { description: text });
  };
  return (
    <div className="description">
      <span aria-hidden="true">Read aloud:</span>
      <InputBase
        multiline
        fullWidth
        value={text}
        placeholder="Say what the picture shows, for those who can't see it"
        inputProps={{ "aria-label": "Alternative text", maxLength: 2000 }}
        onChange={(event) => {
          setText(event.target.value);
        }}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey) {
            event.preventDefault();
            event.stopPropagation();
            commit();
          }
          if (event.key === "Escape") setText(placement.description);
        }}
      />
    </div>
  );
}

/** Words from a window's title stay here while something is hidden on its picture. */
function HeldBack({ placement }: { placement: Placement }) {
  const allow = async () => {
    const params = { path: { clipping: placement.clipping } };
    await api.PUT("/api/v1/clippings/{clipping}/consent", { params, body: { allowed: true } }).catch(showError);
    await refresh();
  };
  return (
    <p className="held-back">
      Something is hidden on it, and these words are the window’s title: “{placement.leaves_as}” is written instead.{" "}
      <button type="button" className="choice" onClick={() => void allow()}>
        Let them leave
      </button>
    </p>
  );
}

function Caption({ placement }: { placement: Placement }) {
  return (
    <figcaption>
      {placement.description
        ? `Read aloud: ${placement.description}`
        : "No description yet: choose the picture to write one."}
    </figcaption>
  );
}
