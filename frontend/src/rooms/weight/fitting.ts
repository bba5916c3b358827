import { api, must } from "../../api/client";
import { followJob } from "../../api/jobs";
import { refresh, showError } from "../../api/bench";
import { settled } from "../../base/settled";
import { exactWeight, limitText } from "../../base/format";
import { say, sayProblem, useBenchState, type Proposal } from "../../base/state";
import { waysOut } from "./waysOut";

interface Fitted {
  file_bytes: number;
  limit_bytes: number;
  given_up: string[];
}

/** Start the search, follow its events, say what it gave up; resolves at its end, with whether it fits. */
export async function makeItFit(destination: string, withOwn = false): Promise<boolean> {
  return search(destination, { with_own: withOwn }, (done) => {
    const fitted = done as Fitted;
    useBenchState.getState().set({
      notice: {
        kind: "fitted",
        title: `Fits: ${exactWeight(fitted.file_bytes)} of ${limitText(fitted.limit_bytes)}.`,
        detail: fitted.given_up.length === 0 ? "Nothing was given up." : "Everything else is untouched.",
        lines: fitted.given_up,
        canUndo: true,
        canCompare: fitted.given_up.length > 0,
      },
    });
  });
}

/** Search in the same way, and keep what would be done, for a file that weighs so much now. */
export async function propose(destination: string, ofBytes: number): Promise<boolean> {
  return search(destination, { only_propose: true }, (done) => {
    const proposed = done as Omit<Proposal, "destination" | "of_bytes">;
    useBenchState.getState().set({ proposal: { destination, of_bytes: ofBytes, ...proposed } });
  });
}

async function search(
  destination: string,
  query: { with_own?: boolean; only_propose?: boolean },
  onDone: (done: unknown) => void,
): Promise<boolean> {
  const { set } = useBenchState.getState();
  if (useBenchState.getState().fitting) return false;
  try {
    await settled();
    const params = { path: { destination }, query };
    const job = must(await api.POST("/api/v1/destinations/{destination}/fit", { params }));
    set({ fitting: { job: job.id, done: 0, of: 1, doing: "beginning" }, notice: null, proposal: null });
    return await followed(job.id, destination, onDone);
  } catch (error) {
    set({ fitting: null });
    showError(error);
    return false;
  }
}

function followed(job: string, destination: string, onDone: (done: unknown) => void): Promise<boolean> {
  const { set } = useBenchState.getState();
  return new Promise((resolve) => {
    const end = (fits: boolean) => {
      set({ fitting: null });
      resolve(fits);
    };
    followJob(job, {
      progress: (data) => {
        set({ fitting: { job, ...(data as { done: number; of: number; doing: string }) } });
      },
      done: (data) => {
        // The rail shows what was written before anything says that it fits.
        void refresh()
          .catch(showError)
          .finally(() => {
            end(true);
            onDone(data);
          });
      },
      refused: (problem) => {
        end(false);
        sayProblem(problem, waysOut(problem, destination, makeItFit));
      },
      stopped: () => {
        end(false);
        say("Stopped. Nothing was changed.");
      },
      failed: (isBroken) => {
        end(false);
        showError(
          new Error(
            isBroken ? "The connection broke while the search was running." : "The search failed; nothing was changed.",
          ),
        );
      },
    });
  });
}

export async function stopFitting(job: string): Promise<void> {
  await api.DELETE("/api/v1/jobs/{job}", { params: { path: { job } } }).catch(showError);
}
