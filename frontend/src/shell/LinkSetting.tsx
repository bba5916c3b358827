import Button from "@mui/material/Button";
import { useState } from "react";
import type { LinkSetup } from "../api/client";
import { setUpLinks, useLinkSetup } from "../api/links";
import { useRefusal } from "../api/refusal";
import { readWhole } from "../base/numbers";
import { TypedField } from "../rooms/Typed";
import { UnfoldButton } from "../rooms/UnfoldButton";

/** Whether pictures can be handed over as links, and where others reach them; off until somebody has set it up. */
export function LinkSetting() {
  const setup = useLinkSetup();
  const [open, setOpen] = useState(false);
  if (!setup) return null;
  return (
    <div className="option-pattern">
      <b>Links to pictures</b>
      <span>
        {setup.is_on
          ? `On: others open them at ${setup.address}. Nothing else of Tijera can be reached there.`
          : "Off: nobody can reach this computer through Tijera."}{" "}
        <UnfoldButton open={open} onChange={setOpen}>
          {open ? "Leave it so" : setup.is_on ? "Change it" : "Set links up"}
        </UnfoldButton>
        {setup.is_on && (
          <>
            {" · "}
            <button type="button" className="choice" onClick={() => void setUpLinks(null)}>
              Switch them off
            </button>
          </>
        )}
      </span>
      {setup.trouble && (
        <span role="alert" className="key-clash">
          {setup.trouble}
        </span>
      )}
      {open && (
        <SetupForm
          setup={setup}
          onDone={() => {
            setOpen(false);
          }}
        />
      )}
    </div>
  );
}

function SetupForm({ setup, onDone }: { setup: LinkSetup; onDone: () => void }) {
  const [address, setAddress] = useState(setup.address);
  const [port, setPort] = useState(setup.port.toString());
  const [onlyHere, setOnlyHere] = useState(setup.only_here);
  const [refusal, tried] = useRefusal();
  return (
    <form
      className="server-form"
      aria-label="Links"
      onSubmit={(event) => {
        event.preventDefault();
        void tried(async () => {
          const number = readWhole("Port", port, 1, 65_535);
          if (await setUpLinks({ address: address.trim(), port: number, only_here: onlyHere })) onDone();
        });
      }}
    >
      <TypedField id="links-address" label="Address that others reach" wide value={address} onChange={setAddress} />
      <TypedField id="links-port" label="Port of this computer" type="number" value={port} onChange={setPort} />
      <label htmlFor="links-here" className="links-here">
        <input
          id="links-here"
          type="checkbox"
          checked={onlyHere}
          onChange={(event) => {
            setOnlyHere(event.target.checked);
          }}
        />
        A server of the office passes requests on to this port
      </label>
      {refusal && (
        <p role="alert" className="too-heavy">
          {refusal}
        </p>
      )}
      <Button type="submit" variant="contained">
        Switch links on
      </Button>
    </form>
  );
}
