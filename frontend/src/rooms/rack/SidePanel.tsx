import { useBenchState } from "../../base/state";
import { Rack } from "./Rack";
import { ScreenPanel } from "./ScreenPanel";

export function SidePanel() {
  const panel = useBenchState((state) => state.panel);
  const open = useBenchState((state) => state.rackOpen);
  const set = useBenchState((state) => state.set);
  return (
    <aside className={`side ${open ? "side-open" : ""}`} aria-label="Rack and screen">
      <div className="side-tabs" role="tablist" aria-label="What the side shows">
        {(["rack", "screen"] as const).map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            id={`tab-${name}`}
            aria-selected={panel === name}
            aria-controls="side-panel"
            onClick={() => {
              set({ panel: name });
            }}
          >
            {name === "rack" ? "Rack" : "Screen"}
          </button>
        ))}
      </div>
      <div id="side-panel" role="tabpanel" aria-labelledby={`tab-${panel}`} className="side-body">
        {panel === "rack" ? <Rack /> : <ScreenPanel />}
      </div>
    </aside>
  );
}
