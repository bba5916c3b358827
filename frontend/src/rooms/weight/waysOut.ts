import { api, must, type Problem } from "../../api/client";
import { refresh, showError } from "../../api/bench";
import { linkInstead } from "../../api/links";
import { exactWeight } from "../../base/format";
import { say, showFile, type Notice } from "../../base/state";

/** What would help where a limit can't be met, as the server reckons it. */
interface Help {
  kind: "own-pictures" | "leave-out" | "attach" | "link" | "split" | "below-floor";
  bytes: number;
  fits: boolean;
  name: string;
  placements: string[];
}

/** Makes a file fit, its own pictures too or not. */
type Fit = (destination: string, withOwn?: boolean) => Promise<boolean>;

const MOST_OFFERED = 4;

/** What is enough can be done at once; what is not is told with what it would come to. */
export function waysOut(problem: Problem, destination: string, fit: Fit): Pick<Notice, "actions" | "lines"> {
  const helps = (problem.values["helps"] ?? []) as Help[];
  return {
    actions: helps
      .filter((each) => each.fits)
      .slice(0, MOST_OFFERED)
      .map((each) => ({ words: wordsOf(each), run: () => void doIt(each, destination, fit).catch(showError) })),
    lines: helps
      .filter((each) => !each.fits)
      .slice(0, MOST_OFFERED)
      .map((each) => `${wordsOf(each)}, not enough`),
  };
}

export function wordsOf({ kind, name, bytes }: Pick<Help, "kind" | "name" | "bytes">): string {
  const ways = {
    "own-pictures": "Also the file's own pictures",
    "leave-out": `Leave ${name} out`,
    attach: "Attach the pictures only",
    link: `Send ${name} as a link`,
    split: "Two messages, the heavier one",
    "below-floor": `Let ${name} become unreadable`,
  };
  return `${ways[kind]}: ${exactWeight(bytes)}`;
}

async function doIt(help: Help, destination: string, fit: Fit): Promise<void> {
  if (help.kind === "split") {
    await inTwo(help, destination, fit);
    return;
  }
  if (help.kind === "link") await linkInstead(destination, help.placements);
  for (const placement of help.placements) {
    const params = { path: { placement } };
    if (help.kind === "leave-out") await api.DELETE("/api/v1/placements/{placement}", { params });
    if (help.kind === "attach")
      await api.PATCH("/api/v1/placements/{placement}", { params, body: { layout: { stand: "attached" } } });
    if (help.kind === "below-floor")
      await api.PUT("/api/v1/placements/{placement}/say", { params, body: { say: "may-become-unreadable" } });
  }
  await refresh();
  await fit(destination, help.kind === "own-pictures");
}

/** Each of the two is made to fit; the first stays in view. */
async function inTwo(help: Help, destination: string, fit: Fit): Promise<void> {
  const params = { path: { destination } };
  const body = { placements: help.placements };
  const { second } = must(await api.POST("/api/v1/destinations/{destination}/split", { params, body }));
  await refresh();
  const both = (await fit(second)) && (await fit(destination));
  if (!both) return;
  say("There are two messages now, each under the limit.", {
    detail: "Their subjects say which is which.",
    actions: [
      {
        words: "Show the second one",
        run: () => {
          showFile(second);
          void refresh();
        },
      },
    ],
  });
}
