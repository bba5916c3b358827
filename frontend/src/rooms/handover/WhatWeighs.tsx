import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { refresh, showError, useBench, useWeight } from "../../api/bench";
import {
  api,
  must,
  pictureUrl,
  type Destination,
  type TextOnPicture,
  type Weighed,
  type Weight,
} from "../../api/client";
import { exactWeight, limitText, mm, size, weightOf, whole } from "../../base/format";
import { addressOf, useBenchState, type ProposedPicture } from "../../base/state";
import { ForeignPicture } from "../ForeignPicture";
import { propose } from "../weight";

/** Every picture of the written copy, the heaviest first, and what fitting makes or would make of it. */
export function WhatWeighs({ destination }: { destination: Destination }) {
  const weight = useWeight().data;
  const proposal = useBenchState((state) => state.proposal);
  const texts = useTexts(destination);
  if (!weight) return <p>Weighing the written copy…</p>;
  const over = weight.limit_bytes !== null && weight.file_bytes > weight.limit_bytes;
  const proposed =
    proposal?.destination === destination.id && proposal.of_bytes === weight.file_bytes ? proposal : null;
  return (
    <>
      <p className="weighs-says">
        <span>
          The copy would be written with <b className={over ? "too-heavy" : ""}>{exactWeight(weight.file_bytes)}</b>
          {weight.limit_bytes === null ? (
            "; no limit is set."
          ) : (
            <>
              ; it may have <b>{limitText(weight.limit_bytes)}</b>.
            </>
          )}{" "}
          Bytes as written, all in.
        </span>
        {over &&
          (proposed ? (
            <b>Made to fit it would weigh {exactWeight(proposed.file_bytes)}.</b>
          ) : (
            <Button variant="outlined" onClick={() => void propose(destination.id, weight.file_bytes)}>
              See what fitting would change
            </Button>
          ))}
      </p>
      <table className="weighs">
        <thead>
          <tr>
            <th scope="col">
              <span className="unseen">Preview</span>
            </th>
            <th scope="col">Picture</th>
            <th scope="col">Where</th>
            <th scope="col" className="figure">
              Sharpness
            </th>
            <th scope="col" className="figure">
              Smallest text
            </th>
            <th scope="col">Share</th>
            <th scope="col" className="figure">
              {destination.view === "message" ? "Bytes as sent" : "Bytes"}
            </th>
            <th scope="col">{proposed ? "Would become" : "Made to fit"}</th>
            <th scope="col">You say</th>
          </tr>
        </thead>
        <tbody>
          {weight.pictures.map((each) => (
            <PictureRow
              key={each.member}
              destination={destination}
              picture={each}
              weight={weight}
              text={texts?.find((text) => text.member === each.member)}
              proposed={proposed?.pictures.find((one) => isOf(one, each)) ?? null}
            />
          ))}
          <tr>
            <td />
            <td>
              <b>Text and the rest</b>
              <br />
              <small>
                {destination.view === "message" ? "heads, what else is attached" : "styles, fonts, the package itself"}
              </small>
            </td>
            <td />
            <td className="figure">–</td>
            <td />
            <td>
              <ShareBar share={weight.rest_bytes / weight.file_bytes} kind="text" />
            </td>
            <td className="figure">{weightOf(weight.rest_bytes)}</td>
            <td />
            <td />
          </tr>
        </tbody>
      </table>
    </>
  );
}

interface RowProps {
  destination: Destination;
  picture: Weighed;
  weight: Weight;
  text: TextOnPicture | undefined;
  proposed: ProposedPicture | null;
}

