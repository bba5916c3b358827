/** The colours of the workshop; ratios against their grounds are checked in tokens.test.ts. */
export const colours = {
  mat: "#1c4842",
  deepMat: "#143a35",
  paper: "#fbf8f1",
  rackPaper: "#f1ecdf",
  white: "#ffffff",
  hairline: "#d9d1bf",
  edge: "#857f6e",
  ink: "#20282a",
  softInk: "#5c6664",
  cutRed: "#d3432a",
  redText: "#b5351f",
  saffronText: "#875900",
  seaGlass: "#2f7f74",
  seaGlassLight: "#8cc0b5",
  seaGlassText: "#246b60",
  galleyGround: "#d8dbd4",
} as const;

export const fonts = {
  text: '"Atkinson Hyperlegible Next Variable", sans-serif',
  mono: '"Atkinson Hyperlegible Mono Variable", monospace',
  display: '"Bricolage Grotesque Variable", sans-serif',
  galley: '"Newsreader Variable", serif',
} as const;

/** "deepMat" → "--deep-mat", so that style sheets and the theme share one list. */
export function cssVariables(): Record<string, string> {
  const kebab = (name: string) => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
  return Object.fromEntries([
    ...Object.entries(colours).map(([name, value]) => [`--${kebab(name)}`, value]),
    ...Object.entries(fonts).map(([name, value]) => [`--font-${name}`, value]),
  ]) as Record<string, string>;
}
