import { type RefObject, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";
import { showError, useDestination } from "../../api/bench";
import { api, must, type Frame, type LiveView } from "../../api/client";
import { onLeaving } from "../../base/leaving";
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
import { FootHint } from "../FootHint";
import { keepTakeAcrossReloads } from "./keptTake";
import { KeptLine } from "./KeptLine";
import { useLongPage } from "./longpage";
import type { Pointing } from "./Pointing";
import { useLive, useSources } from "./useDesktop";
import { type Held, useHeld } from "./useHeld";
import { type Moments, useMoments } from "./useMoments";
import { useLook } from "./useLook";
import { useTakeKeys } from "./useTakeKeys";
import { WaysOn } from "./WaysOn";

/** See the screen live, freeze it, hold something on it, keep it or land it in the chosen place. */
export function TakeRoom() {
  const { frame, cut, kind, source, contentOnly, monitor, freezing, set } = useBenchState();
  const stage = useRef<HTMLDivElement>(null);
  const line = useRef<CutLineHandle>(null);
  const pointing = useRef<Pointing | null>(null);
  const room = useSize(stage);
  const screen = useLive(source);
  const panes = usePanes(frame);
  const view = viewOf(frame ?? screen, monitor);
  const scale = view ? fittingScale(view, room, 24) : 1;
  const looking = useLook(`${frame?.id ?? ""} ${monitor ?? ""}`, frame && view, scale);
  const moments = useMoments();
  const held = useHeld(panes, pointing, view);
  useSidePanel();
  useFrameOfAddress();
  useKeepForTrim(held);
  useEffect(() => {
    void keepTakeAcrossReloads();
  }, []);
  useAbout(frame, cut?.area ?? null);
  useTakeKeys(moments, held, looking);
  const abilities = useSources().data?.find((each) => each.id === source)?.abilities;
  return (
    <main className="room-body take">
      <KindsRow
        kind={kind}
        frozen={frame !== null}
        looking={looking}
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
      <Line line={line} held={held} />
      <div className="stage" ref={stage} data-freezing={freezing || undefined}>
        {frame && view && looking ? (
          <FrozenScreen
            key={frame.id}
            {...{ frame, looking, kind, contentOnly, cut, panes }}
            whole={view}
            fit={scale}
            pointingRef={pointing}
            onCut={(next) => {
              // A window that was pulled is a region: the kind of cut goes along.
              set({ cut: next, kind: next?.kind ?? kind });
            }}
            onLive={(area) => {
              line.current?.show(area);
            }}
            onDrawn={held.drawn}
          />
        ) : (
          <Live {...{ screen, view, scale, moments }} />
        )}
        <OnStage
          counting={moments.count.left === null ? null : { left: moments.count.left, of: moments.seconds }}
          abilities={abilities}
        />
      </div>
    </main>
  );
}

/** Above the stage, in one height: what is held in numbers and the ways on, or what was just kept. */
function Line({ line, held }: { line: RefObject<CutLineHandle | null>; held: Held }) {
  const { frame, cut, kind, kept, set } = useBenchState();
  const spot = useDestination()?.spot ?? null;
  if (kept && !frame) return <KeptLine key={kept.id} kept={kept} />;
  return (
    <CutLine
      ref={line}
      title={KINDS.find((each) => each.kind === kind)?.name ?? ""}
      frame={frame}
      area={cut?.area ?? null}
      spot={spot}
      onArea={(area) => {
        set({ cut: { kind: "region", area }, kind: "region" });
      }}
      actions={<WaysOn held={held} />}
    />
  );
}

/** The rack gives way to the list of windows while this room is open. */
function useSidePanel(): void {
  const set = useBenchState((state) => state.set);
  useEffect(() => {
    set({ panel: "screen", about: null });
    return () => {
      set({ panel: "rack", about: null, kept: null });
    };
  }, [set]);
}

interface LiveProps {
  screen: LiveView | null;
  view: Area | null;
  scale: number;
  moments: Moments;
}

/** Who goes to Trim with something held means to trim that. */
function useKeepForTrim(held: Held): void {
  const cut = useBenchState((state) => state.cut);
  useEffect(
    () =>
      onLeaving(async (room) => {
        if (room === "/trim") await held.keep(cut, "rack");
      }),
    [held, cut],
  );
}

/** What the source shows now: windows that can be handled, a picture, or a video. */
function Live({ screen, view, scale, moments }: LiveProps) {
  const source = useBenchState((state) => state.source);
  const kind = useBenchState((state) => state.kind);
  const onDrag = () => void moments.freeze();
  if (source === "share")
    return (
      <LiveVideo
        onDrag={onDrag}
        onControl={
          hasControl() ? () => void openControl(() => void moments.freeze(), moments.countDown, moments.seconds) : null
        }
      />
    );
  if (!screen || !view) return null;
  if (source === "desk")
    return <LiveDesk source={source} screen={screen} view={view} scale={scale} kind={kind} onDrag={onDrag} />;
  return <LivePicture screen={screen} view={view} scale={scale} onDrag={onDrag} />;
}

interface OnStageProps {
  counting: { left: number; of: number } | null;
  abilities: Readonly<Record<string, { instead: string }>> | undefined;
}

/** What stands over the stage: a page that is joined, a count, a hint. */
function OnStage({ counting, abilities }: OnStageProps) {
  const { frame, cut, kind, source, freezing } = useBenchState();
  const joining = useLongPage((state) => state.id !== null);
  const window = frame?.windows.find((each) => each.id === cut?.window);
  const coveredInPart = window?.is_covered === true && !window.is_whole;
  return (
    <>
      {joining && <LongPagePanel />}
      {counting && (
        <div
          className="count-line"
          aria-hidden="true"
          style={{ width: `${((100 * counting.left) / counting.of).toString()}%` }}
        >
          <span>{counting.left} s</span>
        </div>
      )}
      <FootHint>
        <p className="stage-hint">
          {freezing
            ? "Freezing the screen; go on drawing."
            : coveredInPart
              ? abilities?.["covered_windows"]?.instead
              : hintOf(kind, frame !== null, source)}
        </p>
      </FootHint>
    </>
  );
}

/** What to do next, in a line at the foot of the stage. */
function hintOf(kind: KindName, frozen: boolean, source: string): string {
  if (!frozen && kind === "long-page")
    return source === "desk"
      ? "Click a window that scrolls: it is scrolled to its end and joined."
      : "Show the top of the page, then join while you scroll.";
  if (!frozen)
    return source === "desk"
      ? "Draw on the screen, or click a window: that freezes it. Title bars, scroll bars and menus work as ever."
      : "Draw on the screen, or click what you want: that freezes it.";
  return {
    region: "Draw from corner to corner. Hold Alt to draw without snapping to edges.",
    window: "Point at a window, or choose it in the list. A covered one is taken whole.",
    pane: "Point at a pane; [ and ] go smaller and larger. A drag draws a region that snaps.",
    freehand: "Draw round what you want; what lies outside becomes transparent.",
    screen: "Choose a monitor, or all of them in the list.",
    "long-page": "The joined page: keep it, or pull the line to a part of it.",
  }[kind];
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
