import type { Clipping, Placement, Weight } from "../../api/client";

/** How the weight rail is divided: the limit's notch always stands at three quarters of it. */

export const NOTCH = 0.75;
/** How much of the rail a file takes that has no limit: there is no full. */
const WITHOUT_LIMIT = 0.6;
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
  return weight.limit_bytes === null ? Math.max(weight.file_bytes, 1) / WITHOUT_LIMIT : weight.limit_bytes / NOTCH;
}

/** Text first, the pictures that were there, the small ones gathered, the clippings last. */
export function segments(weight: Weight, restCalled = "text"): Segment[] {
  const rail = railBytes(weight);
  const large = weight.pictures.filter((each) => !each.clipping && each.record_bytes / rail >= NAMED_SHARE);
  const small = weight.pictures.filter((each) => !each.clipping && !large.includes(each));
  const own = weight.pictures.filter((each) => each.clipping);
  const smallBytes = small.reduce((sum, each) => sum + each.record_bytes, 0);
  const parts: Omit<Segment, "start" | "width">[] = [
    { key: "text", label: restCalled, bytes: weight.rest_bytes, kind: "text" },
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

/** Of a picture that was never encoded: between windows full of text (0.05) and photographs (1.5). */
const USUAL_BYTES_PER_PX = 0.3;

/** What a file will weigh now that other clippings stand in it, by what it weighed and by their pixels. */
export function aboutBytes(
  weight: Pick<Weight, "file_bytes" | "pictures">,
  placements: readonly Pick<Placement, "id" | "clipping">[],
  clippings: readonly Pick<Clipping, "id" | "outer">[],
): number {
  const now = new Set(placements.map((each) => each.id));
  const before = new Set(weight.pictures.flatMap((each) => each.placements));
  const gone = weight.pictures.filter(
    (each) => each.placements.length > 0 && !each.placements.some((id) => now.has(id)),
  );
  const known = new Set(weight.pictures.filter((each) => !gone.includes(each)).map((each) => each.clipping));
  const fresh = new Set(placements.filter((each) => !before.has(each.id)).map((each) => each.clipping));
  const added = clippings.filter((each) => fresh.has(each.id) && !known.has(each.id));
  return (
    weight.file_bytes -
    gone.reduce((sum, each) => sum + each.record_bytes, 0) +
    Math.round(added.reduce((sum, each) => sum + each.outer.width * each.outer.height * USUAL_BYTES_PER_PX, 0))
  );
}
