import type { Block, Container, Outline, Placement } from "../../api/client";

/** The outline, prepared for showing: sections with their blocks, and the spots in reading order. */

export interface SectionFlow {
  section: number;
  /** Spots that lie before the section's first block. */
  spots: string[];
  blocks: Block[];
}

/** Blocks by section. A spot behind a section's last paragraph belongs to the section that follows. */
export function flows(outline: Outline): SectionFlow[] {
  const out: SectionFlow[] = [];
  const at = (section: number): SectionFlow => {
    const last = out.at(-1);
    if (last?.section === section) return last;
    const made = { section, spots: [], blocks: [] };
    out.push(made);
    return made;
  };
  for (const spot of outline.body.spots) at(outline.spots[spot]?.section ?? 0).spots.push(spot);
  for (const block of outline.body.blocks) {
    at(block.section).blocks.push({
      ...block,
      spots: block.spots.filter((id) => outline.spots[id]?.section === block.section),
    });
    for (const id of block.spots) {
      const section = outline.spots[id]?.section ?? block.section;
      if (section !== block.section) at(section).spots.push(id);
    }
  }
  return out;
}

/** Every spot in the order in which one reads. */
export function readingOrder(outline: Outline): string[] {
  const out: string[] = [];
  const walk = (container: Container) => {
    out.push(...container.spots);
    for (const block of container.blocks) {
      for (const row of block.rows) for (const cell of row) walk(cell.content);
      if (block.content) walk(block.content);
      out.push(...block.spots);
    }
  };
  walk(outline.body);
  return out;
}

/** The first block, in reading order from `after`, that has the words; wraps round. */
export function findWords(outline: Outline, words: string, after: string | null): string | null {
  const wanted = words.trim().toLowerCase();
  if (!wanted) return null;
  const blocks: Block[] = [];
  const walk = (container: Container) => {
    for (const block of container.blocks) {
      blocks.push(block);
      for (const row of block.rows) for (const cell of row) walk(cell.content);
      if (block.content) walk(block.content);
    }
  };
  walk(outline.body);
  const start = blocks.findIndex((block) => block.id === after) + 1;
  const turned = [...blocks.slice(start), ...blocks.slice(0, start)];
  return turned.find((block) => block.text.toLowerCase().includes(wanted))?.id ?? null;
}

/** Placements by spot, in the order in which they are written. */
export function bySpot(placements: readonly Placement[]): Map<string, Placement[]> {
  const out = new Map<string, Placement[]>();
  for (const placement of placements) out.set(placement.spot, [...(out.get(placement.spot) ?? []), placement]);
  return out;
}
