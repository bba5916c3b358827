import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { showError } from "../../api/bench";
import { api, must, type Arrived, type Mailbox, type Postbox } from "../../api/client";
import { exactWeight, limitText, weightOf } from "../../base/format";
import { addressOf } from "../../base/state";
import { FootHint } from "../FootHint";

const LOOK_MS = 1_500;
const CONDUCTS: readonly (readonly [Postbox["conduct"], string])[] = [
  ["usual", "takes what fits"],
  ["slow", "takes its time"],
  ["away", "is away"],
  ["busy", "says: come back later"],
  ["refusing", "refuses the sender"],
  ["breaking-off", "breaks off in the middle"],
  ["silent", "keeps it, and says nothing"],
];

/** The stand-in for a mail server: what arrived in its mailboxes, and how it behaves. */
export function PostboxRoom() {
  const postbox = useQuery({
    queryKey: ["postbox"],
    refetchInterval: LOOK_MS,
    queryFn: async () => must(await api.GET("/api/v1/postbox")),
  });
  const [open, setOpen] = useState<{ mailbox: string; number: number } | null>(null);
  const box = postbox.data;
  if (!box)
    return (
      <main className="room-body postbox">
        <h2 className="title">Postbox</h2>
        <p>{postbox.isError ? "There is no postbox here: mail goes to a real server." : "Looking into the postbox…"}</p>
      </main>
    );
  const shown = chosen(box, open);
  return (
    <main className="room-body postbox">
      <div className="tool-line">
        <span className="tool-name">Postbox</span>
        <span className="tool-says">a mail server that ships with the demo; it delivers to nobody outside</span>
        <span className="tool-end">
          <label htmlFor="postbox-conduct">
            It{" "}
            <select
              id="postbox-conduct"
              value={box.conduct}
              onChange={(event) => void behave(event.target.value).then(() => postbox.refetch())}
            >
              {CONDUCTS.map(([name, words]) => (
                <option key={name} value={name}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <Link to={addressOf("/hand-over")} className="choice">
            back to Hand over
          </Link>
        </span>
      </div>
      <FootHint>
        <p>
          Choose a message to see it as it arrived; let the server behave otherwise to see what Tijera does about it.
        </p>
      </FootHint>
      <div className="postbox-both">
        <nav className="postbox-list" aria-label="Mailboxes">
          {box.mailboxes.map((mailbox) => (
            <MailboxList
              key={mailbox.name}
              mailbox={mailbox}
              current={shown?.mailbox.name === mailbox.name ? shown.message.number : null}
              onOpen={(number) => {
                setOpen({ mailbox: mailbox.name, number });
              }}
            />
          ))}
        </nav>
        {shown ? (
          <Message mailbox={shown.mailbox} message={shown.message} />
        ) : (
          <p className="postbox-empty">Nothing has arrived yet. Send a message, and it is shown here as it came.</p>
        )}
      </div>
    </main>
  );
}

/** The message that was opened, else the one that came last. */
function chosen(box: Postbox, open: { mailbox: string; number: number } | null) {
  const all = box.mailboxes.flatMap((mailbox) => mailbox.arrived.map((message) => ({ mailbox, message })));
  const wanted = all.find((each) => each.mailbox.name === open?.mailbox && each.message.number === open.number);
  const last = all.toSorted((one, other) => other.message.at.localeCompare(one.message.at))[0];
  return wanted ?? last ?? null;
}

async function behave(name: string): Promise<void> {
  const conduct = CONDUCTS.find(([each]) => each === name)?.[0] ?? "usual";
  await api.PUT("/api/v1/postbox/conduct", { body: { conduct } }).catch(showError);
}

interface ListProps {
  mailbox: Mailbox;
  current: number | null;
  onOpen: (number: number) => void;
}

function MailboxList({ mailbox, current, onOpen }: ListProps) {
  return (
    <section>
      <h3>{mailbox.words}</h3>
      <p className="quiet">
        {mailbox.address}
        <br />
        takes {limitText(mailbox.limit_bytes)}
      </p>
      {mailbox.arrived.length === 0 ? (
        <p className="quiet">empty</p>
      ) : (
        <ul>
          {mailbox.arrived.map((each) => (
            <li key={each.number}>
              <button
                type="button"
                className="postbox-slip"
                aria-current={each.number === current}
                onClick={() => {
                  onOpen(each.number);
                }}
              >
                <b>
                  {each.order !== null && `${each.order.toString()} `}
                  {each.subject || "No subject"}
                </b>
                <span>
                  {weightOf(each.bytes)}, {new Date(each.at).toLocaleTimeString("en-GB")}
                  {each.copy_of !== null && `, came before as ${each.copy_of.toString()}`}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Message({ mailbox, message }: { mailbox: Mailbox; message: Arrived }) {
  const address = `/api/v1/postbox/${mailbox.name}/${message.number.toString()}`;
  return (
    <article className="postbox-message">
      <header>
        <h2 className="title">
          {message.order !== null && `Work order ${message.order.toString()}: `}
          {message.subject || "No subject"}
        </h2>
        <p>
          From {message.sender || "nobody"}, to {mailbox.address}, {exactWeight(message.bytes)} as it came.{" "}
          {message.copy_of !== null && <b>The same message came before, as number {message.copy_of}. </b>}
          <a className="choice" href={`${address}/file`} download>
            these very bytes
          </a>
        </p>
      </header>
      <div className="arrives">
        <section>
          <h3>Where pictures show</h3>
          {message.has_page ? (
            <iframe key={address} title="Where pictures show" sandbox="" src={`${address}/page`} />
          ) : (
            <pre className="arrives-plain">{message.plain}</pre>
          )}
          <Hanging files={message.attached} />
        </section>
        <section>
          <h3>Where they don’t</h3>
          <pre className="arrives-plain">{message.plain || "No text."}</pre>
          <Hanging files={message.attached_plain} />
        </section>
      </div>
    </article>
  );
}

function Hanging({ files }: { files: Arrived["attached"] }) {
  if (files.length === 0) return <p className="message-hint">No files are attached.</p>;
  return (
    <ul className="arrives-files">
      {files.map((each) => (
        <li key={each.name}>
          <b>{each.name}</b> {weightOf(each.bytes)}
        </li>
      ))}
    </ul>
  );
}
