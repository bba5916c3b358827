import { memo, useDeferredValue, useEffect, useState } from "react";
import { Link } from "react-router";
import { useDestination, useInHand } from "../../api/bench";
import type { Clipping, Destination, Placement } from "../../api/client";
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
} from "../../api/sheet";
import { addressOf, useBenchState } from "../../base/state";
import { type Area, sameArea, within } from "../../area/geometry";
import { EMU_PER_MM } from "../../base/units";
import { LEAST_SCALE, MOST_SCALE } from "../../base/zoom";
import { GalleyLane } from "../place";
import { FootHint } from "../FootHint";
import { OneLine } from "../OneLine";
import { CropLine } from "./CropLine";
import { MarkLine } from "./MarkLine";
import { Mat } from "./Mat";
import { EdgeLine, TonesLine, TurnLine } from "./PictureLines";
import { PartLine, RoomLine, ScaleLine } from "./SheetLines";
import { Said } from "./Said";
import { ToolColumn } from "./ToolColumn";
import { ViewBar } from "./ViewBar";
import { WaysOut } from "./WaysOut";
import { measuresOf, placementOf } from "./placed";
import { pickTool, useTrim } from "./state";
import { toolOf } from "./tools";
import { useTrimKeys } from "./useTrimKeys";
import { type Zoom } from "./useZoom";

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

interface ViewWork {
  view: View;
  setView: (values: Partial<View>) => void;
  /** Forget a crop that was pulled, unless another one has been pulled meanwhile. */
  dropDraft: (drawn: Area | null) => void;
}

/** Begins anew with another clipping, while what stands round the mat stays as it is. */
function useView(id: string): ViewWork {
  const [kept, keep] = useState(() => fresh(id));
  if (kept.id !== id) keep(fresh(id));
  const set = (values: Partial<View>) => {
    // What comes late of the one before is none of this one's.
    keep((now) => (now.id === id ? { ...now, ...values } : now));
  };
  const dropDraft = (drawn: Area | null) => {
    keep((now) => (now.id === id && now.draft === drawn ? { ...now, draft: null, live: null } : now));
  };
  return { view: kept.id === id ? kept : fresh(id), setView: set, dropDraft };
}

/** What lies on the mat and what can be done with it now. */
interface TrimWork extends OnMat {
  sheet: Sheet | undefined;
  kinds: Kinds | undefined;
  view: View;
  setView: (values: Partial<View>) => void;
  /** The crop as it is pulled or as it stands. */
  crop: Area | undefined;
  change: (change: Change) => Promise<Sheet | null>;
  settle: (crop: Area | null) => void;
  setZoom: (zoom: Zoom) => void;
  /** Zoom in or out by a factor. */
  step: (by: number) => void;
}

function useTrimming(on: OnMat): TrimWork {
  const { id, where, clipping } = on;
  const sheet = useSheet(id, where).data;
  const kinds = useKinds();
  const { view, setView, dropDraft } = useView(id);
  const setZoom = (zoom: Zoom) => {
    setView({ zoom });
  };
  return {
    ...on,
    sheet,
    kinds,
    view,
    setView,
    crop: view.draft ?? sheet?.crop ?? clipping?.crop,
    change: async (next) => {
      const drawn = view.draft;
      const after = await edit(id, where, next);
      // What has been pulled since then is a crop of its own.
      if (typeof next === "function" || next.do === "crop" || next.do === "turn") dropDraft(drawn);
      return after;
    },
    settle: (next) => {
      const bounds = sheet?.base ?? clipping?.base;
      setView({ draft: next && bounds ? within(next, bounds) : null, live: null, toPane: false });
    },
    setZoom,
    step: (by) => {
      const now = Number(document.querySelector<HTMLElement>(".mat")?.dataset["scale"] ?? 1);
      setZoom(Math.min(Math.max(now * by, LEAST_SCALE), MOST_SCALE));
    },
  };
}

function Trimming(on: OnMat) {
  const trimming = useTrimming(on);
  const { id, clipping, destination, placement, sheet, crop } = trimming;
  const set = useTrim((state) => state.set);
  useEffect(() => {
    watchAway((count) => {
      set({ away: count });
    });
    return () => {
      pickTool("crop");
    };
  }, [set, id]);
  const wished = useBenchState((state) => state.wishedTool);
  useEffect(() => {
    if (wished === null) return;
    pickTool(wished);
    useBenchState.getState().set({ wishedTool: null });
  }, [wished]);
  return (
    <main className="room-body trim">
      {clipping && crop && (
        <TrimKeys
          {...trimming}
          clipping={clipping}
          crop={crop}
          changed={sheet !== undefined && !sameArea(crop, sheet.crop)}
        />
      )}
      <TopLine trimming={trimming} />
      <Hint />
      <div className="trim-middle">
        <Table trimming={trimming} />
        <ToolColumn />
        {destination && <Galley destination={destination} placement={placement} />}
      </div>
    </main>
  );
}

/** What the tool in hand waits for. */
function Hint() {
  const tool = useTrim((state) => state.tool);
  return (
    <FootHint>
      <p>{toolOf(tool).hint}.</p>
    </FootHint>
  );
}

/** Above the mat: what can be set for the tool in hand, and the ways out. */
function TopLine({ trimming }: { trimming: TrimWork }) {
  const { id, clipping, destination, sheet, kinds, crop, change, settle, setView } = trimming;
  const { ratio, toPane, shown } = trimming.view;
  const tool = useTrim((state) => state.tool);
  // The picture first; what can be set for it a moment later.
  const laid = useDeferredValue(sheet?.clipping);
  return (
    <div className="trim-top">
      <OneLine key={`${id} ${tool}`}>
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
      </OneLine>
      <WaysOut clipping={clipping} destination={destination} />
    </div>
  );
}

/** The mat, what must be said beneath it, and the measures. */
function Table({ trimming }: { trimming: TrimWork }) {
  const { id, clipping, destination, placement, where, sheet, kinds, crop, change, settle, setZoom, step } = trimming;
  const { zoom, live, ratio, toPane, shown } = trimming.view;
  const { tool, away } = useTrim();
  const suggested = useSuggestions(id, sheet?.version, toPane || (shown && tool === "crop"), true);
  const measured = clipping && crop ? measuresOf(live ?? crop, sheet, clipping, placement) : null;
  return (
    <div className="trim-table">
      {clipping && sheet && crop && measured ? (
        <Mat
          key={id}
          {...{ clipping, sheet, kinds, where, crop, ratio, zoom, change }}
          onShown={() => {
            trimming.setView({ shown: true });
          }}
          panes={toPane ? (suggested?.panes ?? []) : null}
          mmPerPx={measured.widthEmu / EMU_PER_MM / measured.outerPx}
          onZoom={setZoom}
          onLive={(next) => {
            trimming.setView({ live: next });
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
