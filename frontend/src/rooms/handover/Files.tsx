import Button from "@mui/material/Button";
import { Link } from "react-router";
import { useHandovers, useWeight } from "../../api/bench";
import type { Destination, Handover } from "../../api/client";
import { canChooseFolder } from "../../api/folders";
import { downloadCopy, handoverUrl, lookAtLeft, saveCopyInFolder } from "../../api/out";
import { exactWeight } from "../../base/format";
import { addressOf } from "../../base/state";

/** The copy that can be had, and what left before. */
export function Files({ destination }: { destination: Destination | null }) {
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
          <span className="file-ways">
            {canChooseFolder() && (
              <Button variant="outlined" onClick={() => void saveCopyInFolder(destination)}>
                Save in a folder…
              </Button>
            )}
            <Button variant="contained" onClick={() => void downloadCopy(destination.id)}>
              Download copy
            </Button>
          </span>
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
              {" · "}
              <button
                type="button"
                className="choice"
                aria-label={`look at ${each.name}`}
                onClick={() => {
                  lookAtLeft(each);
                }}
              >
                look at it
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
