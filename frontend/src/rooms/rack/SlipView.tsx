import InputBase from "@mui/material/InputBase";
import { type KeyboardEvent, type MouseEvent, useState } from "react";
import { pictureUrl, type Found, type Round, type Slip } from "../../api/client";
import { renameClipping } from "../../api/rack";
import { clockOf } from "../../api/rounds";
import { size } from "../../base/format";
import { CLIPPING_TYPE } from "./dragged";

interface Props {
  slip: Slip;
  /** The rounds that it stands for: it is the last that they took. */
  round: Round | undefined;
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
export function SlipView({ slip, round, index, top, chosen, renaming, onChoose, onOpen, onKey, onRename }: Props) {
  const places = slip.places === 0 ? "" : ` · in ${slip.places} ${slip.places === 1 ? "place" : "places"}`;
  return (
    <li
      className={`slip ${chosen ? "slip-chosen" : ""} ${round ? "slip-rounds" : ""}`}
      style={{ transform: `translateY(${top.toString()}px)` }}
    >
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
          {slip.shown && <FoundWords found={slip.shown} />}
        </span>
        {!renaming && <span className="slip-name">{round ? round.name : slip.name}</span>}
        <span className="slip-facts">
          {round ? roundWords(round) : `${size(slip.width, slip.height)}${places}${slip.pinned ? " · pinned" : ""}`}
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

/** "12 taken, next 12:50". */
function roundWords(round: Round): string {
  const missed = round.gaps.length > 0 ? ", some missed" : "";
  const next = round.state === "going" && round.next_at ? `, next ${clockOf(round.next_at)}` : `, ${round.state}`;
  return `${round.taken.toString()} taken${missed}${next}`;
}

/** Where the words that are looked for stand, laid over the thumbnail as that lies in its frame. */
function FoundWords({ found }: { found: Found }) {
  return (
    <svg
      className="found-words"
      viewBox={`0 0 ${found.width} ${found.height}`}
      role="img"
      aria-label={found.boxes.length === 1 ? "on its picture" : `${found.boxes.length.toString()} times on its picture`}
    >
      {found.boxes.map(({ x, y, width, height }) => (
        <rect key={`${x} ${y}`} x={x - 2} y={y - 2} width={width + 4} height={height + 4} />
      ))}
    </svg>
  );
}

function Rename({ slip, onEnd }: { slip: Slip; onEnd: () => void }) {
  const [name, setName] = useState(slip.name);
  const finish = async (keep: boolean) => {
    onEnd();
    if (!keep || name.trim() === "" || name === slip.name) return;
    await renameClipping(slip.id, name);
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
