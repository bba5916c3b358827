import Button from "@mui/material/Button";
import { type Clipping } from "../../api/client";
import { type Change, type Kinds, type Sheet } from "../../api/sheet";
import { Either } from "../Either";
import { Amount } from "./OptionFields";

interface Props {
  clipping: Clipping;
  sheet: Sheet;
  kinds: Kinds;
  change: (change: Change) => Promise<Sheet | null>;
}

/** Quarter turns, mirroring, straightening. */
export function TurnLine({ sheet, change }: Props) {
  const { turn } = sheet;
  // Of the turn as it is by then: two quick presses are two quarters.
  const to = (next: (now: typeof turn) => Partial<typeof turn>) =>
    void change((latest) => ({ do: "turn", turn: { ...latest.turn, ...next(latest.turn) } }));
  // Mirrored what is seen: a mirror before the quarters is one after them, turned the other way.
  const mirror = () => {
    to((now) => ({ flipped: !now.flipped, quarters: (4 - now.quarters) % 4, degrees: -now.degrees }));
  };
  return (
    <div className="tool-line">
      <span className="tool-name">Turn</span>
      <Button
        variant="text"
        onClick={() => {
          to((now) => ({ quarters: (now.quarters + 3) % 4 }));
        }}
      >
        90° left
      </Button>
      <Button
        variant="text"
        onClick={() => {
          to((now) => ({ quarters: (now.quarters + 1) % 4 }));
        }}
      >
        90° right
      </Button>
      <Button variant="text" aria-pressed={turn.flipped} onClick={mirror}>
        Mirror
      </Button>
      <Amount
        label="Straighten by"
        unit="°"
        step={0.5}
        value={turn.degrees}
        onSet={(degrees) => {
          to(() => ({ degrees }));
        }}
      />
      <input
        type="range"
        className="range"
        aria-label="Straighten by, in degrees"
        min={-15}
        max={15}
        step={0.5}
        defaultValue={turn.degrees}
        key={turn.degrees}
        onPointerUp={(event) => {
          to(() => ({ degrees: Number(event.currentTarget.value) }));
        }}
        onKeyUp={(event) => {
          const degrees = Number(event.currentTarget.value);
          if (degrees !== turn.degrees) to(() => ({ degrees }));
        }}
      />
      {(turn.flipped || turn.quarters !== 0 || turn.degrees !== 0) && (
        <Button
          variant="text"
          onClick={() => void change({ do: "turn", turn: { flipped: false, quarters: 0, degrees: 0 } })}
        >
          As it was taken
        </Button>
      )}
    </div>
  );
}

export function TonesLine({ sheet, change }: Props) {
  const { tones } = sheet;
  const to = (next: Partial<typeof tones>) => void change((now) => ({ do: "tones", tones: { ...now.tones, ...next } }));
  const plain = { brightness: 0, contrast: 0, paler: 0, grey: false, print_friendly: false };
  const isPlain = JSON.stringify(plain) === JSON.stringify({ ...plain, ...tones });
  return (
    <div className="tool-line">
      <span className="tool-name">Tones</span>
      <Amount
        label="Brightness"
        unit="%"
        step={5}
        value={tones.brightness}
        onSet={(brightness) => {
          to({ brightness });
        }}
      />
      <Amount
        label="Contrast"
        unit="%"
        step={5}
        value={tones.contrast}
        onSet={(contrast) => {
          to({ contrast });
        }}
      />
      <Amount
        label="Paler"
        unit="%"
        step={5}
        value={tones.paler}
        onSet={(paler) => {
          to({ paler });
        }}
      />
      <label className="option-switch">
        <input
          type="checkbox"
          checked={tones.grey}
          onChange={(event) => {
            to({ grey: event.target.checked });
          }}
        />
        Grey
      </label>
      <label
        className="option-switch"
        title="A dark ground becomes light, colours keep their hue, photographs stay as they are"
      >
        <input
          type="checkbox"
          checked={tones.print_friendly}
          onChange={(event) => {
            to({ print_friendly: event.target.checked });
          }}
        />
        Print-friendly
      </label>
      <Button
        variant="text"
        title="For a picture behind text"
        onClick={() => {
          to({ paler: tones.paler ? 0 : 70 });
        }}
      >
        {tones.paler ? "Full strength" : "Pale, for behind text"}
      </Button>
      {!isPlain && (
        <Button variant="text" onClick={() => void change({ do: "tones", tones: plain })}>
          As it was taken
        </Button>
      )}
    </div>
  );
}

const LINES = [
  ["solid", "solid"],
  ["dashed", "dashed"],
  ["dotted", "dotted"],
] as const;

export function EdgeLine({ sheet, kinds, change }: Props) {
  const { edge } = sheet;
  const to = (next: Partial<typeof edge>) => void change((now) => ({ do: "edge", edge: { ...now.edge, ...next } }));
  return (
    <div className="tool-line">
      <span className="tool-name">Edge</span>
      <Amount
        label="Weight"
        unit="pt"
        step={0.25}
        value={edge.weight_pt}
        onSet={(weight_pt) => {
          to({ weight_pt });
        }}
      />
      <Either
        label="Line of the edge"
        value={edge.dash}
        ways={LINES}
        onChange={(dash) => {
          to({ dash, weight_pt: edge.weight_pt || 0.75 });
        }}
      />
      <span className="swatches" role="group" aria-label="Colour of the edge">
        {kinds.colours.map((each) => (
          <button
            key={each.value}
            type="button"
            className="swatch"
            style={{ background: each.colour ?? "" }}
            aria-label={each.label}
            title={each.label}
            aria-pressed={edge.colour === each.value}
            onClick={() => {
              to({ colour: each.value, weight_pt: edge.weight_pt || 0.75 });
            }}
          />
        ))}
      </span>
      <Amount
        label="Shadow"
        unit="pt"
        step={1}
        value={edge.shadow_pt}
        onSet={(shadow_pt) => {
          to({ shadow_pt });
        }}
      />
      {(edge.weight_pt > 0 || edge.shadow_pt > 0) && (
        <Button
          variant="text"
          onClick={() => {
            to({ weight_pt: 0, shadow_pt: 0 });
          }}
        >
          None
        </Button>
      )}
    </div>
  );
}
