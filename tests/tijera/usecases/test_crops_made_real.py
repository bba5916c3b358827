"""Slimming cuts a cropped picture to what is shown of it: the same is seen, what was hidden is gone.

What is seen is worked out here from the standards' words, by the standard library and Pillow: ECMA-376 Part 1, srcRect
(shares of the picture in thousandths of a percent); ODF 1.2 Part 1, fo:clip (lengths of it at its natural size).
"""

import io
import re
import unittest
import zipfile
from email.message import EmailMessage
from fractions import Fraction
from typing import Any, cast

import numpy as np
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.docx import Docx, section
from tests.support.ods import Ods, row
from tests.support.odt import Odt, p
from tests.support.pictures import encoded, photograph_like, text_like
from tests.tijera.core.packages.formats.docx.test_shown import _drawing, _run
from tijera.core.packages.registry import open_document, report_pictures
from tijera.usecases import weighing
from tijera.usecases.comparing import own_picture
from tijera.usecases.fitting import Fitted, make_it_fit
from tijera.usecases.slimming import Slimmed, slim

_IMAGE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/image"
_SCREEN = text_like(400, 260)
_QUARTER = '<a:srcRect l="25000" t="10100" r="24900" b="40000"/>'
_VML = (
    '<w:r><w:pict xmlns:v="urn:schemas-microsoft-com:vml"><v:shape style="width:50pt;height:20pt">'
    '<v:imagedata r:id="p1"/></v:shape></w:pict></w:r>'
)


def _docx(body: str, picture: bytes, name: str = "a.png") -> bytes:
    relationship = f'<Relationship Id="p1" Type="{_IMAGE}" Target="media/{name}"/>'
    types = f'<Default Extension="{name.rsplit(".", 1)[-1]}" ContentType="image/png"/>'
    return Docx(
        body + section(), extra={f"word/media/{name}": picture}, relationships=relationship, types=types
    ).build()


def _cropped(words: str = _QUARTER) -> str:
    return _run(_drawing("p1", 914_400, 457_200, words))


def _style(name: str, clip: str) -> str:
    return f'<style:style style:name="{name}" style:family="graphic"><style:graphic-properties fo:clip="{clip}"/></style:style>'


def _frame(style: str, member: str = "Pictures/a.png") -> str:
    return f'<draw:frame draw:style-name="{style}" svg:width="4cm" svg:height="2cm"><draw:image xlink:href="{member}"/></draw:frame>'


def _open_documents(style: str, body: str, extra: dict[str, bytes]) -> dict[str, bytes]:
    return {
        "odt": Odt(p(body), automatic=style, extra=extra).build(),
        "ods": Ods({"T": f"<table:shapes>{body}</table:shapes>{row('x')}"}, automatic=style, extra=extra).build(),
    }


def _picture(data: bytes, member: str) -> Image.Image:
    return Image.open(io.BytesIO(zipfile.ZipFile(io.BytesIO(data)).read(member)))


def _part(data: bytes, name: str) -> str:
    return zipfile.ZipFile(io.BytesIO(data)).read(name).decode()


def _seen_in_docx(data: bytes, member: str = "word/media/a.png") -> list[tuple[Fraction, ...]]:
    """Left, top, right and bottom of what is shown, in pixels of the picture as it was first, for each use."""
    image = _picture(data, member)
    seen: list[tuple[Fraction, ...]] = []
    for match in re.finditer(r"<a:blip [^>]*/><a:srcRect([^/]*)/>", _part(data, "word/document.xml")):
        hidden = {side: Fraction(int(value), 100_000) for side, value in re.findall(r'([ltrb])="(\d+)"', match[1])}
        left, top, right, bottom = (hidden.get(side, Fraction(0)) for side in "ltrb")
        seen.append((left * image.width, top * image.height, (1 - right) * image.width, (1 - bottom) * image.height))
    return seen


def _shares_in_odf(data: bytes, style: str, member: str = "Pictures/a.png") -> list[float]:
    """Top, right, bottom and left, as shares of the picture."""
    image = _picture(data, member)
    found = re.search(rf'style:name="{style}".*?fo:clip="rect\(([^)]*)\)"', _part(data, "content.xml"))
    assert found is not None
    inches = [
        float(number) / {"mm": 25.4, "cm": 2.54, "in": 1}[unit]
        for number, unit in re.findall(r"([0-9.]+)(mm|cm|in)", found[1])
    ]
    across, down = image.info.get("dpi", (96, 96))
    wide, high = image.width / float(across), image.height / float(down)
    return [each / side for each, side in zip(inches, (high, wide, high, wide), strict=True)]


def _slimmed(data: bytes, limit: int) -> Slimmed:
    *_, last = slim(data, "Rules", limit)
    assert isinstance(last, Slimmed)
    return last


