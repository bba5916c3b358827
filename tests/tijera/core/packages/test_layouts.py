"""How pictures stand in text documents, and the words that stand with them: the same cases for both formats."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from itertools import product

from lxml import etree

from tests.support.docx import Docx, members, paragraph
from tests.support.odt import Odt
from tests.support.pictures import encoded, text_like
from tijera.core.clippings.legend import LegendLine
from tijera.core.packages.formats.docx.names import STRICT
from tijera.core.packages.places.caption_numbers import Counted, Series, series_of
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.placed import Align, Layout, LegendRun, PlacedPicture, legend_runs, room_for_words
from tijera.core.packages.places.spots import Spot, Stand
from tijera.core.packages.registry import as_text, open_document, write
from tijera.core.units import Length
from tijera.demo.handbook import make_handbook

_PNG = encoded(text_like(60, 40, seed=5))
_LEGEND = (
    LegendLine("1", "the bell"),
    LegendLine("2", "the rope"),
    LegendLine("4", "the <key>"),
    LegendLine("A", "Ada"),
)
_OUTLINE = ((0.0, 0.1), (0.9, 0.0), (1.0, 0.8), (0.2, 1.0))
_TEXTS = (Stand.LINES, Stand.WORD, Stand.TEXT_LEFT, Stand.TEXT_RIGHT, Stand.UNDER)


def _odt() -> bytes:
    rows = "<table:table-row><table:table-cell><text:p>in a cell</text:p></table:table-cell></table:table-row>"
    table = f"<table:table><table:table-column/>{rows}</table:table>"
    return Odt(f"<text:p>one</text:p><text:h text:outline-level='1'>two</text:h>{table}<text:p/>").build()


def _picture(spot: str, layout: Layout, legend: tuple[LegendLine, ...] = ()) -> PlacedPicture:
    return PlacedPicture(
        spot, _PNG, "png", Length.from_mm(40), Length.from_mm(27), "A < B", layout, legend=legend, outline=_OUTLINE
    )


_DOCUMENTS: tuple[tuple[str, Callable[[], bytes]], ...] = (("docx", make_handbook), ("odt", _odt))


class EveryWay(unittest.TestCase):
    """Every way to stand, with and without words, at every kind of place."""

    def test_all_of_them_pass_the_structural_check_and_can_be_opened_again(self) -> None:
        """All pictures arrive, and every text that was there is still there, in its order."""
        wishes = [
            Layout(
                stand=stand,
                align=align,
                caption=caption,
                caption_above=above,
                beside=beside,
                legend=legend,
                along_outline=legend,
            )
            for stand, align, (caption, above), beside, legend in product(
                _TEXTS,
                (Align.LEFT, Align.RIGHT),
                (("", False), ("Bow & stern", False), ("Bow", True)),
                ("", "said"),
                (False, True),
            )
        ]
        for name, make in _DOCUMENTS:
            document = open_document(make())
            spots = _various(document)
            pictures = [
                _picture(spots[number % len(spots)].id, wish, _LEGEND if wish.legend else ())
                for number, wish in enumerate(wishes)
            ]
            with self.subTest(name):
                again = open_document(write(document, pictures).data)
                self.assertEqual(_shown(again) - _shown(document), len(pictures))
                now = _words(again)
                at = 0
                for text in _words(document):
                    # A picture like a word stands in its paragraph and adds nothing to its text.
                    at = now.index(text, at) + 1

    def test_writing_one_after_the_other_gives_valid_files_too(self) -> None:
        """What one copy holds is ordinary content for the next."""
        for name, make in _DOCUMENTS:
            data = make()
            with self.subTest(name):
                for stand in _TEXTS:
                    document = open_document(data)
                    spot = next(each for each in document.spots() if stand in each.stands)
                    data = write(document, [_picture(spot.id, Layout(stand=stand, caption="Once more"))]).data
                self.assertEqual(_shown(open_document(data)) - _shown(open_document(make())), len(_TEXTS))

    def test_an_empty_paragraph_takes_several_like_words(self) -> None:
        """It is written as one empty tag, and something stands before and behind it as well."""
        for data in (Docx("<w:p/><w:p/>").build(), Odt("<text:p/><text:p/>").build()):
            document = open_document(data)
            stands = (Stand.LINES, Stand.WORD, Stand.WORD, Stand.LINES)
            wishes = [_picture(spot, Layout(stand=stand)) for spot in ("b.0", "b.1", "b.2") for stand in stands]
            again = as_text(open_document(write(document, wishes).data)).outline
            self.assertEqual([len(each.pictures) for each in again.body.blocks], [1, 1, 1, 1, 2, 1, 1, 2, 1, 1])

    def test_what_a_place_lacks_is_not_offered(self) -> None:
        """Nothing stands like a word before the first paragraph, or in lines of an exact height."""
        exact = '<w:p><w:pPr><w:spacing w:line="240" w:lineRule="exact"/></w:pPr><w:r><w:t>x</w:t></w:r></w:p>'
        document = open_document(Docx(paragraph("one") + exact).build())
        offered = {spot.id: Stand.WORD in spot.stands for spot in document.spots()}
        self.assertEqual(offered, {"b.0": False, "b.1": True, "b.2": False})
        styles = '<style:style style:name="E" style:family="paragraph"><style:paragraph-properties fo:line-height="5mm"/></style:style>'
        body = '<text:p>one</text:p><text:p text:style-name="E">two</text:p>'
        again = open_document(Odt(body, automatic=styles).build())
        self.assertEqual([Stand.WORD in spot.stands for spot in again.spots()], [False, True, False])


def _various(document: Document) -> list[Spot]:
    """One place of every kind there is."""
    found: dict[tuple[object, ...], Spot] = {}
    for spot in document.spots():
        found.setdefault((spot.kind, spot.follows, spot.side, len(spot.widths), spot.stands), spot)
    return list(found.values())


def _shown(document: Document) -> int:
    data = "content.xml" if "content.xml" in document.member_names else "word/document.xml"
    root = etree.fromstring(document.read(data))
    return sum(1 for node in root.iter("*") if node.tag.endswith(("}blip", "}image")))


def _words(document: Document) -> list[str]:
    data = "content.xml" if "content.xml" in document.member_names else "word/document.xml"
    root = etree.fromstring(document.read(data))
    paragraphs = (node for node in root.iter("*") if node.tag.endswith(("main}p", "text:1.0}p", "text:1.0}h")))
    own = (
        "".join(
            each.text or ""
            for each in node.iter("*")
            if each.text and each.tag.rsplit("}")[-1] in ("t", "p", "h", "span")
        )
        for node in paragraphs
    )
    return [text for text in own if text.strip()]


def _xml(data: bytes, name: str) -> str:
    return members(data)[name].decode()


class Captions(unittest.TestCase):
    """Numbers of the format's own, that go on with the document's."""

    def test_a_caption_goes_on_with_the_documents_series(self) -> None:
        """By its name and its words; tables count by themselves; a later caption counts one more when it is opened."""

        def seq(name: str, shown: str, before: str, after: str) -> str:
            return f'<w:p><w:r><w:t xml:space="preserve">{before}</w:t></w:r><w:fldSimple w:instr=" SEQ {name} \\* ARABIC "><w:r><w:t>{shown}</w:t></w:r></w:fldSimple><w:r><w:t>{after}</w:t></w:r></w:p>'

        body = (
            seq("Abbildung", "1", "Abbildung ", ". Bug")
            + seq("Tabelle", "1", "Tabelle ", ": Boote")
            + paragraph("here")
            + seq("Abbildung", "2", "Abbildung ", ". Heck")
        )
        data = Docx(body, settings="<w:rsids/>").build()
        written = write(
            open_document(data), [_picture("b.3", Layout(caption="Anker")), _picture("b.0", Layout(caption="Erstes"))]
        ).data
        main = _xml(written, "word/document.xml")
        self.assertEqual(main.count("Abbildung \\* ARABIC"), 4)
        self.assertIn("<w:t>1</w:t>", main[: main.index("Erstes")])
        placed = main[main.index("here") : main.index("Anker")]
        # One before it in the document, one of ours before that: it is the third.
        self.assertIn('w:instr=" SEQ Abbildung \\* ARABIC " w:dirty="true"', placed)
        self.assertIn("<w:t>3</w:t>", placed)
        self.assertIn(". Anker", main)
        settings = _xml(written, "word/settings.xml")
        self.assertLess(settings.index("updateFields"), settings.index("rsids"))

    def test_complex_fields_count_as_well(self) -> None:
        """With a code in several runs, a reset and a repetition (ECMA-376 Part 1 §17.16.5.56: \\r and \\c)."""

        def field(code: str) -> str:
            parts = "".join(f"<w:r><w:instrText>{part}</w:instrText></w:r>" for part in code.split("|"))
            return f'<w:p><w:r><w:t>Figure </w:t></w:r><w:r><w:fldChar w:fldCharType="begin"/></w:r>{parts}<w:r><w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t>9</w:t></w:r><w:r><w:fldChar w:fldCharType="end"/></w:r></w:p>'

        body = field(" SEQ |Figure \\r 5") + field("SEQ Figure \\c") + field("SEQ Figure") + paragraph("here")
        main = _xml(
            write(open_document(Docx(body).build()), [_picture("b.4", Layout(caption="Next"))]).data,
            "word/document.xml",
        )
        self.assertIn("<w:t>7</w:t>", main[main.index("here") :])

    def test_the_captions_style_is_found_by_its_name(self) -> None:
        """Its id is translated (trap 11); a document without one gets a plain look."""
        style = '<w:style w:type="paragraph" w:styleId="Beschriftung"><w:name w:val="caption"/></w:style>'
        for styles, wanted in ((style, '<w:pStyle w:val="Beschriftung"/>'), ("", "<w:i/>")):
            written = write(
                open_document(Docx(paragraph("x"), styles=styles).build()), [_picture("b.1", Layout(caption="c"))]
            )
            self.assertIn(wanted, _xml(written.data, "word/document.xml"))

    def test_it_is_kept_together_with_its_picture(self) -> None:
        """Whatever stands first stays with the next."""
        for above, first in ((False, "picture"), (True, "caption")):
            layout = Layout(caption="c", caption_above=above)
            main = _xml(
                write(open_document(Docx(paragraph("x")).build()), [_picture("b.1", layout)]).data, "word/document.xml"
            )
            inserted = main[main.index(">x<") :].split("</w:p>")[1:3]
            self.assertIn("keepNext", inserted[0], first)
            self.assertNotIn("keepNext", inserted[1])
            content = _xml(write(open_document(_odt()), [_picture("b.1", layout)]).data, "content.xml")
            self.assertEqual(content.count('fo:keep-with-next="always"'), 1)

    def test_a_sequence_is_declared_once(self) -> None:
        """Before the text, after tracked changes; a document's own declaration is used."""
        body = '<text:tracked-changes/><text:sequence-decls><text:sequence-decl text:display-outline-level="0" text:name="Figure"/></text:sequence-decls><text:p>x <text:sequence text:ref-name="refFigure0" text:name="Figure">1</text:sequence>: y</text:p>'
        content = _xml(
            write(open_document(Odt(body).build()), [_picture("b.1", Layout(caption="c"))]).data, "content.xml"
        )
        self.assertEqual(content.count("text:sequence-decl "), 1)
        self.assertIn('text:ref-name="refFigure1"', content)
        self.assertIn(">2</text:sequence>: c<", content)
        fresh = _xml(write(open_document(_odt()), [_picture("b.1", Layout(caption="c"))]).data, "content.xml")
        self.assertLess(fresh.index("text:sequence-decl "), fresh.index(">one<"))

    def test_the_series_of_figures_is_the_one_that_most_belong_to(self) -> None:
        """But never that of tables."""
        counted = [
            Counted(n, name, n, f"{name} ", sign)
            for n, (name, sign) in enumerate((("Table", ":"), ("Table", ":"), ("Plate", ".")))
        ]
        self.assertEqual(series_of(counted), Series("Plate", "Plate ", ". "))
        self.assertEqual(series_of(counted[:2]), Series())


