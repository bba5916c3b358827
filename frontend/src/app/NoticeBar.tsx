import Button from "@mui/material/Button";
import { useEffect } from "react";
import { undo } from "../api/bench";
import { useBenchState } from "./state";

const SECONDS_SHOWN = 9;

/** What was last said, above the weight rail; a problem stays until it is closed. */
export function NoticeBar() {
  const notice = useBenchState((state) => state.notice);
  const set = useBenchState((state) => state.set);
  useEffect(() => {
    if (notice?.kind !== "done") return undefined;
    const timer = setTimeout(() => {
      set({ notice: null });
    }, SECONDS_SHOWN * 1000);
    return () => {
      clearTimeout(timer);
    };
  }, [notice, set]);
  const isProblem = notice?.kind === "problem";
  return (
    <div className="notice-place" role={isProblem ? "alert" : "status"}>
      {notice && (
        <div className={`notice notice-${notice.kind}`}>
          <div className="notice-words">
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
