"""Real files that others wrote: opened, placed into in every way, written, and read back by independent readers.

Readers: pandoc for .docx and .odt, openpyxl for .xlsx, odfpy for .ods, the standard library's parser for .eml. A file
that was not fetched (`make corpus`) is reported as skipped.
"""

from __future__ import annotations

import email
import email.policy
import io
import re
import unittest
import warnings
from collections import Counter
from collections.abc import Callable

import openpyxl
import pypandoc
from odf.draw import Frame
from odf.opendocument import load
from odf.text import P

from tests.corpus.corpus import declared, stored
from tests.support.docx import members
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, text_like
from tijera.core.errors import SpotUnknown
from tijera.core.packages.places.format import Document, View
from tijera.core.packages.places.placed import Layout, PlacedPicture
from tijera.core.packages.places.spots import Spot
from tijera.core.packages.registry import format_of, open_document, report_pictures, write
from tijera.core.units import Length

_PNG = encoded(text_like(60, 40, seed=8))
_MAY_CHANGE = {
    "odt": {"content.xml", "META-INF/manifest.xml", "mimetype"},
    "ods": {"content.xml", "META-INF/manifest.xml", "mimetype"},
    "docx": {
        "[Content_Types].xml",
        "word/document.xml",
        "word/_rels/document.xml.rels",
        "word/settings.xml",
        "word/numbering.xml",
    },
}
_CELLS = ("A1", "B3", "C5:E9", "H40")


class Corpus(unittest.TestCase):
    """One test for each file; they are made below."""

    maxDiff = 2_000

    def check(self, path: str, sha256: str) -> None:
        """Open, outline, place in every kind of place and every way, write, and compare."""
        file = stored(sha256, path)
        if not file.exists():
            self.skipTest("not fetched: `make corpus` fetches it")
        data = file.read_bytes()
        document = open_document(data, file.name)
        report_pictures(document)
        pictures = _wishes(document)
        self.assertTrue(pictures)
        written = write(document, pictures).data
        again = open_document(written, file.name)
        self.assertGreaterEqual(sum(each.times_used for each in report_pictures(again)), 1)
        kind = format_of(document).extension
        if kind != "eml":
            self._members(kind, data, written)
        _READERS[kind](self, data, written, len(pictures))
        self.assertEqual(write(document, []).data, data)

    def _members(self, kind: str, data: bytes, written: bytes) -> None:
        """Every member that nothing was put into is the same to the byte, and none is gone; no rule of OPC is broken."""
        if kind in ("docx", "xlsx"):
            self.assertLessEqual(set(complaints(written)), set(complaints(data)))
        before, after = members(data), members(written)
        may_change = _MAY_CHANGE.get(kind)
        for name, content in before.items():
            touched = (
                name in may_change
                if may_change
                else "drawings/" in name or "worksheets/" in name or name == "[Content_Types].xml"
            )
            if not touched:
                self.assertEqual(after[name], content, name)


def _wishes(document: Document) -> list[PlacedPicture]:
    """A picture for every kind of place and every way to stand there."""
    if format_of(document).view is View.GRID:
        first = next(iter(document.spots())).id.rpartition("!")[0]
        spots = []
        for cells in _CELLS:
            try:
                spots.append(document.spot(f"{first}!{cells}"))
            except SpotUnknown:
                continue
    else:
        kinds: dict[tuple[object, ...], Spot] = {}
        for spot in document.spots():
            kinds.setdefault((spot.kind, spot.follows, spot.side, len(spot.widths), spot.stands), spot)
        spots = list(kinds.values())
    return [
        PlacedPicture(
            spot.id,
            _PNG,
            "png",
            min(spot.fit_width, Length.from_mm(20)),
            Length.from_mm(10),
            "Of the corpus",
            Layout(stand=stand, caption="Caption" if number % 2 else "", grows_row=number == 1),
            name="corpus",
        )
        for number, spot in enumerate(spots)
        for stand in spot.stands
    ]


