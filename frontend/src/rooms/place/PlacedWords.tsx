import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import { adjustPlacement, refresh, showError } from "../../api/bench";
import { api, type Placement, type Spot } from "../../api/client";
import { Choice } from "./Choice";

/** The words that go with a placed picture, edited in place: caption, legend, a line beside it, alternative text. */
export function PlacedWords({ placement, spot }: { placement: Placement; spot: Spot }) {
  const { layout } = placement;
  const set = (changed: Partial<typeof layout>) => void adjustPlacement(placement.id, { layout: changed });
  const takesWords =
    spot.kind !== "sheet" && layout.stand !== "word" && layout.stand !== "under" && layout.stand !== "attached";
  return (
    <>
      {takesWords && (
        <>
          <Line
            key={`caption ${layout.caption}`}
            label="Caption"
            says={spot.kind === "message" ? "Caption:" : "Caption, numbered:"}
            value={layout.caption}
            placeholder="what the picture shows; empty for none"
            most={500}
            onTake={(caption) => {
              set({ caption });
            }}
          />
          {(layout.caption || placement.has_legend) && (
            <p className="placed-extras">
              {layout.caption && (
                <>
                  The caption stands{" "}
                  <Choice
                    label="Caption"
                    says={layout.caption_above ? "above it" : "below it"}
                    options={[
                      { id: "below", words: "below it" },
                      { id: "above", words: "above it" },
                    ]}
                    onPick={(id) => {
                      set({ caption_above: id === "above" });
                    }}
                  />
                  .{" "}
                </>
              )}
              {placement.has_legend && (
                <>
                  Its legend{" "}
                  <Choice
                    label="Legend"
                    says={layout.legend ? "follows as a numbered list" : "is left out"}
                    options={[
                      { id: "yes", words: "follows as a numbered list" },
                      { id: "no", words: "is left out" },
                    ]}
                    onPick={(id) => {
                      set({ legend: id === "yes" });
                    }}
                  />
                  .
                </>
              )}
            </p>
          )}
          {layout.stand === "lines" || spot.kind === "message" ? (
            <Line
              key={`beside ${layout.beside}`}
              label="Text beside it"
              says="Beside it:"
              value={layout.beside}
              placeholder="a line of text; empty for none"
              most={1000}
              onTake={(beside) => {
                set({ beside });
              }}
            />
          ) : null}
        </>
      )}
      <Line
        key={`description ${placement.description}`}
        label="Alternative text"
        says="For those who can’t see it; not printed:"
        value={placement.description}
        placeholder="say what the picture shows"
        most={2000}
        onTake={(description) => void adjustPlacement(placement.id, { description })}
      />
      {placement.leaves_as !== placement.description && <HeldBack placement={placement} />}
    </>
  );
}

interface LineProps {
  label: string;
  says: string;
  value: string;
  placeholder: string;
  most: number;
  onTake: (text: string) => void;
}

/** A line of words that is taken over by Enter or on leaving; Esc puts the old one back. */
function Line({ label, says, value, placeholder, most, onTake }: LineProps) {
  const [text, setText] = useState(value);
  const commit = () => {
    if (text.trim() !== value) onTake(text.trim());
  };
  return (
    <div className="description">
      <span aria-hidden="true">{says}</span>
      <InputBase
        multiline
        fullWidth
        value={text}
        placeholder={placeholder}
        inputProps={{ "aria-label": label, maxLength: most }}
        onChange={(event) => {
          setText(event.target.value);
        }}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey) {
            event.preventDefault();
            event.stopPropagation();
            commit();
          }
          if (event.key === "Escape") setText(value);
        }}
      />
    </div>
  );
}

/** Words from a window's title stay here while something is hidden on its picture. */
function HeldBack({ placement }: { placement: Placement }) {
  const allow = async () => {
    const params = { path: { clipping: placement.clipping } };
    await api.PUT("/api/v1/clippings/{clipping}/consent", { params, body: { allowed: true } }).catch(showError);
    await refresh();
  };
  return (
    <p className="held-back">
      Something is hidden on it, and these words are the window’s title: “{placement.leaves_as}” is written instead.{" "}
      <button type="button" className="choice" onClick={() => void allow()}>
        Let them leave
      </button>
    </p>
  );
}
