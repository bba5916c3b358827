"""The pages of a link, each whole in itself: no script, nothing from elsewhere, one typeface carried along."""

from __future__ import annotations

import base64
import hashlib
from functools import cache
from html import escape
from pathlib import Path

from tijera.core.marks.scripts import FONTS
from tijera.core.units import format_bytes
from tijera.records import LinkRecord

_FACE = "@font-face{font-family:Words;src:url(data:font/ttf;base64,%s)}"
_STYLE = """
*{box-sizing:border-box}
body{margin:0;min-height:100vh;background:#fbf8f1;color:#20282a;font:16px/1.5 Words,sans-serif}
main{max-width:100%;margin:0 auto;padding:32px 24px 48px;width:fit-content;min-width:min(100%,26rem)}
main.words{max-width:32rem}
h1{margin:0 0 4px;font-size:1.4rem;font-weight:400;line-height:1.3;overflow-wrap:anywhere}
p{margin:0 0 20px;color:#5c6664}
img{display:block;max-width:100%;height:auto;background:#fff;border:1px solid #857f6e}
a{color:#246b60;text-underline-offset:3px}
a.whole{display:block}
form{display:flex;flex-wrap:wrap;gap:12px;align-items:end}
label{display:grid;gap:4px;flex:1 1 14rem}
input,button{font:inherit;padding:10px 12px;border-radius:3px;min-height:44px}
input{border:1px solid #857f6e;background:#fff;color:inherit;width:100%}
button{border:1px solid #20282a;background:#20282a;color:#fbf8f1;cursor:pointer}
:focus-visible{outline:3px solid #20282a;outline-offset:3px}
.wrong{color:#b5351f;flex-basis:100%;margin:0}
"""


@cache
def _style(*, face: bool) -> str:
    return (_face() if face else "") + _STYLE


def style_policy() -> str:
    """Which styles a page may have, in the words of a Content-Security-Policy: these and no others."""
    return " ".join(f"'sha256-{_hash(_style(face=face))}'" for face in (False, True))


def _hash(text: str) -> str:
    return base64.b64encode(hashlib.sha256(text.encode()).digest()).decode("ascii")


def _face() -> str:
    return _FACE % base64.b64encode((Path(FONTS) / "hyperlegible-next-400.ttf").read_bytes()).decode("ascii")


def _page(title: str, body: str, kind: str = "words", *, face: bool = True) -> bytes:
    return (
        "<!doctype html><html lang=en><meta charset=utf-8><meta name=viewport content='width=device-width'>"
        f"<meta name=robots content='noindex, nofollow'><title>{escape(title)}</title>"
        f"<style>{_style(face=face)}</style><main class={kind}>{body}</main></html>"
    ).encode()


def picture_page(link: LinkRecord, picture: str) -> bytes:
    """The picture alone: with its name, its size, and the way to have it as a file. `picture` is its address."""
    name, file, address = (escape(each) for each in (link.name, link.file, picture))
    body = (
        f"<h1>{name}</h1><p>{link.width} × {link.height} px, {format_bytes(link.bytes)} · "
        f'<a href="{address}" download="{file}">Save the picture</a></p>'
        f'<a class=whole href="{address}" title="Show it alone, pixel for pixel">'
        f'<img src="{address}" width={link.width} height={link.height} alt="{name}"></a>'
    )
    return _page(link.name, body, "picture")


def asking_page(link: LinkRecord, action: str, wrong: str = "") -> bytes:
    """Before a picture that asks for its password, or whose views are counted."""
    asks = (
        "<label>Password<input type=password name=password required autofocus autocomplete=off></label>"
        if link.password
        else ""
    )
    said = f"<p class=wrong role=alert>{escape(wrong)}</p>" if wrong else ""
    body = (
        f'<h1>A picture was handed to you</h1><p>{_once(link)}</p><form method=post action="{escape(action)}">{said}'
        f"{asks}<button>Show the picture</button></form>"
    )
    return _page("A picture was handed to you", body)


def _once(link: LinkRecord) -> str:
    if link.most_views is None:
        return "Who gave you the address has also given you a password."
    left = link.most_views - link.views
    times = "once more" if left == 1 else f"{left} more times"
    return f"It can be shown {times}; each time counts, so save it if you need it."


def nothing_page() -> bytes:
    """For every address that is none; small, so that guesses cost little."""
    words = "The address may be cut short: copy all of it from where you got it."
    return _page("There is nothing here", f"<h1>There is nothing here</h1><p>{words}</p>", face=False)


def words_page(title: str, words: str) -> bytes:
    """What is said instead of a picture."""
    return _page(title, f"<h1>{escape(title)}</h1><p>{escape(words)}</p>")