def _pandoc(case: Corpus, data: bytes, written: bytes, count: int) -> None:
    """Every word is still there as often as it was, and pictures are there that were not."""
    kind = "odt" if "content.xml" in members(data) else "docx"
    before, after = (pypandoc.convert_text(each, "native", kind) for each in (data, written))
    case.assertGreaterEqual(
        after.count("Image (") + after.count("Image\n"),
        before.count("Image (") + before.count("Image\n") + min(count, 1),
    )
    words = [
        Counter(re.findall(r"\w+", pypandoc.convert_text(each, "plain", kind, extra_args=["--wrap=none"])))
        for each in (data, written)
    ]
    case.assertEqual(words[0] - words[1], Counter())


def _openpyxl(case: Corpus, data: bytes, written: bytes, _count: int) -> None:
    """Every value, merged range and row is what it was. What the reader can't read in the original proves nothing."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            before = openpyxl.load_workbook(io.BytesIO(data))
        except Exception as error:
            case.skipTest(f"openpyxl can't read the original: {error}")
        after = openpyxl.load_workbook(io.BytesIO(written))
    case.assertEqual(before.sheetnames, after.sheetnames)
    pictures = 0
    for name in before.sheetnames:
        old, new = before[name], after[name]
        if not hasattr(old, "merged_cells"):
            continue
        case.assertEqual(_values(old), _values(new))
        case.assertEqual(sorted(map(str, old.merged_cells.ranges)), sorted(map(str, new.merged_cells.ranges)))
        pictures += len(new._images) - len(old._images)
    case.assertGreater(pictures, 0)


def _values(sheet: openpyxl.worksheet.worksheet.Worksheet) -> dict[str, object]:
    cells = (cell for row in sheet.iter_rows() for cell in row)
    return {cell.coordinate: str(getattr(cell.value, "text", cell.value)) for cell in cells if cell.value is not None}


def _odfpy(case: Corpus, data: bytes, written: bytes, count: int) -> None:
    """Every paragraph of the sheets is still there; a frame more for each picture."""
    try:
        before = load(io.BytesIO(data))
    except Exception as error:
        case.skipTest(f"odfpy can't read the original: {error}")
    after = load(io.BytesIO(written))
    texts = [{str(each) for each in document.spreadsheet.getElementsByType(P)} for document in (before, after)]
    case.assertEqual(texts[0], texts[1])
    frames = [len(document.spreadsheet.getElementsByType(Frame)) for document in (before, after)]
    case.assertEqual(frames[1] - frames[0], count)


def _parser(case: Corpus, data: bytes, written: bytes, _count: int) -> None:
    """Every header field and every part that is no HTML is what it was."""
    before, after = (email.message_from_bytes(each, policy=email.policy.compat32) for each in (data, written))
    own = [(name, str(value)) for name, value in before.items() if not name.lower().startswith(("content-", "mime-"))]
    now = [(name, str(value)) for name, value in after.items() if not name.lower().startswith(("content-", "mime-"))]
    case.assertEqual(own, now)
    leaves = [
        Counter(
            part.get_payload(decode=True)
            for part in each.walk()
            if not part.is_multipart() and part.get_content_type() != "text/html"
        )
        for each in (before, after)
    ]
    case.assertFalse(leaves[0] - leaves[1])
    images = [part.get_payload(decode=True) for part in after.walk() if part.get_content_type() == "image/png"]
    case.assertIn(_PNG, images)


_READERS: dict[str, Callable[[Corpus, bytes, bytes, int], None]] = {
    "docx": _pandoc,
    "odt": _pandoc,
    "xlsx": _openpyxl,
    "ods": _odfpy,
    "eml": _parser,
}


def _test(path: str, sha256: str) -> Callable[[Corpus], None]:
    def test(self: Corpus) -> None:
        self.check(path, sha256)

    test.__doc__ = f"{path.rsplit('/', 1)[-1]}."
    return test


for _source in declared():
    for _path, _sha256 in _source.members:
        _stem = "".join(sign if sign.isalnum() else "_" for sign in _path.rsplit("/", 1)[-1])
        setattr(Corpus, f"test_{_source.name.replace('-', '_')}_{_stem}_{_sha256[:6]}", _test(_path, _sha256))
