"""Two pictures placed in either order give the same content, once ids and the names of parts are told by what they name."""

from __future__ import annotations

import hashlib
import unittest
from email import message_from_bytes, policy
from itertools import combinations
from typing import Any, cast

from lxml import etree

from tests.support.docx import members
from tests.support.pictures import encoded, text_like
from tests.tijera.core.packages.test_layouts import _LEGEND, _odt
from tijera.core.packages.places.placed import Align, Layout, PlacedPicture
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import open_document, write
from tijera.core.units import Length
from tijera.demo.handbook import make_handbook
from tijera.demo.notice import make_notice

_LAYOUTS = (
    Layout(),
    Layout(caption="The lock gate"),
    Layout(stand=Stand.WORD),
    Layout(stand=Stand.TEXT_LEFT, margin=Length.from_mm(4)),
    Layout(stand=Stand.UNDER, align=Align.RIGHT),
    Layout(legend=True, caption="The bell", caption_above=True),
    Layout(beside="It hangs at the stern."),
)


def _picture(seed: int, spot: str, layout: Layout) -> PlacedPicture:
    pixels = encoded(text_like(60, 40, seed=seed))
    legend = _LEGEND if layout.legend else ()
    return PlacedPicture(
        spot, pixels, "png", Length.from_mm(30), Length.from_mm(20), f"Picture {seed}", layout, legend=legend
    )


def _hash(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()


def _docx_content(data: bytes) -> tuple[bytes, list[str]]:
    """The text's part with every reference replaced by what it leads to; the hashes of the pictures."""
    parts = members(data)
    root = etree.fromstring(parts["word/document.xml"])
    targets = {
        node.get("Id"): _hash(parts.get(f"word/{node.get('Target')}", b""))
        for node in etree.fromstring(parts["word/_rels/document.xml.rels"])
    }
    lists = _lists(parts.get("word/numbering.xml"))
    for node in root.iter("*"):
        local = node.tag.rsplit("}", 1)[-1]
        for name, value in cast("list[tuple[str, str]]", node.attrib.items()):
            if "officeDocument" in name and "relationships" in name:
                node.set(name, str(targets.get(value)))
            elif (local in ("docPr", "cNvPr") and name in ("id", "name")) or name == "relativeHeight":
                node.set(name, "")
            elif local == "numId":
                node.set(name, lists.get(value, value))
    return etree.tostring(root, method="c14n"), sorted(map(_hash, (v for k, v in parts.items() if "/media/" in k)))


def _lists(numbering: bytes | None) -> dict[str, str]:
    """What each numbered list says, by its id."""
    if numbering is None:
        return {}
    root = etree.fromstring(numbering)
    w = f"{{{root.nsmap['w']}}}"
    abstract = {}
    for node in root.iter(f"{w}abstractNum"):
        own = node.attrib.pop(f"{w}abstractNumId")
        abstract[own] = etree.tostring(node, method="c14n", exclusive=True).decode()
    found = {}
    for node in root.iter(f"{w}num"):
        base = node.find(f"{w}abstractNumId")
        found[node.get(f"{w}numId") or ""] = abstract["" if base is None else base.get(f"{w}val") or ""]
    return found


def _odt_content(data: bytes) -> tuple[bytes, list[str]]:
    """The body with every style replaced by what it says and every picture by what it holds."""
    parts = members(data)
    root = etree.fromstring(parts["content.xml"])
    styles = {}
    for node in cast("list[Any]", root.xpath("//*[local-name()='automatic-styles']/*")):
        name = next((each for each in node.attrib if each.endswith("}name")), "")
        own = node.attrib.pop(name, "")
        styles[own] = etree.tostring(node, method="c14n", exclusive=True).decode()
    body = cast("list[Any]", root.xpath("//*[local-name()='body']"))[0]
    for node in body.iter("*"):
        for name, value in cast("list[tuple[str, str]]", node.attrib.items()):
            if name.endswith(("style-name", "}style")):
                node.set(name, styles.get(value, value))
            elif name.endswith("}href"):
                node.set(name, _hash(parts.get(value, b"")))
            elif name.endswith((":drawing:1.0}name", ":table:1.0}name", "ref-name", ":drawing:1.0}z-index")):
                node.set(name, "")
    pictures = sorted(_hash(content) for name, content in parts.items() if name.startswith("Pictures/"))
    return etree.tostring(body, method="c14n"), pictures


def _eml_content(data: bytes) -> tuple[str, list[str]]:
    """The text of the HTML with every content id replaced by what it names; the hashes of all parts."""
    whole = message_from_bytes(data, policy=policy.default)
    parts = [each for each in whole.walk() if not each.is_multipart()]
    page = next(str(each.get_content()) for each in parts if each.get_content_type() == "text/html")
    for each in parts:
        if each["content-id"]:
            page = page.replace(str(each["content-id"]).strip("<>"), _hash(bytes(each.get_payload(decode=True) or b"")))
    kept = (bytes(each.get_payload(decode=True) or b"") for each in parts if each.get_content_type() != "text/html")
    return page, sorted(map(_hash, kept))


class EitherOrder(unittest.TestCase):
    """What was placed first leaves no trace but in ids."""

    def test_in_text_documents(self) -> None:
        """Every two ways to stand, at two places and at both sides of a table; with captions, which count by place."""
        for name, data, content in (
            ("docx", make_handbook(), _docx_content),
            ("odt", _odt(), _odt_content),
        ):
            document = open_document(data)
            spots = [each.id for each in document.spots() if set(Stand) >= set(each.stands)]
            first, second = spots[1], spots[-1]
            for one, other in combinations(_LAYOUTS, 2):
                with self.subTest(name, one=one, other=other):
                    a, b = _picture(1, first, one), _picture(2, second, other)
                    forth, back = (content(write(document, each).data) for each in ([a, b], [b, a]))
                    self.assertEqual(forth, back)
                    self.assertNotEqual(forth, content(write(document, [a]).data))

    def test_one_copy_after_the_other(self) -> None:
        """Placed in a copy of a copy, too: places are found by the text before them."""
        for name, data, content in (("docx", make_handbook(), _docx_content), ("odt", _odt(), _odt_content)):
            texts = [each.after_text for each in open_document(data).spots() if each.after_text]
            wishes = [(1, texts[0], Layout()), (2, texts[1], Layout(stand=Stand.TEXT_RIGHT))]
            made = []
            for order in (wishes, wishes[::-1]):
                copy = data
                for seed, text, layout in order:
                    document = open_document(copy)
                    spot = next(each.id for each in document.spots() if each.after_text == text)
                    copy = write(document, [_picture(seed, spot, layout)]).data
                made.append(content(copy))
            with self.subTest(name):
                self.assertEqual(*made)

    def test_in_messages(self) -> None:
        """In the body and attached."""
        document = open_document(make_notice())
        spots = [each.id for each in document.spots() if Stand.IN_BODY in each.stands]
        a = _picture(1, spots[0], Layout(stand=Stand.IN_BODY))
        b = _picture(2, spots[-1], Layout(stand=Stand.BOTH))
        forth, back = (_eml_content(write(document, each).data) for each in ([a, b], [b, a]))
        self.assertEqual(forth, back)
