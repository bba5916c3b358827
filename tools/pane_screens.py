"""Render the screens of `tests/data/panes`: pages whose panes are known, because each page says which of its boxes are meant.

`python -m tools.pane_screens`. A box with `data-pane` is a pane; the browser's own boxes are the truth. The screens are made
up; half of them (`apart`) are looked at by no one who works on the finder, only counted.
"""

from __future__ import annotations

import json
import random
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.browser.case import ARGUMENTS, CHROMIUM

TARGET = Path(__file__).resolve().parent.parent / "tests/data/panes"
_SIZE = (1_120, 700)
_BOATS = (
    "Sandpiper",
    "Marigold",
    "Little Auk",
    "Oystercatcher",
    "Harbour Lass",
    "Grey Wagtail",
    "Heron",
    "Teal",
    "Curlew",
)
_WORDS = (
    *("tide", "gauge", "bollard", "lamp", "ferry", "ramp", "quay", "crew", "fare", "timetable"),
    *("rope", "gangway", "bilge", "engine", "log", "chart", "island", "pier", "kiosk", "ticket"),
)


@dataclass(frozen=True)
class Screen:
    """A page, how dense its screen is, and whether it is kept apart."""

    name: str
    scale: float
    apart: bool
    page: Callable[[random.Random], str]


def _say(pick: random.Random, least: int, most: int) -> str:
    return " ".join(pick.choice(_WORDS) for _ in range(pick.randint(least, most))).capitalize()


def _many(each: Iterable[str]) -> str:
    return "".join(each)


def _photo(pick: random.Random, style: str) -> str:
    """A picture with the unrest of a photograph, painted by the browser's own noise filter."""
    seed = pick.randint(1, 999)
    return (
        f'<svg data-pane style="display:block;{style}"><filter id="n{seed}"><feTurbulence type="fractalNoise" seed="{seed}" '
        f'baseFrequency=".018" numOctaves="4"/><feColorMatrix values=".6 0 0 0 .1 0 .8 0 0 .1 0 0 .9 0 .15 0 0 0 0 1"/></filter>'
        f'<rect width="100%" height="100%" filter="url(#n{seed})"/></svg>'
    )


def _page(style: str, body: str) -> str:
    return f"<!doctype html><meta charset=utf-8><style>*{{box-sizing:border-box;margin:0}}body{{width:{_SIZE[0]}px;height:{_SIZE[1]}px;overflow:hidden;font:14px/1.4 sans-serif}}{style}</style>{body}"


def _cards(
    *, ground: str, card: str, text: str, radius: int, shadow: str, bar: str, edge: str = "0"
) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        cards = _many(
            f"<section data-pane class=c><h3>{_say(pick, 1, 3)}</h3><b>{pick.randint(10, 900)}</b><p>{_say(pick, 4, 11)}</p></section>"
            for _ in range(6)
        )
        rows = _many(
            f"<li>{pick.choice(_BOATS)} <i>{pick.randint(6, 21)}:{pick.randint(10, 59)}</i></li>" for _ in range(5)
        )
        return _page(
            f"body{{background:{ground};color:{text}}}header{{height:56px;background:{bar};padding:16px 24px}}"
            f"main{{padding:24px;display:grid;grid-template-columns:repeat(3,1fr);gap:20px}}"
            f".c{{background:{card};border-radius:{radius}px;box-shadow:{shadow};border:{edge};padding:18px;height:150px}}"
            f".w{{grid-column:1/3;height:230px}}li{{list-style:none;padding:7px 0}}b{{font-size:28px}}",
            f"<header data-pane>Quillhaven Ferries · {_say(pick, 1, 2)}</header><main>{cards}"
            f"<section data-pane class='c w'><h3>Departures</h3><ul style='padding:0'>{rows}</ul></section>"
            f"<section data-pane class=c style='height:230px;padding:0;overflow:hidden'>{_photo(pick, 'width:100%;height:110px')}"
            f"<p style='padding:14px'>{_say(pick, 5, 9)}</p></section></main>",
        )

    return page


