import { useNavigate } from "react-router";
import { useDesk } from "../take";

/** The source and its open windows, each with a small map of where it stands. */
export function ScreenPanel() {
  const { view, raise } = useDesk();
  const navigate = useNavigate();
  if (!view) return <p className="rack-empty">Looking at the practice desk…</p>;
  const windows = [...view.windows].reverse();
  return (
    <>
      <p className="source-words">
        From <b>Practice desk</b>, made-up windows of a harbour office. {windows.length} are open; choose one to bring
        it to the top.
      </p>
      <ul className="windows" aria-label="Open windows">
        {windows.map((window) => (
          <li key={window.id}>
            <button
              type="button"
              aria-pressed={window.depth === 0}
              onClick={() => {
                raise(window.id);
                void navigate("/take");
              }}
            >
              <svg viewBox={`0 0 ${view.width} ${view.height}`} className="window-map" aria-hidden="true">
                <rect width={view.width} height={view.height} className="map-desk" />
                <rect {...window.box} className="map-window" />
              </svg>
              <span>
                <b>{window.title}</b>
                <br />
                {window.box.width} × {window.box.height}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
