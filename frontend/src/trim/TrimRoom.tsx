import Button from "@mui/material/Button";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { refresh, showError, useDestination, useInHand } from "../api/bench";
import { api, type Clipping, type Destination, type Placement } from "../api/client";
import {
  type Change,
  type Kinds,
  type Sheet,
  type Where,
  edit,
  fetchEarly,
  useKinds,
  useSheet,
  useSuggestions,
  watchAway,
  whereOf,
} from "../api/sheet";
import { type Measures, measure } from "../app/fit";
import { copyClipping, saveClipping } from "../app/out";
import { useBenchState } from "../app/state";
import { type Area, sameArea, within } from "../area/geometry";
import { GalleyLane } from "../place";
import { CropLine } from "./CropLine";
import { MarkLine } from "./MarkLine";
import { Mat } from "./Mat";
import { EdgeLine, TonesLine, TurnLine } from "./PictureLines";
import { PartLine, RoomLine, ScaleLine } from "./SheetLines";
import { ToolColumn } from "./ToolColumn";
import { ViewBar } from "./ViewBar";
import { pickTool, useTrim } from "./state";
import { useTrimKeys } from "./useTrimKeys";
import { LEAST_SCALE, MOST_SCALE, type Zoom } from "./useZoom";

/** The clipping on the mat, at the size at which it stands in its destination. */
export function TrimRoom() {
  const { id, clipping } = useInHand();
  const destination = useDestination();
  const placement = usePlacementInHand(id, destination);
  const where = whereOf(placement, destination);
  useEffect(() => {
    if (id !== null) fetchEarly(id);
  }, [id]);
  // Asked for along with the clipping, not after it.
  useSheet(id ?? "", where, id !== null);
  if (!clipping && id !== null) return <main className="room-body mat-empty" aria-busy="true" />;
  if (!clipping) {
    return (
      <main className="room-body mat-empty">
        <h2 className="title">Nothing lies on the mat</h2>
        <p>
          <Link to="/take" className="choice-light">
            Take a clipping
          </Link>{" "}
          of the practice desk, paste a picture with Ctrl + V, or drop a file here.
        </p>
      </main>
    );
  }
  return <TrimClipping key={clipping.id} {...{ clipping, destination, placement, where }} />;
}

/** Tools whose line needs only one row; for the others two are kept free, so that nothing jumps when a mark is chosen. */
const LINES_OF_ONE = new Set(["crop", "part", "turn", "tones", "edge", "room", "scale"]);

interface OnMat {
  clipping: Clipping;
  destination: Destination | null;
  placement: Placement | null;
  where: Where;
}

function TrimClipping({ clipping, destination, placement, where }: OnMat) {
  const sheet = useSheet(clipping.id, where).data;
  const kinds = useKinds();
  const [zoom, setZoom] = useState<Zoom>("fit");
  const [draft, setDraft] = useState<Area | null>(null);
  const [live, setLive] = useState<Area | null>(null);
  const [ratio, setRatio] = useState<number | null>(null);
  const [toPane, setToPane] = useState(false);
  const { tool, away, set } = useTrim();
  // What takes its time to work out waits until the picture is there.
  const [shown, setShown] = useState(false);
  const suggested = useSuggestions(clipping.id, sheet?.version, toPane || (shown && tool === "crop"), true);
  useEffect(() => {
    watchAway((count) => {
      set({ away: count });
    });
    return () => {
      pickTool("crop");
    };
  }, [set, clipping.id]);

  const crop = draft ?? sheet?.crop ?? clipping.crop;
  const bounds = {
    width: sheet?.base.width ?? clipping.base.width,
    height: sheet?.base.height ?? clipping.base.height,
  };
  const measured = measuresOf(live ?? crop, sheet, clipping, destination, placement);
  const change = async (next: Change): Promise<Sheet | null> => {
    const after = await edit(clipping.id, where, next);
    if (typeof next === "function" || next.do === "crop" || next.do === "turn") {
      setDraft(null);
      setLive(null);
    }
    return after;
  };
  const settle = (next: Area | null) => {
    setDraft(next ? within(next, bounds) : null);
    setLive(null);
    setToPane(false);
  };
  const step = (by: number) => {
    const now = Number(document.querySelector<HTMLElement>(".mat")?.dataset["scale"] ?? 1);
    setZoom(Math.min(Math.max(now * by, LEAST_SCALE), MOST_SCALE));
  };
  useTrimKeys({
    clipping,
    sheet,
    crop,
    changed: sheet !== undefined && !sameArea(crop, sheet.crop),
    change,
    settle,
    setZoom,
    step,
  });

  return (
    <main className="room-body trim">
      <div className={`trim-top ${LINES_OF_ONE.has(tool) ? "" : "trim-top-marks"}`}>
        {sheet ? (
          <LineOf
            {...{ clipping, sheet, kinds, crop, ratio, toPane, change, shown }}
            onRatio={setRatio}
            onDraft={settle}
            onToPane={setToPane}
          />
        ) : (
          <div className="tool-line" aria-busy="true" />
        )}
        <WaysOut clipping={clipping} destination={destination} />
      </div>
      <div className="trim-middle">
        <div className="trim-table">
          {sheet ? (
            <Mat
              {...{ clipping, sheet, kinds, where, crop, ratio, zoom, change }}
              onShown={() => {
                setShown(true);
              }}
              panes={toPane ? (suggested?.panes ?? []) : null}
              mmPerPx={measured.widthEmu / 36_000 / measured.outerPx}
              onZoom={setZoom}
              onLive={setLive}
              onSettled={settle}
            />
          ) : (
            <div className="mat" aria-busy="true" />
          )}
          <Said clipping={clipping} sheet={sheet} away={away} />
          <ViewBar
            {...{ clipping, sheet, placement, destination, where, zoom, change, shown }}
            area={live ?? crop}
            measures={measured}
            onZoom={setZoom}
            onStep={step}
          />
        </div>
        <ToolColumn />
        {destination && <Galley destination={destination} placement={placement} />}
      </div>
    </main>
  );
}

