import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import Popover from "@mui/material/Popover";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ProblemError, api, must, type Clipping, type SaveProposal } from "../../api/client";
import { queries, showError } from "../../api/bench";
import { saveAs } from "../../api/out";
import { limitText, weightOf } from "../../base/format";

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
  const whole = { width: proposal.width_px / proposal.share, height: proposal.height_px / proposal.share };
  const [name, setName] = useState(`${proposal.name}.${proposal.format}`);
  const [width, setWidth] = useState(proposal.width_px.toString());
  const [density, setDensity] = useState(Math.round(proposal.density_ppi).toString());
  const [limit, setLimit] = useState(proposal.limit_bytes === null ? "" : limitText(proposal.limit_bytes));
  const [problem, setProblem] = useState("");
  const share = Number(width) / whole.width;
  const height = Math.max(Math.round(whole.height * share), 1);
  const asJpeg = /\.jpe?g?$/i.test(name);
  const save = async () => {
    const wish = {
      name,
      ...(Math.round(whole.width) === Number(width) ? { share: 1 } : { share }),
      ...(Number(density) !== Math.round(proposal.density_ppi) && { density_ppi: Number(density) }),
      ...(limit.trim() && { limit: limit.trim() }),
    };
    try {
      await saveAs(clipping, proposal.format === "png" ? "png" : "jpeg", wish);
      onEnd();
      // The next proposal is by what was chosen now.
      queries.removeQueries({ queryKey: ["save-proposal"] });
    } catch (error) {
      if (error instanceof ProblemError) setProblem(`${error.problem.detail} ${error.problem.remedy}`);
      else showError(error);
    }
  };
  return (
    <form
      className="save-as"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Field id="save-name" label="Name; its ending says the kind: png, jpg, webp, tif, bmp" wide>
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
      </Field>
      <Field id="save-width" label={`Width in px, by ${Number.isFinite(height) ? height.toString() : "?"} high`}>
        <InputBase
          id="save-width"
          type="number"
          value={width}
          inputProps={{ min: 1, max: 20_000 }}
          onChange={(event) => {
            setWidth(event.target.value);
          }}
        />
      </Field>
      <Field id="save-density" label="Density in ppi">
        <InputBase
          id="save-density"
          type="number"
          value={density}
          inputProps={{ min: 20, max: 2_400 }}
          onChange={(event) => {
            setDensity(event.target.value);
          }}
        />
      </Field>
      <Field id="save-limit" label="It may weigh">
        <InputBase
          id="save-limit"
          value={limit}
          placeholder="no limit"
          onChange={(event) => {
            setLimit(event.target.value);
          }}
        />
      </Field>
      <p>
        As PNG <b>{weightOf(proposal.png_bytes)}</b>, as JPEG <b>{weightOf(proposal.jpeg_bytes)}</b> at{" "}
        {proposal.width_px} px: {proposal.format === "png" ? "PNG" : "JPEG"} suits it.
        {asJpeg && proposal.jpeg_smears && <b className="text-door-weak"> As JPEG its words smear.</b>}
      </p>
      {problem && (
        <p role="alert" className="too-heavy">
          {problem}
        </p>
      )}
      <div className="save-end">
        <Button variant="text" type="button" onClick={onEnd}>
          Cancel
        </Button>
        <Button variant="contained" type="submit">
          Save
        </Button>
      </div>
    </form>
  );
}

function Field({
  id,
  label,
  wide,
  children,
}: {
  id: string;
  label: string;
  wide?: boolean;
  children: React.ReactNode;
}) {
  return (
    <div className={wide ? "save-wide" : ""}>
      <label htmlFor={id}>{label}</label>
      {children}
    </div>
  );
}
