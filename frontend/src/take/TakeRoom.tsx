import Button from "@mui/material/Button";
import { useEffect, useRef } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { showError, useDestination } from "../api/bench";
import { api, must, type Frame, type LiveView } from "../api/client";
import { setOptions, useOptions } from "../api/options";
import { widthWords } from "../app/format";
import { onButton, useKeyOf, useKeys } from "../app/keys";
import { addressOf, type Cut, type KindName, say, useBenchState } from "../app/state";
import { fittingScale, useSize } from "../app/useFitted";
import type { Area } from "../area/geometry";
import { freeze, keep, lastAreaAgain, takeUpFrame, toLive } from "./actions";
import { hasControl, openControl } from "./control";
import { CutLine, type CutLineHandle } from "./CutLine";
import { FrozenScreen, usePanes } from "./FrozenScreen";
import { KINDS, KindsRow } from "./KindsRow";
import { LiveDesk } from "./LiveDesk";
import { LivePicture, LiveVideo } from "./LiveOthers";
import { LongPagePanel } from "./LongPagePanel";
import { joinWhileScrolling, useLongPage } from "./longpage";
import { cutOf, scaleFactorOf, snappedInto, stepped, targetsAt } from "./picking";
import type { Pointing } from "./Pointing";
import { useShare } from "./share";
import { useCountdown } from "./useCountdown";
import { useLive, useSources } from "./useDesktop";

