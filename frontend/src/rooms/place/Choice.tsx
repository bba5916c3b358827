import InputBase from "@mui/material/InputBase";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";

export interface Option {
  id: string;
  words: string;
}

interface ChoiceProps {
  /** What is chosen between, for those who can't see the sentence. */
  label: string;
  /** How it reads in the sentence. */
  says: string;
  options: readonly Option[];
  chosen?: string;
  /** What can be typed instead; without it only the options can be picked. */
  typed?: string;
  onPick: (id: string) => void;
}

/** An underlined word of a sentence that opens what could stand there instead. */
export function Choice({ label, says, options, chosen, typed, onPick }: ChoiceProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => {
    setAnchor(null);
  };
  return (
    <>
      <button
        type="button"
        className="choice choice-word"
        aria-label={`${label}: ${says}`}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        {says}
      </button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
        {options.map((each) => (
          <MenuItem
            key={each.id}
            selected={each.id === chosen}
            onClick={() => {
              close();
              onPick(each.id);
            }}
          >
            {each.words}
          </MenuItem>
        ))}
        {typed && (
          <li className="choice-typed">
            <InputBase
              placeholder={typed}
              inputProps={{ "aria-label": `${label}: ${typed}`, maxLength: 20 }}
              onKeyDown={(event) => {
                // The menu would go to the option that begins with the letter.
                event.stopPropagation();
                if (event.key === "Escape") close();
                const { value } = event.target as HTMLInputElement;
                if (event.key === "Enter" && value.trim()) {
                  close();
                  onPick(value.trim());
                }
              }}
            />
          </li>
        )}
      </Menu>
    </>
  );
}
