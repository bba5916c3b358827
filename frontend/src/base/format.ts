import { EMU_PER_MM, EMU_PER_PX } from "./units";
const THIN_SPACE = "\u2009";

/** Whole numbers with a thin space between thousands. */
export function whole(value: number): string {
  return Math.round(value)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, THIN_SPACE);
}

/** "78.5" from EMU. */
export function mm(emu: number): string {
  return (emu / EMU_PER_MM).toFixed(1);
}

/** "31 kB", "1.49 MB"; powers of ten, as limits are. */
export function weightOf(bytes: number): string {
  if (bytes < 1_000) return `${bytes.toString()} B`;
  if (bytes < 999_500) return `${whole(bytes / 1_000)} kB`;
  return `${(bytes / 1_000_000).toFixed(2)} MB`;
}

/** Figures close to a limit need a third decimal: "1.996 MB". */
export function exactWeight(bytes: number): string {
  if (bytes < 1_000) return weightOf(bytes);
  return bytes < 999_500 ? `${(bytes / 1_000).toFixed(1)} kB` : `${(bytes / 1_000_000).toFixed(3)} MB`;
}

/** "560 × 336". */
export function size(width: number, height: number): string {
  return `${whole(width)} × ${whole(height)}`;
}

/** The last words of a text, cut at a word. */
export function tail(text: string, most: number): string {
  const flat = text.replace(/\s+/g, " ").trim();
  if (flat.length <= most) return flat;
  const cut = flat.slice(-most);
  return `…${cut.slice(Math.max(cut.indexOf(" "), 0) + 1)}`;
}

/** The first letters of a name. */
export function head(text: string, most: number): string {
  return text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}…`;
}

/** The limit as it was probably typed. */
export function limitText(bytes: number): string {
  if (bytes % 2 ** 20 === 0) return `${(bytes / 2 ** 20).toString()} MiB`;
  if (bytes % 10_000 === 0 && bytes >= 1_000_000) return `${(bytes / 1_000_000).toString()} MB`;
  return bytes % 1_000 === 0 ? `${(bytes / 1_000).toString()} kB` : `${bytes.toString()} B`;
}

/** Where a spot lies, in words. */
export function where(spot: { follows: string; after_text: string }, most = 18): string {
  if (spot.follows === "cells")
    return spot.after_text.includes(":") ? `over ${spot.after_text}` : `at ${spot.after_text}`;
  if (spot.follows === "attachments") return "among the attachments";
  if (spot.follows === "paragraph" && spot.after_text) return `after “${tail(spot.after_text, most)}”`;
  if (spot.follows === "paragraph") return "after an empty line";
  return spot.follows === "start" ? "at the start" : `after the ${spot.follows === "table" ? "table" : "framed part"}`;
}

/** The place that a clipping is fitted into by itself; wide enough for anything where nothing bounds it. */
export function placeOf(spot: { widths_emu: number[]; free_width_emu: number | null; height_emu: number }) {
  return { widthEmu: spot.free_width_emu ?? Math.min(...spot.widths_emu), heightEmu: spot.height_emu };
}

/** How wide a place is, in words: "78.5 mm", or "natural size" where nothing bounds it. */
export function widthWords(spot: { kind: string; widths_emu: number[]; free_width_emu: number | null }): string {
  // A message is laid out in pixels.
  if (spot.kind === "message" && spot.free_width_emu === null)
    return `${whole(Math.min(...spot.widths_emu) / EMU_PER_PX)} px`;
  return spot.free_width_emu === null ? `${mm(Math.min(...spot.widths_emu))} mm` : "natural size";
}
