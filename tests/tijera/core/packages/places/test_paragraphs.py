"""Long texts are walked through as far as they are asked for, and their words are read where somebody looks."""

from __future__ import annotations

import gc
import random
import unittest
import weakref
from collections.abc import Iterator

from lxml import etree

from tests.support.docx import Docx, paragraph, section
from tests.support.odt import Odt, p
from tijera.core.packages.containers.lazy_reading import Pulled
from tijera.core.packages.containers.xmlspan import Element
from tijera.core.packages.places.format import TextDocument
from tijera.core.packages.places.paragraphs import (
    MARK_EVERY,
    Manner,
    ParagraphMark,
    ParagraphReading,
    ParagraphWords,
    Passages,
    Places,
)
from tijera.core.packages.places.spots import Block, SpotExtent, SpotKind, Stand
from tijera.core.packages.registry import as_text, open_document
from tijera.core.units import Length

_ROOM = SpotExtent((Length.from_mm(80),), Length.from_mm(200), Length(0), Length(0))
_PLAIN = Manner("paragraph", 0, 0, SpotKind.BODY, _ROOM, (Stand.LINES,))
_NO_PLACE = Manner("paragraph", 0, 0, SpotKind.BODY, None, (Stand.LINES,))


class _Text:
    """A text of 100 paragraphs, the fifth without a place, with a table in the middle; counts what is read of it."""

    def __init__(self) -> None:
        self.read: list[str] = []
        root = etree.fromstring(f"<t>{''.join(f'<p>Rule {number}</p>' for number in range(1, 101))}</t>")
        root.insert(50, etree.Element("table"))
        self.outline = Places(ParagraphReading(("p",), self._words)).outline(
            "b", (), lambda marks: _walk(root, marks), ()
        )

    def _words(self, node: Element) -> ParagraphWords:
        self.read.append(node.text or "")
        return ParagraphWords(node.text or "")


def _walk(root: Element, marks: list[ParagraphMark]) -> Iterator[Manner | Block]:
    unmarked = 0
    for at, node in enumerate(root):
        if node.tag == "table":
            unmarked = 0
            yield Block(f"b.{at + 1}", "table", 0, "", 0)
            continue
        if unmarked % MARK_EVERY == 0:
            marks.append(ParagraphMark(at, at + 1, node))
        unmarked += 1
        yield _NO_PLACE if at == 4 else _PLAIN


class Looked(unittest.TestCase):
    """What nobody looks at is not read."""

    def test_places_are_counted_without_a_word(self) -> None:
        """One of them is looked at, and is the only paragraph that is read, once."""
        text = _Text()
        self.assertEqual((len(text.outline.spots), len(text.outline.body.blocks), text.read), (99, 101, []))
        self.assertEqual(text.outline.spots["b.80"].after_text, "Rule 79")
        self.assertEqual((text.outline.body.blocks[79].text, text.read), ("Rule 79", ["Rule 79"]))

    def test_looking_in_any_order_is_the_same(self) -> None:
        """Each paragraph is found again from its mark, with the element beside which its place lies."""
        numbers = [*range(1, 51), *range(52, 102)]
        random.Random(5).shuffle(numbers)
        text = _Text()
        for number in numbers:
            said = f"Rule {number if number < 51 else number - 1}"
            block = text.outline.body.blocks[number - 1]
            self.assertEqual((block.id, block.text), (f"b.{number}", said))
            if number != 5:
                spot = text.outline.spots[f"b.{number}"]
                self.assertEqual((spot.id, spot.after_text, spot.element.text), (f"b.{number}", said, said))
        self.assertEqual(len(text.read), 100)

    def test_no_place_is_made_up(self) -> None:
        """Behind the fifth and the table there is none; nor by another way to write a number."""
        text = _Text()
        for key in ("b.5", "b.51", "b.0", "b.102", "b.080", "b.-1", "b.\u0663", f"b.{'9' * 5_000}", "b.80.1", "b", ""):
            self.assertIsNone(text.outline.spots.get(key), key)
        self.assertEqual([*text.outline.spots][3:6], ["b.4", "b.6", "b.7"])

    def test_slices_are_those_of_a_list(self) -> None:
        """From the front no further than asked for."""
        whole = list(_Text().outline.body.blocks)
        for cut in (
            slice(0, 3),
            slice(-3, None),
            slice(95, 200),
            slice(10, 2, -3),
            slice(-90, 14),
            slice(None, None, 40),
        ):
            self.assertEqual(list(_Text().outline.body.blocks[cut]), whole[cut], cut)
        text = _Text()
        self.assertEqual([each.text for each in text.outline.body.blocks[2:4]], ["Rule 3", "Rule 4"])
        self.assertEqual(text.read, ["Rule 3", "Rule 4"])


def _long() -> Iterator[TextDocument]:
    texts = [f"Rule {number}" for number in range(2_000)]
    yield as_text(open_document(Docx("".join(map(paragraph, texts)) + section()).build()))
    yield as_text(open_document(Odt("".join(map(p, texts))).build()))


class Documents(unittest.TestCase):
    """A long text's first places are there before its last."""

    def test_a_place_is_found_without_reading_what_lies_far_behind_it(self) -> None:
        """The same places come up as by reading everything."""
        for first, whole in zip(_long(), _long(), strict=True):
            self.assertEqual(first.spot("b.3").after_text, "Rule 2")
            blocks = first.outline.body.blocks
            assert isinstance(blocks, Passages)
            assert isinstance(blocks.entries, Pulled)
            self.assertLess(len(blocks.entries._known), 1_000)
            self.assertEqual(len(list(whole.spots())), 2_001)
            self.assertEqual(list(first.spots()), list(whole.spots()))

    def test_one_that_is_dropped_is_gone_at_once(self) -> None:
        """However far it was read: a file of 50 MB must not wait for a collection of garbage."""
        gc.disable()
        self.addCleanup(gc.enable)
        for far in (3, 2_000):
            for document in _long():
                self.assertGreaterEqual(len(document.outline.body.blocks[:far]), 3)
                gone = weakref.ref(document.outline.body.blocks)
                del document
                self.assertIsNone(gone())

    def test_what_stands_in_custom_xml_is_found_again(self) -> None:
        """In the body and in a cell, where its paragraphs are nobody's siblings; and beside an empty list."""
        inside = f"<w:customXml>{paragraph('in one')}{paragraph('in two')}</w:customXml>"
        cell = f"<w:tbl><w:tr><w:tc>{paragraph('z')}{inside}</w:tc></w:tr></w:tbl>"
        document = open_document(Docx(paragraph("a") + inside + paragraph("b") + cell + section()).build())
        said = {spot.id: spot.after_text for spot in document.spots() if spot.after_text}
        own = {"b.1": "a", "b.2": "in one", "b.3": "in two", "b.4": "b"}
        self.assertEqual(said, own | {"b.5.r1.c1.1": "z", "b.5.r1.c1.2": "in one", "b.5.r1.c1.3": "in two"})
        document = open_document(Odt(p("a") + "<text:list/>" + "<text:numbered-paragraph/>" + p("b") + p("c")).build())
        said = {spot.id: spot.after_text for spot in document.spots()}
        self.assertEqual(said, {"b.0": "", "b.1": "a", "b.3": "", "b.4": "b", "b.5": "c"})
        self.assertEqual({id_: document.spot(id_).after_text for id_ in said}, said)


if __name__ == "__main__":
    unittest.main()
