import Button from "@mui/material/Button";
import Popover from "@mui/material/Popover";
import { useState } from "react";
import type { LinkSetup } from "../../api/client";
import { canBeReached, makeLink, useLinkSetup } from "../../api/links";
import { useRefusal } from "../../api/refusal";
import { readWhole } from "../../base/numbers";
import { FormEnd, TypedField } from "../Typed";

interface Props {
  clipping: { id: string; name: string } | null;
  /** As one of a row of plain buttons, or as one of the ways out. */
  plain?: boolean;
}

/** *Link…*, offered only where others can reach a link. */
export function LinkButton({ clipping, plain }: Props) {
  const setup = useLinkSetup();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (!setup || !canBeReached(setup)) return null;
  const open = (event: { currentTarget: HTMLElement }) => {
    setAnchor(event.currentTarget);
  };
  const end = () => {
    setAnchor(null);
  };
  return (
    <>
      {plain ? (
        <button type="button" title="An address that shows this picture and nothing else" onClick={open}>
          Link
        </button>
      ) : (
        <Button variant="text" disabled={!clipping} onClick={open}>
          Link…
        </Button>
      )}
      <Popover
        open={anchor !== null && clipping !== null}
        anchorEl={anchor}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        onClose={end}
      >
        {clipping && <LinkForm clipping={clipping} setup={setup} onEnd={end} />}
      </Popover>
    </>
  );
}

function LinkForm({
  clipping,
  setup,
  onEnd,
}: {
  clipping: { id: string; name: string };
  setup: LinkSetup;
  onEnd: () => void;
}) {
  const [password, setPassword] = useState("");
  const [endsOn, setEndsOn] = useState(setup.ends_on ?? "");
  const [views, setViews] = useState(setup.most_views?.toString() ?? "");
  const [refusal, tried] = useRefusal();
  const make = async () => {
    await makeLink(clipping, {
      password,
      ends_on: endsOn || null,
      most_views: views.trim() === "" ? null : readWhole("Shown at most", views, 1, 100_000),
    });
    onEnd();
  };
  return (
    <form
      className="save-as"
      aria-label={`Link to ${clipping.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void tried(make);
      }}
    >
      <p>
        Whoever has the address sees <b>{clipping.name}</b> as it is now, and nothing else of yours.
      </p>
      <TypedField
        id="link-password"
        label="Password"
        first
        value={password}
        hint={setup.with_password ? "as before, or none" : "none"}
        onChange={setPassword}
      />
      <TypedField id="link-ends" label="Last day" type="date" value={endsOn} onChange={setEndsOn} />
      <TypedField
        id="link-views"
        label="Shown at most, times"
        type="number"
        value={views}
        hint="any number"
        onChange={setViews}
      />
      <FormEnd words="Make the link and copy it" refusal={refusal} onEnd={onEnd} />
    </form>
  );
}
