import Button from "@mui/material/Button";
import { NavLink, useLocation } from "react-router";
import { useDestination } from "../api/bench";
import { where, widthWords } from "../base/format";
import { Followed } from "./Followed";
import { sendMessage } from "../api/mail";
import { downloadCopy } from "../api/out";
import { makeItFit } from "../rooms/weight";
import { addressOf, useBenchState } from "../base/state";
import { useGoTo } from "../api/useGoTo";
import { useHistory } from "../api/useHistory";

const ROOMS = [
  { to: "/take", first: "T", rest: "ake" },
  { to: "/trim", first: "", key: "r", before: "T", rest: "im" },
  { to: "/place", first: "P", rest: "lace" },
  { to: "/hand-over", first: "H", rest: "and over" },
];

export function TopStrip() {
  const set = useBenchState((state) => state.set);
  const goTo = useGoTo();
  return (
    <header className="strip">
      <NavLink to={addressOf("/start")} className="word-mark" title="Where to begin">
        Tijera
      </NavLink>
      <nav aria-label="Rooms" className="rooms">
        {ROOMS.map((room) => (
          <NavLink
            key={room.to}
            to={addressOf(room.to)}
            className="room"
            // The underlined letter would part the word where it is read out.
            aria-label={`${room.before ?? ""}${room.first || (room.key ?? "")}${room.rest}`}
            onClick={(event) => {
              if (event.ctrlKey || event.metaKey || event.shiftKey) return;
              event.preventDefault();
              goTo(room.to);
            }}
          >
            {room.before}
            <u>{room.first || room.key}</u>
            {room.rest}
          </NavLink>
        ))}
      </nav>
      <GoesTo />
      <Followed />
      <div className="strip-end">
        <Button
          variant="text"
          className="narrow-only"
          onClick={() => {
            set({ rackOpen: !useBenchState.getState().rackOpen });
          }}
        >
          Rack
        </Button>
        <Steps />
        <Button
          variant="text"
          onClick={() => {
            set({ keysOpen: true });
          }}
        >
          Keys
        </Button>
        <Button
          variant="text"
          className="wide-only"
          onClick={() => {
            set({ optionsOpen: true });
          }}
        >
          Options
        </Button>
        <WayOut />
      </div>
    </header>
  );
}

/** The way out, always at the same place: a message that was begun here is sent, a copy of all else downloaded. */
function WayOut() {
  const destination = useDestination();
  const goTo = useGoTo();
  const sends = destination?.is_letter === true;
  return (
    <Button
      variant="contained"
      className="way-out"
      disabled={!destination}
      onClick={() => {
        if (sends) void sendMessage(destination.id, { goTo, makeItFit });
        else if (destination) void downloadCopy(destination.id);
      }}
    >
      {sends ? "Send message" : "Download copy"}
    </Button>
  );
}

/** Undo and redo; by themselves, so that a change does not draw the whole strip anew. */
function Steps() {
  const history = useHistory();
  return (
    <>
      <Button
        variant="text"
        disabled={!history.undo}
        title={history.undo ? `Undo: ${history.undo}` : "Nothing to undo"}
        onClick={() => {
          void history.step("undo");
        }}
      >
        Undo
      </Button>
      <Button
        variant="text"
        disabled={!history.redo}
        title={history.redo ? `Redo: ${history.redo}` : "Nothing to redo"}
        onClick={() => {
          void history.step("redo");
        }}
      >
        Redo
      </Button>
    </>
  );
}

/** Where the next clipping goes, in words. */
function GoesTo() {
  const destination = useDestination();
  const inPlace = useLocation().pathname === "/place";
  if (!destination) return <p className="goes-to">Nothing chosen yet</p>;
  const { spot } = destination;
  const link = inPlace ? null : (
    <>
      {" · "}
      <NavLink to={addressOf("/place")} className="choice">
        {spot ? "change" : "choose a place"}
      </NavLink>
    </>
  );
  if (!spot)
    return (
      <p className="goes-to">
        <span>
          <b>{destination.name}</b>
        </span>
        {link}
      </p>
    );
  return (
    <p className="goes-to" title={`Goes to ${destination.name}, after “${spot.after_text}”`}>
      <span>
        Goes to <b>{destination.name}</b>, {where(spot)}, <b>{widthWords(spot)}</b>
      </span>
      {link}
    </p>
  );
}