def _three(
    *, side: str, middle: str, reading: str, line: str, chosen: str, text: str, bar: str
) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        folders = _many(f"<a>{_say(pick, 1, 2)}</a>" for _ in range(8))
        entries = _many(
            f"<li data-pane class={'on' if number == 2 else 'off'}><b>{pick.choice(_BOATS)}</b><br>{_say(pick, 3, 6)}</li>"
            for number in range(8)
        )
        text_lines = _many(f"<p>{_say(pick, 12, 40)}.</p>" for _ in range(5))
        return _page(
            f"body{{color:{text};display:grid;grid-template:48px 1fr/190px 330px 1fr;background:{reading}}}"
            f"header{{grid-column:1/4;background:{bar};padding:13px 18px}}nav{{background:{side};padding:12px}}"
            f"nav a{{display:block;padding:8px 10px}}ul{{padding:0;list-style:none;background:{middle};border-right:1px solid {line};overflow:hidden}}"
            f"li{{padding:12px 16px;height:78px;border-bottom:1px solid {line}}}.on{{background:{chosen}}}article{{padding:26px 34px;background:{reading}}}p{{margin:0 0 14px}}",
            f"<header data-pane>Messages</header><nav data-pane>{folders}</nav><ul data-pane>{entries}</ul>"
            f"<article data-pane><h2>{_say(pick, 3, 6)}</h2><br>{text_lines}</article>",
        )

    return page


def _table(
    *, line: str, zebra: str, head: str, paper: str, text: str, columns: bool, pad: int
) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        names = ("Boat", "Berth", "Leaves", "Arrives", "Remark")
        heads = _many(f"<th>{name}</th>" for name in names)
        rows = _many(
            f"<tr data-pane><td>{pick.choice(_BOATS)}<td>Q{pick.randint(1, 6)}<td>{pick.randint(6, 21)}:{pick.randint(10, 59)}"
            f"<td>{pick.randint(6, 21)}:{pick.randint(10, 59)}<td>{_say(pick, 1, 4)}</tr>"
            for _ in range(11)
        )
        vertical = f"td,th{{border-right:1px solid {line}}}" if columns else ""
        return _page(
            f"body{{background:{paper};color:{text};padding:{pad}px}}table{{border-collapse:collapse;width:100%;background:{paper}}}"
            f"td,th{{padding:12px 14px;text-align:left;height:44px}}tr{{border-bottom:1px solid {line}}}thead tr{{background:{head}}}"
            f"tbody tr:nth-child(even){{background:{zebra}}}{vertical}.bar{{padding:12px 14px;height:50px}}",
            f"<div class=bar><b>{_say(pick, 2, 3)}</b></div><table data-pane><thead><tr data-pane>{heads}</tr></thead><tbody>{rows}</tbody></table>",
        )

    return page


def _editor(*, bar: str, side: str, sheet: str, foot: str, text: str, tab: str) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        lines = _many(
            f"<div><i>{number + 1:3}</i>{'&nbsp;' * pick.choice((2, 4, 6))}{_say(pick, 2, 9).lower()}</div>"
            for number in range(21)
        )
        files = _many(f"<div class=f>{_say(pick, 1, 2).lower()}</div>" for _ in range(14))
        return _page(
            f"body{{background:{sheet};color:{text};display:grid;grid-template:40px 1fr 150px 26px/230px 1fr}}"
            f"header{{grid-column:1/3;background:{bar};padding:10px 14px}}aside{{grid-row:2/4;background:{side};padding:10px}}"
            f".f{{padding:6px 8px}}main{{position:relative;background:{sheet};padding:46px 0 0 12px;font:13px/1.6 monospace;overflow:hidden}}"
            f".tab{{position:absolute;top:0;left:0;right:0;height:36px;background:{tab};padding:8px 14px}}"
            f".out{{background:{side};padding:12px 16px;font:12px/1.6 monospace}}footer{{grid-column:1/3;background:{foot};padding:4px 12px;font-size:12px}}",
            f"<header data-pane>tide-model</header><aside data-pane>{files}</aside><main data-pane><div class=tab data-pane>gauge.txt</div>{lines}</main>"
            f"<div class=out data-pane>{_many(f'<div>{_say(pick, 4, 10)}</div>' for _ in range(5))}</div><footer data-pane>line 12, column 4</footer>",
        )

    return page


def _dialog(
    *, ground: str, paper: str, edge: str, radius: int, shadow: str, text: str, button: str, title: str
) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        behind = _many(f"<p>{_say(pick, 14, 26)}.</p>" for _ in range(16))
        fields = _many(f"<label>{_say(pick, 1, 2)}<span data-pane class=e></span></label>" for _ in range(4))
        return _page(
            f"body{{background:{ground};color:{text};padding:20px}}p{{margin:0 0 14px;opacity:.55}}"
            f".d{{position:absolute;left:250px;top:110px;width:600px;height:430px;background:{paper};border:{edge};border-radius:{radius}px;box-shadow:{shadow};overflow:hidden}}"
            f".t{{height:46px;background:{title};padding:12px 18px;font-weight:700}}form{{display:grid;grid-template-columns:1fr 1fr;gap:18px;padding:20px}}"
            f".e{{display:block;height:38px;border:1px solid #888;border-radius:{radius // 2}px;background:{paper};margin-top:4px}}"
            f".n{{margin:0 20px;padding:14px;height:84px;background:#fff3d6;color:#443300;border-radius:{radius // 2}px}}"
            f".b{{position:absolute;right:20px;bottom:20px;width:150px;height:40px;background:{button};color:#fff;padding:10px;text-align:center;border-radius:{radius // 2}px}}",
            f"{behind}<div class=d data-pane><div class=t data-pane>{_say(pick, 2, 4)}</div><form>{fields}</form>"
            f"<div class=n data-pane>{_say(pick, 12, 18)}.</div><div class=b data-pane>Correct the hours</div></div>",
        )

    return page


