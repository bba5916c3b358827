import Button from "@mui/material/Button";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { refresh, showError, useBench, useDestination, useHandovers, useWeight } from "../../api/bench";
import { api, pictureUrl, type Destination, type Handover, type Weighed, type Weight } from "../../api/client";
import { exactWeight, limitText, mm, size, weightOf } from "../../base/format";
import { downloadCopy, handoverUrl } from "../../api/out";
import { addressOf, useBenchState } from "../../base/state";
import { Arrives } from "./Arrives";

type Part = "arrives" | "weighs" | "files";

/** What weighs, and the files that leave. */
export function HandOverRoom() {
  const destination = useDestination();
  const isMessage = destination?.view === "message";
  const [chosen, setPart] = useState<Part | null>(null);
  const part = chosen ?? (isMessage ? "arrives" : "weighs");
  const shown = destination ? (part === "arrives" && !isMessage ? "weighs" : part) : "files";
  const parts: readonly Part[] = isMessage ? ["arrives", "weighs", "files"] : ["weighs", "files"];
  return (
    <main className="room-body hand-over">
      <div className="hand-over-head">
        <h2 className="title">{words[shown]}</h2>
        {destination && (
          <span>
            {parts.map((name, index) => (
              <span key={name}>
                {index > 0 && " · "}
                {name === shown ? (
                  <b>{words[name]}</b>
                ) : (
                  <button
                    type="button"
                    className="choice"
                    onClick={() => {
                      setPart(name);
                    }}
                  >
                    {words[name]}
                  </button>
                )}
              </span>
            ))}
          </span>
        )}
      </div>
      {destination && shown === "arrives" ? (
        <Arrives destination={destination} />
      ) : destination && shown === "weighs" ? (
        <WhatWeighs destination={destination} />
      ) : (
        <Files destination={destination} />
      )}
    </main>
  );
}

const words: Record<Part, string> = { arrives: "How it arrives", weighs: "What weighs", files: "Files" };

function WhatWeighs({ destination }: { destination: Destination }) {
  const weight = useWeight().data;
  if (!weight) return <p>Weighing the written copy…</p>;
  const over = weight.limit_bytes !== null && weight.file_bytes > weight.limit_bytes;
  return (
    <>
      <p>
        The copy would be written with <b className={over ? "too-heavy" : ""}>{exactWeight(weight.file_bytes)}</b>
        {weight.limit_bytes === null ? (
          "; no limit is set."
        ) : (
          <>
            ; it may have <b>{limitText(weight.limit_bytes)}</b>.
          </>
        )}{" "}
        These are the bytes of the file as written, not the sum of its pictures.
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
            <th scope="col">Share of the file</th>
            <th scope="col" className="figure">
              Bytes
            </th>
            <th scope="col">Made to fit</th>
            <th scope="col">You say</th>
          </tr>
        </thead>
        <tbody>
          {weight.pictures.map((each) => (
            <PictureRow key={each.member} destination={destination} picture={each} weight={weight} />
          ))}
          <tr>
            <td />
            <td>
              <b>Text and the rest</b>
              <br />
              <small>styles, fonts, the package itself</small>
            </td>
            <td />
            <td className="figure">–</td>
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

function PictureRow({ destination, picture, weight }: { destination: Destination; picture: Weighed; weight: Weight }) {
  const bench = useBench().data;
  const navigate = useNavigate();
  const set = useBenchState((state) => state.set);
  const own = bench?.placed.find((each) => each.id === picture.clipping);
  const placement = destination.placements.find((each) => each.clipping === picture.clipping);
  const shown = picture.shown_emu[0];
  const canShow = picture.width_px !== null;
  return (
    <tr>
      <td>
        {canShow && (
          <img
            className="row-picture"
            alt=""
            src={own ? pictureUrl.clipping(own, 160) : pictureUrl.media(destination.id, picture)}
          />
        )}
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
          {own ? "clipping" : "was in the document"}
          {canShow && ` · ${size(picture.width_px ?? 0, picture.height_px ?? 0)} px`}
        </small>
      </td>
      <td>
        {shown ? `${mm(shown[0] ?? 0)} mm wide` : "size unknown"}
        {picture.times_used > 1 && (
          <>
            <br />
            <small>used {picture.times_used} times, kept once</small>
          </>
        )}
      </td>
      <td className="figure">{picture.ppi === null ? "–" : `${Math.round(picture.ppi).toString()} ppi`}</td>
      <td>
        <ShareBar share={picture.record_bytes / weight.file_bytes} kind={own ? "own" : "picture"} />
      </td>
      <td className="figure">{weightOf(picture.bytes)}</td>
      <td>{picture.note ?? (own ? "as taken" : "untouched")}</td>
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
];

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

function Files({ destination }: { destination: Destination | null }) {
  const weight = useWeight().data;
  const left = useHandovers().data ?? [];
  return (
    <>
      {destination ? (
        <p className="file-next">
          <span>
            <b>{destination.name}</b> with {destination.placements.length} clippings
            {weight && `, ${exactWeight(weight.file_bytes)}`}. Your own file stays as it is.
          </span>
          <Button variant="contained" onClick={() => void downloadCopy(destination.id)}>
            Download copy
          </Button>
        </p>
      ) : (
        <p>
          No document is open.{" "}
          <Link to={addressOf("/start")} className="choice">
            Open one
          </Link>
          , or save clippings from the rack.
        </p>
      )}
      <h3>What left</h3>
      {left.length === 0 ? (
        <p className="quiet">Nothing has left yet. What you save or download is listed here.</p>
      ) : (
        <Left left={left} />
      )}
    </>
  );
}

function Left({ left }: { left: Handover[] }) {
  return (
    <table className="weighs">
      <thead>
        <tr>
          <th scope="col">File</th>
          <th scope="col">What</th>
          <th scope="col" className="figure">
            Weight
          </th>
          <th scope="col">When</th>
          <th scope="col">Open</th>
        </tr>
      </thead>
      <tbody>
        {left.map((each) => (
          <tr key={each.id}>
            <td>
              <b>{each.name}</b>
            </td>
            <td>{each.what}</td>
            <td className="figure">{exactWeight(each.bytes)}</td>
            <td>{new Date(each.made_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}</td>
            <td>
              <a className="choice" href={handoverUrl(each)} download={each.name}>
                these very bytes
              </a>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
