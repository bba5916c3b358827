import Button from "@mui/material/Button";
import { useEffect, useRef } from "react";
import { useSearchParams } from "react-router";
import { showError, useDestination } from "../../api/bench";
import { api, must, type Frame, type LiveView } from "../../api/client";
import { useKeyOf } from "../../api/keys";
import { widthWords } from "../../base/format";
import { type KindName, useBenchState } from "../../base/state";
import type { Area } from "../../base/units";
import { fittingScale, useSize } from "../../base/useFitted";
import { lastAreaAgain, takeUpFrame, toLive } from "./actions";
import { hasControl, openControl } from "./control";
import { CutLine, type CutLineHandle } from "./CutLine";
import { FrozenScreen, usePanes } from "./FrozenScreen";
import { KINDS, KindsRow } from "./KindsRow";
import { LiveDesk } from "./LiveDesk";
import { LivePicture, LiveVideo } from "./LiveOthers";
import { LongPagePanel } from "./LongPagePanel";
import { useLongPage } from "./longpage";
import type { Pointing } from "./Pointing";
import { useLive, useSources } from "./useDesktop";
import { type Held, useHeld } from "./useHeld";
import { type Moments, useMoments } from "./useMoments";
import { useTakeKeys } from "./useTakeKeys";

/** See the screen live, freeze it, hold something on it, keep it or land it in the chosen place. */
export function TakeRoom() {
  const { frame, cut, kind, source, contentOnly, monitor, set } = useBenchState();
  const destination = useDestination();
  const stage = useRef<HTMLDivElement>(null);
  const line = useRef<CutLineHandle>(null);
  const pointing = useRef<Pointing | null>(null);
  const room = useSize(stage);
  const screen = useLive(source);
  const panes = usePanes(frame);
  const view = viewOf(frame ?? screen, monitor);
  const scale = view ? fittingScale(view, { ...room, height: room.height - HINT_PX }, 24) : 1;
  const moments = useMoments();
  const held = useHeld(panes, pointing, view);
  useSidePanel();
  useFrameOfAddress();
  useAbout(frame, cut?.area ?? null);
  useTakeKeys(moments, held);
  const abilities = useSources().data?.find((each) => each.id === source)?.abilities;
  return (
    <main className="room-body take">
      <KindsRow
        kind={kind}
        frozen={frame !== null}
        counting={moments.count.left}
        hasPointer={frame ? frame.has_pointer : (abilities?.pointer_layer?.can ?? false)}
        noPointer={abilities?.pointer_layer?.instead ?? ""}
        onKind={held.setKind}
        onFreeze={() => void moments.freeze()}
        onCountDown={moments.countDown}
        onStop={moments.count.stop}
        onLastArea={() => void lastAreaAgain()}
        onLive={toLive}
      />
      <CutLine
        ref={line}
        title={KINDS.find((each) => each.kind === kind)?.name ?? ""}
        frame={frame}
        area={cut?.area ?? null}
        spot={destination?.spot ?? null}
        onArea={(area) => {
          set({ cut: { kind: "region", area }, kind: kind === "region" ? kind : "region" });
        }}
        actions={<WaysOn held={held} />}
      />
      <div className="stage" ref={stage}>
        {frame && view ? (
          <FrozenScreen
            key={frame.id}
            {...{ frame, view, scale, kind, contentOnly, cut, panes }}
            pointingRef={pointing}
            onCut={(next) => {
              set({ cut: next });
            }}
            onLive={(area) => {
              line.current?.show(area);
            }}
            onDrawn={held.drawn}
          />
        ) : (
          <Live {...{ screen, view, scale, moments }} />
        )}
        <OnStage counting={moments.count.left} abilities={abilities} />
      </div>
    </main>
  );
}

/** The rack gives way to the list of windows while this room is open. */
function useSidePanel(): void {
  const set = useBenchState((state) => state.set);
  useEffect(() => {
    set({ panel: "screen", about: null });
    return () => {
      set({ panel: "rack", about: null });
    };
  }, [set]);
}

interface LiveProps {
  screen: LiveView | null;
  view: Area | null;
  scale: number;
  moments: Moments;
}

/** What the source shows now: windows that can be handled, a picture, or a video. */
function Live({ screen, view, scale, moments }: LiveProps) {
  const source = useBenchState((state) => state.source);
  const kind = useBenchState((state) => state.kind);
  if (source === "share")
    return (
      <LiveVideo
        onControl={
          hasControl() ? () => void openControl(() => void moments.freeze(), moments.countDown, moments.seconds) : null
        }
      />
    );
  if (!screen || !view) return null;
  if (source === "desk") return <LiveDesk source={source} screen={screen} view={view} scale={scale} kind={kind} />;
  return <LivePicture screen={screen} view={view} scale={scale} />;
}

