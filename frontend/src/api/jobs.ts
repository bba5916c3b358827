import type { Problem } from "./client";

/** What is done with what a job says; `data` is as the server sent it. Each but `progress` is said once, at the end. */
export interface JobHandlers {
  progress: (data: unknown) => void;
  done: (data: unknown) => void;
  refused: (problem: Problem) => void;
  stopped: () => void;
  /** A fault of ours, or with `true` a connection that broke for good. */
  failed: (isBroken: boolean) => void;
}

/** Follow a job's events (server-sent) to its end. */
export function followJob(job: string, handlers: JobHandlers): void {
  const events = new EventSource(`/api/v1/jobs/${job}/events`);
  const data = (event: Event): unknown => JSON.parse((event as MessageEvent<string>).data);
  const last = (kind: string, say: (event: Event) => void) => {
    events.addEventListener(kind, (event) => {
      events.close();
      say(event);
    });
  };
  events.addEventListener("progress", (event) => {
    handlers.progress(data(event));
  });
  last("done", (event) => {
    handlers.done(data(event));
  });
  last("refused", (event) => {
    handlers.refused(data(event) as Problem);
  });
  last("stopped", () => {
    handlers.stopped();
  });
  last("failed", () => {
    handlers.failed(false);
  });
  events.onerror = () => {
    if (events.readyState === EventSource.CLOSED) return;
    events.close();
    handlers.failed(true);
  };
}
