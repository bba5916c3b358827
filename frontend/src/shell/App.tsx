import Button from "@mui/material/Button";
import { type ReactNode, Suspense, lazy, useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation, useNavigate } from "react-router";
import { useBench, useClippingInHand } from "../api/bench";
import { useOptions } from "../api/options";
import { usePersonPending } from "../api/session";
import { PlaceRoom } from "../rooms/place";
import { SidePanel, isOwnDrag } from "../rooms/rack";
import { keepHeld, TakeRoom } from "../rooms/take";
import { WeightRail } from "../rooms/weight";
import { FirstMinute } from "./FirstMinute";
import { watchClipboard } from "../api/clipboardOffer";
import { FOOT } from "../rooms/FootHint";
import { onIntake, takeDrop, takePaste } from "../rooms/intake";
import { useKeys } from "../api/keys";
import { NoticeBar } from "./NoticeBar";
import { copyClipping, downloadCopy, saveClipping } from "../api/out";
import { addressOf, useBenchState } from "../base/state";
import { TopStrip } from "./TopStrip";
import { useFileInAddress } from "./useFileInAddress";
import { useGoTo } from "../api/useGoTo";
import { useHistory } from "../api/useHistory";

// What is not needed for the first look comes after it.
const HandOverRoom = lazy(async () => ({ default: (await import("../rooms/handover")).HandOverRoom }));
const TrimRoom = lazy(async () => ({ default: (await import("../rooms/trim")).TrimRoom }));
const AnewRoom = lazy(async () => ({ default: (await import("../rooms/anew")).AnewRoom }));
const HistoryRoom = lazy(async () => ({ default: (await import("../rooms/history")).HistoryRoom }));
const PostboxRoom = lazy(async () => ({ default: (await import("../rooms/postbox")).PostboxRoom }));
const KeysSheet = lazy(async () => ({ default: (await import("./KeysSheet")).KeysSheet }));
const OptionsSheet = lazy(async () => ({ default: (await import("./OptionsSheet")).OptionsSheet }));

/** A room that is fetched when it is entered. */
function late(room: ReactNode): ReactNode {
  return <Suspense fallback={<main className="room-body" aria-busy="true" />}>{room}</Suspense>;
}

/** The frame round every room. */
export function App() {
  const bench = useBench();
  const { keysOpen, optionsOpen } = useBenchState();
  const keysKnown = useOptions() !== undefined;
  const personPending = usePersonPending();
  useIntake();
  useFileInAddress();
  return (
    <div className="frame">
      <WorkshopKeys />
      <TopStrip />
      <SidePanel />
      {bench.isPending || (bench.data && (!keysKnown || personPending)) ? (
        <main className="room-body" aria-busy="true" />
      ) : bench.data === undefined ? (
        <main className="room-body galley-empty">
          <h2 className="title">Tijera does not answer</h2>
          <p>Start it again; everything that was kept is still there.</p>
          <p>
            <Button variant="contained" onClick={() => void bench.refetch()}>
              Try again
            </Button>
          </p>
        </main>
      ) : (
        <Routes>
          <Route path="/" element={<Entrance />} />
          <Route path="/start" element={<FirstMinute />} />
          <Route path="/take" element={<TakeRoom />} />
          <Route path="/trim" element={late(<TrimRoom />)} />
          <Route path="/place" element={<PlaceRoom />} />
          <Route path="/hand-over" element={late(<HandOverRoom />)} />
          <Route path="/anew" element={late(<AnewRoom />)} />
          <Route path="/history" element={late(<HistoryRoom />)} />
          <Route path="/postbox" element={late(<PostboxRoom />)} />
          <Route path="*" element={<Navigate to={addressOf("/")} replace />} />
        </Routes>
      )}
      <div className="foot">
        <div id={FOOT} className="foot-hint" />
        <NoticeBar />
      </div>
      <WeightRail />
      <Suspense>
        {keysOpen && <KeysSheet />}
        {optionsOpen && <OptionsSheet />}
      </Suspense>
    </div>
  );
}

