import Button from "@mui/material/Button";
import { memo, useDeferredValue, useEffect, useState } from "react";
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
import { copyClipping, saveClipping } from "../app/out";
import { addressOf, useBenchState } from "../app/state";
import { type Area, sameArea, within } from "../area/geometry";
import { GalleyLane } from "../place";
import { CropLine } from "./CropLine";
import { MarkLine } from "./MarkLine";
import { Mat } from "./Mat";
import { EdgeLine, TonesLine, TurnLine } from "./PictureLines";
import { PartLine, RoomLine, ScaleLine } from "./SheetLines";
import { ToolColumn } from "./ToolColumn";
import { ViewBar } from "./ViewBar";
import { measuresOf, placementOf } from "./placed";
import { pickTool, useTrim } from "./state";
import { useTrimKeys } from "./useTrimKeys";
import { LEAST_SCALE, MOST_SCALE, type Zoom } from "./useZoom";

/** The clipping on the mat, at the size at which it stands in its destination. */
export function TrimRoom() {
  const { id, clipping } = useInHand();
  const destination = useDestination();
  const chosen = useBenchState((state) => state.placement);
  const placement = placementOf(id, destination, chosen);
  const where = whereOf(placement, destination);
  useEffect(() => {
    const early = (next: string, chosenNow: string | null) => {
      fetchEarly(next, whereOf(placementOf(next, destination, chosenNow), destination));
    };
    if (id !== null) early(id, chosen);
    return useBenchState.subscribe(({ clipping: next, placement: chosenNow }) => {
      if (next !== null && next !== id) early(next, chosenNow);
    });
  }, [id, chosen, destination]);
  // Asked for along with the clipping, not after it.
  useSheet(id ?? "", where, id !== null);
  if (id === null) {
    return (
      <main className="room-body mat-empty">
        <h2 className="title">Nothing lies on the mat</h2>
        <p>
          <Link to={addressOf("/take")} className="choice-light">
            Take a clipping
          </Link>{" "}
          of the practice desk, paste a picture with Ctrl + V, or drop a file here.
        </p>
      </main>
    );
  }
  return <Trimming {...{ id, clipping, destination, placement, where }} />;
}

/** Tools whose line needs only one row; for the others two are kept free, so that nothing jumps when a mark is chosen. */
const LINES_OF_ONE = new Set(["crop", "part", "turn", "tones", "edge", "room", "scale"]);

interface OnMat {
  id: string;
  /** Null until it is known. */
  clipping: Clipping | null;
  destination: Destination | null;
  placement: Placement | null;
  where: Where;
}

/** How one clipping is looked at and what is tried on it. */
interface View {
  id: string;
  zoom: Zoom;
  draft: Area | null;
  live: Area | null;
  ratio: number | null;
  toPane: boolean;
  /** Whether the picture is there: what takes its time to work out waits for it. */
  shown: boolean;
}

function fresh(id: string): View {
  return { id, zoom: "fit", draft: null, live: null, ratio: null, toPane: false, shown: false };
}

/** Begins anew with another clipping, while what stands round the mat stays as it is. */
function useView(id: string): [View, (values: Partial<View>) => void] {
  const [kept, keep] = useState(() => fresh(id));
  if (kept.id !== id) keep(fresh(id));
  const set = (values: Partial<View>) => {
    // What comes late of the one before is none of this one's.
    keep((now) => (now.id === id ? { ...now, ...values } : now));
  };
  return [kept.id === id ? kept : fresh(id), set];
}

