import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import { clearOut, forgetRemoved, useClearing } from "../../api/rack";
import { exactWeight } from "../../base/format";
import { UnfoldButton } from "../UnfoldButton";

const USUAL_DAYS = 30;

/** What may go from the rack, how much that frees, and the way to do it. */
export function ClearOut() {
  return (
    <div className="clear-out">
      <ClearRack />
      <ForgetRemoved />
    </div>
  );
}

/** Undo holds what was removed; who wants it gone says so twice. */
function ForgetRemoved() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <UnfoldButton open={open} onChange={setOpen}>
        {open ? "Keep what undo can bring back" : "Forget what was removed…"}
      </UnfoldButton>
      {open && (
        <div className="clear-out-what">
          <p>
            What you remove can be brought back: the last <span className="choice-unit">2 000</span> changes are kept
            for that, with their pictures. Forgotten now, it is gone from every file here, and nothing can be undone any
            more. What you have stays.
          </p>
          <Button
            variant="contained"
            onClick={() => {
              setOpen(false);
              void forgetRemoved();
            }}
          >
            Forget it for good
          </Button>
        </div>
      )}
    </>
  );
}

function ClearRack() {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState(USUAL_DAYS.toString());
  const days = /^\d{1,5}$/.test(typed.trim()) ? Number.parseInt(typed, 10) : null;
  const found = useClearing(open ? days : null);
  return (
    <>
      <UnfoldButton open={open} onChange={setOpen}>
        {open ? "Leave the rack as it is" : "Clear the rack out…"}
      </UnfoldButton>
      {open && (
        <div className="clear-out-what">
          <p>
            What stands nowhere, is not pinned and is older than{" "}
            <InputBase
              className="clear-out-days"
              value={typed}
              inputProps={{ "aria-label": "Days", inputMode: "numeric", maxLength: 5 }}
              onChange={(event) => {
                setTyped(event.target.value);
              }}
            />{" "}
            days may go
            {days === null
              ? ": type whole days."
              : found === undefined
                ? "…"
                : found.count === 0
                  ? ": there is nothing of that kind."
                  : `: ${found.count.toString()} ${found.count === 1 ? "clipping" : "clippings"}, ${exactWeight(found.bytes)}.`}
          </p>
          {found && found.count > 0 && days !== null && (
            <>
              <p className="quiet">
                {found.names.join(", ")}
                {found.count > found.names.length && " and more"}
              </p>
              <Button
                variant="contained"
                onClick={() => {
                  setOpen(false);
                  void clearOut(days);
                }}
              >
                Clear out
              </Button>
            </>
          )}
        </div>
      )}
    </>
  );
}
