import Button from "@mui/material/Button";
import Divider from "@mui/material/Divider";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { openNew, useDestination } from "../api/bench";
import { goOnWith, NEW_FILES, useOpened } from "../api/files";
import { addressOf } from "../base/state";
import { chooseFile } from "./intake";

const MOST_OPENED = 4;

/** The way to another file, at the end of every room that shows one: to be opened, opened before, or new. */
export function OpenAnother() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const here = useDestination()?.id;
  const known = useQueryClient();
  const navigate = useNavigate();
  const opened = useOpened()?.filter((each) => each.id !== here) ?? [];
  const pick = (then: () => unknown) => () => {
    setAnchor(null);
    then();
  };
  return (
    <>
      <Button
        variant="outlined"
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        onClick={(event) => {
          void known.invalidateQueries({ queryKey: ["destinations"] });
          setAnchor(event.currentTarget);
        }}
      >
        Another file…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={pick(() => undefined)}>
        <MenuItem
          onClick={pick(() => {
            chooseFile();
          })}
        >
          Open a file…
        </MenuItem>
        {opened.slice(0, MOST_OPENED).map((each) => (
          <MenuItem key={each.id} onClick={pick(() => goOnWith(each.id))}>
            {each.name}, as you left it
          </MenuItem>
        ))}
        <MenuItem onClick={pick(() => navigate(addressOf("/history")))}>All that was worked on…</MenuItem>
        {here && (
          <MenuItem onClick={pick(() => navigate(`${addressOf("/anew")}&of=${here}`))}>
            Take all its clippings anew…
          </MenuItem>
        )}
        <Divider />
        {NEW_FILES.map(([kind, words]) => (
          <MenuItem key={kind} onClick={pick(() => openNew(kind))}>
            New {words}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
