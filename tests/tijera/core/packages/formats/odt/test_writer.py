"""Placing into .odt: the right paragraph, nothing else touched, the check that watches it, and what is refused."""

import io
import unittest
import zipfile

from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from tests.support.docx import members
from tests.support.odt import TYPE, Odt, p, page, style
from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tijera.core.errors import (
    DoctypeRefused,
    NotADocument,
    PackageEncrypted,
    PackageSigned,
    PartMalformed,
    PartMissing,
    StructureBroken,
)
from tijera.core.packages.containers.elements import parent
from tijera.core.packages.containers.tree_comparison import cut_out, marked
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.formats.odt.document import OdtDocument, open_odt
from tijera.core.packages.formats.odt.save_check import check_content
from tijera.core.packages.formats.odt.writer import write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import open_document
from tijera.core.units import Length

_PNG = encoded(text_like(60, 40))
_INDEX = f"<text:table-of-content><text:index-body>{p('1 Ropes')}</text:index-body></text:table-of-content>"
_PROTECTED = f'<text:section text:protected="true">{p("kept")}</text:section>'
_LIST = f"<text:list><text:list-item>{p('one')}</text:list-item><text:list-item>{p('two')}</text:list-item></text:list>"
_COLUMN = '<table:table-column table:number-columns-repeated="2"/>'
_TABLE = (
    f"<table:table>{_COLUMN}<table:table-row><table:table-cell>{p('a')}</table:table-cell>"
    f"<table:table-cell>{p('b')}</table:table-cell></table:table-row></table:table>"
)


def _picture(spot: str, data: bytes = _PNG, description: str = "") -> PlacedPicture:
    return PlacedPicture(spot, data, "png", Length.from_mm(60), Length.from_mm(40), description)


def _texts(data: bytes) -> list[str]:
    """Paragraphs as text, placed pictures as "[picture]"."""
    root = etree.fromstring(members(data)["content.xml"])
    return [
        "[picture]" if node.find(q("draw:frame")) is not None else "".join(map(str, node.itertext()))
        for node in root.iter(q("text:p"))
    ]


def _tree(data: bytes) -> bytes:
    return etree.tostring(etree.fromstring(data), method="c14n2")


