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
  onPick: (id: string) => void;
}

/** An underlined word of a sentence that opens what could stand there instead. */
export function Choice({ label, says, options, chosen, onPick }: ChoiceProps) {
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
      </Menu>
    </>
  );
}
