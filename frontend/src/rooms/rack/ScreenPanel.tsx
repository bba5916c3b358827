import { useNavigate } from "react-router";
import type { Frame, LiveView, Source } from "../../api/client";
import { addressOf, useBenchState } from "../../base/state";
import { choosePictures } from "../intake";
import { handle, pickWindow, screenTargets, scrollThrough, startSharing, toLive, useLive, useSources } from "../take";

/** Where pictures are taken from: the sources, their monitors, their open windows. */
export function ScreenPanel() {
  const source = useBenchState((state) => state.source);
  const frame = useBenchState((state) => state.frame);
  const live = useLive(source);
  const sources = useSources().data ?? [];
  const current = sources.find((each) => each.id === source);
  const screen = frame ?? live;
  return (
    <>
      <SourceChoice sources={sources} source={source} />
      {screen && screen.monitors.length > 1 && <Monitors screen={screen} frozen={frame} />}
      {current && !current.abilities["window_list"]?.can && !frame && (
        <p className="source-words">{current.abilities["window_list"]?.instead}</p>
      )}
      {screen && screen.windows.some((each) => each.id !== "whole") && <Windows screen={screen} frame={frame} />}
    </>
  );
}

function SourceChoice({ sources, source }: { sources: readonly Source[]; source: string }) {
  const set = useBenchState((state) => state.set);
  const navigate = useNavigate();
  const choose = (id: string) => {
    if (id === "picture") {
      choosePictures();
      return;
    }
    toLive();
    set({ source: id, monitor: id === "desk" ? "left" : null });
    if (id === "share") void startSharing();
    void navigate(addressOf("/take"));
  };
  const current = sources.find((each) => each.id === source);
  return (
    <div className="source-choice">
      <label htmlFor="source">From</label>
      <select
        id="source"
        value={source}
        onChange={(event) => {
          choose(event.target.value);
        }}
      >
        {sources.map((each) => (
          <option key={each.id} value={each.id} disabled={!each.available}>
            {each.name}
          </option>
        ))}
      </select>
      {current?.why_not && <p className="source-words">{current.why_not}</p>}
      {sources
        .filter((each) => !each.available && each.id === "screen")
        .map((each) => (
          <details key={each.id} className="source-words">
            <summary>{each.name} is not there</summary>
            {each.why_not}
          </details>
        ))}
    </div>
  );
}

/** Which monitor is looked at; on a frozen screen, in the kind Screen, it is held as well. */
function Monitors({ screen, frozen }: { screen: Frame | LiveView; frozen: Frame | null }) {
  const monitor = useBenchState((state) => state.monitor);
  const kind = useBenchState((state) => state.kind);
  const set = useBenchState((state) => state.set);
  const choose = (id: string | null) => {
    set({ monitor: id });
    if (!frozen || kind !== "screen") return;
    const targets = screenTargets(frozen);
    const index = frozen.monitors.findIndex((each) => each.id === id);
    const target = index === -1 ? targets.at(-1) : targets[index];
    if (target) set({ cut: { kind: "screen", area: target.area } });
  };
  const all = [...screen.monitors.map((each) => ({ id: each.id, name: each.name, says: `${Math.round(each.scale_factor * 100)} %`, box: each.box })), { id: null, name: "All monitors", says: "", box: null }]; // prettier-ignore
  return (
    <ul className="monitors" aria-label="Monitors">
      {all.map((each) => (
        <li key={each.id ?? "all"}>
          <button
            type="button"
            aria-pressed={monitor === each.id}
            onClick={() => {
              choose(each.id);
            }}
          >
            {each.name}{" "}
            <span>
              {each.box ? `${each.box.width} × ${each.box.height}, ${each.says}` : `${screen.width} × ${screen.height}`}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Open windows, each with a small map of where it stands. */
function Windows({ screen, frame }: { screen: Frame | LiveView; frame: Frame | null }) {
  const { kind, source, cut } = useBenchState();
  const navigate = useNavigate();
  const windows = [...screen.windows].sort((a, b) => a.depth - b.depth);
  const act = (id: string, title: string, canScroll: boolean) => {
    void navigate(addressOf("/take"));
    if (kind === "long-page" && !frame && canScroll) void scrollThrough(source, id, title);
    else if (frame || kind === "window") void pickWindow(id);
    else if (source === "desk") handle.raise(source, id);
  };
  return (
    <>
      <p className="source-words">
        {windows.length} {windows.length === 1 ? "window is" : "windows are"} open.{" "}
        {frame || kind === "window"
          ? "Choose one to hold it."
          : source === "desk"
            ? "Choose one to bring it to the top."
            : ""}
      </p>
      <ul className="windows" aria-label="Open windows">
        {windows.map((window) => (
          <li key={window.id}>
            <button
              type="button"
              aria-pressed={frame ? cut?.window === window.id : window.depth === 0}
              onClick={() => {
                act(window.id, window.title, "can_scroll" in window && window.can_scroll);
              }}
            >
              <svg viewBox={`0 0 ${screen.width} ${screen.height}`} className="window-map" aria-hidden="true">
                {screen.monitors.map((each) => (
                  <rect key={each.id} {...each.box} className="map-desk" />
                ))}
                <rect {...window.box} className="map-window" />
              </svg>
              <span>
                <b>{window.title}</b>
                <br />
                {window.box.width} × {window.box.height}
                {"is_covered" in window &&
                  window.is_covered &&
                  (window.is_whole ? ", comes whole" : ", partly covered")}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
