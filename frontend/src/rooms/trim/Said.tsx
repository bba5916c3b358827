import { refresh, showError } from "../../api/bench";
import { api, type Clipping } from "../../api/client";
import type { Sheet } from "../../api/sheet";

/** What must be known before going on: words that stay here, changes that wait. */
export function Said({ clipping, sheet, away }: { clipping: Clipping; sheet: Sheet | undefined; away: number }) {
  const allow = async (allowed: boolean) => {
    const params = { path: { clipping: clipping.id } };
    await api.PUT("/api/v1/clippings/{clipping}/consent", { params, body: { allowed } }).catch(showError);
    await refresh();
  };
  return (
    <div className="trim-said">
      {away > 0 && (
        <p className="trim-says trim-warns" role="status">
          Tijera does not answer. {away === 1 ? "Your last change waits" : `${away.toString()} changes wait`} here and
          {away === 1 ? " is" : " are"} made as soon as it does; don’t close this window.
        </p>
      )}
      {sheet?.held_back && (
        <p className="trim-says">
          Something is hidden, so the window’s title “{sheet.held_back}” stays here; names say “Clipping”.{" "}
          <button type="button" className="choice" onClick={() => void allow(true)}>
            Let it leave
          </button>
        </p>
      )}
      {sheet?.allowed && (
        <p className="trim-says">
          The window’s title leaves in names and descriptions, as you allowed.{" "}
          <button type="button" className="choice" onClick={() => void allow(false)}>
            Keep it here
          </button>
        </p>
      )}
    </div>
  );
}