def _gallery(*, ground: str, text: str, radius: int, gap: int, side: str) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        pictures = _many(
            f"<figure>{_photo(pick, f'width:100%;height:130px;border-radius:{radius}px')}<figcaption>{_say(pick, 1, 3)}</figcaption></figure>"
            for _ in range(9)
        )
        facts = _many(f"<dt>{_say(pick, 1, 1)}</dt><dd>{_say(pick, 2, 5)}</dd>" for _ in range(7))
        return _page(
            f"body{{background:{ground};color:{text};display:grid;grid-template-columns:1fr 260px}}main{{padding:22px;display:grid;"
            f"grid-template-columns:repeat(3,1fr);gap:{gap}px;align-content:start}}figcaption{{padding:6px 0}}svg{{overflow:hidden}}"
            f"aside{{background:{side};padding:22px;height:{_SIZE[1]}px}}dt{{opacity:.7;margin-top:12px}}dd{{margin:0}}",
            f"<main>{pictures}</main><aside data-pane><h3>{_say(pick, 1, 2)}</h3><dl>{facts}</dl></aside>",
        )

    return page


def _board(
    *, ground: str, column: str, card: str, text: str, radius: int, shadow: str
) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        columns = _many(
            f"<section data-pane><h3>{_say(pick, 1, 2)}</h3>"
            + _many(f"<div class=k data-pane>{_say(pick, 4, 10)}</div>" for _ in range(pick.randint(2, 4)))
            + "</section>"
            for _ in range(4)
        )
        return _page(
            f"body{{background:{ground};color:{text};padding:20px;display:grid;grid-template-columns:repeat(4,1fr);gap:18px;align-items:start}}"
            f"section{{background:{column};border-radius:{radius}px;padding:14px;height:640px}}"
            f".k{{background:{card};border-radius:{radius}px;box-shadow:{shadow};padding:14px;margin-top:12px;height:104px}}",
            columns,
        )

    return page


def _settings(
    *, ground: str, paper: str, line: str, text: str, radius: int, side: str
) -> Callable[[random.Random], str]:
    def page(pick: random.Random) -> str:
        def group() -> str:
            entries = _many(
                f"<li data-pane><b>{_say(pick, 1, 3)}</b><br><small>{_say(pick, 4, 8)}</small></li>" for _ in range(4)
            )
            return f"<h4>{_say(pick, 1, 2)}</h4><ul data-pane>{entries}</ul>"

        return _page(
            f"body{{background:{ground};color:{text};display:grid;grid-template-columns:250px 1fr}}aside{{background:{side};padding:20px;height:{_SIZE[1]}px}}"
            f"main{{padding:20px 90px}}h4{{margin:8px 0 10px}}ul{{list-style:none;padding:0;background:{paper};border-radius:{radius}px;overflow:hidden;margin-bottom:14px}}"
            f"li{{height:66px;padding:12px 18px}}li+li{{border-top:1px solid {line}}}aside a{{display:block;padding:9px 6px}}",
            f"<aside data-pane>{_many(f'<a>{_say(pick, 1, 2)}</a>' for _ in range(9))}</aside><main>{group()}{group()}</main>",
        )

    return page


