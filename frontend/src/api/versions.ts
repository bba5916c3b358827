import { useQuery } from "@tanstack/react-query";
import { say, showFile, useBenchState } from "../base/state";
import { refresh, showError } from "./bench";
import { settled } from "../base/settled";
import { api, must, type OpenedFile, ProblemError, type Renewed, upload } from "./client";

/** Opening files, and newer versions of them: places are found again, those lost are named. */

/** Open a document; one that is signed only when the user accepts that its signature will no longer hold. */
export async function openDocument(file: File, signed = false, then?: () => void): Promise<boolean> {
  try {
    const opened = (await upload("destinations", file, file.name, signed ? "&signed=true" : "")) as OpenedFile;
    showFile(opened.id);
    await refresh();
    if (opened.earlier) tellEarlier(opened, opened.earlier);
    else say(`${file.name} is open. Your file is not changed: you download a new copy.`);
    return true;
  } catch (error) {
    showError(error);
    if (error instanceof ProblemError && error.problem.code === "package-signed") {
      const { notice, set } = useBenchState.getState();
      const run = () => {
        void openDocument(file, true).then((done) => {
          if (done) then?.();
        });
      };
      if (notice) set({ notice: { ...notice, actions: [{ words: "Open it, its signature will be lost", run }] } });
    }
    return false;
  }
}

/** Open a file of this computer by its path; a pair of quotes round it, as file managers copy it, does no harm. */
export async function openAt(path: string): Promise<boolean> {
  try {
    const plain = path.trim().replace(/^(["'])(.*)\1$/, "$2");
    const opened = must(await api.POST("/api/v1/destinations/at", { body: { path: plain } }));
    showFile(opened.id);
    await refresh();
    const lies = await api.GET("/api/v1/destinations/{destination}/disk", {
      params: { path: { destination: opened.id } },
    });
    const where = lies.data?.path ?? plain;
    // A link is followed, and never in silence.
    const leads = plain.startsWith("/") && where !== plain ? `That path leads to ${where}. ` : "";
    say(`${leads}${opened.name} is open and followed where it lies. It is written only when you say so.`);
    return true;
  } catch (error) {
    showError(error);
    return false;
  }
}

function tellEarlier(opened: OpenedFile, earlier: NonNullable<OpenedFile["earlier"]>): void {
  const count = earlier.places === 1 ? "One clipping stands" : `${earlier.places.toString()} clippings stand`;
  const title = earlier.same
    ? `${count} in this very file, as you left it.`
    : `${count} in an earlier version of ${opened.name}.`;
  say(title, {
    detail: earlier.same ? "It is open afresh here." : "Nothing of either is overwritten.",
    actions: [
      {
        words: earlier.same ? "Go on there" : "Bring them over",
        run: () => {
          void takeOver(earlier.id, opened.id);
        },
      },
    ],
  });
}

/** Go on with a newer version of a destination: another opened file, or with null the one on this computer. */
export async function takeOver(destination: string, newer: string | null): Promise<void> {
  try {
    const params = { path: { destination } };
    const renewed = must(await api.POST("/api/v1/destinations/{destination}/newer", { params, body: { id: newer } }));
    showFile(destination);
    await refresh();
    tellRenewed(renewed);
  } catch (error) {
    showError(error);
  }
}

function tellRenewed(renewed: Renewed): void {
  const found = renewed.found === 1 ? "One place was" : `${renewed.found.toString()} places were`;
  const already = renewed.already === 1 ? "one clipping stands" : `${renewed.already.toString()} clippings stand`;
  if (renewed.lost.length === 0) {
    say(`${found} found again in the newer version${renewed.already > 0 ? `; ${already} in it already` : ""}.`, {
      canUndo: true,
    });
    return;
  }
  const lines = renewed.lost.map((each) =>
    each.after_text ? `${each.name}, after “${each.after_text.slice(0, 60)}”` : `${each.name}, at the start`,
  );
  const lost =
    renewed.lost.length === 1
      ? "one is not there any more"
      : `${renewed.lost.length.toString()} are not there any more`;
  useBenchState.getState().set({
    notice: {
      kind: "problem",
      title: `${found} found again in the newer version; ${lost}.`,
      detail: "These clippings hang on the rack and wait for another place:",
      lines,
      canUndo: true,
    },
  });
}

const LOOK_MS = 4_000;

/** How the file on this computer stands to what was read; looked at every few seconds while it is followed. */
export function useOnDisk(destination: string | undefined, follows: string | null) {
  return useQuery({
    queryKey: ["disk", destination],
    enabled: destination !== undefined && follows !== null,
    refetchInterval: LOOK_MS,
    meta: { quiet: true },
    queryFn: async () =>
      must(
        await api.GET("/api/v1/destinations/{destination}/disk", {
          params: { path: { destination: destination ?? "" } },
        }),
      ),
  });
}

/** Write the copy over the file itself. */
export async function writeBack(destination: string, name: string): Promise<void> {
  try {
    await settled();
    const params = { path: { destination } };
    must(await api.POST("/api/v1/destinations/{destination}/write-back", { params }));
    await refresh();
    say(`${name} is written, in its own place. What it was before is kept here.`);
  } catch (error) {
    showError(error);
  }
}