class Placing(unittest.TestCase):
    """Where the picture goes and what comes along."""

    def test_after_before_and_in_order(self) -> None:
        """Several at one spot stand in the order given; the same bytes are kept once."""
        document = open_odt(Odt(p("one") + p("two")).build())
        other = encoded(text_like(60, 40, seed=9))
        written = write(document, [_picture("b.1"), _picture("b.0"), _picture("b.1", other)])
        self.assertEqual(_texts(written.data), ["[picture]", "one", "[picture]", "[picture]", "two"])
        self.assertEqual(written.members, ("Pictures/image1.png", "Pictures/image1.png", "Pictures/image2.png"))
        self.assertEqual(members(written.data)["Pictures/image2.png"], other)

    def test_untouched_members_stay_the_same_to_the_byte(self) -> None:
        """The styles' record too; without a picture the whole file."""
        data = Odt(p("one"), extra={"Thumbnails/t.png": _PNG, "meta.xml": b"<meta/>"}).build()
        document = open_odt(data)
        self.assertEqual(write(document, []).data, data)
        after = open_odt(write(document, [_picture("b.1")]).data)
        for before in document.package.members:
            if before.name in ("content.xml", "META-INF/manifest.xml"):
                continue
            now = after.package.member(before.name)
            record = after.package.data[now.start : now.end]
            self.assertEqual(record, data[before.start : before.end], before.name)

    def test_the_media_type_stands_first_and_stored_even_where_it_did_not(self) -> None:
        """A file may lack it, or have it last and deflated; what the manifest says is written then."""
        for odt in (Odt(p("x"), mimetype=None), Odt(p("x"), mimetype_first=False)):
            data = write(open_odt(odt.build()), [_picture("b.1")]).data
            with zipfile.ZipFile(io.BytesIO(data)) as package:
                first = package.infolist()[0]
                names = package.namelist()
            self.assertEqual(
                (first.filename, first.compress_type, first.extra, first.header_offset), ("mimetype", 0, b"", 0)
            )
            self.assertEqual((data[38 : 38 + len(TYPE)], len(names)), (TYPE.encode(), len(set(names))))

    def test_the_manifest_lists_what_is_new_and_keeps_what_it_had(self) -> None:
        """Also an entry that names a member that is not there."""
        gone = '<manifest:file-entry manifest:full-path="Pictures/image1.png" manifest:media-type="image/png"/>'
        written = write(open_odt(Odt(p("x"), entries=gone).build()), [_picture("b.1"), _picture("b.1", _PNG + b"x")])
        entries = etree.fromstring(members(written.data)["META-INF/manifest.xml"])
        paths = [node.get(q("manifest:full-path")) for node in entries]
        self.assertEqual(paths, ["/", "content.xml", "styles.xml", "Pictures/image1.png", "Pictures/image2.png"])

    def test_styles_are_made_where_there_is_no_place_for_them_and_named_anew(self) -> None:
        """Their names are free; a paragraph stands in its indents, centred, with line spacing of its own."""
        indent = style(
            "Placed1", "paragraph", '<style:paragraph-properties fo:margin-left="10mm" fo:line-height="3mm"/>'
        )
        document = open_odt(Odt(p("x", "Placed1"), automatic=None, common=indent).build())
        root = etree.fromstring(members(write(document, [_picture("b.1")]).data)["content.xml"])
        holder = root.find(q("office:automatic-styles"))
        assert holder is not None
        self.assertEqual([node.get(q("style:name")) for node in holder], ["Placed2", "Placed3"])
        properties = holder[1][0]
        self.assertEqual((properties.get(q("fo:margin-left")), properties.get(q("fo:line-height"))), ("10mm", "100%"))
        self.assertLess(list(root).index(holder), [each.tag for each in root].index(q("office:body")))

    def test_sizes_and_words(self) -> None:
        """In millimetres, never wider than the place; the alternative text with signs that XML keeps for itself."""
        picture = PlacedPicture("b.1", _PNG, "png", Length(2_969_953), Length(1_000_001), 'Berth <Q4> & "Q5"\x07')
        root = etree.fromstring(members(write(open_odt(Odt(p("x")).build()), [picture]).data)["content.xml"])
        frame = next(root.iter(q("draw:frame")))
        self.assertEqual((frame.get(q("svg:width")), frame.get(q("svg:height"))), ("82.4986mm", "27.7778mm"))
        self.assertEqual(frame.findtext(q("svg:desc")), 'Berth <Q4> & "Q5"')
        self.assertEqual(frame.get(q("text:anchor-type")), "as-char")

    def test_what_is_placed_is_taken_back_by_cutting_it_out(self) -> None:
        """Two in either order give the same text."""
        document = open_odt(Odt(p("one") + _TABLE + p("two")).build())
        one, other = _picture("b.1"), _picture("b.2.r1.c2.1", encoded(text_like(30, 20)))
        texts = {tuple(_texts(write(document, list(order)).data)) for order in ((one, other), (other, one))}
        self.assertEqual(texts, {("one", "[picture]", "a", "b", "[picture]", "two")})


class Spots(unittest.TestCase):
    """Where something may stand and where nothing may."""

    def test_no_spot_in_an_index_a_protected_section_a_list_or_a_repeated_row(self) -> None:
        """What is behind them is offered."""
        repeated = _TABLE.replace("<table:table-row>", '<table:table-row table:number-rows-repeated="3">')
        document = open_odt(Odt(_INDEX + _PROTECTED + _LIST + repeated).build())
        self.assertEqual(list(document.outline.spots), ["b.0", "b.1", "b.2", "b.3", "b.4"])
        kinds = [(block.kind, block.text) for block in document.outline.body.blocks]
        self.assertEqual(kinds, [("other", ""), ("control", ""), ("list", "one"), ("list", "two"), ("table", "")])

    def test_no_spot_before_a_paragraph_that_begins_a_page(self) -> None:
        """The picture would stand on a page of its own."""
        begins = style("P1", "paragraph", "", 'style:master-page-name="Standard"')
        self.assertEqual(list(open_odt(Odt(p("x", "P1"), automatic=begins).build()).outline.spots), ["b.1"])

    def test_text_is_read_without_notes_comments_and_frames(self) -> None:
        """Spaces, tabs and line breaks count; a picture that lies elsewhere is never shown."""
        note = f"<text:note><text:note-body>{p('low')}</text:note-body></text:note>"
        frame = '<draw:frame svg:width="1cm" svg:height="1cm"><draw:image xlink:href="http://q.invalid/x.png"/></draw:frame>'
        text = f'Berth<text:s text:c="2"/>Q4{note}<text:tab/>1.4 m<text:line-break/><text:span>deep</text:span>{frame}'
        block = open_odt(Odt(p(text)).build()).outline.body.blocks[0]
        self.assertEqual((block.text, block.pictures), ("Berth  Q4\t1.4 m\ndeep", ()))


