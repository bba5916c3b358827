import InputBase from "@mui/material/InputBase";
import { useDeferredValue, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { clippingQuery } from "../../api/bench";
import { pictureUrl, type Work } from "../../api/client";
import { goOnWith } from "../../api/files";
import { guardedBy, useLinks, withdrawLink } from "../../api/links";
import { usePlacesOf, useWorks } from "../../api/history";
import { limitText, where } from "../../base/format";
import { addressOf, useBenchState } from "../../base/state";
import { useQuery } from "@tanstack/react-query";
import { FootHint } from "../FootHint";
import { ClearOut } from "./ClearOut";
import { Timeline } from "./Timeline";
import { dayAndTime } from "./words";

const MOST_PICTURES = 5;

/** All that was worked on, and what happened; of one clipping or one file where the address names it. */
export function HistoryRoom() {
  const [params, setParams] = useSearchParams();
  const clipping = params.get("clipping") ?? undefined;
  const destination = params.get("of") ?? undefined;
  const [typed, setTyped] = useState("");
  const words = useDeferredValue(typed);
  const works = useWorks(words);
  const all = () => {
    setParams((now) => {
      now.delete("clipping");
      now.delete("of");
      return now;
    });
  };
  const narrow = (of: string) => {
    setParams((now) => {
      now.delete("clipping");
      now.set("of", of);
      return now;
    });
  };
  return (
    <main className="room-body history">
      <div className="tool-line">
        <span className="tool-name">History</span>
        <span className="tool-says">all that was worked on, as it was left, and what became of it</span>
        <span className="tool-end">
          <InputBase
            className="history-find"
            value={typed}
            placeholder="Name, recipient, day…"
            inputProps={{ "aria-label": "Find in the history", "data-find": true, maxLength: 200 }}
            onChange={(event) => {
              setTyped(event.target.value);
            }}
          />
        </span>
      </div>
      <FootHint>
        <p>Press a file or a message to go on with it as it was left; what has left can be had again, byte for byte.</p>
      </FootHint>
      <div className="history-both">
        <section className="history-works" aria-label="Files and messages">
          <h3>Files and messages</h3>
          {works === undefined ? (
            <p className="quiet">Looking…</p>
          ) : works.length === 0 ? (
            <p className="quiet">{words ? "Nothing has these words." : "Nothing was opened or begun yet."}</p>
          ) : (
            <ul>
              {works.map((each) => (
                <WorkView key={each.id} work={each} chosen={each.id === destination} onChoose={narrow} />
              ))}
            </ul>
          )}
          <ClearOut />
        </section>
        <section className="history-time" aria-label="What happened">
          {clipping ? (
            <OfClipping clipping={clipping} onAll={all} />
          ) : (
            <h3>
              {destination
                ? `What happened with ${works?.find((each) => each.id === destination)?.name ?? "it"}`
                : "What happened"}
              {destination && (
                <>
                  {" "}
                  <button type="button" className="choice" onClick={all}>
                    show everything
                  </button>
                </>
              )}
            </h3>
          )}
          <Timeline of={{ words, clipping, destination }} />
        </section>
      </div>
    </main>
  );
}

interface WorkProps {
  work: Work;
  chosen: boolean;
  onChoose: (id: string) => void;
}

function WorkView({ work, chosen, onChoose }: WorkProps) {
  const navigate = useNavigate();
  const count = work.clippings.length;
  return (
    <li className={`work ${chosen ? "work-chosen" : ""}`}>
      <button
        type="button"
        className="work-face"
        onClick={() => void goOnWith(work.id).then(() => navigate(addressOf("/place")))}
      >
        <b>{work.name}</b>
        {work.recipients && <span>to {work.recipients}</span>}
        <span>
          {count === 0 ? "no clipping yet" : count === 1 ? "1 clipping" : `${count.toString()} clippings`}
          {work.limit_bytes !== null && ` · limit ${limitText(work.limit_bytes)}`}
        </span>
        <span>worked on {dayAndTime(work.worked_at)}</span>
        {work.last && (
          <span>
            {work.last.kind === "left" ? "left last" : work.last.kind} {dayAndTime(work.last.at)}: {work.last.detail}
          </span>
        )}
        {count > 0 && (
          <span className="work-pictures">
            {work.clippings.slice(0, MOST_PICTURES).map((each) => (
              <img key={each.id} src={pictureUrl.thumbnail(each)} alt={each.name} title={each.name} />
            ))}
          </span>
        )}
      </button>
      <button
        type="button"
        className="choice"
        aria-label={`What happened with ${work.name}`}
        onClick={() => {
          onChoose(work.id);
        }}
      >
        what happened
      </button>
    </li>
  );
}

/** Where a clipping stands now. */
function OfClipping({ clipping, onAll }: { clipping: string; onAll: () => void }) {
  const navigate = useNavigate();
  const set = useBenchState((state) => state.set);
  const known = useQuery(clippingQuery(clipping)).data;
  const places = usePlacesOf(clipping);
  return (
    <div className="history-clipping">
      <h3>
        {known?.name ?? "A clipping that is gone"}{" "}
        <button type="button" className="choice" onClick={onAll}>
          show everything
        </button>
      </h3>
      {known && <img src={pictureUrl.thumbnail(known)} alt="" />}
      {places?.length === 0 && <p className="quiet">It stands in no file.</p>}
      {places && places.length > 0 && (
        <ul>
          {places.map((each) => (
            <li key={each.placement}>
              Stands in{" "}
              <button
                type="button"
                className="choice"
                onClick={() =>
                  void goOnWith(each.destination).then(() => {
                    set({ placement: each.placement, clipping });
                    return navigate(addressOf("/place"));
                  })
                }
              >
                {each.name}
              </button>
              , {where(each.spot, 40)}
            </li>
          ))}
        </ul>
      )}
      <LinksOf clipping={clipping} />
    </div>
  );
}

/** Through which links it can be opened. */
function LinksOf({ clipping }: { clipping: string }) {
  const open = (useLinks(clipping) ?? []).filter((each) => each.state === "open");
  if (open.length === 0) return null;
  return (
    <ul>
      {open.map((each) => (
        <li key={each.id}>
          Can be opened by a link, {guardedBy(each)}; opened {each.views.toString()} ×{" "}
          <button
            type="button"
            className="choice"
            aria-label={`withdraw the link to ${each.name}`}
            onClick={() => void withdrawLink(each)}
          >
            withdraw
          </button>
        </li>
      ))}
    </ul>
  );
}
