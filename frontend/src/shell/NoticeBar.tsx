import Button from "@mui/material/Button";
import { useEffect } from "react";
import { undo } from "../api/bench";
import { useClipboardOffer } from "../api/clipboardOffer";
import { useGoTo } from "../api/useGoTo";
import { takeIn } from "../rooms/intake";
import { type Notice, useBenchState } from "../base/state";

const SECONDS_SHOWN = 9;
/** With something to press in it. */
const BRIEF_SECONDS = 20;

/** What was last said, above the weight rail; a problem stays until it is closed. */
export function NoticeBar() {
  const notice = useBenchState((state) => state.notice);
  const set = useBenchState((state) => state.set);
  const goTo = useGoTo();
  useEffect(() => {
    if (notice?.kind !== "done" || (notice.actions && !notice.isBrief)) return undefined;
    const timer = setTimeout(
      () => {
        set({ notice: null });
      },
      (notice.actions ? BRIEF_SECONDS : SECONDS_SHOWN) * 1000,
    );
    return () => {
      clearTimeout(timer);
    };
  }, [notice, set]);
  const isProblem = notice?.kind === "problem";
  const intake = useBenchState((state) => state.intake);
  if (intake) {
    return (
      <div className="notice-place" role="status">
        <div className="notice">
          <div className="notice-words">
            <strong>
              Taking in {intake.done} of {intake.of} pictures…
            </strong>
            <progress max={intake.of} value={intake.done} aria-label="Pictures taken in" />
          </div>
          <Button variant="outlined" onClick={intake.stop}>
            Stop
          </Button>
        </div>
      </div>
    );
  }
  return (
    <div className="notice-place" role={isProblem ? "alert" : "status"}>
      <ClipboardOffer />
      {notice && (
        <div className={`notice notice-${notice.kind} ${isTall(notice) ? "notice-tall" : ""}`}>
          <div className="notice-words" title={isTall(notice) ? undefined : wordsOf(notice)}>
            <strong>{notice.title}</strong> {notice.detail}
            {notice.lines && notice.lines.length > 0 && (
              <ul>
                {notice.lines.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            )}
            {notice.remedy && <p>{notice.remedy}</p>}
          </div>
          {notice.actions && notice.actions.length > 0 && (
            <div className="notice-actions">
              {notice.actions.map((action, at) => (
                <Button
                  key={action.words}
                  variant={at === 0 ? "contained" : "outlined"}
                  onClick={() => {
                    set({ notice: null });
                    action.run();
                  }}
                >
                  {action.words}
                </Button>
              ))}
            </div>
          )}
          {notice.canCompare && (
            <Button
              variant="outlined"
              onClick={() => {
                set({ notice: null, comparing: "" });
                goTo("/hand-over");
              }}
            >
              Compare
            </Button>
          )}
          {notice.canUndo && (
            <Button
              variant="outlined"
              onClick={() => {
                void undo();
              }}
            >
              Undo
            </Button>
          )}
          <Button
            variant="text"
            onClick={() => {
              set({ notice: null });
            }}
          >
            Close
          </Button>
        </div>
      )}
    </div>
  );
}

/** What doesn't go into one line: what went wrong, what was given up, lists. */
function isTall(notice: Notice): boolean {
  return notice.kind !== "done" || (notice.lines?.length ?? 0) > 0 || (notice.actions?.length ?? 0) > 2;
}

function wordsOf({ title, detail = "" }: Notice): string {
  return `${title} ${detail}`.trim();
}

/** A new picture on the clipboard, with one action to hang it up. */
function ClipboardOffer() {
  const { picture, set } = useClipboardOffer();
  if (!picture) return null;
  return (
    <div className="notice">
      <div className="notice-words">
        <strong>A new picture is on the clipboard.</strong>
      </div>
      <Button
        variant="contained"
        onClick={() => {
          set(null);
          void takeIn([new File([picture], "Pasted picture", { type: picture.type })]);
        }}
      >
        Hang it on the rack
      </Button>
      <Button
        variant="text"
        onClick={() => {
          set(null);
        }}
      >
        Leave it
      </Button>
    </div>
  );
}
