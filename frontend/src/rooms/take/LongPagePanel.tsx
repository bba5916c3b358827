import Button from "@mui/material/Button";
import { whole } from "../../base/format";
import { stopHere, useLongPage } from "./longpage";

/** How far a long page has come: what was joined, small, its height, and the way to stop. */
export function LongPagePanel() {
  const { id, title, byItself, height, strips, says } = useLongPage();
  if (id === null) return null;
  return (
    <section className="long-page" aria-label="Long page">
      <div className="long-page-picture">
        {height > 0 && (
          <img
            src={`/api/v1/long-pages/${id}/thumbnail.png?v=${height.toString()}`}
            alt="What has been joined so far"
          />
        )}
      </div>
      <div className="long-page-words">
        <h2 className="title">{title || "The page"}</h2>
        <p role="status">
          <b>{whole(height)} px</b> high so far, of {strips} {strips === 1 ? "strip" : "strips"}.
        </p>
        <p>{byItself ? "It scrolls by itself." : "Scroll it slowly to its end; the strips join while you do."}</p>
        {says && (
          <p role="alert" className="long-page-says">
            {says}
          </p>
        )}
        <Button variant="contained" disabled={height === 0} onClick={() => void stopHere()}>
          Stop here
        </Button>
      </div>
    </section>
  );
}