interface OnStageProps {
  counting: number | null;
  abilities: Readonly<Record<string, { instead: string }>> | undefined;
}

/** What stands over the stage: a page that is joined, a count, a hint. */
function OnStage({ counting, abilities }: OnStageProps) {
  const { frame, cut, kind, source } = useBenchState();
  const joining = useLongPage((state) => state.id !== null);
  const window = frame?.windows.find((each) => each.id === cut?.window);
  const coveredInPart = window?.is_covered === true && !window.is_whole;
  return (
    <>
      {joining && <LongPagePanel />}
      {counting !== null && (
        <div className="count-large" aria-hidden="true">
          {counting}
        </div>
      )}
      <p className="stage-hint">
        {coveredInPart ? abilities?.["covered_windows"]?.instead : hintOf(kind, frame !== null, source)}
      </p>
    </>
  );
}

/** At the end of the line: what can be done with what is held. */
function WaysOn({ held }: { held: Held }) {
  const { cut, kind, source, contentOnly } = useBenchState();
  const spot = useDestination()?.spot;
  const joining = useLongPage((state) => state.id !== null);
  return (
    <>
      {kind === "window" && <PartChoice contentOnly={contentOnly} onPart={held.setPart} />}
      {kind === "long-page" && source !== "desk" && !joining && (
        <Button variant="contained" onClick={held.join}>
          Join while I scroll
        </Button>
      )}
      <KeepButton name="Keep on the rack" action="keep" disabled={!cut} onClick={() => void held.keep(cut, false)} />
      {spot && (
        <KeepButton
          main
          name={`Place it, ${widthWords(spot)}`}
          action="place"
          disabled={!cut}
          onClick={() => void held.keep(cut, true)}
        />
      )}
    </>
  );
}

/** What to do next, in a line at the foot of the stage. */
function hintOf(kind: KindName, frozen: boolean, source: string): string {
  if (!frozen && kind === "long-page")
    return source === "desk"
      ? "Choose a window that scrolls: it is scrolled to its end and joined."
      : "Show the top of the page, then join while you scroll.";
  if (!frozen)
    return source === "desk"
      ? "Live: raise, move and scroll windows, open menus; then freeze."
      : "Live: bring to the front what you want, then freeze.";
  return {
    region: "Draw from corner to corner. Hold Alt to draw without snapping to edges.",
    window: "Point at a window, or choose it in the list. A covered one is taken whole.",
    pane: "Point at a pane; [ and ] go smaller and larger. A drag draws a region that snaps.",
    freehand: "Draw round what you want; what lies outside becomes transparent.",
    screen: "Choose a monitor, or all of them in the list.",
    "long-page": "The joined page: keep it, or pull the line to a part of it.",
  }[kind];
}

function PartChoice({ contentOnly, onPart }: { contentOnly: boolean; onPart: (content: boolean) => void }) {
  return (
    <span className="part-choice" role="group" aria-label="What of the window">
      {[false, true].map((content) => (
        <button
          key={String(content)}
          type="button"
          aria-pressed={contentOnly === content}
          onClick={() => {
            onPart(content);
          }}
        >
          {content ? "content only" : "with its frame"}
        </button>
      ))}
    </span>
  );
}

interface KeepProps {
  name: string;
  action: string;
  main?: boolean;
  disabled: boolean;
  onClick: () => void;
}

function KeepButton({ name, action, main = false, disabled, onClick }: KeepProps) {
  const key = useKeyOf(action);
  return (
    <Button variant={main ? "contained" : "outlined"} disabled={disabled} onClick={onClick}>
      {name} {key !== null && <kbd>{key}</kbd>}
    </Button>
  );
}

/** The part of a screen that is looked at: a monitor, or all of it. */
function viewOf(screen: Frame | LiveView | null, monitor: string | null): Area | null {
  if (!screen) return null;
  const one = screen.monitors.find((each) => each.id === monitor);
  return one ? one.box : { x: 0, y: 0, width: screen.width, height: screen.height };
}

/** `tijera take` freezes first and opens the room with the frame's id in its address. */
function useFrameOfAddress(): void {
  const [search, setSearch] = useSearchParams();
  const id = search.get("frame");
  useEffect(() => {
    if (id === null) return;
    void takeUpFrame(id);
    setSearch({}, { replace: true });
  }, [id, setSearch]);
}

/** The line at the foot of the stage; as in styles/take.css. */
const HINT_PX = 26;

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
