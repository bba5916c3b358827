import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import { KEY_SHEET } from "./keys";
import { useBenchState } from "./state";

export function KeysSheet() {
  const open = useBenchState((state) => state.keysOpen);
  const set = useBenchState((state) => state.set);
  const close = () => {
    set({ keysOpen: false });
  };
  return (
    <Dialog open={open} onClose={close} maxWidth="md" aria-labelledby="keys-title">
      <div className="keys-sheet">
        <h2 id="keys-title" className="title">
          Keys
        </h2>
        <div className="keys-columns">
          {KEY_SHEET.map((group) => (
            <section key={group.where}>
              <h3>{group.where}</h3>
              <dl>
                {group.lines.map((line) => (
                  <div key={line.keys}>
                    <dt>{line.keys}</dt>
                    <dd>{line.does}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
        <Button variant="contained" onClick={close}>
          Close
        </Button>
      </div>
    </Dialog>
  );
}
