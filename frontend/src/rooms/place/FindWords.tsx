import InputBase from "@mui/material/InputBase";
import { useEffect, useMemo, useState } from "react";
import type { Outline } from "../../api/client";
import { findWords } from "./blocks";

/** A block that was found; each time anew, so that Enter goes there again. */
export interface Found {
  block: string;
}

/** A field that goes to words of the text. Those in a part that is still being read are found once it is there. */
export function FindWords({ outline, onFound }: { outline: Outline; onFound: (found: Found) => void }) {
  const [words, setWords] = useState("");
  const [after, setAfter] = useState<Found | null>(null);
  const block = useMemo(() => findWords(outline, words, after?.block ?? null), [outline, words, after]);
  const lost = words.trim() !== "" && block === null && !outline.more;
  useEffect(() => {
    if (block !== null) onFound({ block });
  }, [block, after, onFound]);
  return (
    <InputBase
      className="find-words"
      placeholder="Go to a heading or words…"
      value={words}
      inputProps={{ "aria-label": "Go to a heading or words", "data-find": "true", "aria-invalid": lost }}
      endAdornment={lost ? <span className="weak">not there</span> : null}
      onChange={(event) => {
        setWords(event.target.value);
        setAfter(null);
      }}
      onKeyDown={(event) => {
        if (event.key !== "Enter") return;
        event.stopPropagation();
        if (block !== null) setAfter({ block });
      }}
    />
  );
}

/** Go to the block that was found, and mark it. */
export function useFound(ground: HTMLElement | null, found: Found | null): void {
  useEffect(() => {
    if (!ground || !found) return;
    const target = ground.querySelector(`[data-block="${CSS.escape(found.block)}"]`);
    target?.scrollIntoView({ block: "center", inline: "center" });
    for (const each of ground.querySelectorAll(".block-found")) each.classList.remove("block-found");
    target?.classList.add("block-found");
  }, [ground, found]);
}
