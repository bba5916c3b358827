import InputBase from "@mui/material/InputBase";
import { type KeyboardEvent, type MouseEvent, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { useInHand } from "../../api/bench";
import { joinClippings, pinClipping, removeClippings, useRack } from "../../api/rack";
import type { RackPage, Round, Slip } from "../../api/client";
import { useRounds } from "../../api/rounds";
import { useOptions } from "../../api/options";
import { copyClipping, saveClipping, saveClippings } from "../../api/out";
import { addressOf, useBenchState } from "../../base/state";
import { useSize } from "../../base/useFitted";
import { LinkButton } from "../link";
import { between, dayWords, inView, rowsOf, SLIP_HEIGHT, wholeHeight } from "./rows";
import { RoundsButton } from "./RoundsButton";
import { RoundsHead } from "./RoundsHead";
import { SlipView } from "./SlipView";

const NONE: readonly Slip[] = [];
const NO_ROUNDS: readonly Round[] = [];

/** Clippings as slips of paper, newest first or by day, found as one types. */
export function Rack() {
  const words = useBenchState((state) => state.finding);
  const set = useBenchState((state) => state.set);
  const [opened, setOpened] = useState<string | null>(null);
  const rounds = useRounds();
  const round = rounds.find((each) => each.id === opened);
  const rack = useRack(words.trim(), round?.id ?? null);
  const pages = rack.data?.pages;
  const slips = useMemo(() => pages?.flatMap((page) => page.slips) ?? NONE, [pages]);
  if (pages?.[0]?.count === 0) {
    return (
      <p className="rack-empty">
        Your clippings will hang here, newest first. Take one, paste a picture, or drop files.
      </p>
    );
  }
  return (
    <>
      <InputBase
        className="rack-find"
        placeholder="Find…"
        value={words}
        inputProps={{
          "aria-label": "Find a clipping by name, window or day, by place or by the words on it",
          title: "By name, window or day, by where it stands or to whom it went, and by the words on it",
          "data-find": "true",
        }}
        onChange={(event) => {
          set({ finding: event.target.value });
        }}
      />
      {round && (
        <RoundsHead
          round={round}
          onBack={() => {
            setOpened(null);
          }}
        />
      )}
      {slips.length > 0 ? (
        <Slips
          slips={slips}
          rounds={words.trim() === "" && !round ? rounds : NO_ROUNDS}
          onOpenRounds={setOpened}
          found={pages?.[0]?.found ?? slips.length}
          onMore={() => {
            if (rack.hasNextPage && !rack.isFetching) void rack.fetchNextPage();
          }}
        />
      ) : (
        rack.data && <p className="rack-empty">Nothing has “{words}” in name, window, day, place or on its picture.</p>
      )}
      {words.trim() !== "" && pages?.[0] && <HowFarItLooks page={pages[0]} />}
    </>
  );
}

/** What the search can't know: pictures that have yet to be read, or that nobody here reads. */
function HowFarItLooks({ page }: { page: RackPage }) {
  if (!page.reads_words)
    return (
      <p className="rack-note" title="Debian’s package tesseract-ocr reads them; then start Tijera again.">
        Words on the pictures are not searched: no recogniser is installed (tesseract-ocr).
      </p>
    );
  if (page.unread === 0) return null;
  return (
    <p className="rack-note" role="status">
      {page.unread === 1 ? "1 picture is" : `${page.unread.toString()} pictures are`} still being read.
    </p>
  );
}

interface SlipsProps {
  /** Rounds that are one slip here. */
  rounds: readonly Round[];
  onOpenRounds: (id: string) => void;
  /** Those that were fetched, the newest first. */
  slips: readonly Slip[];
  /** How many there are. */
  found: number;
  /** The end of what was fetched comes into view. */
  onMore: () => void;
}

function Slips({ slips, found, rounds, onMore, onOpenRounds }: SlipsProps) {
  const inHand = useInHand().id;
  const byDay = useOptions()?.by_day ?? false;
  const set = useBenchState((state) => state.set);
  const navigate = useNavigate();
  const view = useRef<HTMLDivElement>(null);
  const { height } = useSize(view);
  const [scrolled, setScrolled] = useState(0);
  const [several, setSeveral] = useState<ReadonlySet<string>>(new Set());
  const [renaming, setRenaming] = useState<string | null>(null);
  const anchor = useRef(0);
  const rows = useMemo(() => rowsOf(slips, byDay, dayWords), [slips, byDay]);
  const chosen = several.size > 1 ? several : new Set(inHand === null ? [] : [inHand]);
  // In the order in which they were chosen.
  const picked = [...chosen].flatMap((id) => slips.filter((each) => each.id === id));

  const roundOf = (slip: Slip) => (slip.round === null ? undefined : rounds.find((each) => each.id === slip.round));
  const choose = (slip: Slip, index: number, event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }) => {
    if (event.shiftKey) {
      setSeveral(new Set(between(slips, anchor.current, index)));
    } else if (event.ctrlKey || event.metaKey) {
      const next = new Set(chosen);
      if (!next.delete(slip.id)) next.add(slip.id);
      setSeveral(next);
      anchor.current = index;
    } else {
      setSeveral(new Set());
      anchor.current = index;
    }
    set({ clipping: slip.id });
  };

  /** Move the focus to another slip, bringing it into view first. */
  const focus = (index: number) => {
    const row = rows.find((each) => "slip" in each && each.index === index);
    const box = view.current;
    if (!row || !box) return;
    if (row.top < box.scrollTop) box.scrollTop = row.top;
    if (row.top + row.height > box.scrollTop + box.clientHeight)
      box.scrollTop = row.top + row.height - box.clientHeight;
    setScrolled(box.scrollTop);
    requestAnimationFrame(() => box.querySelector<HTMLElement>(`[data-slip="${index.toString()}"]`)?.focus());
  };
  const onKey = (event: KeyboardEvent, slip: Slip, index: number) => {
    const page = Math.max(1, Math.floor(height / 146));
    const target = { ArrowDown: index + 1, ArrowUp: index - 1, PageDown: index + page, PageUp: index - page, Home: 0, End: slips.length - 1 }[event.key]; // prettier-ignore
    if (target !== undefined) {
      event.preventDefault();
      event.stopPropagation();
      const to = Math.min(Math.max(target, 0), slips.length - 1);
      const other = slips[to];
      if (other) choose(other, to, { ctrlKey: false, metaKey: false, shiftKey: event.shiftKey });
      focus(to);
    } else if (event.key === "F2" || event.key === "Delete") {
      // The key is meant for what has the focus, not for what the room has chosen.
      event.stopPropagation();
      event.preventDefault();
      if (event.key === "F2") setRenaming(slip.id);
      else void removeClippings(picked.some((each) => each.id === slip.id) ? picked : [slip]);
    }
  };

  // What has not been fetched has its room already, so that the bar shows how long the rack is.
  const fetched = wholeHeight(rows);
  const whole = fetched + (found - slips.length) * SLIP_HEIGHT;
  const ends = found > slips.length && scrolled + 3 * Math.max(height, 400) > fetched;
  useEffect(() => {
    if (ends) onMore();
  });

  // A clipping that somebody has just taken hangs at the top; be there.
  const newest = slips.reduce((most, each) => (each.round === null ? Math.max(most, each.rank) : most), 0);
  useLayoutEffect(() => {
    if (view.current) view.current.scrollTop = 0;
  }, [newest]);

  return (
    <>
      <div
        ref={view}
        className="rack-view"
        onScroll={(event) => {
          setScrolled(event.currentTarget.scrollTop);
        }}
      >
        <ul className="rack" aria-label="Clippings" style={{ height: whole }}>
          {inView(rows, scrolled, Math.max(height, 400)).map((row) =>
            "day" in row ? (
              <li
                key={`day ${row.day}`}
                className="rack-day"
                style={{ transform: `translateY(${row.top.toString()}px)` }}
              >
                {row.day}
              </li>
            ) : (
              <SlipView
                key={row.slip.id}
                slip={row.slip}
                index={row.index}
                top={row.top}
                chosen={chosen.has(row.slip.id)}
                renaming={renaming === row.slip.id}
                onChoose={(event: MouseEvent) => {
                  choose(row.slip, row.index, event);
                }}
                round={roundOf(row.slip)}
                onOpen={() => {
                  const round = roundOf(row.slip);
                  if (round) onOpenRounds(round.id);
                  else void navigate(addressOf("/trim"));
                }}
                onKey={(event) => {
                  onKey(event, row.slip, row.index);
                }}
                onRename={(asked) => {
                  setRenaming(asked ? row.slip.id : null);
                }}
              />
            ),
          )}
        </ul>
      </div>
      {picked.length > 0 && (
        <Actions
          slips={picked}
          onOpenRounds={picked.length === 1 && picked[0] && roundOf(picked[0]) ? onOpenRounds : undefined}
          onRename={(id) => {
            setRenaming(id);
          }}
        />
      )}
    </>
  );
}