function PictureRow({ destination, picture, weight, text, proposed }: RowProps) {
  const bench = useBench().data;
  const navigate = useNavigate();
  const set = useBenchState((state) => state.set);
  const own = bench?.placed.find((each) => each.id === picture.clipping);
  const placement = destination.placements.find((each) => each.clipping === picture.clipping);
  const shown = picture.shown_emu[0];
  return (
    <tr>
      <td>
        <ForeignPicture
          brief
          className="row-picture"
          alt=""
          src={own ? pictureUrl.clipping(own, 160) : pictureUrl.media(destination.id, picture)}
        />
      </td>
      <td>
        {placement ? (
          <button
            type="button"
            className="choice"
            onClick={() => {
              set({ placement: placement.id });
              void navigate(addressOf("/place"));
            }}
          >
            {picture.label}
          </button>
        ) : (
          <b>{picture.label}</b>
        )}
        <br />
        <small>
          {own ? "clipping" : "the file’s own"}
          {picture.width_px !== null && ` · ${size(picture.width_px, picture.height_px ?? 0)} px`}
        </small>
      </td>
      <td>
        {shown ? `${mm(shown[0] ?? 0)} mm` : "size unknown"}
        {picture.times_used > 1 && (
          <>
            <br />
            <small>used {picture.times_used} times, kept once</small>
          </>
        )}
        {picture.hidden_share >= 0.005 && (
          <>
            <br />
            <small>{Math.round(picture.hidden_share * 100)} % cropped away</small>
          </>
        )}
      </td>
      <td className="figure">{picture.ppi === null ? "–" : `${Math.round(picture.ppi).toString()} ppi`}</td>
      <td className="figure">{text ? <TextSize text={text} /> : "–"}</td>
      <td>
        <ShareBar share={picture.record_bytes / weight.file_bytes} kind={own ? "own" : "picture"} />
      </td>
      <td className="figure">
        {weightOf(picture.bytes)}
        {proposed && proposed.bytes !== picture.bytes && (
          <>
            <br />
            <b>would be {weightOf(proposed.bytes)}</b>
          </>
        )}
      </td>
      <td>
        {proposed ? proposed.note || "nothing given up" : (picture.note ?? (own ? "as taken" : "untouched"))}
        {!proposed && picture.note !== null && (
          <>
            {" · "}
            <button
              type="button"
              className="choice"
              aria-label={`Compare ${picture.label} with the original`}
              onClick={() => {
                set({ notice: null, comparing: picture.member });
              }}
            >
              compare
            </button>
          </>
        )}
      </td>
      <td>
        <YouSay picture={picture} />
      </td>
    </tr>
  );
}

const SAYS: readonly [NonNullable<Weighed["say"]>, string][] = [
  ["usual", "nothing"],
  ["keep-as-it-is", "keep as it is"],
  ["matters-more", "matters more"],
  ["may-suffer", "may suffer"],
  ["may-become-unreadable", "may become unreadable"],
];

/** In points where it stands, and the pixels that it has there; as the core grades them. */
function TextSize({ text }: { text: TextOnPicture }) {
  const pixels = `${whole(text.em_px)} px`;
  if (text.text_pt === null) return <>{pixels}</>;
  return (
    <>
      <span className={`text-door-${text.grade}`}>{text.text_pt.toFixed(1)} pt</span>
      <br />
      <small>{pixels}</small>
    </>
  );
}

function useTexts(destination: Destination): TextOnPicture[] | undefined {
  return useQuery({
    queryKey: ["texts", destination.id, destination.version, destination.placements],
    placeholderData: (before) => before,
    queryFn: async () =>
      must(
        await api.GET("/api/v1/destinations/{destination}/weight/texts", {
          params: { path: { destination: destination.id } },
        }),
      ),
  }).data;
}

/** Whether a proposal is about a picture of the table. */
function isOf(proposed: ProposedPicture, picture: Weighed): boolean {
  return picture.placement === null
    ? proposed.member === picture.member
    : proposed.placements.includes(picture.placement);
}

/** What the user says of a clipping where the file has to become lighter. */
function YouSay({ picture }: { picture: Weighed }) {
  const { placement, say } = picture;
  if (placement === null || say === null) return null;
  const change = async (said: NonNullable<Weighed["say"]>) => {
    try {
      await api.PUT("/api/v1/placements/{placement}/say", { params: { path: { placement } }, body: { say: said } });
      await refresh();
    } catch (error) {
      showError(error);
    }
  };
  return (
    <select
      className="you-say"
      aria-label={`You say of ${picture.label}`}
      value={say}
      onChange={(event) => void change(event.target.value as NonNullable<Weighed["say"]>)}
    >
      {SAYS.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}

function ShareBar({ share, kind }: { share: number; kind: string }) {
  return (
    <div className="share" role="img" aria-label={`${Math.round(share * 100).toString()} % of the file`}>
      <span className={`segment-${kind}`} style={{ width: `${(share * 100).toFixed(1)}%` }} />
    </div>
  );
}