/** An empty bench shows how to begin; one with work on it goes on. Decided on entering: later moves are the user's. */
function Entrance() {
  const now = useBench().data;
  const [bench] = useState(now);
  if (bench?.destination) return <Navigate to={addressOf("/place")} replace />;
  if (bench && bench.count > 0) return <Navigate to={addressOf("/trim")} replace />;
  return <FirstMinute />;
}

/** The keys that work everywhere; on its own, so that a change of what they mean draws nothing anew. */
function WorkshopKeys(): null {
  const goTo = useGoTo();
  const room = useLocation().pathname;
  const destination = useBench().data?.destination;
  const clipping = useClippingInHand();
  const set = useBenchState((state) => state.set);
  const history = useHistory();
  // What is held on the frozen screen is what one means, not what was taken before it.
  const holds = useBenchState((state) => state.frame !== null && state.cut !== null) && room === "/take";
  const savesDocument = room === "/place" || room === "/hand-over";
  const tools = useOptions()?.actions.filter((each) => each.id.startsWith("tool-")) ?? [];
  // A tool's key in Take or Place means: to Trim, with that tool in hand.
  const trims = (room === "/take" || room === "/place") && (holds || clipping !== null);
  const toTool = (id: string) => () => {
    goTo("/trim");
    set({ wishedTool: id.replace("tool-", "") });
  };
  useKeys({
    ...(trims ? Object.fromEntries(tools.map(({ id }) => [id, toTool(id)])) : {}),
    "go-take": () => {
      goTo("/take");
    },
    "go-trim": () => {
      goTo("/trim");
    },
    "go-place": () => {
      goTo("/place");
    },
    "go-hand-over": () => {
      goTo("/hand-over");
    },
    undo: (event) => {
      event.preventDefault();
      void history.step("undo");
    },
    redo: (event) => {
      event.preventDefault();
      void history.step("redo");
    },
    copy: (event) => {
      // Text that somebody has marked is what they mean.
      if ((!clipping && !holds) || window.getSelection()?.toString()) return;
      event.preventDefault();
      if (holds) void keepHeld().then((held) => held && copyClipping(held));
      else if (clipping) void copyClipping(clipping);
    },
    save: (event) => {
      event.preventDefault();
      if (holds) void keepHeld().then((held) => held && saveClipping(held, "png"));
      else if (savesDocument && destination) void downloadCopy(destination.id);
      else if (clipping) void saveClipping(clipping, "png");
    },
    keys: () => {
      set({ keysOpen: true });
    },
    options: () => {
      set({ optionsOpen: true });
    },
    find: (event) => {
      const found = [...document.querySelectorAll<HTMLInputElement>("[data-find]")].at(-1);
      if (!found) return;
      event.preventDefault();
      found.focus();
    },
    leave: () => {
      set({ notice: null, rackOpen: false, galleyOpen: false });
    },
  });
  return null;
}

function useIntake(): void {
  const navigate = useNavigate();
  useEffect(() => {
    onIntake((room) => void navigate(addressOf(room)));
    const abort = new AbortController();
    const listen = { signal: abort.signal };
    window.addEventListener(
      "paste",
      (event) => {
        const into = event.target;
        if (into instanceof HTMLInputElement || into instanceof HTMLTextAreaElement) return;
        if (takePaste(event.clipboardData)) event.preventDefault();
      },
      listen,
    );
    watchClipboard(abort.signal);
    // What is dragged from the rack has a type of its own and is none of this.
    const isFile = (event: DragEvent) =>
      event.dataTransfer?.types.some((type) => ["Files", "text/html", "text/uri-list"].includes(type)) === true &&
      !isOwnDrag(event);
    window.addEventListener(
      "dragover",
      (event) => {
        if (isFile(event)) event.preventDefault();
      },
      listen,
    );
    window.addEventListener(
      "drop",
      (event) => {
        if (!isFile(event) || !event.dataTransfer) return;
        event.preventDefault();
        // A file dropped where things are weighed only wants weighing.
        takeDrop(event.dataTransfer, location.pathname === "/hand-over" ? "/hand-over" : undefined);
      },
      listen,
    );
    return () => {
      abort.abort();
    };
  }, [navigate]);
}
