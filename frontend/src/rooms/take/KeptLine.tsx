import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { clippingQuery, placeAtChosen, useDestination } from "../../api/bench";
import { useKeyOf } from "../../api/keys";
import { saveClipping } from "../../api/out";
import { renameClipping } from "../../api/rack";
import { useGoTo } from "../../api/useGoTo";
import { widthWords } from "../../base/format";
import { useBenchState } from "../../base/state";

/** What was just kept, with its name to be typed over and the ways on: save, trim, place. */
export function KeptLine({ kept }: { kept: { id: string; name: string } }) {
  const [name, setName] = useState(kept.name);
  const field = useRef<HTMLInputElement>(null);
  const spot = useDestination()?.spot;
  const goTo = useGoTo();
  const set = useBenchState((state) => state.set);
  const trimKey = useKeyOf("go-trim");
  const saveKey = useKeyOf("save");
  // Undone, there is nothing left to go on with.
  const isGone = useQuery(clippingQuery(kept.id)).isError;
  useEffect(() => {
    if (isGone) set({ kept: null });
  }, [isGone, set]);
  const { goal } = useBenchState.getState();
  // Whoever takes pictures to save them means to name them; for all others the keys go on meaning what they mean.
  const isPicture = goal === "picture";
  useEffect(() => {
    if (isPicture) field.current?.select();
  }, [isPicture]);
  const rename = async () => {
    if (name.trim() === "" || name.trim() === kept.name) return;
    await renameClipping(kept.id, name.trim());
    set({ kept: { ...kept, name: name.trim() } });
  };
  const save = async () => {
    await rename();
    await saveClipping(kept, "png");
  };
  return (
    <div className="tool-line kept-line" role="group" aria-label={`Kept: ${kept.name}`}>
      <label className="line-label" htmlFor="kept-name">
        Kept as
      </label>
      <InputBase
        id="kept-name"
        className="kept-name"
        inputRef={field}
        value={name}
        inputProps={{ maxLength: 120 }}
        onChange={(event) => {
          setName(event.target.value);
        }}
        onBlur={() => void rename()}
        onKeyDown={(event) => {
          if (event.key === "Escape") {
            event.stopPropagation();
            setName(kept.name);
            set({ kept: null });
          }
          if (event.key === "Enter" && !event.ctrlKey) {
            event.preventDefault();
            event.stopPropagation();
            void save();
          }
        }}
      />
      <span className="tool-end">
        <Button variant="contained" onClick={() => void save()}>
          Save it {isPicture ? <kbd>Enter</kbd> : saveKey !== null && <kbd>{saveKey}</kbd>}
        </Button>
        <Button
          variant="outlined"
          onClick={() => {
            goTo("/trim");
          }}
        >
          Trim it {trimKey !== null && <kbd>{trimKey}</kbd>}
        </Button>
        {spot ? (
          <Button
            variant="outlined"
            onClick={() => {
              void rename()
                .then(() => placeAtChosen(kept.id))
                .then((placed) => {
                  if (placed) goTo("/place");
                });
            }}
          >
            Place it, {widthWords(spot)}
          </Button>
        ) : (
          <Button
            variant="outlined"
            onClick={() => {
              goTo("/place");
            }}
          >
            Choose a place
          </Button>
        )}
      </span>
    </div>
  );
}
