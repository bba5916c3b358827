import InputBase from "@mui/material/InputBase";
import { type KeyboardEvent, type MouseEvent, useState } from "react";
import { refresh, showError } from "../../api/bench";
import { api, pictureUrl, type Slip } from "../../api/client";
import { size } from "../../base/format";
import { CLIPPING_TYPE } from "./dragged";

interface Props {
  slip: Slip;
  index: number;
  top: number;
  chosen: boolean;
  renaming: boolean;
  onChoose: (event: MouseEvent) => void;
  onOpen: () => void;
  onKey: (event: KeyboardEvent) => void;
  onRename: (asked: boolean) => void;
}

/** One slip of the rack, at its own height in the list. */
export function SlipView({ slip, index, top, chosen, renaming, onChoose, onOpen, onKey, onRename }: Props) {
  const places = slip.places === 0 ? "" : ` · in ${slip.places} ${slip.places === 1 ? "place" : "places"}`;
  return (
    <li className={`slip ${chosen ? "slip-chosen" : ""}`} style={{ transform: `translateY(${top.toString()}px)` }}>
      <button
        type="button"
        className="slip-face"
        aria-pressed={chosen}
        title={slip.name}
        data-slip={index}
        draggable
        onDragStart={(event) => {
          event.dataTransfer.setData(CLIPPING_TYPE, slip.id);
          // Dropped on a folder or into another program it is a file, where the browser can do that.
          const file = `${slip.name.replace(/[\\/:*?"<>|]/g, "-")}.png`;
          event.dataTransfer.setData("DownloadURL", `image/png:${file}:${location.origin}${pictureUrl.clipping(slip)}`);
          event.dataTransfer.effectAllowed = "copy";
        }}
        onClick={onChoose}
        onDoubleClick={onOpen}
        onKeyDown={onKey}
      >
        <span className="slip-picture">
          <img src={pictureUrl.thumbnail(slip)} alt="" draggable={false} />
        </span>
        {!renaming && <span className="slip-name">{slip.name}</span>}
        <span className="slip-facts">
          {size(slip.width, slip.height)}
          {places}
          {slip.pinned && " · pinned"}
        </span>
      </button>
      {renaming && (
        <Rename
          slip={slip}
          onEnd={() => {
            onRename(false);
          }}
        />
      )}
    </li>
  );
}

function Rename({ slip, onEnd }: { slip: Slip; onEnd: () => void }) {
  const [name, setName] = useState(slip.name);
  const finish = async (keep: boolean) => {
    onEnd();
    if (!keep || name.trim() === "" || name === slip.name) return;
    const params = { path: { clipping: slip.id } };
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
        event.stopPropagation();
        if (event.key === "Enter") void finish(true);
        if (event.key === "Escape") void finish(false);
      }}
    />
  );
}
