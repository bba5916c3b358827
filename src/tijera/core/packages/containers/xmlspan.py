"""XML parts that are changed by splicing, so that the rest of the part stays the same to the byte.

A part is parsed with lxml to understand it and scanned with a tokeniser to know where each element stands. The two
are joined by document order: the n-th start tag of the scan is the n-th element of the tree. Only start tags are
looked for where nothing else can look like one; each element's end is found from its last descendant on. (On large
parts that is ten times as fast as reading every tag, which is three times as fast as expat by callbacks.)
"""

from __future__ import annotations

import codecs
import contextlib
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from itertools import count
from typing import NamedTuple, TypeAlias
from xml.sax.saxutils import quoteattr

from lxml import etree

from tijera.core.errors import DoctypeRefused, PartMalformed

Element: TypeAlias = etree._Element
"""An element as lxml reads it (its class has no public name)."""

_TOKEN = re.compile(
    r"<!--.*?-->|<!\[CDATA\[.*?\]\]>|<\?.*?\?>|</?(?P<name>[^\s/>!?]++)(?:[^>\"']++|\"[^\"]*+\"|'[^']*+')*+>",
    re.DOTALL,
)
_START = re.compile(r"<[^/]")
_DESCENDANTS, _BEFORE = etree.XPath("count(descendant::*)"), etree.XPath("count(preceding::*) + count(ancestor::*)")
_FEW = 32
_WHOLE = re.compile(r"-?[0-9]{1,15}")
_PERCENT = re.compile(r"-?[0-9]{1,9}(?:\.[0-9]{1,9})?%")
_DECLARED = re.compile(rb"""<\?xml[^>]*?encoding=["']([A-Za-z0-9._-]+)["']""")
_BOMS = ((codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16-le"), (codecs.BOM_UTF16_BE, "utf-16-be"))


class Span(NamedTuple):
    """Where an element stands in its part's text, in characters."""

    start: int
    open_end: int
    close_start: int
    end: int

    @property
    def is_empty_tag(self) -> bool:
        """Whether it is written as one empty tag, `<name/>`."""
        return self.open_end == self.end


_PENDING = Span(0, 0, 0, 0)
"""Stands for an element whose end has not been met yet."""


@dataclass(frozen=True)
class Splice:
    """Replace the characters from `start` to `end` by `text`."""

    start: int
    end: int
    text: str


def parse_safely(name: str, data: bytes) -> Element:
    """Parse a part without entities, network or DTD. Raises `PartMalformed` or `DoctypeRefused`."""
    parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
    try:
        root = etree.fromstring(data, parser)
    except etree.XMLSyntaxError as error:
        raise PartMalformed(part=name, why=error.msg or "it can't be parsed") from error
    # Searching the bytes for a declaration would miss UTF-16 and late ones.
    if root.getroottree().docinfo.internalDTD is not None:
        raise DoctypeRefused(part=name)
    return root


@dataclass(frozen=True)
class XmlPart:
    """A part as bytes, as text and as a tree."""

    name: str
    data: bytes
    _asked: Iterator[int] = field(default_factory=count, repr=False, compare=False)

    @cached_property
    def root(self) -> Element:
        """The root element. Raises `PartMalformed` or `DoctypeRefused`."""
        return parse_safely(self.name, self.data)

    @cached_property
    def _decoded(self) -> tuple[bytes, str, str]:
        for bom, encoding in _BOMS:
            if self.data.startswith(bom):
                return bom, encoding, self._decode(self.data[len(bom) :], encoding)
        declared = _DECLARED.match(self.data[:200])
        encoding = declared[1].decode("ascii") if declared else "utf-8"
        return b"", encoding, self._decode(self.data, encoding)

    def _decode(self, data: bytes, encoding: str) -> str:
        try:
            text = data.decode(encoding)
        except (UnicodeDecodeError, LookupError) as error:
            raise PartMalformed(part=self.name, why="its text can't be decoded") from error
        if text.encode(encoding) != data:
            raise PartMalformed(part=self.name, why="its encoding is ambiguous")
        return text

    @property
    def text(self) -> str:
        """The part as text, without a byte order mark."""
        return self._decoded[2]

    @cached_property
    def elements(self) -> list[Element]:
        """All elements in document order."""
        return list(self.root.iter("*"))

    @cached_property
    def order(self) -> dict[Element, int]:
        """Each element's place in document order."""
        return {element: index for index, element in enumerate(self.elements)}

    @cached_property
    def spans(self) -> list[Span]:
        """Where each element stands, in document order."""
        spans: list[Span] = []
        open_tags: list[tuple[int, int, int]] = []
        text = self.text
        for token in _TOKEN.finditer(text):
            if token.lastgroup is None:
                continue
            start, end = token.span()
            if text[start + 1] == "/":
                index, opened, open_end = open_tags.pop()
                spans[index] = Span(opened, open_end, start, end)
            elif text[end - 2] == "/":
                spans.append(Span(start, end, end, end))
            else:
                open_tags.append((len(spans), start, end))
                spans.append(_PENDING)
        if len(spans) != len(self.elements):
            raise PartMalformed(part=self.name, why="its tags could not be located")
        return spans

    @cached_property
    def _starts(self) -> list[int] | None:
        """Where each element begins, in document order; None where other things look like start tags, too."""
        text = self.text
        prolog = text.find("?>") + 2 if text.startswith("<?xml") else 0
        if "<!" in text or text.find("<?", prolog) >= 0:
            return None
        starts = [match.start() for match in _START.finditer(text, prolog)]
        if len(starts) != 1 + _count(_DESCENDANTS, self.root):
            raise PartMalformed(part=self.name, why="its tags could not be located")
        return starts

    def place(self, element: Element) -> int:
        """An element's place in document order: counted for the first few, then all are numbered at once."""
        if "order" not in self.__dict__ and next(self._asked) < _FEW:
            return _count(_BEFORE, element)
        return self.order[element]

    def span(self, element: Element) -> Span:
        """Where an element of this part's tree stands."""
        index, starts = self.place(element), self._starts
        if starts is None:
            return self.spans[index]
        node, to_close = element, 1
        while len(node):
            node, to_close = node[-1], to_close + 1
        start, text = starts[index], self.text
        opening = _TOKEN.match(text, start)
        if opening is None:
            raise PartMalformed(part=self.name, why="its tags could not be located")
        # Behind the last descendant's start tag only end tags follow until this element has its own.
        for token in _TOKEN.finditer(text, starts[index + _count(_DESCENDANTS, element)]):
            close_start, end = token.span()
            if text[end - 2] == "/" or text[close_start + 1] == "/":
                to_close -= 1
            if to_close == 0:
                return (
                    Span(start, opening.end(), close_start, end) if close_start > start else Span(start, end, end, end)
                )
        raise PartMalformed(part=self.name, why="its tags could not be located")

    def spliced(self, splices: Iterable[Splice]) -> bytes:
        """The part with some ranges replaced; ranges must not overlap, equal positions keep their order.

        What is put in where a range begins stands before what the range becomes.
        """
        bom, encoding, text = self._decoded
        out, at = [], 0
        for splice in sorted(splices, key=lambda splice: (splice.start, splice.end)):
            if splice.start < at:
                msg = "splices overlap"
                raise ValueError(msg)
            out += [text[at : splice.start], splice.text]
            at = splice.end
        out.append(text[at:])
        # What an older encoding has no letter for becomes a character reference.
        return bom + "".join(out).encode(encoding, "xmlcharrefreplace")

    def without(self, start: int, length: int) -> XmlPart:
        """The part with a stretch of its text left out."""
        bom, encoding, text = self._decoded
        return XmlPart(self.name, bom + (text[:start] + text[start + length :]).encode(encoding))

    def append_to_root(self, xml: str) -> Splice:
        """A splice that makes `xml` the last thing inside the root, even where the root is one empty tag."""
        return self.append_to(self.root, xml)

    def append_to(self, element: Element, xml: str) -> Splice:
        """A splice that makes `xml` the last thing inside an element, even where it is one empty tag."""
        span = self.span(element)
        if not span.is_empty_tag:
            return Splice(span.close_start, span.close_start, xml)
        tag = self.text[span.start : span.end]
        match = _TOKEN.match(tag)
        qualified = match["name"] if match else ""
        return Splice(span.start, span.end, f"{tag[:-2]}>{xml}</{qualified}>")


def _count(counting: etree.XPath, element: Element) -> int:
    return int(float(str(counting(element))))


def opened_once(splices: Iterable[Splice]) -> list[Splice]:
    """Splices of which several open the same empty tag, as one: it can be opened only once."""
    out: list[Splice] = []
    for splice in sorted(splices, key=lambda splice: (splice.start, splice.end)):
        last = out[-1] if out else None
        if last is not None and splice.end > splice.start and (last.start, last.end) == (splice.start, splice.end):
            head, tail = _TOKEN.match(splice.text), splice.text[splice.text.rindex("</") :]
            inside = splice.text[head.end() if head else 0 :]
            out[-1] = Splice(last.start, last.end, last.text[: -len(tail)] + inside)
        else:
            out.append(splice)
    return out


@dataclass(frozen=True)
class HollowPart:
    """A large part seen without what one of its elements holds, so that only what stands round that is scanned.

    `part` is that shorter part; its first `cut` characters are the same, `length` characters were left out there.
    """

    whole: XmlPart
    part: XmlPart
    cut: int
    length: int

    @property
    def inside(self) -> str:
        """What was left out."""
        return self.whole.text[self.cut : self.cut + self.length]

    def spliced(self, splices: Iterable[Splice]) -> bytes:
        """The whole part with some ranges of the shorter one replaced."""
        by = self.length
        return self.whole.spliced(
            Splice(each.start + by, each.end + by, each.text) if each.start >= self.cut else each for each in splices
        )


def hollowed(whole: XmlPart, local: str, child_tags: Iterable[str]) -> HollowPart:
    """A part without what its only element of this local name holds; whole where that can't be told for sure.

    `child_tags` are those of the root, to see that nothing else was left out.
    """
    text = whole.text
    tag = rf"(?:[\w.-]+:)?{local}"
    opening = re.search(rf"<{tag}(?:\s[^>]*)?(?<!/)>", text)
    closing = text.rfind("</", 0, text.rfind(f"{local}>") + 1 if opening else 0)
    if opening is not None and closing >= opening.end():
        short = whole.without(opening.end(), closing - opening.end())
        with contextlib.suppress(PartMalformed):
            if [child.tag for child in short.root] == list(child_tags):
                return HollowPart(whole, short, opening.end(), closing - opening.end())
    return HollowPart(whole, whole, len(text), 0)


def whole_number(text: str | None, default: int, least: int = 0, most: int = 10**9) -> int:
    """Read an attribute as a whole number; the default where it is absent, unreadable or beyond reason."""
    if text is None or not _WHOLE.fullmatch(text):
        return default
    value = int(text)
    return value if least <= value <= most else default


def percentage(text: str) -> Fraction | None:
    """Read "33.3%" as a share of one; None for anything else."""
    return Fraction(text[:-1]) / 100 if _PERCENT.fullmatch(text) else None


def attributes(**values: str | int) -> str:
    """Write attributes, escaped, each with a leading space, in the order given."""
    return "".join(f" {name}={quoteattr(printable(str(value)))}" for name, value in values.items())


def printable(text: str) -> str:
    """Text that may stand in XML: leave out the characters that XML 1.0 does not allow (§2.2)."""
    return "".join(
        c for c in text if c in "\t\n\r" or " " <= c <= "\ud7ff" or "\ue000" <= c <= "\ufffd" or c > "\uffff"
    )