class Words(unittest.TestCase):
    """Legends, text beside, and the room that they take."""

    def test_a_legend_is_a_list_that_counts_as_its_pennants_do(self) -> None:
        """A pennant that says nothing leaves a gap; letters are a list of their own."""
        runs = [
            LegendRun(False, 1, ("the bell", "the rope")),
            LegendRun(False, 4, ("the <key>",)),
            LegendRun(True, 1, ("Ada",)),
        ]
        self.assertEqual(legend_runs(_LEGEND), runs)
        for numbering in (
            "",
            '<w:abstractNum w:abstractNumId="6"/><w:num w:numId="3"><w:abstractNumId w:val="6"/></w:num>',
        ):
            document = open_document(Docx(paragraph("x"), numbering=numbering).build())
            parts = members(write(document, [_picture("b.1", Layout(legend=True), _LEGEND)]).data)
            root = etree.fromstring(parts["word/numbering.xml"])
            kinds = [child.tag.rsplit("}", 1)[-1] for child in root]
            self.assertEqual(kinds, sorted(kinds))
            made = [
                node.get(node.tag.split("}")[0] + "}val")
                for node in root.iter("*")
                if node.tag.endswith(("}start", "}numFmt"))
            ]
            self.assertEqual(made[-6:], ["1", "decimal", "4", "decimal", "1", "upperLetter"])
            blocks = as_text(
                open_document(write(document, [_picture("b.1", Layout(legend=True), _LEGEND)]).data)
            ).outline.body.blocks
            self.assertEqual([(each.kind, each.text) for each in blocks[2:]], [("list", line.text) for line in _LEGEND])
        content = _xml(
            write(open_document(_odt()), [_picture("b.1", Layout(legend=True), _LEGEND)]).data, "content.xml"
        )
        self.assertEqual([content.count(f'text:start-value="{n}"') for n in (1, 2, 4)], [2, 1, 1])

    def test_text_beside_stands_in_a_table_that_ends_nothing(self) -> None:
        """A paragraph follows it: a cell may not end with a table, nor a section."""
        layout = Layout(beside="The bell hangs at the stern.", caption="Bell")
        document = open_document(make_handbook())
        ends = next(spot for spot in document.spots() if spot.side.value == "section-end")
        blocks = as_text(open_document(write(document, [_picture(ends.id, layout)]).data)).outline
        self.assertEqual(len(blocks.spots) > len(list(document.spots())), True)
        self.assertEqual(
            len(as_text(open_document(write(document, [_picture(ends.id, layout)]).data)).outline.sections),
            len(as_text(document).outline.sections),
        )

    def test_strict_documents_say_start_and_end(self) -> None:
        """They know no left and right."""
        data = Docx(paragraph("x"), namespace=STRICT.w).build()
        layout = Layout(stand=Stand.LINES, align=Align.RIGHT, beside="b", legend=True)
        written = members(write(open_document(data), [_picture("b.1", layout, _LEGEND)]).data)
        for name in ("word/document.xml", "word/numbering.xml"):
            self.assertNotRegex(written[name].decode(), r"w:(left|right)[ =/]|w:val=\"(left|right)\"")

    def test_words_take_height(self) -> None:
        """More of them more; none nothing."""
        width = Length.from_mm(60)
        self.assertEqual(room_for_words(Layout(), _LEGEND, width).emu, 0)
        short, long = (room_for_words(Layout(caption="c" * n), (), width) for n in (5, 120))
        self.assertLess(short, long)
        self.assertGreater(room_for_words(Layout(caption="ccccc", legend=True), _LEGEND, width), short)


