import { useQuery } from "@tanstack/react-query";
import { queries, showError } from "./bench";
import { api, must, ProblemError, type LinkSetup, type PictureLink } from "./client";
import { exactWeight } from "../base/format";
import { settled } from "../base/settled";
import { say, sayProblem } from "../base/state";

/** Pictures handed over as links: where they are answered, and each with how it stands. */

const setupQuery = {
  queryKey: ["link-setup"],
  queryFn: async () => must(await api.GET("/api/v1/link-setup")),
};

export function useLinkSetup() {
  return useQuery(setupQuery).data;
}

/** Whether others can open a link now. */
export const canBeReached = (setup: LinkSetup | undefined) => setup?.is_on === true && setup.trouble === "";

export async function areLinksOn(): Promise<boolean> {
  return canBeReached(await queries.query(setupQuery));
}

/** All links, or those of a clipping, the last made first. */
export function useLinks(clipping?: string) {
  return useQuery({
    queryKey: ["links", clipping ?? ""],
    // Others open them meanwhile.
    staleTime: 0,
    queryFn: async () => must(await api.GET("/api/v1/links", { params: { query: clipping ? { clipping } : {} } })),
  }).data;
}

async function forgetLinks(): Promise<void> {
  for (const key of ["links", "link-setup", "handovers", "happenings"])
    await queries.invalidateQueries({ queryKey: [key] });
}

export interface LinkWish {
  password: string;
  ends_on: string | null;
  most_views: number | null;
}

/** Make a link and have its address on the clipboard. Throws what the server refuses, to be said where it was typed. */
export async function makeLink(clipping: { id: string }, wish: LinkWish): Promise<void> {
  await settled();
  const params = { path: { clipping: clipping.id } };
  const link = must(await api.POST("/api/v1/clippings/{clipping}/links", { params, body: wish }));
  await forgetLinks();
  const copied = await copyText(link.address ?? "");
  say(copied ? `A link to ${link.name} is on the clipboard.` : `There is a link to ${link.name} now.`, {
    detail: [`${exactWeight(link.bytes)}, ${guardedBy(link)}.`, wish.password && "Tell the password by another way."]
      .filter(Boolean)
      .join(" "),
    lines: [link.address ?? ""],
    isBrief: true,
    actions: [{ words: "Look at it", run: () => { lookAt(link); } }], // prettier-ignore
  });
}

/** As whoever gets it sees it. */
export function lookAt(link: PictureLink): void {
  if (link.address) window.open(link.address, "_blank", "noopener");
}

export async function copyLink(link: PictureLink): Promise<void> {
  if (link.address && (await copyText(link.address))) say(`The address of ${link.name} is on the clipboard.`);
}

async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    // The window lost the focus meanwhile; the address can be read and copied by hand.
    return false;
  }
}

/** "with a password, until 19 Mar 2026, once". */
export function guardedBy(link: PictureLink): string {
  const times = link.most_views === 1 ? "once" : `${link.most_views?.toString() ?? ""} times`;
  const guards = [
    link.has_password ? "with a password" : "",
    link.ends_at ? `until ${lastDay(link.ends_at)}` : "",
    link.most_views === null ? "" : `shown ${times} at most`,
  ].filter(Boolean);
  return guards.length === 0 ? "for whoever has the address, until you withdraw it" : guards.join(", ");
}

/** The day whose end a moment is. */
export function lastDay(endsAt: string): string {
  return new Date(new Date(endsAt).getTime() - 1).toLocaleDateString("en-GB", { dateStyle: "medium" });
}

export async function withdrawLink(link: PictureLink): Promise<void> {
  await api.DELETE("/api/v1/links/{link}", { params: { path: { link: link.id } } }).catch(showError);
  await forgetLinks();
}

export async function reopenLink(link: PictureLink): Promise<void> {
  await api.POST("/api/v1/links/{link}/openings", { params: { path: { link: link.id } } }).catch(showError);
  await forgetLinks();
}

/** Pictures of a message leave as links: those named, or the heaviest until it is under its limit. */
export async function linkInstead(destination: string, placements: string[] = []): Promise<void> {
  const params = { path: { destination } };
  await api.POST("/api/v1/destinations/{destination}/links", { params, body: { placements } });
  await forgetLinks();
}

export async function setUpLinks(setup: Pick<LinkSetup, "address" | "port" | "only_here"> | null): Promise<boolean> {
  try {
    if (setup) await api.PUT("/api/v1/link-setup", { body: setup });
    else await api.DELETE("/api/v1/link-setup");
    return true;
  } catch (error) {
    if (error instanceof ProblemError) sayProblem(error.problem);
    else showError(error);
    return false;
  } finally {
    await forgetLinks();
  }
}