class OfficeOpenXml(unittest.TestCase):
    """In a document, with a crop as it says it."""

    def test_the_same_is_seen_and_what_was_hidden_is_gone(self) -> None:
        """Twice alike: to whole pixels outwards, what is left to hide is still said; nothing else changes."""
        data = _docx(_cropped() + _cropped(), encoded(_SCREEN))
        (told,) = (slimmed := _slimmed(data, len(data) - 1)).pictures
        self.assertEqual(told.note, "cut to what is shown of it")
        self.assertLess(told.after_bytes, told.before_bytes * 0.5)
        # Left 100, top 26.26, right 300.4, bottom 156.
        pixels = np.asarray(_picture(slimmed.data, "word/media/a.png").convert("RGB"))
        np.testing.assert_array_equal(pixels, _SCREEN.pixels[26:156, 100:301])
        for before, after in zip(_seen_in_docx(data), _seen_in_docx(slimmed.data), strict=True):
            for was, now, moved in zip(before, after, (100, 26, 100, 26), strict=True):
                self.assertAlmostEqual(float(was), float(now + moved), delta=0.01)
        neutral = [re.sub(r"<a:srcRect[^>]*/>", "", _part(each, "word/document.xml")) for each in (data, slimmed.data)]
        self.assertEqual(neutral[0], neutral[1])
        names = set(zipfile.ZipFile(io.BytesIO(data)).namelist()) - {"word/document.xml", "word/media/a.png"}
        self.assertTrue(all(_part(data, name) == _part(slimmed.data, name) for name in names))

    def test_a_photograph_and_percents_of_strict_files(self) -> None:
        """A JPEG is encoded once more at a quality that no eye tells from it; "12.5%" stays a percentage."""
        photograph = encoded(photograph_like(600, 400), "JPEG", quality=96)
        words = '<a:srcRect l="10.25%" r="40%"/>'
        data = _docx(_cropped(words), photograph, "a.jpeg")
        slimmed = _slimmed(data, len(data) - 1)
        self.assertEqual(_picture(slimmed.data, "word/media/a.jpeg").size, (299, 400))
        self.assertRegex(_part(slimmed.data, "word/document.xml"), r'<a:srcRect l="0\.167%"/>')
        before = np.asarray(Image.open(io.BytesIO(photograph)).convert("RGB"), float)[:, 61:360]
        after = np.asarray(_picture(slimmed.data, "word/media/a.jpeg").convert("RGB"), float)
        self.assertLess(float(np.abs(before - after).mean()), 4)

    def test_what_is_shown_in_another_way_too_stays_whole(self) -> None:
        """Whole elsewhere, cropped otherwise, with room round it, as a drawing of old, tiled, with an effect's layer."""
        effect = _cropped().replace(
            '<a:blip r:embed="p1"/>', '<a:blip r:embed="p1"><a:extLst><a:ext r:embed="p1"/></a:extLst></a:blip>'
        )
        self.assertIn("extLst", effect)
        ways = {
            "whole": _cropped() + _run(_drawing("p1", 914_400, 457_200)),
            "otherwise": _cropped() + _cropped('<a:srcRect l="25000"/>'),
            "outset": _cropped('<a:srcRect l="25000" b="-5000"/>'),
            "drawing of old": _cropped() + _VML,
            "tiled": _cropped(f"{_QUARTER}<a:tile/>"),
            "layer": effect,
            "nothing of it": _cropped('<a:srcRect l="60000" r="60000"/>'),
        }
        for way, body in ways.items():
            with self.subTest(way):
                data = _docx(f"<w:p>{body}</w:p>" if way == "drawing of old" else body, encoded(_SCREEN))
                slimmed = _slimmed(data, len(data) - 1)
                self.assertEqual(_picture(slimmed.data, "word/media/a.png").size, (400, 260))
                self.assertEqual(_part(data, "word/document.xml"), _part(slimmed.data, "word/document.xml"))