/** See the screen live, freeze it, hold something on it, keep it or land it in the chosen place. */
export function TakeRoom() {
  const { frame, cut, kind, source, contentOnly, monitor, set } = useBenchState();
  const navigate = useNavigate();
  const destination = useDestination();
  const options = useOptions();
  const stage = useRef<HTMLDivElement>(null);
  const line = useRef<CutLineHandle>(null);
  const pointing = useRef<Pointing | null>(null);
  const busy = useRef(false);
  const room = useSize(stage);
  const screen = useLive(source);
  const panes = usePanes(frame);
  const joining = useLongPage((state) => state.id !== null);
  const abilities = useSources().data?.find((each) => each.id === source)?.abilities;
  const view = viewOf(frame ?? screen, monitor);
  const scale = view ? fittingScale(view, { ...room, height: room.height - HINT_PX }, 24) : 1;

  useEffect(() => {
    set({ panel: "screen", about: null });
    return () => {
      set({ panel: "rack", about: null });
    };
  }, [set]);
  useFrameOfAddress();
  useAbout(frame, cut?.area ?? null);

  const freezeNow = async () => {
    if (frame || busy.current) return;
    busy.current = true;
    await freeze();
    busy.current = false;
  };
  const count = useCountdown(() => void freezeNow());
  const doFreeze = async () => {
    count.stop();
    await freezeNow();
  };
  const countDown = () => {
    if (!frame) count.start(options?.delay_seconds ?? 4);
  };
  const leave = () => {
    if (count.left !== null) count.stop();
    else if (cut) set({ cut: null });
    else toLive();
  };
  const doKeep = async (held: Cut | null, place: boolean) => {
    if (!frame || !held || busy.current) return;
    busy.current = true;
    if ((await keep(frame, held, place)) === "placed") void navigate(addressOf("/place"));
    busy.current = false;
  };
  const canPlace = !!destination?.spot;
  const setKind = (next: KindName) => {
    if (next === "long-page" && frame && source === "desk") toLive();
    const held = frame && cut ? snappedInto(next, cut, frame, panes, contentOnly) : null;
    set({ kind: next, cut: next === "long-page" ? cut : held });
    if (frame && cut && !held && next === "window") say("There is no window under that region: point at one.");
  };
  const step = (by: 1 | -1) => {
    if (!frame || !cut) {
      pointing.current?.step(by);
      return;
    }
    const [x, y] = [cut.area.x + cut.area.width / 2, cut.area.y + cut.area.height / 2];
    const next = stepped(targetsAt(kind, frame, panes, x, y, contentOnly), cut.area, by);
    if (next) set({ cut: cutOf(kind, next, contentOnly) });
  };
  const setPart = (content: boolean) => {
    set({ contentOnly: content });
    const held = frame?.windows.find((each) => each.id === cut?.window);
    if (held && cut) set({ cut: { ...cut, area: (content ? held.content : null) ?? held.box, contentOnly: content } });
  };
  const join = () => {
    const title = source === "share" ? useShare.getState().title : "This screen";
    const area = cut?.area ?? (source === "screen" ? view : null);
    const factor = frame && area ? scaleFactorOf(area, frame) : window.devicePixelRatio || 1;
    void joinWhileScrolling(source, title, factor, area);
    toLive();
  };

  useKeys({
    ...Object.fromEntries(KINDS.map((each) => [`kind-${each.kind}`, () => { setKind(each.kind); }])), // prettier-ignore
    freeze: () => void doFreeze(),
    "count-down": countDown,
    "last-area": () => void lastAreaAgain(),
    smaller: () => {
      step(-1);
    },
    larger: () => {
      step(1);
    },
    part: () => {
      setPart(!contentOnly);
    },
    pointer: () => {
      setOptions({ pointer: !options?.pointer });
    },
    leave,
    keep: (event) => {
      if (onButton(event)) return;
      event.preventDefault();
      if (frame) void doKeep(cut, false);
      else void doFreeze();
    },
    place: (event) => {
      event.preventDefault();
      if (canPlace) void doKeep(cut, true);
      else say("No place is chosen yet: choose one in Place, or keep the clipping on the rack with Enter.");
    },
  });

  const heldWindow = frame?.windows.find((each) => each.id === cut?.window);
  const coveredInPart = heldWindow?.is_covered === true && !heldWindow.is_whole;
  const placeWords = destination?.spot ? `Place it, ${widthWords(destination.spot)}` : "";
  return (
    <main className="room-body take">
      <KindsRow
        kind={kind}
        frozen={frame !== null}
        counting={count.left}
        hasPointer={frame ? frame.has_pointer : (abilities?.pointer_layer?.can ?? false)}
        noPointer={abilities?.pointer_layer?.instead ?? ""}
        onKind={setKind}
        onFreeze={() => void doFreeze()}
        onCountDown={countDown}
        onStop={count.stop}
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
        actions={
          <>
            {kind === "window" && <PartChoice contentOnly={contentOnly} onPart={setPart} />}
            {kind === "long-page" && source !== "desk" && !joining && (
              <Button variant="contained" onClick={join}>
                Join while I scroll
              </Button>
            )}
            <KeepButton name="Keep on the rack" action="keep" disabled={!cut} onClick={() => void doKeep(cut, false)} />
            {canPlace && (
              <KeepButton
                main
                name={placeWords}
                action="place"
                disabled={!cut}
                onClick={() => void doKeep(cut, true)}
              />
            )}
          </>
        }
      />
      <div className="stage" ref={stage}>
        {joining && <LongPagePanel />}
        {frame && view ? (
          <FrozenScreen
            key={frame.id}
            frame={frame}
            view={view}
            scale={scale}
            kind={kind}
            contentOnly={contentOnly}
            cut={cut}
            pointingRef={pointing}
            panes={panes}
            onCut={(next) => {
              set({ cut: next });
            }}
            onLive={(area) => {
              line.current?.show(area);
            }}
            onDrawn={(drawn) => {
              if (options?.keep_at_once) void doKeep(drawn, canPlace);
            }}
          />
        ) : source === "share" ? (
          <LiveVideo
            onControl={
              hasControl()
                ? () => void openControl(() => void doFreeze(), countDown, options?.delay_seconds ?? 4)
                : null
            }
          />
        ) : (
          screen &&
          view &&
          (source === "desk" ? (
            <LiveDesk source={source} screen={screen} view={view} scale={scale} kind={kind} />
          ) : (
            <LivePicture screen={screen} view={view} scale={scale} />
          ))
        )}
        {count.left !== null && (
          <div className="count-large" aria-hidden="true">
            {count.left}
          </div>
        )}
        <p className="stage-hint">
          {coveredInPart ? abilities?.["covered_windows"]?.instead : hintOf(kind, frame !== null, source)}
        </p>
      </div>
    </main>
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
