import { bringIn, openDocument } from "../api/bench";
import { sayProblem } from "./state";

/** Files and pictures that come in by choosing, dropping or pasting. */

const PICTURES = ".png,.jpg,.jpeg,.bmp,.webp,.tif,.tiff,.gif";
let goTo: (room: string) => void = () => undefined;

/** Tell where to go after something came in; set by the shell. */
export function onIntake(navigate: (room: string) => void): void {
  goTo = navigate;
}

function isDocument(file: File): boolean {
  return /\.(docx|docm|dotx|dotm|doc)$/i.test(file.name) || file.type.includes("wordprocessingml");
}

/** Take in whatever was given: documents open, pictures go to the rack. */
export async function takeIn(files: readonly File[], room = "/place"): Promise<void> {
  for (const file of files) {
    if (isDocument(file)) {
      if (await openDocument(file)) goTo(room);
    } else if (await bringIn(file, file.name || "Pasted picture")) {
      goTo("/trim");
    }
  }
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
  choose(".docx,.docm,.dotx,.dotm", false, room);
}

export function choosePictures(): void {
  choose(PICTURES, true);
}

/** Pictures and files of a paste; true when there was something. */
export function takePaste(data: DataTransfer | null): boolean {
  const files = [...(data?.files ?? [])];
  if (files.length === 0) return false;
  void takeIn(
    files.map((file) =>
      file.name && file.name !== "image.png" ? file : new File([file], "Pasted picture", { type: file.type }),
    ),
  );
  return true;
}

/** Files of a drop; a drag of something else is refused in words. */
export function takeDrop(data: DataTransfer): void {
  const files = [...data.files];
  if (files.length > 0) {
    void takeIn(files);
    return;
  }
  sayProblem({
    type: "about:blank",
    title: "Nothing that could be taken",
    status: 0,
    detail: "What was dropped is neither a picture nor a document.",
    remedy: "Drop a file, or copy the picture and paste it with Ctrl + V.",
    code: "drop-empty",
    values: {},
  });
}
