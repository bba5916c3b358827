/** Numbers as people type them. */

import { whole } from "./format";

const UNITS = /(px|mm|cm|%|pt|s|°)$/i;
/** Spaces of every width, apostrophes and underscores between thousands. */
const BETWEEN_THOUSANDS = /[\s'’_]/g;

/**
 * "12.5", "12,5", "1 200", "1,200.5", "１２" and "300 px" as numbers; null for what can't be read. A comma before just three
 * digits at the end parts thousands, as does every comma before a point; else it is the decimal sign.
 */
export function readNumber(typed: string): number | null {
  // NFKC brings full-width digits and signs to plain ones (Unicode Standard Annex 15).
  const plain = typed.normalize("NFKC").replace("\u2212", "-").trim().replace(UNITS, "").replace(BETWEEN_THOUSANDS, "");
  const isGrouped = /^-?\d{1,3}(,\d{3})+(\.\d*)?$/.test(plain);
  const read = isGrouped ? plain.replace(/,/g, "") : plain.replace(",", ".");
  return /^-?(\d+\.?\d*|\.\d+)$/.test(read) ? Number(read) : null;
}

/** What was typed can't be taken; its words say why. */
export class Unread extends Error {}

/** A whole number from `least` to `most`; what is none throws `Unread`, in words that name the field. */
export function readWhole(field: string, typed: string, least: number, most: number): number {
  const number = readNumber(typed);
  if (number === null) throw new Unread(`${field}: “${typed.trim()}” is not a number.`);
  const rounded = Math.round(number);
  if (rounded < least || rounded > most) throw new Unread(`${field}: from ${whole(least)} to ${whole(most)}.`);
  return rounded;
}
