/** Saving where the user says: folder and name, in browsers that have the File System Access API (WICG). */

interface Picker {
  showSaveFilePicker?: (asked: { suggestedName: string; id: string }) => Promise<FileSystemFileHandle>;
}

export const canChooseFolder = (): boolean => typeof (window as Picker).showSaveFilePicker === "function";

const KEPT = "saved as ";
/** What the browser lets stand for a place that it remembers: up to 32 signs. */
const idOf = (key: string) => `tijera-${key}`.replace(/[^A-Za-z0-9_-]/g, "").slice(0, 32);

/** Ask for folder and name; null where the user thinks better of it. The browser remembers the folder for each key, we the name. */
export async function chooseFile(key: string, name: string): Promise<FileSystemFileHandle | null> {
  const picker = (window as Picker).showSaveFilePicker;
  if (!picker) return null;
  try {
    const handle = await picker.call(window, {
      suggestedName: localStorage.getItem(KEPT + key) ?? name,
      id: idOf(key),
    });
    localStorage.setItem(KEPT + key, handle.name);
    return handle;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") return null;
    throw error;
  }
}

/** Write what lies at an address into a file: whole, or not at all. */
export async function writeInto(handle: FileSystemFileHandle, address: string): Promise<void> {
  const answer = await fetch(address);
  if (!answer.ok || !answer.body) throw new Error(`What was to be saved could not be fetched (${answer.status}).`);
  const file = await handle.createWritable();
  // Closed at the end of the stream; broken off, the browser throws what was written away.
  await answer.body.pipeTo(file);
}
