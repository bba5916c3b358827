import { create } from "zustand";
import { refresh, showError } from "../../api/bench";
import { ProblemError, api, must, problemOf, type Frame } from "../../api/client";
import { followJob } from "../../api/jobs";
import { whole } from "../../base/format";
import { say, useBenchState } from "../../base/state";
import type { Area } from "../../area/geometry";
import { encodePng } from "./png";
import { grabShared, useShare } from "./share";

/** A long page under way: by itself on the practice desk, while somebody scrolls elsewhere. */

const STRIP_EVERY_MS = 120;

interface Running {
  /** The page's id while one is joined. */
  id: string | null;
  title: string;
  byItself: boolean;
  height: number;
  strips: number;
  /** Why the last strip was not joined; empty while all goes well. */
  says: string;
}

const IDLE: Running = { id: null, title: "", byItself: false, height: 0, strips: 0, says: "" };

export const useLongPage = create<Running>(() => IDLE);

/** Scroll a window of the desk to its end. */
export async function scrollThrough(source: string, window: string, title: string): Promise<void> {
  if (useLongPage.getState().id !== null) return;
  useLongPage.setState({ ...IDLE, id: "", title, byItself: true });
  try {
    const params = { path: { source, window } };
    const job = must(await api.POST("/api/v1/sources/{source}/windows/{window}/long-page", { params }));
    useLongPage.setState({ id: job.id });
    follow(job.id);
  } catch (error) {
    useLongPage.setState(IDLE);
    showError(error);
  }
}

function follow(job: string): void {
  const over = () => {
    useLongPage.setState(IDLE);
  };
  followJob(job, {
    progress: (data) => {
      useLongPage.setState(data as { height: number; strips: number });
    },
    done: (data) => {
      const done = data as { frame: string; height: number; note: string };
      over();
      void show(done.frame, done.note);
    },
    refused: (problem) => {
      over();
      showError(new ProblemError(problem));
    },
    stopped: over,
    failed: () => {
      over();
      showError(new Error("The page could not be scrolled."));
    },
  });
}

/** The joined page lies there as a frozen screen of its own, all of it held. */
async function show(frameId: string, note: string): Promise<void> {
  const frame = must(await api.GET("/api/v1/frames/{frame}", { params: { path: { frame: frameId } } }));
  hold(frame);
  if (note) say(note);
}

function hold(frame: Frame): void {
  const area = { x: 0, y: 0, width: frame.width, height: frame.height };
  useBenchState.getState().set({ frame, cut: { kind: "long-page", area } });
}

/** Join what is seen of a shared screen, or of this computer's, while somebody scrolls it. */
export async function joinWhileScrolling(
  source: string,
  title: string,
  scale: number,
  area: Area | null,
): Promise<void> {
  if (useLongPage.getState().id !== null) return;
  useLongPage.setState({ ...IDLE, id: "", title });
  try {
    const onServer = source === "share" ? null : area;
    const body = { source, title, scale_factor: scale, area: onServer };
    const page = must(await api.POST("/api/v1/long-pages", { body }));
    useLongPage.setState({ id: page.id });
    while (useLongPage.getState().id === page.id) {
      await nextStrip(page.id, source, area);
      await new Promise((resolve) => setTimeout(resolve, STRIP_EVERY_MS));
    }
  } catch (error) {
    useLongPage.setState(IDLE);
    showError(error);
  }
}

async function nextStrip(page: string, source: string, area: Area | null): Promise<void> {
  // When sharing ends, what was joined stays and can be kept.
  if (source === "share" && useShare.getState().status !== "live") return;
  const body = source === "share" ? await stripOf(area) : null;
  try {
    const response = await fetch(`/api/v1/long-pages/${page}/strips`, {
      method: "POST",
      headers: { "Content-Type": "application/octet-stream" },
      body,
    });
    if (!response.ok) throw await problemOf(response);
    const answer = (await response.json()) as { height: number; joined: string };
    const now = useLongPage.getState();
    if (now.id !== page) return;
    const isNew = answer.joined === "new" || answer.joined === "first";
    useLongPage.setState({ height: answer.height, strips: now.strips + (isNew ? 1 : 0), says: "" });
    if (answer.joined === "full") {
      say(`The page goes on; it was left off at ${whole(answer.height)} px.`);
      await stopHere();
    }
  } catch (error) {
    const words =
      error instanceof ProblemError
        ? `${error.problem.title}. ${error.problem.remedy}`
        : "Tijera does not answer; trying again. What was joined is kept.";
    useLongPage.setState({ says: words });
  }
}

async function stripOf(area: Area | null): Promise<Blob> {
  const whole = await grabShared();
  if (!area) return encodePng(whole);
  const part = await createImageBitmap(whole, area.x, area.y, area.width, area.height);
  whole.close();
  return encodePng(part);
}

/** Keep what has been joined. */
export async function stopHere(): Promise<void> {
  const { id, byItself } = useLongPage.getState();
  if (!id) return;
  if (byItself) {
    // The work rounds itself off and its last event brings the frame.
    await api.DELETE("/api/v1/jobs/{job}", { params: { path: { job: id } } }).catch(showError);
    return;
  }
  try {
    const frame = must(await api.POST("/api/v1/long-pages/{page}/finish", { params: { path: { page: id } } }));
    useLongPage.setState(IDLE);
    hold(frame);
    await refresh();
  } catch (error) {
    showError(error);
  }
}
