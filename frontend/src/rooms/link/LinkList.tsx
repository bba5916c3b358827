import type { PictureLink } from "../../api/client";
import {
  copyLink,
  guardedBy,
  lastDay,
  lookAt,
  reopenLink,
  useLinks,
  useLinkSetup,
  withdrawLink,
} from "../../api/links";
import { exactWeight } from "../../base/format";

/** Every link that was made, how it stands, and the way to withdraw it. */
export function LinkList() {
  const links = useLinks();
  const setup = useLinkSetup();
  if (!links || !setup) return <p className="quiet">Looking…</p>;
  return (
    <>
      {!setup.is_on && (
        <p className="quiet">Links are off: nobody can open these now. They are set up again under Options.</p>
      )}
      {setup.trouble !== "" && (
        <p role="alert" className="too-heavy">
          Nobody can open these now. {setup.trouble}
        </p>
      )}
      {links.length === 0 ? (
        <p className="quiet">
          No link was made yet. <b>Link</b> is offered with a clipping: on the rack, and at the end of the line in Trim.
        </p>
      ) : (
        <table className="weighs dispatches">
          <thead>
            <tr>
              <th scope="col">Picture</th>
              <th scope="col">Who can open it</th>
              <th scope="col" className="figure">
                Weight
              </th>
              <th scope="col">How it stands</th>
              <th scope="col">Do</th>
            </tr>
          </thead>
          <tbody>
            {links.map((each) => (
              <Row key={each.id} link={each} />
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

function Row({ link }: { link: PictureLink }) {
  const open = link.state === "open";
  return (
    <tr>
      <td>
        <b>{link.name}</b>
        <br />
        <small>made {timeOf(link.made_at)}</small>
      </td>
      <td className="dispatch-state">
        {guardedBy(link)}
        {open && link.address && (
          <>
            <br />
            <small className="link-address">{link.address}</small>
          </>
        )}
      </td>
      <td className="figure">{exactWeight(link.bytes)}</td>
      <td className={open ? "" : "dispatch-refused"}>
        <b>{standsOf(link)}</b>
        <br />
        {viewsOf(link)}
      </td>
      <td>
        <span className="dispatch-ways">
          {open && link.address && (
            <>
              <Do words="copy the address" what={link} run={() => void copyLink(link)} />
              <Do
                words="look at it"
                what={link}
                run={() => {
                  lookAt(link);
                }}
              />
            </>
          )}
          {link.closed_s > 0 && <Do words="open it again" what={link} run={() => void reopenLink(link)} />}
          {link.state !== "withdrawn" && <Do words="withdraw" what={link} run={() => void withdrawLink(link)} />}
        </span>
      </td>
    </tr>
  );
}

function Do({ words, what, run }: { words: string; what: PictureLink; run: () => void }) {
  return (
    <button type="button" className="choice" aria-label={`${words}: ${what.name}`} onClick={run}>
      {words}
    </button>
  );
}

const timeOf = (moment: string) =>
  new Date(moment).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });

function standsOf(link: PictureLink): string {
  if (link.state === "open" && link.closed_s > 0)
    return `closed for ${Math.max(1, Math.round(link.closed_s / 60)).toString()} min: wrong passwords`;
  const words = {
    open: "open",
    ended: `ended ${link.ends_at ? lastDay(link.ends_at) : ""}`,
    "used-up": "used up",
    withdrawn: "withdrawn",
  };
  return words[link.state];
}

function viewsOf(link: PictureLink): string {
  if (link.views === 0) return "not opened yet";
  const times = link.views === 1 ? "once" : `${link.views.toString()} times`;
  return `opened ${times}, last ${link.seen_at ? timeOf(link.seen_at) : ""}`;
}
