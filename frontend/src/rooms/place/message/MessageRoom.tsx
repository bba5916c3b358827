import { useState } from "react";
import { Link } from "react-router";
import { takePictureOut, useMessage } from "../../../api/bench";
import type { Destination, Message } from "../../../api/client";
import { weightOf } from "../../../base/format";
import { FootHint } from "../../FootHint";
import { OpenAnother } from "../../OpenAnother";
import { BlockView, Spots } from "../Blocks";
import { type Found, FindWords, useFound } from "../FindWords";
import { GalleyContext, toPx } from "../GalleyContext";
import { moveAmongSpots, useEnterPlaces, usePlacedKeys } from "../keys";
import { useGalleyState } from "../useGalleyState";
import { LetterForm } from "./LetterForm";
import { addressOf } from "../../../base/state";

const WHOLE = { left: 0, top: 0, right: 0, bottom: 0 };
/** CSS pixels, as a message is laid out in them. */
const PX_PER_MM = 96 / 25.4;

/** A message: its header fields, its body at the usual width, what hangs on it. */
export function MessageRoom({ destination }: { destination: Destination }) {
  const galley = useGalleyState(destination, PX_PER_MM, true);
  const message = useMessage(destination.id, destination.version).data;
  const [ground, setGround] = useState<HTMLDivElement | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  useFound(ground, found);
  usePlacedKeys();
  useEnterPlaces(galley?.state);
  if (!galley || !message) return <main className="room-body galley-empty">Reading the message…</main>;
  const { state, order } = galley;
  const { outline } = state;
  const width = toPx(Math.min(...(outline.sections[0]?.columns_emu ?? [5_715_000])), PX_PER_MM);
  const blocks = outline.body.blocks.filter((block) => block.kind !== "other");
  const attached = outline.body.blocks.filter((block) => block.kind === "other");
  return (
    <main className="room-body place">
      <div className="tool-line">
        <span className="tool-name">Message</span>
        <span className="tool-says" title={saysOf(message)}>
          {saysOf(message)}
        </span>
        <span className="tool-end">
          <FindWords outline={outline} onFound={setFound} />
          <Link to={addressOf("/hand-over")} className="choice">
            see how it arrives
          </Link>
          <OpenAnother />
        </span>
      </div>
      <FootHint>
        <p>
          {destination.spot
            ? "The place is chosen: a drag in Take, or a click on a window and Enter, puts a picture there."
            : "Click where the picture goes. A double click chooses the place and goes to take for it."}
        </p>
      </FootHint>
      <div className="message">
        {message.letter ? (
          <LetterForm destination={destination} letter={message.letter} />
        ) : (
          <dl className="message-fields">
            {message.fields.map((field) => (
              <div key={field.name}>
                <dt>{field.name}</dt>
                <dd>{field.value}</dd>
              </div>
            ))}
            {message.sealed && (
              <div>
                <dt>Seal</dt>
                <dd>A mail server signed it (DKIM): with a clipping in it that signature no longer holds.</dd>
              </div>
            )}
          </dl>
        )}
        <GalleyContext value={state}>
          {/* Arrow keys go from place to place. */}
          {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
          <div
            className="message-ground"
            ref={setGround}
            onKeyDown={(event) => {
              moveAmongSpots(event, order, state.currentSpot);
            }}
          >
            <section className="message-body" aria-label="Body" style={{ width: width + 48 }}>
              <Spots ids={outline.body.spots} />
              {blocks.length === 0 && <p className="message-hint">The text of the message will stand here.</p>}
              {blocks.map((block) => (
                <BlockView key={block.id} block={block} />
              ))}
            </section>
            <section className="message-attached" aria-label="Attachments" style={{ width: width + 48 }}>
              <h3>Attachments</h3>
              {message.attachments.map((each) => (
                <p key={each.member} className="message-file">
                  <b>{each.name}</b> {each.type}, {weightOf(each.bytes)} as sent{" "}
                  {each.type.startsWith("image/") && (
                    <button
                      type="button"
                      className="choice"
                      aria-label={`Take ${each.name} to the rack`}
                      onClick={() => void takePictureOut(destination.id, { member: each.member, crop: WHOLE })}
                    >
                      take to the rack
                    </button>
                  )}
                </p>
              ))}
              {attached.map((block) => (
                <Spots key={block.id} ids={block.spots} />
              ))}
              {message.attachments.length === 0 && <p className="message-hint">Drop a clipping here to attach it.</p>}
            </section>
          </div>
        </GalleyContext>
      </div>
    </main>
  );
}

function saysOf(message: Message): string {
  if (!message.takes_pictures) return "plain text only: clippings are attached; not a letter of it is changed";
  if (message.letter) return "new; its body is 600 px wide, as is common";
  return "of others: one element goes into its body, all other parts stay as they are";
}
