import Button from "@mui/material/Button";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { refresh, showError, useDestination } from "../api/bench";
import { api, must, type Frame } from "../api/client";
import { onButton, useKeys } from "../app/keys";
import { say, useBenchState } from "../app/state";
import { fittingScale, useSize } from "../app/useFitted";
import type { Area } from "../area/geometry";
import { FrozenScreen } from "./FrozenScreen";
import { LiveDesk } from "./LiveDesk";
import { RegionLine, type RegionLineHandle } from "./RegionLine";
import { freeze, useDesk } from "./useDesk";

/** See the screen live, freeze it, draw a region, keep it or land it in the chosen place. */
export function TakeRoom() {
  const frame = useBenchState((state) => state.frame);
  const area = useBenchState((state) => state.area);
  const [busy, setBusy] = useState(false);
  const set = useBenchState((state) => state.set);
  const navigate = useNavigate();
  const destination = useDestination();
  const stage = useRef<HTMLDivElement>(null);
  const line = useRef<RegionLineHandle>(null);
  const room = useSize(stage);
  const desk = useDesk();
  const screen = frame ?? desk.view;
  const scale = screen ? fittingScale(screen, room, 24) : 1;

  useEffect(() => {
    set({ panel: "screen", about: null });
    return () => {
      set({ panel: "rack", about: null });
    };
  }, [set]);
  useAbout(frame, area);

  const setArea = (next: Area | null) => {
    set({ area: next });
  };
  const toLive = () => {
    set({ frame: null, area: null });
  };

  const doFreeze = () => {
    if (frame || busy) return;
    setBusy(true);
    freeze()
      .then((frozen) => {
        set({ frame: frozen, area: null });
      })
      .catch(showError)
      .finally(() => {
        setBusy(false);
      });
  };

  const keep = async (place: boolean) => {
    if (!frame || !area || busy) return;
    setBusy(true);
    try {
      const params = { path: { frame: frame.id } };
      const taken = must(await api.POST("/api/v1/frames/{frame}/clippings", { params, body: { area, place } }));
      const bench = await refresh();
      set({ clipping: taken.clipping, placement: taken.placement ?? null });
      const name = bench?.clippings.find((each) => each.id === taken.clipping)?.name ?? "The clipping";
      toLive();
      if (taken.placement) {
        say(`${name} stands in ${bench?.destination?.name ?? "the document"}.`, { canUndo: true });
        void navigate("/place");
      } else {
        say(`${name} hangs on the rack.`, { canUndo: true });
      }
    } catch (error) {
      showError(error);
    } finally {
      setBusy(false);
    }
  };

  const canPlace = !!destination?.spot;
  useKeys({
    F: doFreeze,
    Escape: () => {
      if (area) setArea(null);
      else toLive();
    },
    Enter: (event) => {
      if (onButton(event)) return;
      event.preventDefault();
      if (frame) void keep(false);
      else doFreeze();
    },
    "Ctrl+Enter": (event) => {
      event.preventDefault();
      if (canPlace) void keep(true);
      else say("No place is chosen yet: choose one in Place, or keep the clipping on the rack with Enter.");
    },
  });

  return (
    <main className="room-body take">
      <div className="take-kinds">
        <span className="kind" aria-current="true">
          Region
        </span>
        <span className="take-hint">
          {frame
            ? "Frozen. Draw from corner to corner; what lies outside the line is not kept."
            : "The practice desk, live: choose a window to raise it, turn the wheel to scroll, then freeze."}
        </span>
        {frame ? (
          <button type="button" className="on-mat" onClick={toLive}>
            Back to the live screen <kbd>Esc</kbd>
          </button>
        ) : (
          <button type="button" className="on-mat on-mat-main" onClick={doFreeze} disabled={busy}>
            Freeze <kbd>F</kbd>
          </button>
        )}
      </div>
      <RegionLine
        ref={line}
        frame={frame}
        area={area}
        spot={destination?.spot ?? null}
        onArea={setArea}
        actions={
          <>
            <Button variant="outlined" disabled={!area || busy} onClick={() => void keep(false)}>
              Keep on the rack <kbd>Enter</kbd>
            </Button>
            {canPlace && (
              <Button variant="contained" disabled={!area || busy} onClick={() => void keep(true)}>
                Place it <kbd>Ctrl Enter</kbd>
              </Button>
            )}
          </>
        }
      />
      <div className="stage" ref={stage}>
        {frame ? (
          <FrozenScreen
            key={frame.id}
            frame={frame}
            scale={scale}
            area={area}
            onSettled={setArea}
            onLive={(live) => {
              line.current?.show(live);
            }}
          />
        ) : (
          desk.view && <LiveDesk desk={desk} view={desk.view} scale={scale} onFreeze={doFreeze} />
        )}
      </div>
    </main>
  );
}

const ASK_AFTER_MS = 150;

/** Ask what the area at rest would weigh, for the dashed segment of the weight rail. */
function useAbout(frame: Frame | null, area: Area | null): void {
  const set = useBenchState((state) => state.set);
  useEffect(() => {
    if (!frame || !area) {
      set({ about: null });
      return undefined;
    }
    let current = true;
    const timer = setTimeout(() => {
      api
        .POST("/api/v1/frames/{frame}/weight", { params: { path: { frame: frame.id } }, body: area })
        .then((answer) => {
          if (current) set({ about: must(answer).bytes });
        })
        .catch(showError);
    }, ASK_AFTER_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [frame, area, set]);
}