SCREENS = (
    Screen(
        "cards-light",
        1,
        apart=False,
        page=_cards(ground="#f4f6f8", card="#ffffff", text="#223", radius=10, shadow="0 1px 3px #0002", bar="#ffffff"),
    ),
    Screen(
        "mail-light",
        1.5,
        apart=False,
        page=_three(
            side="#f2f0eb",
            middle="#ffffff",
            reading="#ffffff",
            line="#e5e2da",
            chosen="#e8f0ee",
            text="#222",
            bar="#2d4f63",
        ),
    ),
    Screen(
        "table-lines",
        1,
        apart=False,
        page=_table(
            line="#dddddd", zebra="transparent", head="#f2f2f2", paper="#ffffff", text="#222", columns=False, pad=24
        ),
    ),
    Screen(
        "editor-dark",
        2,
        apart=False,
        page=_editor(bar="#2c3138", side="#23272d", sheet="#1b1e23", foot="#35516b", text="#cdd3da", tab="#262b31"),
    ),
    Screen(
        "dialog-framed",
        1,
        apart=False,
        page=_dialog(
            ground="#ececec",
            paper="#fafafa",
            edge="1px solid #777",
            radius=0,
            shadow="4px 4px 0 #0003",
            text="#222",
            button="#1f6f5c",
            title="#dde3e6",
        ),
    ),
    Screen(
        "gallery-light", 1, apart=False, page=_gallery(ground="#ffffff", text="#222", radius=0, gap=18, side="#f3f3f0")
    ),
    Screen(
        "board-blue",
        1.5,
        apart=False,
        page=_board(
            ground="#dfe8ee", column="#eff4f7", card="#ffffff", text="#1d2b33", radius=8, shadow="0 1px 2px #0003"
        ),
    ),
    Screen(
        "settings-grey",
        2,
        apart=False,
        page=_settings(ground="#f0f0f3", paper="#ffffff", line="#e3e3e8", text="#222", radius=12, side="#e6e6ea"),
    ),
    Screen(
        "table-zebra-dark",
        1,
        apart=False,
        page=_table(
            line="#333941", zebra="#23282f", head="#2d333b", paper="#1c2026", text="#d7dce2", columns=True, pad=0
        ),
    ),
    Screen(
        "cards-dark",
        2,
        apart=True,
        page=_cards(
            ground="#15181c", card="#20252b", text="#dfe3e8", radius=14, shadow="0 4px 14px #0008", bar="#20252b"
        ),
    ),
    Screen(
        "cards-warm",
        1.5,
        apart=True,
        page=_cards(
            ground="#f7f2ea",
            card="#fffdf9",
            text="#33291d",
            radius=4,
            shadow="none",
            bar="#efe6d8",
            edge="1px solid #e2d6c3",
        ),
    ),
    Screen(
        "mail-dark",
        1,
        apart=True,
        page=_three(
            side="#22272e",
            middle="#1b1f25",
            reading="#15181d",
            line="#2c323a",
            chosen="#2a3d46",
            text="#d5dae0",
            bar="#2b3139",
        ),
    ),
    Screen(
        "table-grid",
        1.5,
        apart=True,
        page=_table(
            line="#c9ced3", zebra="#f7f9fa", head="#e6ecef", paper="#ffffff", text="#20262b", columns=True, pad=30
        ),
    ),
    Screen(
        "editor-light",
        1,
        apart=True,
        page=_editor(bar="#f3f3f3", side="#f8f8f8", sheet="#ffffff", foot="#e4e9f0", text="#24292e", tab="#ececec"),
    ),
    Screen(
        "dialog-round",
        2,
        apart=True,
        page=_dialog(
            ground="#dfe6ea",
            paper="#ffffff",
            edge="0",
            radius=16,
            shadow="0 12px 40px #0006",
            text="#1f2a30",
            button="#234f8a",
            title="#ffffff",
        ),
    ),
    Screen(
        "gallery-dark",
        1.5,
        apart=True,
        page=_gallery(ground="#1a1c20", text="#d9dce0", radius=10, gap=26, side="#24272c"),
    ),
    Screen(
        "board-plain",
        1,
        apart=True,
        page=_board(
            ground="#ffffff", column="#f1f2f4", card="#ffffff", text="#172b36", radius=3, shadow="0 1px 1px #091e4240"
        ),
    ),
    Screen(
        "settings-dark",
        1,
        apart=True,
        page=_settings(ground="#17191d", paper="#22252b", line="#30343b", text="#dadee3", radius=8, side="#1d2025"),
    ),
)


def main() -> None:
    """Render all, and note the panes of each in pixels of its picture."""
    TARGET.mkdir(parents=True, exist_ok=True)
    known: dict[str, object] = {}
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        for number, screen in enumerate(SCREENS):
            context = browser.new_context(
                viewport={"width": _SIZE[0], "height": _SIZE[1]}, device_scale_factor=screen.scale
            )
            page = context.new_page()
            page.set_content(screen.page(random.Random(number)))  # noqa: S311 (made-up words, the same each time)
            page.screenshot(path=TARGET / f"{screen.name}.png")
            boxes = page.evaluate(
                """() => [...document.querySelectorAll('[data-pane]')].map((each) => {
                    const { left, top, width, height } = each.getBoundingClientRect();
                    return [left, top, width, height];
                })"""
            )
            panes = [[round(value * screen.scale) for value in box] for box in boxes]
            known[screen.name] = {"scale": screen.scale, "apart": screen.apart, "panes": panes}
            context.close()
        browser.close()
    (TARGET / "panes.json").write_text(json.dumps(known, indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
