import { EMU_PER_MM } from "../../base/units";
import type { Block, Container, Outline } from "../../api/client";
import type { SectionFlow } from "./blocks";

/**
 * A long section is shown in stretches of some ten lanes, of which only those near the view are there: the browser
 * would lay out 300 pages of lanes for seconds, and again after every change. A stretch ends before a heading where one
 * is near, so that the rest of its last lane stays free where a chapter ends.
 */
export interface Stretch extends SectionFlow {
  /** The id of its first block: the same while the text grows behind it. */
  key: string;
  /** How high its text is, roughly, in a lane of its own: millimetres. */
  heightMm: number;
  /** Whether it is the first or the last one of its section. */
  first: boolean;
  last: boolean;
  /** Whether it ends in the middle of a chapter. */
  goesOn: boolean;
}

/** Ten lanes of some 150 mm, on A4; of narrower lanes there are more, as they hold less. */
const STRETCH_MM = 1500;
const USUAL_LANE_MM = 160;
const LINE_MM = 5.1;
const LETTER_MM = 1.72;
const SPOT_MM = 2;

/** A section's blocks in stretches; what is less than one goes with the one before. */
export function stretches(flow: SectionFlow, laneMm: number): Stretch[] {
  const out: Stretch[] = [];
  const most = STRETCH_MM * Math.max(1, USUAL_LANE_MM / laneMm);
  let from = 0;
  let height = 0;
  const end = (to: number) => {
    const blocks = flow.blocks.slice(from, to);
    const key = blocks[0]?.id ?? `section ${flow.section.toString()}`;
    out.push({
      section: flow.section,
      spots: [],
      key,
      blocks,
      heightMm: height,
      first: false,
      last: false,
      goesOn: true,
    });
    from = to;
    height = 0;
  };
  flow.blocks.forEach((block, index) => {
    const wanted = isHeading(block) ? 0.75 * most : 1.25 * most;
    if (height > wanted) end(index);
    height += heightOf(block, laneMm);
  });
  const before = out.at(-1);
  if (before && height < most / 2) {
    before.blocks.push(...flow.blocks.slice(from));
    before.heightMm += height;
  } else {
    end(flow.blocks.length);
  }
  const first = out[0];
  const last = out.at(-1);
  if (first) [first.first, first.spots] = [true, flow.spots];
  if (last) last.last = true;
  out.forEach((stretch, index) => {
    const next = out[index + 1]?.blocks[0];
    stretch.goesOn = next !== undefined && !isHeading(next);
  });
  return out;
}

function isHeading(block: Block): boolean {
  return block.kind === "heading" || block.kind === "title";
}

/** How high a block is in a lane of a width, roughly; millimetres. */
export function heightOf(block: Block, laneMm: number): number {
  const lines = block.text.split("\n").reduce((sum, line) => sum + linesOf(line, laneMm), 0);
  const pictures = block.pictures.reduce((sum, each) => sum + each.height_emu / EMU_PER_MM, 0);
  const rows = block.rows.reduce(
    (sum, row) => sum + Math.max(0, ...row.map((cell) => inside(cell.content, cell.width_emu / EMU_PER_MM))),
    0,
  );
  const words = block.text ? lines * LINE_MM : 0;
  return words + pictures + rows + (block.content ? inside(block.content, laneMm) : 0) + SPOT_MM;
}

function linesOf(line: string, laneMm: number): number {
  return Math.max(1, Math.ceil((line.length * LETTER_MM) / Math.max(laneMm, 5)));
}

function inside(content: Container, laneMm: number): number {
  return content.blocks.reduce((sum, block) => sum + heightOf(block, laneMm), SPOT_MM);
}

/** Which stretch every block and every spot stands in, by their ids. */
export function whereabouts(all: readonly Stretch[]): Map<string, number> {
  const out = new Map<string, number>();
  const walk = (content: { spots: readonly string[]; blocks: readonly Block[] }, at: number) => {
    for (const spot of content.spots) out.set(spot, at);
    for (const block of content.blocks) {
      out.set(block.id, at);
      for (const row of block.rows) for (const cell of row) walk(cell.content, at);
      if (block.content) walk(block.content, at);
      for (const spot of block.spots) out.set(spot, at);
    }
  };
  all.forEach((stretch, at) => {
    walk(stretch, at);
  });
  return out;
}

/** The narrowest lane of a section, in millimetres. */
export function laneOf(outline: Outline, section: number): number {
  return Math.min(...(outline.sections[section]?.columns_emu ?? [160 * EMU_PER_MM])) / EMU_PER_MM;
}
