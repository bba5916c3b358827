import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "../base/schema";
import { fetchToTheEnd } from "../base/settled";

export type { components };

export type Bench = components["schemas"]["BenchOut"];
export type Clipping = components["schemas"]["ClippingOut"];
export type Destination = components["schemas"]["DestinationOut"];
export type ShownPicture = components["schemas"]["ShownPictureOut"];
export type RackPage = components["schemas"]["RackOut"];
export type Placement = components["schemas"]["PlacementOut"];
export type OpenedFile = components["schemas"]["OpenedFileOut"];
export type Renewed = components["schemas"]["RenewedOut"];
export type Layout = components["schemas"]["LayoutOut"];
export type Adjust = components["schemas"]["AdjustIn"];
export type Grid = components["schemas"]["GridOut"];
export type GridSheet = components["schemas"]["SheetOfGridOut"];
export type GridCell = components["schemas"]["GridCellOut"];
export type Message = components["schemas"]["MessageOut"];
export type Letter = components["schemas"]["LetterWire"];
export type Arrival = components["schemas"]["ArrivalOut"];
export type Spot = components["schemas"]["SpotOut"];
export type Outline = components["schemas"]["OutlineOut"];
export type Container = components["schemas"]["ContainerOut"];
export type Block = components["schemas"]["BlockOut"];
export type LiveView = components["schemas"]["LiveViewOut"];
export type LiveWindow = components["schemas"]["LiveWindowOut"];
export type Slip = components["schemas"]["SlipOut"];
export type Source = components["schemas"]["SourceOut"];
export type WindowBox = components["schemas"]["WindowBoxOut"];
export type Monitor = components["schemas"]["MonitorOut"];
export type LastArea = components["schemas"]["LastAreaOut"];
export type Frame = components["schemas"]["FrameOut"];
export type Weight = components["schemas"]["WeightOut"];
export type SaveProposal = components["schemas"]["SaveProposalOut"];
export type TextOnPicture = components["schemas"]["TextOnPictureOut"];
export type Weighed = components["schemas"]["WeighedOut"];
export type Dispatch = components["schemas"]["DispatchOut"];
export type Round = components["schemas"]["RoundOut"];
export type Found = components["schemas"]["FoundOut"];
export type LinkSetup = components["schemas"]["LinkSetupOut"];
export type PictureLink = components["schemas"]["LinkOut"];
export type Recipient = components["schemas"]["RecipientOut"];
export type Work = components["schemas"]["WorkOut"];
export type Happening = components["schemas"]["HappeningOut"];
export type Look = components["schemas"]["LookOut"];
export type Mail = components["schemas"]["MailOut"];
export type Postbox = components["schemas"]["PostboxOut"];
export type Mailbox = components["schemas"]["MailboxOut"];
export type Arrived = components["schemas"]["ArrivedOut"];
export type Handover = components["schemas"]["HandoverOut"];
export type Problem = components["schemas"]["Problem"];
export type RectWire = components["schemas"]["RectWire"];

/** A refusal of the server, with what happened, why, and what to do. */
export class ProblemError extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

function isProblem(value: unknown): value is Problem {
  return typeof value === "object" && value !== null && "code" in value && "remedy" in value;
}

/** Turn a failed answer into an error with words. */
export async function problemOf(response: Response): Promise<ProblemError> {
  const body: unknown = await response.json().catch(() => null);
  if (isProblem(body)) return new ProblemError(body);
  return new ProblemError({
    type: "about:blank",
    title: "No answer that could be read",
    status: response.status,
    detail: `Tijera answered with status ${response.status}.`,
    remedy: "Check that it is still running, and try again.",
    code: "unreadable",
    values: {},
  });
}

const throwProblems: Middleware = {
  async onResponse({ response }) {
    if (!response.ok) throw await problemOf(response);
    return undefined;
  },
};

export const api = createClient<paths>({ baseUrl: "/", fetch: fetchToTheEnd });
api.use(throwProblems);

/** Send a file's bytes; `path` is below `/api/v1`, `more` are further values of the address. */
export async function upload(path: string, file: Blob, name: string, more = ""): Promise<unknown> {
  const response = await fetch(`/api/v1/${path}?name=${encodeURIComponent(name)}${more}`, {
    method: "POST",
    headers: { "Content-Type": "application/octet-stream" },
    body: file,
  });
  if (!response.ok) throw await problemOf(response);
  return response.json();
}

/** The data of an answer that is known to have some. */
export function must<T>(answer: { data?: T }): T {
  if (answer.data === undefined) throw new Error("the answer has no data");
  return answer.data;
}

/** A member's name in an address; an attached file may be called "Round #3?". */
const inPath = (member: string) => member.split("/").map(encodeURIComponent).join("/");

export const pictureUrl = {
  clipping: (clipping: { id: string; version: string }, most?: number) =>
    `/api/v1/clippings/${clipping.id}/picture.png?v=${clipping.version}${most ? `&most=${most}` : ""}`,
  thumbnail: (slip: { id: string; version: string }) => `/api/v1/clippings/${slip.id}/thumbnail.png?v=${slip.version}`,
  pointer: (frame: string) => `/api/v1/frames/${frame}/pointer.png`,
  wholeWindow: (frame: string, window: string) => `/api/v1/frames/${frame}/windows/${window}.png`,
  menu: (source: string, version: string) => `/api/v1/sources/${source}/menu.png?v=${encodeURIComponent(version)}`,
  whole: (clipping: Clipping) => `/api/v1/clippings/${clipping.id}/picture.png?whole=true`,
  /** A clipping as it would be, taken anew. */
  look: (look: Look) => `/api/v1/looks/${look.id}/picture.png`,
  placement: (placement: Placement) =>
    `/api/v1/placements/${placement.id}/picture?v=${encodeURIComponent(placement.version)}`,
  /** A placed clipping before anything was given up. */
  asTaken: (placement: Placement) =>
    `/api/v1/placements/${placement.id}/picture?v=${encodeURIComponent(placement.version)}&as_taken=true`,
  /** A picture of the file's own, pixel for pixel. */
  weighed: (destination: Destination, member: string, asOpened: boolean) =>
    `/api/v1/destinations/${destination.id}/weighed/${inPath(member)}?v=${destination.version}&as_opened=${asOpened}`,
  media: (
    destination: string,
    { member, crop }: Pick<ShownPicture, "member"> & Partial<Pick<ShownPicture, "crop">>,
  ) => {
    const hidden = crop ? [crop.left, crop.top, crop.right, crop.bottom] : [];
    const query = hidden.some(Boolean) ? `?crop=${hidden.join(",")}` : "";
    return `/api/v1/destinations/${destination}/media/${inPath(member)}${query}`;
  },
  frame: (frame: string) => `/api/v1/frames/${frame}/picture.png`,
  ground: (source: string, version: string) => `/api/v1/sources/${source}/ground.png?v=${version}`,
  window: (source: string, window: LiveWindow) =>
    `/api/v1/sources/${source}/windows/${window.id}.png?v=${window.version}`,
};