function withClipping(room: string, clipping: string): string {
  const address = addressOf(room);
  return `${address}${address.includes("?") ? "&" : "?"}clipping=${clipping}`;
}

interface ActionsProps {
  slips: readonly Slip[];
  onRename: (id: string) => void;
  /** Where the slip stands for rounds. */
  onOpenRounds: ((id: string) => void) | undefined;
}

/** What can be done with the slip in hand, or with several. */
function Actions({ slips, onRename, onOpenRounds }: ActionsProps) {
  const [first] = slips;
  const one = slips.length === 1 ? first : undefined;
  const navigate = useNavigate();
  // In Trim they stand above the mat.
  const trims = useLocation().pathname === "/trim";
  const join = async (stacked: boolean) => {
    if (await joinClippings(slips, stacked)) void navigate(addressOf("/trim"));
  };
  return (
    <div className="slip-actions" role="group" aria-label={one ? `With ${one.name}` : `With ${slips.length} clippings`}>
      {one?.round && onOpenRounds && (
        <button
          type="button"
          title="All that these rounds have taken, what they missed, and the way to stop them"
          onClick={() => {
            onOpenRounds(one.round ?? "");
          }}
        >
          Open rounds
        </button>
      )}
      {one ? (
        <>
          {!trims && (
            <>
              <button type="button" onClick={() => void copyClipping(one)}>
                Copy
              </button>
              <button type="button" onClick={() => void saveClipping(one, "png")}>
                Save
              </button>
            </>
          )}
          <LinkButton clipping={one} plain />
          <button
            type="button"
            onClick={() => {
              onRename(one.id);
            }}
          >
            Name
          </button>
        </>
      ) : (
        <>
          <span>{slips.length} chosen:</span>
          <button type="button" title="All of them, as one .zip" onClick={() => void saveClippings(slips)}>
            Save
          </button>
          <span>join</span>
          <button type="button" title="One beside the other, on a new clipping" onClick={() => void join(false)}>
            beside
          </button>
          <button type="button" title="One below the other, on a new clipping" onClick={() => void join(true)}>
            below
          </button>
        </>
      )}
      <button type="button" onClick={() => void removeClippings(slips)}>
        Remove
      </button>
      {one && (
        <button
          type="button"
          title="Where it stands, and what became of it"
          onClick={() => void navigate(withClipping("/history", one.id))}
        >
          Places
        </button>
      )}
      {one && (
        <button type="button" aria-pressed={one.pinned} onClick={() => void pinClipping(one)}>
          {one.pinned ? "Unpin" : "Pin"}
        </button>
      )}
      {one && (
        <button
          type="button"
          title="Its area on today’s screen, beside the old one"
          onClick={() => void navigate(withClipping("/anew", one.id))}
        >
          Anew
        </button>
      )}
      {one && one.round === null && <RoundsButton key={one.id} slip={one} />}
    </div>
  );
}