interface LineProps {
  clipping: Clipping;
  sheet: Sheet;
  kinds: Kinds | undefined;
  crop: Area;
  ratio: number | null;
  toPane: boolean;
  shown: boolean;
  onRatio: (ratio: number | null) => void;
  onDraft: (crop: Area | null) => void;
  onToPane: (armed: boolean) => void;
  change: (change: Change) => Promise<Sheet | null>;
}

/** One line above the mat, for the tool in hand. */
function LineOf(props: LineProps) {
  const tool = useTrim((state) => state.tool);
  const { kinds, clipping, sheet, change } = props;
  if (tool === "crop") return <CropLine {...props} />;
  if (!kinds) return <div className="tool-line" aria-busy="true" />;
  const common = { clipping, sheet, kinds, change };
  if (tool === "part") return <PartLine {...common} />;
  if (tool === "turn") return <TurnLine {...common} />;
  if (tool === "tones") return <TonesLine {...common} />;
  if (tool === "edge") return <EdgeLine {...common} />;
  if (tool === "room") return <RoomLine {...common} />;
  if (tool === "scale") return <ScaleLine {...common} />;
  return <MarkLine {...common} />;
}

/** What must be known before going on: words that stay here, changes that wait. */
function Said({ clipping, sheet, away }: { clipping: Clipping; sheet: Sheet | undefined; away: number }) {
  const allow = async (allowed: boolean) => {
    const params = { path: { clipping: clipping.id } };
    await api.PUT("/api/v1/clippings/{clipping}/consent", { params, body: { allowed } }).catch(showError);
    await refresh();
  };
  return (
    <div className="trim-said">
      {away > 0 && (
        <p className="trim-says trim-warns" role="status">
          Tijera does not answer. {away === 1 ? "Your last change waits" : `${away.toString()} changes wait`} here and
          {away === 1 ? " is" : " are"} made as soon as it does; don’t close this window.
        </p>
      )}
      {sheet?.held_back && (
        <p className="trim-says">
          Something is hidden, so the window’s title “{sheet.held_back}” stays here; names say “Clipping”.{" "}
          <button type="button" className="choice" onClick={() => void allow(true)}>
            Let it leave
          </button>
        </p>
      )}
      {sheet?.allowed && (
        <p className="trim-says">
          The window’s title leaves in names and descriptions, as you allowed.{" "}
          <button type="button" className="choice" onClick={() => void allow(false)}>
            Keep it here
          </button>
        </p>
      )}
    </div>
  );
}

function Galley({ destination, placement }: { destination: Destination; placement: Placement | null }) {
  const galleyOpen = useBenchState((state) => state.galleyOpen);
  return (
    <aside className={`trim-galley ${galleyOpen ? "trim-galley-open" : ""}`} aria-label="Galley">
      <GalleyLane destination={destination} placement={placement} />
    </aside>
  );
}

/** The placement that the mat shows: the chosen one of this clipping, else its first. */
function usePlacementInHand(clipping: string | null, destination: Destination | null): Placement | null {
  const chosen = useBenchState((state) => state.placement);
  const own = destination?.placements.filter((each) => each.clipping === clipping) ?? [];
  return own.find((each) => each.id === chosen) ?? own[0] ?? null;
}

/** What a crop becomes: in its placement, in the chosen place, or at natural size; while it is pulled, edge and margins
 *  are counted as they were. */
function measuresOf(
  area: Area,
  sheet: Sheet | undefined,
  clipping: Clipping,
  destination: Destination | null,
  placement: Placement | null,
): Measures & { outerPx: number } {
  const scale = sheet?.scale ?? 1;
  const more = sheet
    ? [sheet.outer.width - sheet.crop.width * scale, sheet.outer.height - sheet.crop.height * scale]
    : [0, 0];
  const [width, height] = [area.width * scale + (more[0] ?? 0), area.height * scale + (more[1] ?? 0)];
  const outerPx = width / scale;
  const spot = destination?.spot ?? null;
  if (placement) {
    const rule = placement.bound_by === "given" ? placement.width_emu : "fit";
    const place = { widthEmu: placement.place_width_emu, heightEmu: placement.spot_height_emu };
    return { ...measure(width, height, clipping.scale_factor, place, rule), outerPx };
  }
  const place = spot ? { widthEmu: Math.min(...spot.widths_emu), heightEmu: spot.height_emu } : null;
  return { ...measure(width, height, clipping.scale_factor, place), outerPx };
}

/** At the end of every tool's line: the ways out. */
function WaysOut({ clipping, destination }: { clipping: Clipping; destination: Destination | null }) {
  const { galleyOpen, set } = useBenchState();
  return (
    <span className="tool-end">
      <Button variant="text" onClick={() => void copyClipping(clipping)}>
        Copy
      </Button>
      <Button variant="text" onClick={() => void saveClipping(clipping, "png")}>
        Save PNG
      </Button>
      <Button variant="text" onClick={() => void saveClipping(clipping, "jpeg")}>
        Save JPEG
      </Button>
      {destination && (
        <Button
          variant="text"
          className="narrow-only"
          onClick={() => {
            set({ galleyOpen: !galleyOpen });
          }}
        >
          Galley
        </Button>
      )}
    </span>
  );
}
