import { Fragment } from "react";
import Button from "@mui/material/Button";
import type { Change, Sheet } from "../../api/sheet";
import { useSuggestions } from "../../api/sheet";
import type { Clipping } from "../../api/client";
import { NumberField } from "../../base/NumberField";
import { type Area, resized, sameArea } from "../../area/geometry";
import { backToMat } from "./focus";
import { showPointer } from "./pointer";

/** Ratios that a crop can be held to, width by height; null is free, 0 the crop's own. */
const RATIOS: readonly (readonly [string, number | null])[] = [
  ["free", null],
  ["as it is", 0],
  ["1 : 1", 1],
  ["4 : 3", 4 / 3],
  ["3 : 2", 3 / 2],
  ["16 : 9", 16 / 9],
];

interface Props {
  clipping: Clipping;
  sheet: Sheet;
  crop: Area;
  ratio: number | null;
  onRatio: (ratio: number | null) => void;
  onDraft: (crop: Area | null) => void;
  toPane: boolean;
  shown: boolean;
  onToPane: (armed: boolean) => void;
  change: (change: Change) => Promise<Sheet | null>;
}

/** The crop in numbers, held to a ratio, or found: the pane pressed, the marks, without its empty border. */
export function CropLine({ clipping, sheet, crop, ratio, onRatio, onDraft, toPane, shown, onToPane, change }: Props) {
  const { width, height } = sheet.base;
  const bounds = { width, height };
  const changed = !sameArea(crop, sheet.crop);
  const suggested = useSuggestions(clipping.id, sheet.version, shown);
  const whole = { x: 0, y: 0, width, height };
  const sized = (w: number, h: number) => {
    onDraft(resized(crop, w, h, bounds));
  };
  const locked = ratio ?? 0;
  return (
    <div className="tool-line">
      <span className="tool-name">Crop</span>
      <span className="line-field">
        wide
        <NumberField
          label="Width of the crop in pixels"
          value={crop.width}
          onCommit={(v) => {
            sized(v, locked ? v / locked : crop.height);
          }}
        />
      </span>
      <span className="line-field">
        high
        <NumberField
          label="Height of the crop in pixels"
          value={crop.height}
          onCommit={(v) => {
            sized(locked ? v * locked : crop.width, v);
          }}
        />
      </span>
      <span className="line-field">
        from left
        <NumberField
          label="Left edge of the crop"
          value={crop.x}
          onCommit={(v) => {
            onDraft({ ...crop, x: v });
          }}
        />
      </span>
      <span className="line-field">
        from top
        <NumberField
          label="Top edge of the crop"
          value={crop.y}
          onCommit={(v) => {
            onDraft({ ...crop, y: v });
          }}
        />
      </span>
      <label className="amount">
        ratio
        <select
          aria-label="Ratio of the crop"
          value={
            RATIOS.findIndex(([name, each]) => (ratio === null ? name === "free" : each === ratio)) < 0
              ? 1
              : RATIOS.findIndex(([, each]) => each === ratio)
          }
          onChange={(event) => {
            const [, each] = RATIOS[Number(event.target.value)] ?? ["", null];
            const next = each === 0 ? crop.width / crop.height : each;
            onRatio(next);
            if (next) onDraft(heldTo(crop, "se", next, bounds));
            backToMat();
          }}
        >
          {RATIOS.map(([name], index) => (
            <option key={name} value={index}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {changed ? (
        <Fragment key="changed">
          <Button variant="contained" onClick={() => void change({ do: "crop", crop })}>
            Crop it <kbd>Enter</kbd>
          </Button>
          <Button
            variant="text"
            onClick={() => {
              onDraft(null);
            }}
          >
            Leave it <kbd>Esc</kbd>
          </Button>
        </Fragment>
      ) : (
        <Fragment key="settled">
          <Button
            variant="text"
            aria-pressed={toPane}
            title="Then press the pane: a table, a dialog, a list"
            onClick={() => {
              onToPane(!toPane);
            }}
          >
            {toPane ? "Press a pane" : "To a pane"}
          </Button>
          {suggested?.marks && (
            <Button
              variant="text"
              onClick={() => {
                onDraft(suggested.marks ?? null);
                backToMat();
              }}
            >
              To the marks
            </Button>
          )}
          {suggested?.border && (
            <Button
              variant="text"
              onClick={() => {
                onDraft(suggested.border ?? null);
                backToMat();
              }}
            >
              Trim the empty border
            </Button>
          )}
          {!sameArea(sheet.crop, whole) && (
            <Button variant="text" onClick={() => void change({ do: "crop", crop: whole })}>
              Show all of it
            </Button>
          )}
          {clipping.has_pointer && (
            <Button
              variant="text"
              title="The mouse pointer lies on the picture as a layer of its own"
              onClick={() => void showPointer(clipping, clipping.pointer === null)}
            >
              Pointer: {clipping.pointer ? "shown" : "hidden"}
            </Button>
          )}
        </Fragment>
      )}
    </div>
  );
}

/** A crop held to a ratio while one of its grips is pulled: the side that was pulled decides. */
export function heldTo(area: Area, grip: string, ratio: number, bounds: { width: number; height: number }): Area {
  const byHeight = grip === "n" || grip === "s";
  let width = byHeight ? area.height * ratio : area.width;
  let height = width / ratio;
  const right = area.x + area.width;
  const bottom = area.y + area.height;
  // What is not pulled stays where it is, as far as the picture reaches.
  const mostWidth = grip.includes("w") ? right : bounds.width - area.x;
  const mostHeight = grip.includes("n") ? bottom : bounds.height - area.y;
  const share = Math.min(1, mostWidth / width, mostHeight / height);
  width = Math.max(1, Math.round(width * share));
  height = Math.max(1, Math.round(height * share));
  return {
    x: grip.includes("w") ? right - width : area.x,
    y: grip.includes("n") ? bottom - height : area.y,
    width,
    height,
  };
}
