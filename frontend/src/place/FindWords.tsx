import InputBase from "@mui/material/InputBase";
import { useState } from "react";
import type { Outline } from "../api/client";
import { findWords } from "./blocks";

interface FindWordsProps {
  outline: Outline;
  /** Bring a block into the galley and say which element it is. */
  reveal: (block: string) => HTMLElement | null;
}

/** A field that goes to words of the text. */
export function FindWords({ outline, reveal }: FindWordsProps) {
  const [words, setWords] = useState("");
  const [last, setLast] = useState<string | null>(null);
  const [lost, setLost] = useState(false);
  const go = (from: string | null, wanted: string) => {
    const found = findWords(outline, wanted, from);
    setLast(found);
    setLost(wanted.trim() !== "" && found === null && !outline.more);
    if (found === null) return;
    const target = reveal(found);
    target?.scrollIntoView({ block: "center", inline: "center" });
    for (const each of target?.closest("main")?.querySelectorAll(".block-found") ?? []) {
      each.classList.remove("block-found");
    }
    target?.classList.add("block-found");
  };
  return (
    <InputBase
      className="find-words"
      placeholder="Go to a heading or words…"
      value={words}
      inputProps={{ "aria-label": "Go to a heading or words", "data-find": "true", "aria-invalid": lost }}
      endAdornment={lost ? <span className="weak">not there</span> : null}
      onChange={(event) => {
        setWords(event.target.value);
        go(null, event.target.value);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") {
          event.stopPropagation();
          go(last, words);
        }
      }}
    />
  );
}
