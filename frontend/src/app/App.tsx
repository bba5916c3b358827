import Button from "@mui/material/Button";
import { useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation, useNavigate } from "react-router";
import { redo, undo, useBench, useClippingInHand } from "../api/bench";
import { HandOverRoom } from "../handover";
import { PlaceRoom } from "../place";
import { SidePanel } from "../rack";
import { TakeRoom } from "../take";
import { TrimRoom } from "../trim";
import { WeightRail } from "../weight";
import { FirstMinute } from "./FirstMinute";
import { onIntake, takeDrop, takePaste } from "./intake";
import { useKeys } from "./keys";
import { KeysSheet } from "./KeysSheet";
import { NoticeBar } from "./NoticeBar";
import { copyClipping, downloadCopy, saveClipping } from "./out";
import { useBenchState } from "./state";
import { TopStrip } from "./TopStrip";

/** The frame round every room. */
export function App() {
  const bench = useBench();
  useWorkshopKeys();
  useIntake();
  return (
    <div className="frame">
      <TopStrip />
      <SidePanel />
      {bench.isPending ? (
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
          <Route path="/trim" element={<TrimRoom />} />
          <Route path="/place" element={<PlaceRoom />} />
          <Route path="/hand-over" element={<HandOverRoom />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      )}
      <NoticeBar />
      <WeightRail />
      <KeysSheet />
    </div>
  );
}

/** An empty bench shows how to begin; one with work on it goes on. Decided on entering: later moves are the user's. */
function Entrance() {
  const now = useBench().data;
  const [bench] = useState(now);
  if (bench?.destination) return <Navigate to="/place" replace />;
  if (bench && bench.clippings.length > 0) return <Navigate to="/trim" replace />;
  return <FirstMinute />;
}

function useWorkshopKeys(): void {
  const navigate = useNavigate();
  const room = useLocation().pathname;
  const destination = useBench().data?.destination;
  const clipping = useClippingInHand();
  const set = useBenchState((state) => state.set);
  const savesDocument = room === "/place" || room === "/hand-over";
  useKeys({
    T: () => void navigate("/take"),
    R: () => void navigate("/trim"),
    P: () => void navigate("/place"),
    H: () => void navigate("/hand-over"),
    "Ctrl+Z": (event) => {
      event.preventDefault();
      void undo();
    },
    "Ctrl+Shift+Z": (event) => {
      event.preventDefault();
      void redo();
    },
    "Ctrl+C": (event) => {
      // Text that somebody has marked is what they mean.
      if (!clipping || window.getSelection()?.toString()) return;
      event.preventDefault();
      void copyClipping(clipping);
    },
    "Ctrl+S": (event) => {
      event.preventDefault();
      if (savesDocument && destination) void downloadCopy(destination.id);
      else if (clipping) void saveClipping(clipping, "png");
    },
    "?": () => {
      set({ keysOpen: true });
    },
    "/": (event) => {
      const found = [...document.querySelectorAll<HTMLInputElement>("[data-find]")].at(-1);
      if (!found) return;
      event.preventDefault();
      found.focus();
    },
    Escape: () => {
      set({ notice: null, rackOpen: false, galleyOpen: false });
    },
  });
}

function useIntake(): void {
  const navigate = useNavigate();
  useEffect(() => {
    onIntake((room) => void navigate(room));
    const abort = new AbortController();
    const listen = { signal: abort.signal };
    window.addEventListener(
      "paste",
      (event) => {
        if (takePaste(event.clipboardData)) event.preventDefault();
      },
      listen,
    );
    const isFile = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
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
        takeDrop(event.dataTransfer);
      },
      listen,
    );
    return () => {
      abort.abort();
    };
  }, [navigate]);
}
