import { Link } from "react-router";
import type { Dispatch } from "../../api/client";
import { dispatchUrl, isOpen, tryNow, useDispatches, useMail, withdraw } from "../../api/mail";
import { exactWeight } from "../../base/format";

const STATES: Record<Dispatch["state"], string> = {
  waiting: "waits",
  going: "leaves now",
  unclear: "unclear: it may have arrived",
  sent: "sent",
  refused: "not taken",
  withdrawn: "withdrawn",
};
const KINDS: Record<Dispatch["tries"][number]["kind"], string> = {
  taken: "taken",
  later: "not now",
  refused: "refused",
  away: "away",
  unclear: "no reply",
};

const timeOf = (moment: string) =>
  new Date(moment).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
const clockOf = (moment: string) => new Date(moment).toLocaleTimeString("en-GB");

/** What was sent and what waits, each try in the server's own words. */
export function SentList() {
  const sent = useDispatches();
  const hasPostbox = useMail()?.has_postbox === true;
  return (
    <>
      {hasPostbox && (
        <p className="quiet">
          Mail of the demo goes to a postbox that ships.{" "}
          <Link to="/postbox" className="choice">
            Look into the postbox
          </Link>
        </p>
      )}
      {sent === undefined || sent.length === 0 ? (
        <p className="quiet">Nothing was sent yet. Each message that is sent stands here, with what the server said.</p>
      ) : (
        <table className="weighs dispatches">
          <thead>
            <tr>
              <th scope="col">Message</th>
              <th scope="col">To</th>
              <th scope="col" className="figure">
                Weight
              </th>
              <th scope="col">Where it is</th>
              <th scope="col">Do</th>
            </tr>
          </thead>
          <tbody>
            {sent.map((each) => (
              <SentRow key={each.id} dispatch={each} />
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

function SentRow({ dispatch }: { dispatch: Dispatch }) {
  const last = dispatch.tries.at(-1);
  return (
    <tr>
      <td>
        <b>{dispatch.name}</b>
        <br />
        <small>{timeOf(dispatch.made_at)}</small>
      </td>
      <td className="dispatch-to">{shortList(dispatch.recipients)}</td>
      <td className="figure">{exactWeight(dispatch.bytes)}</td>
      <td className={`dispatch-state dispatch-${dispatch.state}`}>
        <b>{STATES[dispatch.state]}</b>
        {isOpen(dispatch) && dispatch.next_at && dispatch.tried > 0 && `, again at ${clockOf(dispatch.next_at)}`}
        {last && (
          <details>
            <summary>
              {last.words} ({dispatch.tried === 1 ? "1 try" : `${dispatch.tried.toString()} tries`})
            </summary>
            <ol>
              {dispatch.tries.map((each) => (
                <li key={each.at}>
                  {clockOf(each.at)}, {KINDS[each.kind]}: {each.words}
                </li>
              ))}
            </ol>
          </details>
        )}
        {dispatch.refused.map(([address, words]) => (
          <p key={address} className="dispatch-missed">
            {address} was not reached: {words}
          </p>
        ))}
      </td>
      <td>
        <span className="dispatch-ways">
          <a className="choice" href={dispatchUrl(dispatch)} download={`${dispatch.name}.eml`}>
            these very bytes
          </a>
          {isOpen(dispatch) && dispatch.state !== "going" && (
            <>
              <button type="button" className="choice" onClick={() => void tryNow(dispatch)}>
                try now
              </button>
              <button type="button" className="choice" onClick={() => void withdraw(dispatch)}>
                do not send it
              </button>
            </>
          )}
        </span>
      </td>
    </tr>
  );
}

function shortList(addresses: readonly string[]): string {
  const [first = "", second] = addresses;
  if (addresses.length <= 2) return second ? `${first}, ${second}` : first;
  return `${first} and ${(addresses.length - 1).toString()} more`;
}
