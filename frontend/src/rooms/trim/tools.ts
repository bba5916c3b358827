/** The tools beside the mat. A kind of mark is one line here and one file in the core. */

export interface Tool {
  /** Also the id of the kind of mark that it makes, where it makes one. */
  id: string;
  name: string;
  makes: boolean;
  /** How a user is told to begin. */
  hint: string;
}

const tool = (id: string, name: string, hint: string, makes = false): Tool => ({ id, name, hint, makes });
const mark = (id: string, name: string, hint: string) => tool(id, name, hint, true);

/** In groups, as they stand; the last group is behind *More*. */
export const TOOLS: readonly (readonly Tool[])[] = [
  [
    tool("select", "Select", "Press a mark, or sweep over several"),
    tool("crop", "Crop", "Pull a side or a corner of the red line; Enter crops, Esc leaves it"),
    tool("part", "Part", "Draw each part from corner to corner, then make them"),
  ],
  [
    mark("arrow", "Arrow", "Draw from tail to tip"),
    mark("line", "Line", "Draw from end to end; Alt held leaves angles and edges alone"),
    mark("text", "Text", "Press where the text begins"),
    mark("callout", "Callout", "Draw from what it is about to where the words stand"),
    mark("pennant", "Pennant", "Numbered flags: press once for each, in order"),
    mark("ring", "Ring", "An outline round what matters: draw from corner to corner"),
  ],
  [
    mark("pen", "Pen", "Draw"),
    mark("tint", "Tint", "Marks words as a text marker does: draw along them"),
    mark("black-out", "Black out", "Draw over what nobody may see; it is gone from what leaves"),
  ],
];

export const MORE: readonly Tool[] = [
  tool("turn", "Turn and straighten", "Quarters by a press, a slanted picture by degrees"),
  tool("tones", "Tones", "Lighter, paler or in grey; the picture as it was taken is kept"),
  tool("edge", "Edge and shadow", "A line round the picture, as it prints"),
  tool("room", "Margins and background", "Paper round the picture, its colour, and other clippings laid on"),
  tool("scale", "Scale", "The mat shows the very result before it is set"),
];

export const ALL_TOOLS: readonly Tool[] = [...TOOLS.flat(), ...MORE];

export function toolOf(id: string): Tool {
  const found = ALL_TOOLS.find((each) => each.id === id);
  if (!found) throw new Error(`there is no tool ${id}`);
  return found;
}
