import Button from "@mui/material/Button";
import { Link, useNavigate } from "react-router";
import { openNew, useDestination } from "../../api/bench";
import { NEW_FILES } from "../../api/files";
import { chooseFile } from "../intake";
import { OpenByPath } from "../OpenByPath";
import { Galley } from "./Galley";
import { GridRoom } from "./grid/GridRoom";
import { MessageRoom } from "./message/MessageRoom";
import { addressOf } from "../../base/state";

/** The destination as it is seen: text in lanes, sheets of cells, or a message. */
export function PlaceRoom() {
  const destination = useDestination();
  if (!destination) return <NothingYet />;
  const Room = { galley: Galley, grid: GridRoom, message: MessageRoom }[destination.view];
  return <Room key={destination.id} destination={destination} />;
}

function NothingYet() {
  const navigate = useNavigate();
  return (
    <main className="room-body galley-empty">
      <h2 className="title">No document yet</h2>
      <p>Open a document, a spreadsheet or a message, and it hangs here with every place that can take a clipping.</p>
      <div className="ways-in">
        <Button
          variant="contained"
          onClick={() => {
            chooseFile();
          }}
        >
          Open a file…
        </Button>{" "}
        <Link to={addressOf("/start")} className="choice">
          or begin with the example
        </Link>
        <OpenByPath onOpened={() => void navigate(addressOf("/place"))} />
      </div>
      <p>
        Or begin a new{" "}
        {NEW_FILES.map(([kind, words], index) => (
          <span key={kind}>
            {index > 0 && ", "}
            <button
              type="button"
              className="choice"
              onClick={() => void openNew(kind).then((opened) => opened && navigate(addressOf("/place")))}
            >
              {words}
            </button>
          </span>
        ))}
        .
      </p>
    </main>
  );
}
