"""The blocks of an HTML body and the places between them, found in its text (HTML Living Standard, flow content).

A picture may go where a paragraph may stand: directly in the body, in a division, in a cell; never between the rows of
a table or the items of a list, nor inside a paragraph.
"""

from __future__ import annotations

import html
import re
from collections import Counter
from dataclasses import dataclass, field

from tijera.core.errors import MessageMalformed

_TOKEN = re.compile(
    r"<!--.*?(?:-->|$)|<(?P<raw>script|style|title|textarea)\b.*?(?:</(?P=raw)\s*>|$)|<![^>]*>|<\?[^>]*>"
    r"|</?(?P<name>[a-zA-Z][^\s/>]*)(?:[^>\"']|\"[^\"]*\"|'[^']*')*>",
    re.DOTALL | re.IGNORECASE,
)
_FLOW = {"html", "body", "div", "td", "th", "blockquote", "center", "section", "article", "main", "figure"}
_TABLE = {"table", "tbody", "thead", "tfoot", "tr"}
_IN_FLOW = _FLOW | _TABLE
_BLOCKS = {"p", "h1", "h2", "h3", "h4", "h5", "h6", "ul", "ol", "dl", "table", "pre", "hr", "form", "address"} | _FLOW
_VOID = {"br", "hr", "img", "input", "meta", "link", "area", "base", "col", "embed", "source", "track", "wbr"}
_HEADINGS = {f"h{level}": level for level in range(1, 7)}
_ATTRIBUTE = re.compile(r"""([a-zA-Z-]+)\s*=\s*(?:"([^"]*)"|'([^']*)'|([^\s>]+))""")
_MOST = 3_000
_MOST_DEPTH = 5_000
"""Browsers stop at some hundreds; end tags that may be left out count as open here."""


@dataclass(frozen=True)
class BodyImage:
    """An `img` of the body: its source, and its size in pixels where it is given."""

    source: str
    width: int | None
    height: int | None
    description: str


@dataclass
class HtmlBlock:
    """A stretch of text that stands by itself, and the pictures in it."""

    kind: str
    level: int
    text: str = ""
    pictures: list[BodyImage] = field(default_factory=list)
    ends_at: int | None = None
    """Where something can be put behind it, in characters; None where nothing can."""


@dataclass
class _Reader:
    text: str
    blocks: list[HtmlBlock] = field(default_factory=list)
    open: list[str] = field(default_factory=list)
    counts: Counter[str] = field(default_factory=Counter)
    """How often each name is open, so that nothing need be looked for in a deep stack."""
    outside_flow: int = 0
    """How many open elements are neither flow nor of a table."""
    starts_at: int = 0
    now: HtmlBlock | None = None
    body_end: int | None = None

    @property
    def in_flow(self) -> bool:
        """Whether a paragraph may stand here: in a cell, but not between rows."""
        return self.outside_flow == 0 and (not self.open or self.open[-1] in _FLOW)

    def push(self, name: str) -> None:
        """Open an element. Raises `MessageMalformed` where nothing sensible is nested so deep."""
        if len(self.open) >= _MOST_DEPTH:
            raise MessageMalformed(why=f"elements of its HTML are nested more than {_MOST_DEPTH} deep")
        self.open.append(name)
        self.counts[name] += 1
        self.outside_flow += name not in _IN_FLOW

    def pop(self) -> str:
        """Close the innermost element."""
        name = self.open.pop()
        self.counts[name] -= 1
        self.outside_flow -= name not in _IN_FLOW
        return name

    def pop_through(self, name: str) -> None:
        """Close elements up to the innermost of a name, with it."""
        while self.open and self.pop() != name:
            pass

    def read(self) -> None:
        at = 0
        for token in _TOKEN.finditer(self.text):
            self.words(self.text[at : token.start()])
            at = token.end()
            name = (token["name"] or "").lower()
            if not name:
                continue
            if token[0].startswith("</"):
                self.close(name, token.start(), token.end())
            else:
                self.begin(name, token[0], token.start(), token.end())
            if len(self.blocks) > _MOST:
                break
        else:
            self.words(self.text[at:])
        self.finish(len(self.text) if self.body_end is None else self.body_end)

    def words(self, raw: str) -> None:
        text = html.unescape(raw)
        if text.strip() or (self.now is not None and text):
            self.block().text += re.sub(r"\s+", " ", text)

    def block(self) -> HtmlBlock:
        """The block that is being read; one is begun where none is."""
        if self.now is None:
            inner = next((name for name in reversed(self.open) if name in _BLOCKS or name == "li"), "p")
            kind = "heading" if inner in _HEADINGS else ("list" if inner in ("li", "ul", "ol") else "paragraph")
            self.now = HtmlBlock(kind, _HEADINGS.get(inner, 0))
            self.blocks.append(self.now)
        return self.now

    def finish(self, at: int | None) -> None:
        """End the block that is being read; `at` is where something can follow it."""
        if self.now is not None:
            self.now.ends_at = at
            self.now = None

    def begin(self, name: str, tag: str, start: int, end: int) -> None:
        if name == "body":
            self.starts_at = end
            self.blocks.clear()
            self.now = None
        if name in _BLOCKS or name in ("li", "tr"):
            if self.counts["p"] and (name != "p" or self.open[-1] == "p"):
                # A paragraph ends by itself where another block begins.
                while self.counts["p"]:
                    self.pop()
            self.finish(start if self.in_flow else None)
        if name == "img":
            self.block().pictures.append(_picture(tag))
        elif name == "br":
            if self.in_flow:
                self.finish(end)
            elif self.now is not None:
                self.now.text += "\n"
        if name not in _VOID and not tag.endswith("/>"):
            self.push(name)

    def close(self, name: str, start: int, end: int) -> None:
        if name == "body" or (name == "html" and self.body_end is None):
            self.body_end = start
        if not self.counts[name]:
            return
        before_flow = self.in_flow
        self.pop_through(name)
        if name in _BLOCKS:
            last = self.blocks[-1] if self.blocks else None
            self.finish(start if before_flow and name in _FLOW else (end if self.in_flow else None))
            if self.in_flow and name not in ("body", "html") and last is not None and last.ends_at is None:
                # What ended inside a table or list gets its place behind the whole of it.
                last.ends_at = end
            elif name == "table" and self.in_flow and last is not None:
                self.blocks.append(HtmlBlock("table", 0, ends_at=end))


def _picture(tag: str) -> BodyImage:
    given = {name.lower(): html.unescape(a or b or c) for name, a, b, c in _ATTRIBUTE.findall(tag)}

    def number(name: str) -> int | None:
        text = given.get(name, "").strip().removesuffix("px")
        return int(text) if text.isdigit() and 0 < int(text) < 20_000 else None

    return BodyImage(given.get("src", ""), number("width"), number("height"), given.get("alt", ""))


def read_blocks(text: str) -> tuple[int, list[HtmlBlock]]:
    """Where the body begins, in characters, and its blocks in order."""
    reader = _Reader(text)
    reader.read()
    for block in reader.blocks:
        block.text = block.text.strip()
    return reader.starts_at, [block for block in reader.blocks if block.text or block.pictures or block.ends_at]
