import { refresh, showError } from "../api/bench";
import { bringIn } from "../api/rack";
import { openDocument } from "../api/versions";
import { ProblemError } from "../api/client";
import { say, sayProblem, useBenchState } from "../base/state";

/** Files and pictures that come in by choosing, dropping or pasting: one, or hundreds at once. */

const DOCUMENTS = "docx docm dotx dotm doc odt ott xlsx xlsm xltx xltm xls ods ots eml".split(" ");
const DOCUMENT_NAME = new RegExp(`\\.(${DOCUMENTS.join("|")})$`, "i");
const PICTURES = ".png,.jpg,.jpeg,.bmp,.webp,.tif,.tiff,.gif";
/** So many go to the server at the same time. */
const LANES = 3;
let goTo: (room: string) => void = () => undefined;

/** Tell where to go after something came in; set by the shell. */
export function onIntake(navigate: (room: string) => void): void {
  goTo = navigate;
}

function isDocument(file: File): boolean {
  return (
    DOCUMENT_NAME.test(file.name) || /wordprocessingml|spreadsheetml|opendocument\.|message\/rfc822/.test(file.type)
  );
}

/** Take in whatever was given: documents open, pictures go to the rack. */
export async function takeIn(files: readonly File[], room = "/place"): Promise<void> {
  for (const file of files.filter(isDocument)) {
    const opened = await openDocument(file, false, () => {
      goTo(room);
    });
    if (opened) goTo(room);
  }
  const pictures = files.filter((file) => !isDocument(file));
  if (pictures.length > 0) await takePictures(pictures);
}

async function takePictures(files: readonly File[]): Promise<void> {
  const { set } = useBenchState.getState();
  const waiting = [...files];
  const refused: { file: File; error: unknown }[] = [];
  const taken: { clipping: string; name: string }[] = [];
  const stop = { asked: false };
  const many = files.length > LANES;
  const tell = () => {
    if (!many) return;
    set({
      intake: {
        done: taken.length + refused.length,
        of: files.length,
        stop: () => {
          stop.asked = true;
        },
      },
    });
  };
  const lane = async () => {
    for (let file = waiting.shift(); file && !stop.asked; file = waiting.shift()) {
      try {
        taken.push(await bringIn(file, file.name || "Pasted picture"));
      } catch (error) {
        refused.push({ file, error });
      }
      tell();
    }
  };
  tell();
  await Promise.all(Array.from({ length: LANES }, lane));
  await refresh();
  set({ intake: null, panel: "rack", ...(taken[0] ? { clipping: taken.at(-1)?.clipping ?? null } : {}) });
  tellOutcome(files.length, taken, refused);
  if (taken.length > 0) goTo("/trim");
}

function tellOutcome(
  asked: number,
  taken: readonly { name: string }[],
  refused: readonly { file: File; error: unknown }[],
): void {
  const [bad] = refused;
  if (bad && asked === 1) {
    showError(bad.error);
  } else if (bad) {
    const lines = refused.map(({ file, error }) => `${file.name}: ${reason(error)}`);
    const title = `${taken.length} of ${asked} pictures hang on the rack; ${refused.length} were refused.`;
    useBenchState.getState().set({ notice: { kind: "problem", title, lines } });
  } else if (taken.length === 1) {
    say(`${taken[0]?.name ?? "The picture"} hangs on the rack.`, { canUndo: true });
  } else {
    const left = asked - taken.length;
    say(`${taken.length} pictures hang on the rack${left > 0 ? `; stopped, ${left} were left out` : ""}.`);
  }
}

function reason(error: unknown): string {
  return error instanceof ProblemError ? error.problem.title.toLowerCase() : "Tijera did not answer";
}

function choose(accept: string, multiple: boolean, room?: string): void {
  const input = document.createElement("input");
  input.type = "file";
  input.accept = accept;
  input.multiple = multiple;
  input.addEventListener("change", () => {
    void takeIn([...(input.files ?? [])], room);
  });
  input.click();
}

/** Open a document and go to a room with it: to Place, unless it only wants weighing. */
export function chooseFile(room = "/place"): void {
  choose(DOCUMENTS.map((ending) => `.${ending}`).join(","), false, room);
}

export function choosePictures(): void {
  choose(PICTURES, true);
}

/** Pictures and files of a paste; true when it was meant for the rack. A paste of nothing of use is said so. */
export function takePaste(data: DataTransfer | null): boolean {
  const files = [...(data?.files ?? [])];
  if (files.length > 0) {
    void takeIn(
      files.map((file) =>
        file.name && file.name !== "image.png" ? file : new File([file], "Pasted picture", { type: file.type }),
      ),
    );
    return true;
  }
  nothing("paste-empty", "What was pasted holds no picture and no document.", "Copy a picture first, then paste it.");
  return true;
}

/** Files of a drop, or a picture dragged from another page; a drag of something else is refused in words. */
export function takeDrop(data: DataTransfer, room?: string): void {
  const files = [...data.files];
  if (files.length > 0) {
    void takeIn(files, room);
    return;
  }
  const address = pictureAddress(data);
  if (address?.startsWith("data:image/")) {
    void takeIn([fileOfDataUrl(address)]);
  } else if (address) {
    nothing(
      "drop-address",
      "The other page gave only the picture's address; Tijera fetches nothing from the net.",
      "Copy the picture there and paste it here with Ctrl + V, or save it and drop the file.",
    );
  } else {
    nothing(
      "drop-empty",
      "What was dropped is neither a picture nor a document.",
      "Drop a file, or copy the picture and paste it with Ctrl + V.",
    );
  }
}

/** The address of a picture that was dragged as a piece of a page. */
function pictureAddress(data: DataTransfer): string | null {
  const html = data.getData("text/html");
  const inPage = html ? new DOMParser().parseFromString(html, "text/html").querySelector("img")?.src : undefined;
  const listed = data
    .getData("text/uri-list")
    .split("\n")
    .find((line) => line && !line.startsWith("#"));
  return inPage ?? listed?.trim() ?? null;
}

function fileOfDataUrl(address: string): File {
  const [head = "", body = ""] = address.split(",", 2);
  const plain = head.includes(";base64") ? atob(body) : decodeURIComponent(body);
  const bytes = Uint8Array.from(plain, (sign) => sign.charCodeAt(0));
  return new File([bytes], "Dragged picture", { type: /^data:([^;,]+)/.exec(head)?.[1] ?? "image/png" });
}

function nothing(code: string, detail: string, remedy: string): void {
  sayProblem({
    type: "about:blank",
    title: "Nothing that could be taken",
    status: 0,
    detail,
    remedy,
    code,
    values: {},
  });
}
