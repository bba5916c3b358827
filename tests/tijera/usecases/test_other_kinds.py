"""A photograph that somebody put in as PNG becomes a JPEG where it has to give something up; its name and type follow."""

import email
import email.policy
import hashlib
import io
import unittest
import zipfile
from email.message import EmailMessage

import docx
import numpy as np
import openpyxl
from lxml import etree
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.opc_checker import complaints
from tests.support.pictured import pictured
from tests.support.pictures import encoded, photograph_like, text_like
from tijera.core.packages.registry import open_document, report_pictures
from tijera.usecases.comparing import own_picture
from tijera.usecases.fitting import Fitted, make_it_fit
from tijera.usecases.slimming import Slimmed, slim

_PHOTOGRAPH = photograph_like(420, 260)
_PNG = encoded(_PHOTOGRAPH)
_SCREEN = encoded(text_like(400, 240))


def _slimmed(data: bytes, limit: int) -> Slimmed:
    *_, last = slim(data, "Log", limit)
    assert isinstance(last, Slimmed)
    return last


def _pictures(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as package:
        return {
            name: package.read(name)
            for name in package.namelist()
            if name.lower().endswith((".png", ".jpeg", ".jpg")) and "humbnail" not in name
        }


class Renamed(unittest.TestCase):
    """In every format that is a package."""

    def test_it_is_found_under_its_new_name_and_nothing_else_moves(self) -> None:
        """Far under what a PNG of it could weigh; order, other members and the other picture stay, to the byte."""
        for extension in ("docx", "xlsx", "odt", "ods"):
            data = pictured([(_PNG, "png"), (_SCREEN, "png")], extension)
            limit = len(data) - len(_PNG) * 80 // 100
            with self.subTest(extension):
                slimmed = _slimmed(data, limit)
                self.assertLessEqual(len(slimmed.data), limit)
                kinds = {name: Image.open(io.BytesIO(held)).format for name, held in _pictures(slimmed.data).items()}
                self.assertEqual(sorted(kinds.values()), ["JPEG", "PNG"])
                self.assertTrue(all(name.endswith((kind or "").lower()) for name, kind in kinds.items()))
                self._check_members(data, slimmed.data)
                shown = [
                    sorted(str(each.shown) for each in report_pictures(open_document(held)))
                    for held in (data, slimmed.data)
                ]
                self.assertEqual(shown[0], shown[1])

    def _check_members(self, before: bytes, after: bytes) -> None:
        with zipfile.ZipFile(io.BytesIO(before)) as one, zipfile.ZipFile(io.BytesIO(after)) as other:
            self.assertIsNone(other.testzip())
            stems = [[name.rsplit(".", 1)[0] for name in package.namelist()] for package in (one, other)]
            self.assertEqual(stems[0], stems[1])
            told = ("rels", "[Content_Types].xml", "META-INF/manifest.xml", "content.xml")
            for name in set(one.namelist()) & set(other.namelist()):
                if name.endswith(".png"):
                    # Packed tighter at most.
                    self.assertTrue(np.array_equal(_pixels(one.read(name)), _pixels(other.read(name))))
                elif not name.endswith(told):
                    self.assertTrue(one.read(name) == other.read(name), name)

    def test_others_read_it(self) -> None:
        """ECMA-376-2 by the tests' own checker, python-docx and openpyxl; the manifest lists what is there."""
        for extension in ("docx", "xlsx"):
            data = pictured([(_PNG, "png")], extension)
            slimmed = _slimmed(data, len(data) - len(_PNG) * 85 // 100).data
            self.assertEqual(complaints(slimmed), [])
            if extension == "docx":
                (shape,) = docx.Document(io.BytesIO(slimmed)).inline_shapes
                (held,) = _pictures(slimmed).values()
                part = docx.Document(io.BytesIO(slimmed)).part.related_parts[
                    shape._inline.graphic.graphicData.pic.blipFill.blip.embed
                ]
                self.assertEqual((part.content_type, part.blob), ("image/jpeg", held))
            else:
                (image,) = openpyxl.load_workbook(io.BytesIO(slimmed)).worksheets[0]._images
                self.assertEqual(image.format, "jpeg")
        for extension in ("odt", "ods"):
            data = pictured([(_PNG, "png")], extension)
            slimmed = _slimmed(data, len(data) - len(_PNG) * 85 // 100).data
            with zipfile.ZipFile(io.BytesIO(slimmed)) as package:
                entries = {
                    node.get(f"{{{node.nsmap['manifest']}}}full-path"): node.get(
                        f"{{{node.nsmap['manifest']}}}media-type"
                    )
                    for node in etree.fromstring(package.read("META-INF/manifest.xml"))
                }
                (name,) = _pictures(slimmed)
                self.assertEqual(entries[name], "image/jpeg")
                self.assertFalse(any(str(path).endswith(".png") for path in entries))
                self.assertIn(f'"{name}"'.encode(), package.read("content.xml"))

    def test_a_name_that_is_taken_and_a_type_of_its_own_keep_the_kind(self) -> None:
        """There is another picture of that name, in capitals; the package types this one by itself."""
        data = pictured([(_PNG, "png")])
        with zipfile.ZipFile(io.BytesIO(data)) as package:
            held = {name: package.read(name) for name in package.namelist()}
        types = held["[Content_Types].xml"]
        (member,) = _pictures(data)
        odd = {
            "taken": {**held, member.replace(".png", ".JPEG"): b"nobody's"},
            "typed": {
                **held,
                "[Content_Types].xml": types.replace(
                    b"</Types>", f'<Override PartName="/{member}" ContentType="image/png"/></Types>'.encode()
                ),
            },
        }
        for why, parts in odd.items():
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as package:
                for name, content in parts.items():
                    package.writestr(name, content)
            with self.subTest(why):
                slimmed = _slimmed(out.getvalue(), len(out.getvalue()) - len(_PNG) // 2)
                self.assertIn(member, _pictures(slimmed.data))


class Messages(unittest.TestCase):
    """Where the head of a part says its kind."""

    def test_a_picture_keeps_its_kind_whatever_it_is_called(self) -> None:
        """A PNG whose file name says JPEG, one without a name."""
        for name in ("quay.jpg", "quay.png", None):
            mail = EmailMessage()
            mail["Subject"] = "Berth 4"
            mail.set_content("As attached.")
            mail.add_attachment(_PNG, "image", "png", filename=name)
            data = mail.as_bytes()
            with self.subTest(name):
                slimmed = _slimmed(data, len(data) * 7 // 10)
                (part,) = email.message_from_bytes(slimmed.data, policy=email.policy.default).iter_attachments()
                held = part.get_payload(decode=True)
                assert isinstance(held, bytes)
                self.assertLess(len(held), len(_PNG))
                self.assertEqual((part.get_content_type(), Image.open(io.BytesIO(held)).format), ("image/png", "PNG"))


class Again(BenchCase):
    """Under one limit and another."""

    def test_the_first_bytes_come_back_under_their_first_name(self) -> None:
        """Compared with what it was in between; undone step by step."""
        data = pictured([(_PNG, "png"), (encoded(photograph_like(420, 260, seed=9)), "png")])
        self.open(data, "Log.docx")
        self._fit(len(data) // 6)
        members = _digests(self._file())
        self.assertEqual({name.rsplit(".", 1)[1] for name in members}, {"jpeg"})
        for name in members:
            first = own_picture(self.workshop, self.workshop.store.destinations()[0], name, first=True)
            self.assertIn(
                first.pixels.tobytes(), {decoded.tobytes() for decoded in map(_pixels, _pictures(data).values())}
            )
        # The type of JPEGs, once told, stays: some bytes more.
        self._fit(len(data) + 200)
        self.assertEqual(_digests(self._file()), _digests(data))
        self.workshop.store.undo()
        self.assertEqual(_digests(self._file()), members)

    def _fit(self, limit: int) -> None:
        *_, last = make_it_fit(self.workshop, self.workshop.store.destinations()[0], limit, with_own=True)
        assert isinstance(last, Fitted)

    def _file(self) -> bytes:
        return self.workshop.store.blobs.get(self.workshop.store.destinations()[0].blob)


def _digests(data: bytes) -> dict[str, str]:
    return {name: hashlib.sha256(held).hexdigest() for name, held in _pictures(data).items()}


def _pixels(data: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))
