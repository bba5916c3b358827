"""Pictures that stand in a document already: found once each, with the size and the sharpness that is seen."""

import unittest

from tests.support.docx import Docx, paragraph, section
from tests.support.pictures import encoded, text_like
from tijera.core.packages.formats.docx.document import open_docx
from tijera.core.packages.formats.docx.pictures import report_pictures
from tijera.core.packages.places.reports import PictureReport

_A = "http://schemas.openxmlformats.org/drawingml/2006/main"
_PIC = "http://schemas.openxmlformats.org/drawingml/2006/picture"
_IMAGE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/image"
_HEADER = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/header"
_PNG = encoded(text_like(200, 100))
_TYPES = '<Default Extension="png" ContentType="image/png"/>'


def _drawing(relationship: str, width: int, height: int, crop: str = "", frame: str = "inline") -> str:
    return (
        f'<w:drawing><wp:{frame}><wp:extent cx="{width}" cy="{height}"/><wp:docPr id="1" name="p" descr="The quay"/>'
        f'<a:graphic xmlns:a="{_A}"><a:graphicData uri="{_PIC}"><pic:pic xmlns:pic="{_PIC}"><pic:blipFill>'
        f'<a:blip r:embed="{relationship}"/>{crop}</pic:blipFill></pic:pic></a:graphicData></a:graphic></wp:{frame}></w:drawing>'
    )


def _reports(body: str, **more: bytes) -> dict[str, PictureReport]:
    extra = {"word/media/a.png": _PNG, "word/media/b.png": encoded(text_like(60, 90, seed=8))} | more
    relationships = "".join(
        f'<Relationship Id="{id_}" Type="{_IMAGE}" Target="media/{name}.png"/>'
        for id_, name in (("p1", "a"), ("p2", "b"))
    )
    relationships += f'<Relationship Id="h1" Type="{_HEADER}" Target="header1.xml"/>'
    document = Docx(body + section(), extra=extra, relationships=relationships, types=_TYPES)
    return {report.member: report for report in report_pictures(open_docx(document.build()))}


def _run(inside: str) -> str:
    return f"<w:p><w:r>{inside}</w:r></w:p>"


class Shown(unittest.TestCase):
    """In the text."""

    def test_sharpness_is_that_of_the_largest_use_and_of_what_a_crop_leaves(self) -> None:
        """200 px over 2 inches are 100 ppi; a quarter cropped away leaves 75."""
        small, large = _drawing("p1", 914_400, 457_200), _drawing("p1", 1_828_800, 914_400, frame="anchor")
        report = _reports(_run(small) + _run(large))["word/media/a.png"]
        self.assertEqual((report.times_used, report.ppi, report.description), (2, 100.0, "The quay"))
        for crop in ('<a:srcRect l="15000" r="10000"/>', '<a:srcRect l="15%" r="10%"/>'):
            report = _reports(_run(_drawing("p1", 1_828_800, 914_400, crop)))["word/media/a.png"]
            self.assertAlmostEqual(report.ppi or 0, 75.0)

    def test_an_alternative_is_counted_once_and_a_deleted_picture_not(self) -> None:
        """A fallback shows the same picture again, for older readers."""
        twice = (
            f"<mc:AlternateContent><mc:Choice>{_drawing('p1', 9_000, 9_000)}</mc:Choice><mc:Fallback><w:pict>"
            '<v:shape xmlns:v="urn:schemas-microsoft-com:vml"><v:imagedata r:id="p1"/></v:shape></w:pict></mc:Fallback>'
            "</mc:AlternateContent>"
        )
        gone = f"<w:p><w:del w:id='9'><w:r>{_drawing('p2', 9_000, 9_000)}</w:r></w:del></w:p>"
        reports = _reports(_run(twice) + gone)
        self.assertEqual([reports[f"word/media/{name}.png"].times_used for name in "ab"], [1, 0])

    def test_old_drawings_and_text_boxes_count(self) -> None:
        """VML has no size that is known; a picture in a box is seen like any other."""
        old = '<w:pict><v:shape xmlns:v="urn:schemas-microsoft-com:vml"><v:imagedata r:id="p1"/></v:shape></w:pict>'
        box = f"<w:pict><w:txbxContent>{_run(_drawing('p2', 914_400, 457_200))}</w:txbxContent></w:pict>"
        reports = _reports(_run(old) + _run(box))
        self.assertEqual((reports["word/media/a.png"].times_used, reports["word/media/a.png"].ppi), (1, None))
        self.assertEqual(reports["word/media/b.png"].ppi, 60.0)

    def test_pictures_of_headers_are_reported_by_their_own_relationships(self) -> None:
        """The same id means another picture there."""
        namespace = "http://schemas.openxmlformats.org/package/2006/relationships"
        header = (
            '<w:hdr xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" '
            'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" '
            'xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing">'
            f"{_run(_drawing('p1', 914_400, 914_400))}</w:hdr>"
        )
        own = f'<Relationships xmlns="{namespace}"><Relationship Id="p1" Type="{_IMAGE}" Target="media/b.png"/></Relationships>'
        reports = _reports(
            paragraph("text"), **{"word/header1.xml": header.encode(), "word/_rels/header1.xml.rels": own.encode()}
        )
        self.assertEqual([reports[f"word/media/{name}.png"].times_used for name in "ab"], [0, 1])

    def test_what_has_no_pixels_is_listed_without_them(self) -> None:
        """A drawing that can't be read is not a fault of the document."""
        reports = _reports(
            _run(_drawing("p1", 914_400, 914_400)), **{"word/media/a.png": b"\x01\x00\x00\x00 a metafile"}
        )
        self.assertEqual((reports["word/media/a.png"].pixels, reports["word/media/a.png"].ppi), (None, None))


class Galley(unittest.TestCase):
    """What the outline shows of them."""

    def test_a_paragraph_lists_its_pictures_at_their_shown_size(self) -> None:
        """Those whose member is there."""
        relationships = f'<Relationship Id="p1" Type="{_IMAGE}" Target="media/a.png"/>'
        body = _run("<w:t>see </w:t>" + _drawing("p1", 914_400, 457_200)) + _run(_drawing("lost", 9, 9)) + section()
        document = open_docx(
            Docx(body, extra={"word/media/a.png": _PNG}, relationships=relationships, types=_TYPES).build()
        )
        first, second = document.outline.body.blocks
        self.assertEqual([(each.member, each.width.emu, each.height.emu) for each in first.pictures], [("word/media/a.png", 914_400, 457_200)])  # fmt: skip
        self.assertEqual((first.text, second.pictures), ("see", ()))
