import { refresh } from "./bench";
import { api, must, ProblemError, type Look } from "./client";
import { followJob } from "./jobs";

/** Taking clippings anew: looked at first, then put in the place of the old. */

export interface LookedAt {
  looks: Look[];
  /** Those that can't be taken anew: name, why, what to do. */
  failed: readonly (readonly [string, string, string])[];
}

export async function lookAnew(clipping: string): Promise<LookedAt> {
  const params = { path: { clipping } };
  return { looks: [must(await api.POST("/api/v1/clippings/{clipping}/looks", { params }))], failed: [] };
}

export interface Running {
  done: Promise<LookedAt | null>;
  stop: () => void;
}

/** Look at all clippings of a file; null where it was stopped. Rejects with what went wrong. */
export async function lookAtAll(
  destination: string,
  onProgress: (done: number, of: number, name: string) => void,
): Promise<Running> {
  const params = { path: { destination } };
  const job = must(await api.POST("/api/v1/destinations/{destination}/looks", { params }));
  const done = new Promise<LookedAt | null>((resolve, reject) => {
    followJob(job.id, {
      progress: (data) => {
        const { done, of, doing } = data as { done: number; of: number; doing: string };
        onProgress(done, of, doing);
      },
      done: (data) => {
        const { looks, failed } = data as { looks: string[]; failed: LookedAt["failed"] };
        looksOf(looks).then((found) => {
          resolve({ looks: found, failed });
        }, reject);
      },
      stopped: () => {
        resolve(null);
      },
      refused: (problem) => {
        reject(new ProblemError(problem));
      },
      failed: () => {
        reject(new Error("Looking at the screen failed; nothing was changed."));
      },
    });
  });
  return {
    done,
    stop: () => void api.DELETE("/api/v1/jobs/{job}", { params: { path: { job: job.id } } }),
  };
}

async function looksOf(ids: readonly string[]): Promise<Look[]> {
  if (ids.length === 0) return [];
  return must(await api.GET("/api/v1/looks", { params: { query: { ids: ids.join(",") } } }));
}

export async function acceptLooks(looks: readonly string[], keepOldIn: readonly string[]): Promise<void> {
  await api.POST("/api/v1/looks/accepted", { body: { looks: [...looks], keep_old_in: [...keepOldIn] } });
  await refresh();
}
