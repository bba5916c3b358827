import { create } from "zustand";
import { say, sayProblem } from "../../base/state";

/** The browser's screen sharing: one stream and one playing video for the whole sitting, asked for once. */

const ANSWER_WITHIN_MS = 60_000;

interface Share {
  status: "none" | "asking" | "live";
  video: HTMLVideoElement | null;
  title: string;
}

export const useShare = create<Share>(() => ({ status: "none", video: null, title: "" }));
let told = false;

/** Ask for a screen, unless one is shared already. Resolves to whether one is. */
export async function startSharing(): Promise<boolean> {
  const { status } = useShare.getState();
  if (status !== "none") return status === "live";
  useShare.setState({ status: "asking" });
  try {
    const stream = await withinTime(
      // The pointer is asked to stay out: it can't be taken out later.
      navigator.mediaDevices.getDisplayMedia({ video: { cursor: "never" } as MediaTrackConstraints, audio: false }),
    );
    await hold(stream);
  } catch (error) {
    useShare.setState({ status: "none", video: null });
    refused(error);
    return false;
  }
  if (!told) {
    told = true;
    say("Shared video is not exact in its colours; a pasted picture is. Text and greys come through as they are.");
  }
  return true;
}

async function hold(stream: MediaStream): Promise<void> {
  const video = document.createElement("video");
  video.muted = true;
  video.playsInline = true;
  video.className = "shared-video";
  // A video that is taken out of the page and put back stands still until it is told to go on.
  video.autoplay = true;
  video.srcObject = stream;
  await video.play();
  const [track] = stream.getVideoTracks();
  track?.addEventListener("ended", () => {
    ended();
  });
  useShare.setState({
    status: "live",
    video,
    // Some browsers give the window's title, others a number of their own, which says nothing to anybody.
    title: track?.label.includes(" ") === true ? track.label : "",
  });
}

export function stopSharing(): void {
  const { video } = useShare.getState();
  for (const track of streamOf(video)?.getTracks() ?? []) track.stop();
  useShare.setState({ status: "none", video: null });
}

function streamOf(video: HTMLVideoElement | null): MediaStream | null {
  return video?.srcObject instanceof MediaStream ? video.srcObject : null;
}

function ended(): void {
  stopSharing();
  problem(
    "share-ended",
    "Sharing has ended",
    "The shared window was closed, or sharing was stopped in the browser.",
    "What was frozen or joined so far is still here. Share again to take more.",
  );
}

/** The frame that is shown now, in its true size: read from the frame itself, settings may be wrong. */
export async function grabShared(): Promise<ImageBitmap> {
  const { video } = useShare.getState();
  if (!video || video.videoWidth === 0) throw new Error("Nothing is shared.");
  return createImageBitmap(video);
}

async function withinTime(answer: Promise<MediaStream>): Promise<MediaStream> {
  let timer = 0;
  const late = new Promise<never>((_, reject) => {
    timer = window.setTimeout(() => {
      reject(new DOMException("late", "TimeoutError"));
    }, ANSWER_WITHIN_MS);
  });
  // A screen that is allowed after all is not kept running unseen.
  answer.then(
    (stream) => {
      if (useShare.getState().status === "none") for (const track of stream.getTracks()) track.stop();
    },
    () => undefined,
  );
  return Promise.race([answer, late]).finally(() => {
    window.clearTimeout(timer);
  });
}

function refused(error: unknown): void {
  const name = error instanceof DOMException ? error.name : "";
  if (name === "NotAllowedError") {
    problem("share-refused", "Sharing was not allowed", "No screen was chosen, or the system does not let this browser share one.", "Choose “A shared screen” again and pick a window, or paste a picture."); // prettier-ignore
  } else if (name === "TimeoutError") {
    problem("share-late", "The browser did not answer", `It was asked for a screen and said nothing for ${(ANSWER_WITHIN_MS / 1000).toString()} seconds.`, "Look for its question in another window, or try again; a pasted picture works always."); // prettier-ignore
  } else {
    const why = error instanceof Error ? error.message : "It gave no reason.";
    problem("share-failed", "The screen can't be shared", why, "Use another browser for this, or paste a picture.");
  }
}

function problem(code: string, title: string, detail: string, remedy: string): void {
  sayProblem({ type: "about:blank", title, status: 0, detail, remedy, code, values: {} });
}