class Refusals(unittest.TestCase):
    """What is not taken, and why."""

    def test_each_has_its_reason(self) -> None:
        """By the content, whatever the file is called."""
        sheet = b"application/vnd.oasis.opendocument.spreadsheet"
        secret = (
            '<manifest:file-entry manifest:full-path="content.xml"><manifest:encryption-data/></manifest:file-entry>'
        )
        entity = '<!DOCTYPE x [<!ENTITY e "boo">]>'
        cases = {
            NotADocument: Odt(p("x"), mimetype=sheet),
            PackageEncrypted: Odt(p("x"), entries=secret),
            PackageSigned: Odt(p("x"), extra={"META-INF/documentsignatures.xml": b"<s/>"}),
            DoctypeRefused: Odt(p("x"), prolog=entity),
            PartMalformed: Odt("<text:p>never closed"),
            PartMissing: Odt(p("x"), mimetype=TYPE.encode(), extra={}),
        }
        for error, odt in cases.items():
            data = odt.build()
            if error is PartMissing:
                data = _without(data, "META-INF/manifest.xml")
            with self.subTest(error.__name__), self.assertRaises(error):
                open_document(data)
        late = Odt(p("x"), extra={"Object 1/content.xml": entity.encode() + b"<x/>"})
        with self.assertRaises(DoctypeRefused):
            open_document(late.build())

    def test_the_check_finds_what_does_not_belong(self) -> None:
        """A paragraph in a row, a picture that is not there, a changed word, a frame that came twice."""
        document = open_odt(Odt(p("one") + _TABLE).build())
        good = members(write(document, [_picture("b.1")]).data)["content.xml"].decode()
        for tag in ("<text:p xmlns:", "<style:style xmlns:"):
            name = tag.split()[0]
            good = good.replace(tag, f"{marked(name)} xmlns:")
        names = ["Pictures/image1.png"], {"Pictures/image1.png"}
        check_content(document, good.encode(), *names)
        placed = good[good.index(marked("<text:p")) : good.index("<table:table>")]
        in_row = good.replace(placed, "").replace("<table:table-row>", "<table:table-row>" + placed)
        for bad in (
            in_row,
            good.replace("image1.png", "image7.png"),
            good.replace(">one<", ">two<"),
            good.replace(placed, placed * 2),
        ):
            with self.assertRaises(StructureBroken):
                check_content(document, bad.encode(), *names)


def _without(data: bytes, name: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as source, zipfile.ZipFile(out, "w") as package:
        for info in source.infolist():
            if info.filename != name:
                package.writestr(info, source.read(info))
    return out.getvalue()


_BLOCK = st.recursive(
    st.sampled_from(
        [p("Ropes"), p(""), p("the watch &amp; the mate"), _LIST, _INDEX, '<text:h text:outline-level="2">Fog</text:h>']
    ),
    lambda inner: st.one_of(
        st.lists(inner, min_size=1, max_size=3).map(lambda inside: f"<text:section>{''.join(inside)}</text:section>"),
        st.lists(inner, min_size=1, max_size=2).map(
            lambda inside: (
                f"<table:table>{_COLUMN}<table:table-row><table:table-cell>{''.join(inside)}</table:table-cell>"
                "<table:covered-table-cell/></table:table-row></table:table>"
            )
        ),
    ),
    max_leaves=8,
)


class AnyDocument(unittest.TestCase):
    """Whatever its shape."""

    @settings(max_examples=rounds(60))
    @given(st.lists(_BLOCK, min_size=1, max_size=6).map("".join), st.data())
    def test_any_spots_take_pictures_and_the_rest_stays(self, body: str, data: st.DataObject) -> None:
        """Without what was put in, the content is the original's, canonically; ids are the same for the same bytes."""
        built = Odt(body, pages=[page()]).build()
        document: OdtDocument = open_odt(built)
        spots = list(document.outline.spots)
        self.assertEqual(spots, list(open_odt(built).outline.spots))
        if not spots:
            return
        chosen = data.draw(st.lists(st.sampled_from(spots), min_size=1, max_size=4))
        after = etree.fromstring(members(write(document, [_picture(spot) for spot in chosen]).data)["content.xml"])
        frames = list(after.iter(q("draw:frame")))
        self.assertEqual(len(frames), len(chosen))
        for frame in frames:
            cut_out(parent(frame))
        holder = after.find(q("office:automatic-styles"))
        assert holder is not None
        del holder[:]
        holder.text = None
        before = etree.fromstring(members(built)["content.xml"])
        self.assertEqual(_tree(etree.tostring(after)), _tree(etree.tostring(before)))
