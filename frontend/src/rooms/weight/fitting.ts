import { api, must, type Problem } from "../../api/client";
import { refresh, showError } from "../../api/bench";
import { settled } from "../../base/settled";
import { exactWeight, limitText } from "../../base/format";
import { say, sayProblem, useBenchState } from "../../base/state";

interface Fitted {
  file_bytes: number;
  limit_bytes: number;
  given_up: string[];
}

/** Start the search, follow its events, say what it gave up. */
export async function makeItFit(destination: string, withOwn = false): Promise<void> {
  const { set } = useBenchState.getState();
  if (useBenchState.getState().fitting) return;
  try {
    await settled();
    const job = must(
      await api.POST("/api/v1/destinations/{destination}/fit", {
        params: { path: { destination }, query: { with_own: withOwn } },
      }),
    );
    set({ fitting: { job: job.id, done: 0, of: 1, doing: "beginning" }, notice: null });
    follow(job.id, destination);
  } catch (error) {
    set({ fitting: null });
    showError(error);
  }
}

function follow(job: string, destination: string): void {
  const { set } = useBenchState.getState();
  const events = new EventSource(`/api/v1/jobs/${job}/events`);
  const end = () => {
    events.close();
    set({ fitting: null });
  };
  const data = (event: Event): unknown => JSON.parse((event as MessageEvent<string>).data);
  events.addEventListener("progress", (event) => {
    set({ fitting: { job, ...(data(event) as { done: number; of: number; doing: string }) } });
  });
  events.addEventListener("done", (event) => {
    end();
    const fitted = data(event) as Fitted;
    void refresh();
    set({
      notice: {
        kind: "fitted",
        title: `Fits: ${exactWeight(fitted.file_bytes)} of ${limitText(fitted.limit_bytes)}.`,
        detail: fitted.given_up.length === 0 ? "Nothing was given up." : "Everything else is untouched.",
        lines: fitted.given_up,
        canUndo: true,
      },
    });
  });
  events.addEventListener("refused", (event) => {
    end();
    const problem = data(event) as Problem;
    sayProblem(problem, helpOfOwn(problem, destination));
  });
  events.addEventListener("stopped", () => {
    end();
    say("Stopped. Nothing was changed.");
  });
  events.addEventListener("failed", () => {
    end();
    showError(new Error("The search failed; nothing was changed."));
  });
  events.onerror = () => {
    if (events.readyState === EventSource.CLOSED) return;
    end();
    showError(new Error("The connection broke while the search was running."));
  };
}

/** The file's own pictures were not asked to pay: what they would give, in the same breath. */
function helpOfOwn(problem: Problem, destination: string): { words: string; run: () => void } | undefined {
  const least = problem.values["with_own_bytes"];
  if (typeof least !== "number" || problem.values["with_own_fits"] !== true) return undefined;
  return {
    words: `Also the file's own pictures: ${exactWeight(least)}`,
    run: () => void makeItFit(destination, true),
  };
}

export async function stopFitting(job: string): Promise<void> {
  await api.DELETE("/api/v1/jobs/{job}", { params: { path: { job } } }).catch(showError);
}