class Floating(unittest.TestCase):
    """Text beside, along an outline, and over a picture."""

    def test_the_picture_stands_opposite_the_text(self) -> None:
        """Text left of it: it is at the right."""
        for stand, side in ((Stand.TEXT_LEFT, "right"), (Stand.TEXT_RIGHT, "left")):
            main = _xml(
                write(open_document(Docx(paragraph("x")).build()), [_picture("b.1", Layout(stand=stand))]).data,
                "word/document.xml",
            )
            self.assertIn(f"<wp:align>{side}</wp:align>", main)
            self.assertIn("wrapSquare", main)
            framed = _xml(
                write(
                    open_document(Docx(paragraph("x")).build()), [_picture("b.1", Layout(stand=stand, caption="c"))]
                ).data,
                "word/document.xml",
            )
            self.assertEqual(framed.count(f'w:xAlign="{side}"'), 2)
            content = _xml(write(open_document(_odt()), [_picture("b.1", Layout(stand=stand))]).data, "content.xml")
            self.assertIn(f'style:horizontal-pos="{side}"', content)

    def test_text_runs_along_a_freehand_outline(self) -> None:
        """By a polygon in the formats' own units, closed."""
        layout = Layout(stand=Stand.TEXT_RIGHT, along_outline=True)
        main = _xml(
            write(open_document(Docx(paragraph("x")).build()), [_picture("b.1", layout)]).data, "word/document.xml"
        )
        self.assertIn('<wp:start x="0" y="2160"/><wp:lineTo x="19440" y="0"/><wp:lineTo x="21600" y="17280"/>', main)
        self.assertIn('<wp:lineTo x="0" y="2160"/></wp:wrapPolygon>', main)
        content = _xml(write(open_document(_odt()), [_picture("b.1", layout)]).data, "content.xml")
        self.assertIn('draw:points="0,1000 9000,0 10000,8000 2000,10000"', content)

    def test_under_the_text_it_takes_no_room(self) -> None:
        """It stands behind and wraps nothing."""
        layout = Layout(stand=Stand.UNDER, align=Align.LEFT, caption="not there")
        main = _xml(
            write(open_document(Docx(paragraph("x")).build()), [_picture("b.1", layout)]).data, "word/document.xml"
        )
        self.assertIn('behindDoc="1"', main)
        self.assertIn("<wp:wrapNone/>", main)
        self.assertNotIn("not there", main)
        content = _xml(write(open_document(_odt()), [_picture("b.1", layout)]).data, "content.xml")
        self.assertIn('style:run-through="background"', content)
