import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import { usePerson } from "../api/session";
import { openAt } from "../api/versions";

/** A file of this computer by where it lies: it is followed there, and can be written back to. */
export function OpenByPath({ onOpened }: { onOpened: () => void }) {
  const [shown, setShown] = useState(false);
  const [path, setPath] = useState("");
  const isOwn = usePerson() === null;
  const go = () => {
    if (path.trim())
      void openAt(path).then((opened) => {
        if (opened) onOpened();
      });
  };
  // A path is of the machine that the server runs on: nobody's, where several people share it.
  if (!isOwn) return null;
  if (!shown) {
    return (
      <>
        , or{" "}
        <button
          type="button"
          className="choice"
          onClick={() => {
            setShown(true);
          }}
        >
          follow a file where it lies…
        </button>
      </>
    );
  }
  return (
    <form
      className="by-path"
      onSubmit={(event) => {
        event.preventDefault();
        go();
      }}
    >
      <InputBase
        autoFocus
        value={path}
        placeholder="/home/…/Rules.docx"
        inputProps={{ "aria-label": "Path of the file on this computer", maxLength: 4_000, spellCheck: false }}
        onChange={(event) => {
          setPath(event.target.value);
        }}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.stopPropagation();
          setShown(false);
        }}
      />
      <button type="submit" className="choice" disabled={!path.trim()}>
        follow it
      </button>
    </form>
  );
}
