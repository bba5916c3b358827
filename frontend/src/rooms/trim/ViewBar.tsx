import { useQuery } from "@tanstack/react-query";
import { api, must, type Clipping, type Destination, type Placement } from "../../api/client";
import type { Change, Sheet, Where } from "../../api/sheet";
import type { Measures } from "../../base/units";
import { STEP } from "../../base/zoom";
import { mm, size, weightOf } from "../../base/format";
import type { Area } from "../../area/geometry";
import { say } from "../../base/state";
import { Either } from "../Either";
import { FootHint } from "../FootHint";
import { TextDoor } from "./TextDoor";
import { useTrim } from "./state";
import { type Zoom } from "./useZoom";

interface Props {
  clipping: Clipping;
  sheet: Sheet | undefined;
  area: Area;
  measures: Measures;
  placement: Placement | null;
  destination: Destination | null;
  where: Where;
  /** Whether the picture is there; what takes longer comes after it. */
  shown: boolean;
  zoom: Zoom;
  onZoom: (zoom: Zoom) => void;
  onStep: (by: number) => void;
  change: (change: Change) => Promise<Sheet | null>;
}

const SIZES = [
  ["fit", "fit"],
  ["placed", "in the document"],
  ["pixels", "screen pixels"],
] as const;
const SHOWN = [
  ["work", "as worked on"],
  ["sent", "as sent"],
  ["original", "original"],
] as const;

/** Under the mat: the measures, and how it is looked at. */
export function ViewBar(props: Props) {
  const { zoom, onZoom, onStep, sheet } = props;
  const { showing, set } = useTrim();
  return (
    <div className="mat-foot">
      <MeasuresBar {...props} />
      <div className="mat-view" role="group" aria-label="View">
        <Either
          label="How large it is seen"
          value={typeof zoom === "number" ? "" : zoom}
          ways={SIZES}
          onChange={(name) => {
            if (name) onZoom(name);
          }}
        />
        <span className="mat-steps">
          <button
            type="button"
            aria-label="Smaller"
            onClick={() => {
              onStep(1 / STEP);
            }}
          >
            −
          </button>
          <button
            type="button"
            aria-label="Larger"
            onClick={() => {
              onStep(STEP);
            }}
          >
            +
          </button>
        </span>
        <Either
          label="What is seen of it"
          value={showing}
          ways={SHOWN}
          onChange={(name) => {
            set({ showing: name });
          }}
        />
      </div>
      {sheet && sheet.legend.length > 0 && (
        <FootHint>
          <Legend sheet={sheet} />
        </FootHint>
      )}
    </div>
  );
}

/** The pennants' words, as they will stand under the picture. */
function Legend({ sheet }: { sheet: Sheet }) {
  const text = sheet.legend.map((line) => `${line.label} ${line.text}`);
  return (
    <p className="legend" title={text.join("\n")}>
      <b>Legend</b>{" "}
      <button
        type="button"
        className="choice"
        onClick={() => {
          void navigator.clipboard.writeText(text.join("\n")).then(() => {
            say("The legend is on the clipboard as text.");
          });
        }}
      >
        copy
      </button>{" "}
      {sheet.legend.map((line) => (
        <span key={line.label}>
          <b>{line.label}</b> {line.text}{" "}
        </span>
      ))}
    </p>
  );
}

function MeasuresBar({ clipping, sheet, area, measures, placement, destination, where, shown, change }: Props) {
  const weight = useQuery({
    queryKey: ["clipping weight", clipping.id, clipping.version, placement?.version],
    enabled: shown,
    staleTime: Infinity,
    placeholderData: (before: number | undefined) => before,
    queryFn: async () =>
      must(
        await api.GET("/api/v1/clippings/{clipping}/weight", {
          params: { path: { clipping: clipping.id }, query: placement ? { placement: placement.id } : {} },
        }),
      ).bytes,
  }).data;
  return (
    <dl className="measures">
      <Fact name="Clipping">{size(area.width, area.height)} px</Fact>
      <Fact name={placement ? "In the document" : "Would become"}>
        {mm(measures.widthEmu)} × {mm(measures.heightEmu)} mm
      </Fact>
      <Fact name="Sharpness">{Math.round(measures.ppi)} ppi</Fact>
      <Fact name="Smallest text">
        <TextDoor
          clipping={clipping}
          sheet={sheet}
          where={where}
          destination={destination}
          placement={placement}
          shown={shown}
          change={change}
        />
      </Fact>
      <Fact name="Weighs">{weight === undefined ? "…" : weightOf(weight)}</Fact>
    </dl>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}
