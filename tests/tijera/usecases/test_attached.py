"""A document that is attached to a message: its pictures are rows of their own, looked at and made lighter like others."""

import io
import zipfile
from email.message import EmailMessage

import numpy as np
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.pictured import pictured
from tests.support.pictures import encoded, photograph_like
from tests.support.screens import screen
from tijera.core.errors import PartMissing
from tijera.usecases.comparing import own_picture, texts
from tijera.usecases.files import weigh_file
from tijera.usecases.fitting import Fitted, make_it_fit
from tijera.usecases.placing import place
from tijera.usecases.weighing import Weight, weigh

_PHOTOGRAPH = encoded(photograph_like(600, 340), "JPEG", quality=95)
_SCREEN = encoded(screen("light"))
_INNER = "Rules.docx \u203a word/media/"


def _mail(*attached: tuple[str, bytes]) -> bytes:
    mail = EmailMessage()
    mail["From"], mail["To"] = "harbour@quillhaven.example", "quay@quillhaven.example"
    mail["Subject"] = "The rules, once more"
    mail.set_content("As attached.")
    for name, held in attached:
        mail.add_attachment(held, "application", "octet-stream", filename=name)
    return mail.as_bytes()


class Attached(BenchCase):
    """Beside a locked document, one that is none, and a message in the message."""

    def setUp(self) -> None:
        """Opened."""
        super().setUp()
        self.book = pictured([(_PHOTOGRAPH, "jpeg"), (_SCREEN, "png")])
        self.data = _mail(
            ("Rules.docx", self.book),
            ("Odd.docx", b"PK\x03\x04 not one"),
            ("Older.eml", _mail(("Rules.docx", self.book))),
        )
        self.record = self.open(self.data, "Note.eml")

    def weight(self) -> Weight:
        """As it is now."""
        return weigh(self.workshop, self.workshop.store.destinations()[0])

    def test_its_pictures_are_rows_with_what_they_take_in_the_message(self) -> None:
        """Base64 in lines of 76 letters: four letters and a share of a line's end for three bytes (RFC 2045 §6.8)."""
        weight = self.weight()
        self.assertEqual([each.label.split(" \u203a ")[0] for each in weight.pictures], ["Rules.docx"] * 2)
        self.assertTrue(all(each.report.member.startswith(_INNER) for each in weight.pictures))
        with zipfile.ZipFile(io.BytesIO(self.book)) as package:
            for each in weight.pictures:
                packed = package.getinfo(each.report.member.removeprefix("Rules.docx \u203a ")).compress_size
                letters = -(-packed // 3) * 4
                self.assertAlmostEqual(each.report.bytes, letters + letters / 76, delta=3)
        self.assertEqual(sum(each.report.record_bytes for each in weight.pictures) + weight.rest_bytes, len(self.data))
        self.assertGreater(weight.rest_bytes, 0)
        self.assertEqual(
            [each.member for each in weigh_file(self.data, "Note.eml")],
            [each.report.member for each in weight.pictures],
        )

    def test_they_are_looked_at_and_what_is_not_there_is_said(self) -> None:
        """Pixel for pixel; their words are measured."""
        shown = {Image.open(io.BytesIO(each)).size: each for each in (_PHOTOGRAPH, _SCREEN)}
        for each in self.weight().pictures:
            picture = own_picture(self.workshop, self.record, each.report.member, first=False)
            whole = np.asarray(Image.open(io.BytesIO(shown[picture.size.width, picture.size.height])).convert("RGB"))
            self.assertTrue(np.array_equal(picture.pixels, whole))
        (text,) = texts(self.workshop, self.record)
        self.assertTrue(text.member.startswith(_INNER) and text.member.endswith("png"))
        for name in (f"{_INNER}image9.png", "Odd.docx \u203a word/media/image1.png"):
            with self.assertRaises(PartMissing):
                own_picture(self.workshop, self.record, name, first=False)

    def test_made_to_fit_they_say_what_they_were_and_are_compared_with_it(self) -> None:
        """Also beside a clipping that is placed in the message."""
        place(self.workshop, self.record.id, self.take().id, "attached")
        before = {each.report.member: each.report.bytes for each in self.weight().pictures if not each.own}
        limit = self.weight().file_bytes - len(_PHOTOGRAPH)
        *_, last = make_it_fit(self.workshop, self.workshop.store.destinations()[0], limit, with_own=True)
        assert isinstance(last, Fitted)
        self.assertTrue(any(line.startswith("Rules.docx \u203a ") for line in last.given_up), last.given_up)
        now = self.workshop.store.destinations()[0]
        lighter = [each for each in self.weight().pictures if each.was_bytes is not None]
        self.assertEqual({each.report.member: each.was_bytes for each in lighter}.items() - before.items(), set())
        self.assertLessEqual(self.weight().file_bytes, limit)
        photograph = next(each.report.member for each in lighter if each.report.member.endswith("jpeg"))
        was = own_picture(self.workshop, now, photograph, first=True)
        self.assertTrue(np.array_equal(was.pixels, np.asarray(Image.open(io.BytesIO(_PHOTOGRAPH)).convert("RGB"))))
        self.assertFalse(own_picture(self.workshop, now, photograph, first=False).has_pixels_of(was))