function Trimming({ id, clipping, destination, placement, where }: OnMat) {
  const sheet = useSheet(id, where).data;
  // The picture first; what can be set for it a moment later.
  const laid = useDeferredValue(sheet?.clipping);
  const kinds = useKinds();
  const [view, setView] = useView(id);
  const { zoom, draft, live, ratio, toPane, shown } = view;
  const { tool, away, set } = useTrim();
  const suggested = useSuggestions(id, sheet?.version, toPane || (shown && tool === "crop"), true);
  useEffect(() => {
    watchAway((count) => {
      set({ away: count });
    });
    return () => {
      pickTool("crop");
    };
  }, [set, id]);

  const crop = draft ?? sheet?.crop ?? clipping?.crop;
  const measured = clipping && crop ? measuresOf(live ?? crop, sheet, clipping, placement) : null;
  const change = async (next: Change): Promise<Sheet | null> => {
    const after = await edit(id, where, next);
    if (typeof next === "function" || next.do === "crop" || next.do === "turn") setView({ draft: null, live: null });
    return after;
  };
  const settle = (next: Area | null) => {
    const bounds = sheet?.base ?? clipping?.base;
    setView({ draft: next && bounds ? within(next, bounds) : null, live: null, toPane: false });
  };
  const setZoom = (next: Zoom) => {
    setView({ zoom: next });
  };
  const step = (by: number) => {
    const now = Number(document.querySelector<HTMLElement>(".mat")?.dataset["scale"] ?? 1);
    setZoom(Math.min(Math.max(now * by, LEAST_SCALE), MOST_SCALE));
  };

  return (
    <main className="room-body trim">
      {clipping && crop && (
        <TrimKeys
          {...{ clipping, sheet, crop, change, settle, setZoom, step }}
          changed={sheet !== undefined && !sameArea(crop, sheet.crop)}
        />
      )}
      <div className={`trim-top ${LINES_OF_ONE.has(tool) ? "" : "trim-top-marks"}`}>
        {clipping && sheet && crop && laid === sheet.clipping ? (
          <LineOf
            key={id}
            {...{ clipping, sheet, kinds, crop, ratio, toPane, change, shown }}
            onRatio={(next) => {
              setView({ ratio: next });
            }}
            onDraft={settle}
            onToPane={(armed) => {
              setView({ toPane: armed });
            }}
          />
        ) : (
          <div className="tool-line" aria-busy="true" />
        )}
        <WaysOut clipping={clipping} destination={destination} />
      </div>
      <div className="trim-middle">
        <div className="trim-table">
          {clipping && sheet && crop && measured ? (
            <Mat
              key={id}
              {...{ clipping, sheet, kinds, where, crop, ratio, zoom, change }}
              onShown={() => {
                setView({ shown: true });
              }}
              panes={toPane ? (suggested?.panes ?? []) : null}
              mmPerPx={measured.widthEmu / 36_000 / measured.outerPx}
              onZoom={setZoom}
              onLive={(next) => {
                setView({ live: next });
              }}
              onSettled={settle}
            />
          ) : (
            <div className="mat" aria-busy="true" />
          )}
          {clipping && <Said clipping={clipping} sheet={sheet} away={away} />}
          {clipping && crop && measured && (
            <ViewBar
              {...{ clipping, sheet, placement, destination, where, zoom, change, shown }}
              area={live ?? crop}
              measures={measured}
              onZoom={setZoom}
              onStep={step}
            />
          )}
        </div>
        <ToolColumn />
        {destination && <Galley destination={destination} placement={placement} />}
      </div>
    </main>
  );
}

/** The keys of this room, as soon as there is something to use them on. */
function TrimKeys(props: Parameters<typeof useTrimKeys>[0]): null {
  useTrimKeys(props);
  return null;
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

const Galley = memo(function Galley({
  destination,
  placement,
}: {
  destination: Destination;
  placement: Placement | null;
}) {
  const galleyOpen = useBenchState((state) => state.galleyOpen);
  return (
    <aside className={`trim-galley ${galleyOpen ? "trim-galley-open" : ""}`} aria-label="Galley">
      <GalleyLane destination={destination} placement={placement} />
    </aside>
  );
});

/** At the end of every tool's line: the ways out. */
const WaysOut = memo(function WaysOut({
  clipping,
  destination,
}: {
  clipping: Clipping | null;
  destination: Destination | null;
}) {
  const galleyOpen = useBenchState((state) => state.galleyOpen);
  const set = useBenchState((state) => state.set);
  const out = (way: (what: Clipping) => Promise<void>) => () => {
    if (clipping) void way(clipping);
  };
  return (
    <span className="tool-end">
      <Button variant="text" onClick={out(copyClipping)}>
        Copy
      </Button>
      <Button variant="text" onClick={out((what) => saveClipping(what, "png"))}>
        Save PNG
      </Button>
      <Button variant="text" onClick={out((what) => saveClipping(what, "jpeg"))}>
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
});
