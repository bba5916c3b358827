import Button from "@mui/material/Button";
import { useRack } from "../../api/rack";
import { type Clipping } from "../../api/client";
import { type Change, type Kinds, type Sheet } from "../../api/sheet";
import { Amount } from "./OptionFields";
import { useTrim } from "./state";
import { makeParts } from "./useTrimKeys";

interface Props {
  clipping: Clipping;
  sheet: Sheet;
  kinds: Kinds;
  change: (change: Change) => Promise<Sheet | null>;
}

/** Lay a clipping on the one on the mat, as an object that can be moved and stretched. */
export async function layOn(clipping: string, at: [number, number], change: Props["change"]): Promise<void> {
  const after = await change({ do: "lay", clipping, at });
  if (after) useTrim.getState().set({ tool: "select", chosen: after.added ?? [] });
}

const SIDES = ["left", "top", "right", "bottom"] as const;

/** Margins, the ground in them, and other clippings laid on. */
export function RoomLine({ clipping, sheet, kinds, change }: Props) {
  const { room } = sheet;
  const rack = useRack("").data?.pages[0];
  const to = (next: Partial<typeof room>, ground: string | null = sheet.ground) =>
    void change((now) => ({ do: "room", room: { ...now.room, ...next }, ground }));
  const others = rack?.slips.filter((slip) => slip.id !== clipping.id).slice(0, 40) ?? [];
  return (
    <div className="tool-line">
      <span className="tool-name">Margins</span>
      {SIDES.map((side) => (
        <Amount
          key={side}
          label={side}
          unit="px"
          step={10}
          digits={0}
          value={room[side]}
          onSet={(value) => {
            to({ [side]: Math.round(value) }, sheet.ground ?? "white");
          }}
        />
      ))}
      <label className="amount">
        background
        <select
          aria-label="Background"
          value={sheet.ground ?? ""}
          onChange={(event) => {
            to({}, event.target.value || null);
          }}
        >
          <option value="">see-through</option>
          <option value="white">white</option>
          {kinds.colours.map((each) => (
            <option key={each.value} value={each.value}>
              {each.label.toLowerCase()}
            </option>
          ))}
        </select>
      </label>
      <label className="amount">
        lay on
        <select
          aria-label="Lay another clipping on this one"
          value=""
          onChange={(event) => {
            const at: [number, number] = [sheet.crop.x + 20, sheet.crop.y + 20];
            void layOn(event.target.value, at, change);
          }}
        >
          <option value="">a clipping…</option>
          {others.map((slip) => (
            <option key={slip.id} value={slip.id}>
              {slip.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** By width, height or per cent; the mat shows the very result before it is set. */
export function ScaleLine({ sheet, change }: Props) {
  const { scale: tried, set } = useTrim();
  const scale = tried ?? sheet.scale;
  const { width, height } = sheet.crop;
  const attempt = (next: number) => {
    if (Number.isFinite(next)) set({ scale: Math.min(Math.max(next, 0.01), 8) });
  };
  return (
    <div className="tool-line">
      <span className="tool-name">Scale</span>
      <Amount
        label="Width"
        unit="px"
        step={10}
        digits={0}
        value={width * scale}
        onSet={(v) => {
          attempt(v / width);
        }}
      />
      <Amount
        label="Height"
        unit="px"
        step={10}
        digits={0}
        value={height * scale}
        onSet={(v) => {
          attempt(v / height);
        }}
      />
      <Amount
        label="Scale"
        unit="%"
        step={5}
        digits={1}
        value={scale * 100}
        onSet={(v) => {
          attempt(v / 100);
        }}
      />
      {tried !== null && tried !== sheet.scale ? (
        <>
          <Button
            variant="contained"
            onClick={() =>
              void change({ do: "scale", scale: tried }).then(() => {
                set({ scale: null });
              })
            }
          >
            Scale it
          </Button>
          <Button
            variant="text"
            onClick={() => {
              set({ scale: null });
            }}
          >
            Leave it
          </Button>
        </>
      ) : (
        sheet.scale !== 1 && (
          <Button variant="text" onClick={() => void change({ do: "scale", scale: 1 })}>
            As it was taken
          </Button>
        )
      )}
      {scale > 1 && (
        <p className="tool-warns" role="status">
          Enlarged: every pixel is spread over {scale.toFixed(2)} × {scale.toFixed(2)}, so an edge that was sharp
          becomes {(1 + scale).toFixed(1)} pixels wide. Nothing can be read that could not be read before.
        </p>
      )}
    </div>
  );
}

export function PartLine({ clipping, sheet }: Props) {
  const { parts, set } = useTrim();
  return (
    <div className="tool-line">
      <span className="tool-name">Part</span>
      {parts.length === 0 ? (
        <span className="tool-says">
          Draw each part from corner to corner on the {sheet.crop.width} × {sheet.crop.height} px
        </span>
      ) : (
        <>
          <span>
            {parts.length === 1 ? "1 part" : `${parts.length.toString()} parts`}:{" "}
            {parts.map((part) => `${part.width.toString()} × ${part.height.toString()}`).join(", ")}
          </span>
          <Button variant="contained" onClick={() => void makeParts(clipping)}>
            {parts.length === 1 ? "Make it a clipping" : `Make ${parts.length.toString()} clippings`} <kbd>Enter</kbd>
          </Button>
          <Button
            variant="text"
            onClick={() => {
              set({ parts: [] });
            }}
          >
            Leave it <kbd>Esc</kbd>
          </Button>
        </>
      )}
    </div>
  );
}
