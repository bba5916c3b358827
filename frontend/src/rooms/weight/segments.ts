import type { Weight } from "../../api/client";

/** How the weight rail is divided: the limit's notch always stands at three quarters of it. */

export const NOTCH = 0.75;
const NAMED_SHARE = 0.055;

export interface Segment {
  key: string;
  label: string;
  bytes: number;
  kind: "text" | "picture" | "own" | "rest";
  /** From 0 to 1 of the rail. */
  start: number;
  width: number;
}

/** Bytes that the whole rail stands for. */
export function railBytes(weight: Pick<Weight, "file_bytes" | "limit_bytes">): number {
  return (weight.limit_bytes ?? Math.max(weight.file_bytes, 1)) / NOTCH;
}

/** Text first, the pictures that were there, the small ones gathered, the clippings last. */
export function segments(weight: Weight): Segment[] {
  const rail = railBytes(weight);
  const large = weight.pictures.filter((each) => !each.clipping && each.record_bytes / rail >= NAMED_SHARE);
  const small = weight.pictures.filter((each) => !each.clipping && !large.includes(each));
  const own = weight.pictures.filter((each) => each.clipping);
  const smallBytes = small.reduce((sum, each) => sum + each.record_bytes, 0);
  const parts: Omit<Segment, "start" | "width">[] = [
    { key: "text", label: "text", bytes: weight.rest_bytes, kind: "text" },
    ...large.map((each) => ({
      key: each.member,
      label: each.label,
      bytes: each.record_bytes,
      kind: "picture" as const,
    })),
  ];
  if (small.length > 0) {
    const label = small.length === 1 ? (small[0]?.label ?? "") : `${small.length.toString()} more`;
    parts.push({ key: "small", label, bytes: smallBytes, kind: "rest" });
  }
  parts.push(
    ...own.map((each) => ({ key: each.member, label: each.label, bytes: each.record_bytes, kind: "own" as const })),
  );
  let at = 0;
  return parts.map((part) => {
    const start = Math.min(at / rail, 1);
    at += part.bytes;
    return { ...part, start, width: Math.min(at / rail, 1) - start };
  });
}
