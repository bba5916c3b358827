import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, pictureUrl, type Clipping } from "../api/client";
import { removeClipping, showError, refresh, useBench, useClippingInHand } from "../api/bench";
import { size } from "../app/format";
import { copyClipping, saveClipping } from "../app/out";
import { useBenchState } from "../app/state";

export const CLIPPING_TYPE = "application/x-tijera-clipping";
const THUMBNAIL_PX = 320;

/** Clippings as slips of paper, newest first, found as one types. */
export function Rack() {
  const clippings = useBench().data?.clippings ?? [];
  const inHand = useClippingInHand();
  const [words, setWords] = useState("");
  const found = clippings.filter((each) => each.name.toLowerCase().includes(words.trim().toLowerCase()));
  if (clippings.length === 0) {
    return (
      <p className="rack-empty">
        Your clippings will hang here, newest first. Take one, paste a picture, or drop files.
      </p>
    );
  }
  return (
    <>
      <InputBase
        className="rack-find"
        placeholder="Find…"
        value={words}
        inputProps={{ "aria-label": "Find a clipping by name", "data-find": "true" }}
        onChange={(event) => {
          setWords(event.target.value);
        }}
      />
      <ul className="rack" aria-label="Clippings">
        {found.map((clipping) => (
          <Slip key={clipping.id} clipping={clipping} chosen={clipping.id === inHand?.id} />
        ))}
      </ul>
      {found.length === 0 && <p className="rack-empty">No clipping has “{words}” in its name.</p>}
    </>
  );
}

function Slip({ clipping, chosen }: { clipping: Clipping; chosen: boolean }) {
  const set = useBenchState((state) => state.set);
  const navigate = useNavigate();
  const [renaming, setRenaming] = useState(false);
  const places = clipping.places === 0 ? "" : ` · in ${clipping.places} ${clipping.places === 1 ? "place" : "places"}`;
  return (
    <li className={`slip ${chosen ? "slip-chosen" : ""}`}>
      <button
        type="button"
        className="slip-face"
        aria-pressed={chosen}
        draggable
        onDragStart={(event) => {
          event.dataTransfer.setData(CLIPPING_TYPE, clipping.id);
          event.dataTransfer.effectAllowed = "copy";
        }}
        onClick={() => {
          set({ clipping: clipping.id });
        }}
        onDoubleClick={() => {
          void navigate("/trim");
        }}
        onKeyDown={(event) => {
          if (event.key !== "Delete" && event.key !== "F2") return;
          // The key is meant for what has the focus, not for what the room has chosen.
          event.stopPropagation();
          event.preventDefault();
          if (event.key === "F2") setRenaming(true);
          else void removeClipping(clipping);
        }}
      >
        <span className="slip-picture">
          <img src={pictureUrl.clipping(clipping, THUMBNAIL_PX)} alt="" draggable={false} />
        </span>
        {!renaming && <span className="slip-name">{clipping.name}</span>}
        <span className="slip-facts">
          {size(clipping.crop.width, clipping.crop.height)}
          {places}
        </span>
      </button>
      {renaming && (
        <Rename
          clipping={clipping}
          onEnd={() => {
            setRenaming(false);
          }}
        />
      )}
      {chosen && !renaming && (
        <div className="slip-actions">
          <button type="button" onClick={() => void copyClipping(clipping)}>
            Copy
          </button>
          <button type="button" onClick={() => void saveClipping(clipping, "png")}>
            Save
          </button>
          <button
            type="button"
            onClick={() => {
              setRenaming(true);
            }}
          >
            Name
          </button>
          <button type="button" onClick={() => void removeClipping(clipping)}>
            Remove
          </button>
        </div>
      )}
    </li>
  );
}

function Rename({ clipping, onEnd }: { clipping: Clipping; onEnd: () => void }) {
  const [name, setName] = useState(clipping.name);
  const finish = async (keep: boolean) => {
    onEnd();
    if (!keep || name.trim() === "" || name === clipping.name) return;
    const params = { path: { clipping: clipping.id } };
    await api.PATCH("/api/v1/clippings/{clipping}", { params, body: { name } }).catch(showError);
    await refresh();
  };
  return (
    <InputBase
      autoFocus
      className="slip-rename"
      value={name}
      inputProps={{ "aria-label": "Name of the clipping", maxLength: 120 }}
      onChange={(event) => {
        setName(event.target.value);
      }}
      onFocus={(event) => {
        event.target.select();
      }}
      onBlur={() => void finish(true)}
      onKeyDown={(event) => {
        if (event.key === "Enter") void finish(true);
        if (event.key === "Escape") {
          event.stopPropagation();
          void finish(false);
        }
      }}
    />
  );
}
