import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import Popover from "@mui/material/Popover";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, must, type Clipping, type SaveProposal } from "../../api/client";
import { queries } from "../../api/bench";
import { canChooseFolder, chooseFile } from "../../api/folders";
import { saveAs } from "../../api/out";
import { useRefusal } from "../../api/refusal";
import { limitText, weightOf, whole } from "../../base/format";
import { readNumber, readWhole } from "../../base/numbers";
import { TypedField } from "../Typed";

interface Props {
  clipping: Clipping;
  anchor: HTMLElement | null;
  onEnd: () => void;
}

/** A clipping as a file of its own: the kind by the name's ending, size, density, and what it may weigh. */
export function SaveAs({ clipping, anchor, onEnd }: Props) {
  const proposal = useQuery({
    queryKey: ["save-proposal", clipping.id, clipping.version],
    enabled: anchor !== null,
    queryFn: async () =>
      must(
        await api.GET("/api/v1/clippings/{clipping}/save-proposal", { params: { path: { clipping: clipping.id } } }),
      ),
  }).data;
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
      transformOrigin={{ vertical: "top", horizontal: "right" }}
      onClose={onEnd}
    >
      {proposal ? (
        <SaveForm clipping={clipping} proposal={proposal} onEnd={onEnd} />
      ) : (
        <p className="save-as">Weighing it as PNG and as JPEG…</p>
      )}
    </Popover>
  );
}

function SaveForm({ clipping, proposal, onEnd }: { clipping: Clipping; proposal: SaveProposal; onEnd: () => void }) {
  const entire = { width: proposal.width_px / proposal.share, height: proposal.height_px / proposal.share };
  const [name, setName] = useState(`${proposal.name}.${proposal.format}`);
  const [width, setWidth] = useState(proposal.width_px.toString());
  /** As typed, now or the last time; else it follows the width, so that the size on paper stays. */
  const [typedDensity, setTypedDensity] = useState(
    proposal.density_chosen ? Math.round(proposal.density_ppi).toString() : null,
  );
  const [limit, setLimit] = useState(proposal.limit_bytes === null ? "" : limitText(proposal.limit_bytes));
  const [refusal, tried] = useRefusal();
  const wide = readNumber(width);
  const height = wide && Math.max(Math.round((entire.height * wide) / entire.width), 1);
  const natural = Math.round((proposal.density_ppi * (wide ?? proposal.width_px)) / proposal.width_px);
  const density = typedDensity ?? natural.toString();
  const asJpeg = /\.jpe?g?$/i.test(name);
  const save = async (inFolder = false) => {
    const px = readWhole("Width", width, 1, 20_000);
    const wish = {
      name,
      share: Math.round(entire.width) === px ? 1 : px / entire.width,
      ...(typedDensity !== null && { density_ppi: readWhole("Density", typedDensity, 20, 2_400) }),
      ...(limit.trim() && { limit: limit.trim() }),
    };
    const into = inFolder ? await chooseFile("clippings", name) : null;
    if (inFolder && !into) return;
    // The name that was chosen decides the kind, as the one typed does.
    const named = into ? { ...wish, name: into.name } : wish;
    await saveAs(clipping, proposal.format === "png" ? "png" : "jpeg", named, into);
    onEnd();
    // The next proposal is by what was chosen now.
    queries.removeQueries({ queryKey: ["save-proposal"] });
  };
  return (
    <form
      className="save-as"
      onSubmit={(event) => {
        event.preventDefault();
        void tried(() => save());
      }}
    >
      <div className="save-wide">
        <label htmlFor="save-name">Name; its ending says the kind: png, jpg, webp, tif, bmp</label>
        <InputBase
          id="save-name"
          autoFocus
          value={name}
          onFocus={(event) => {
            // What is typed replaces the name and leaves the ending.
            const end = event.target.value.lastIndexOf(".");
            (event.target as HTMLInputElement).setSelectionRange(0, Math.max(end, 0));
          }}
          onChange={(event) => {
            setName(event.target.value);
          }}
        />
      </div>
      <TypedField
        id="save-width"
        label={`Width in px, by ${height ? whole(height) : "?"} high`}
        type="number"
        value={width}
        onChange={setWidth}
      />
      <TypedField id="save-density" label="Density in ppi" type="number" value={density} onChange={setTypedDensity} />
      <TypedField id="save-limit" label="It may weigh" value={limit} hint="no limit" onChange={setLimit} />
      <p>
        As PNG <b>{weightOf(proposal.png_bytes)}</b>, as JPEG <b>{weightOf(proposal.jpeg_bytes)}</b> at{" "}
        {whole(proposal.width_px)} px: {proposal.format === "png" ? "PNG" : "JPEG"} suits it.
        {asJpeg && proposal.jpeg_smears && <b className="text-door-weak"> As JPEG its words smear.</b>}
      </p>
      {refusal && (
        <p role="alert" className="too-heavy">
          {refusal}
        </p>
      )}
      <div className="save-end">
        <Button variant="text" type="button" onClick={onEnd}>
          Cancel
        </Button>
        {canChooseFolder() && (
          <Button variant="outlined" type="button" onClick={() => void tried(() => save(true))}>
            Save in a folder…
          </Button>
        )}
        <Button variant="contained" type="submit">
          Save
        </Button>
      </div>
    </form>
  );
}