class OpenDocument(unittest.TestCase):
    """Where a crop is a length of the picture at its natural size."""

    def test_the_same_is_seen_and_what_was_hidden_is_gone(self) -> None:
        """At the usual density and at another one."""
        for density in (None, (144, 144)):
            options = {} if density is None else {"dpi": density}
            picture = encoded(_SCREEN, **cast("dict[str, Any]", options))
            inch = (density or (96, 96))[0]
            # Hidden are 30.4 pixels at the top, none right, 20 at the bottom, 100 left.
            clip = f"rect({30.4 / inch:.5f}in, 0in, {20 / inch:.5f}in, {100 / inch:.5f}in)"
            for kind, data in _open_documents(
                _style("c", clip), _frame("c") + _frame("c"), {"Pictures/a.png": picture}
            ).items():
                with self.subTest(kind, density=density):
                    slimmed = _slimmed(data, len(data) - 1)
                    pixels = np.asarray(_picture(slimmed.data, "Pictures/a.png").convert("RGB"))
                    np.testing.assert_array_equal(pixels, _SCREEN.pixels[30:240, 100:400])
                    top, *others = _shares_in_odf(slimmed.data, "c")
                    self.assertAlmostEqual(top * 210, 0.4, delta=0.02)
                    self.assertLess(max(others) * 300, 0.02)
                    neutral = [
                        re.sub(r"rect\([^)]*\)", "", _part(each, "content.xml")) for each in (data, slimmed.data)
                    ]
                    self.assertEqual(neutral[0], neutral[1])

    def test_what_can_not_be_cut_is_shown_as_before_with_fewer_pixels(self) -> None:
        """A style that another picture wears, too; a photograph with a density of its own stays as large by itself."""
        photograph = encoded(photograph_like(400, 250), "PNG", dpi=(190, 190))
        style = _style("c", "rect(0.2cm, 0.5cm, 0cm, 0.6cm)")
        extra = {"Pictures/a.png": photograph, "Pictures/b.png": encoded(photograph_like(120, 80, seed=8))}
        for kind, data in _open_documents(style, _frame("c") + _frame("c", "Pictures/b.png"), extra).items():
            with self.subTest(kind):
                slimmed = _slimmed(data, int(len(data) * 0.28))
                self.assertEqual(_part(data, "content.xml"), _part(slimmed.data, "content.xml"))
                self.assertLess(_picture(slimmed.data, "Pictures/a.png").width, 390)
                for before, after in zip(_shares_in_odf(data, "c"), _shares_in_odf(slimmed.data, "c"), strict=True):
                    self.assertAlmostEqual(before, after, delta=0.002)


class Messages(unittest.TestCase):
    """Where a picture without a size is shown as large as its pixels are."""

    def test_a_picture_without_a_size_keeps_its_pixels(self) -> None:
        """One with a size may lose some; both lose bytes."""
        sizes = {}
        for words in ("", ' width="150" height="95"'):
            picture = encoded(photograph_like(700, 440), "JPEG", quality=95)
            mail = EmailMessage()
            mail["From"], mail["Subject"] = "harbour@quillhaven.example", "Berth 4"
            mail.set_content(f'<p><img src="cid:a@quillhaven.example"{words}></p>', subtype="html")
            mail.add_related(picture, "image", "jpeg", cid="<a@quillhaven.example>", filename="a.jpeg")
            data = mail.as_bytes()
            slimmed = _slimmed(data, len(data) // 10)
            (report,) = report_pictures(open_document(slimmed.data))
            assert report.pixels is not None
            sizes[words] = report.pixels.width
            self.assertLessEqual(len(slimmed.data), len(data) // 10)
        self.assertEqual(sizes[""], 700)
        self.assertLess(next(reversed(sizes.values())), 700)


class Again(BenchCase):
    """Slimmed twice, with undo between."""

    def _fit(self, limit: int) -> Fitted:
        record = self.workshop.store.destinations()[0]
        *_, last = make_it_fit(self.workshop, record, limit, with_own=True)
        assert isinstance(last, Fitted)
        return last

    def _file(self) -> bytes:
        return self.workshop.store.blobs.get(self.workshop.store.destinations()[0].blob)

    def test_another_limit_begins_with_what_was_shown_at_first(self) -> None:
        """Not with what was left of it, and what is left to hide is not hidden twice."""
        data = _docx(_cropped(), encoded(photograph_like(900, 600), "JPEG", quality=97), "a.jpeg")
        self.open(data, "Log.docx")
        self._fit(len(data) // 12)
        small = self._file()
        record = self.workshop.store.destinations()[0]
        # Compared is what was shown then with what is shown now.
        before = own_picture(self.workshop, record, "word/media/a.jpeg", first=True)
        whole = np.asarray(_picture(data, "word/media/a.jpeg").convert("RGB"))
        np.testing.assert_array_equal(before.pixels, whole[60:360, 225:676])
        self._fit(len(data) // 3)
        again = self._file()
        once = _slimmed(data, len(data) // 3)
        self.assertGreater(len(again), len(small))
        self.assertEqual(_picture(again, "word/media/a.jpeg").size, _picture(once.data, "word/media/a.jpeg").size)
        self.assertEqual(_part(again, "word/document.xml"), _part(once.data, "word/document.xml"))
        self.workshop.store.undo()
        self.assertEqual(self._file(), small)
        self.workshop.store.undo()
        self.assertEqual(self._file(), data)
        self.assertEqual(weighing.weigh(self.workshop, self.workshop.store.destinations()[0]).file_bytes, len(data))
