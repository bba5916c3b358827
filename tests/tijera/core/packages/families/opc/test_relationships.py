"""Relationships and content types: read, resolved, added to."""

import unittest

from tests.support.docx import zipped
from tijera.core.packages.containers.zipped import Package, open_package
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.relationships import Relationships, rels_name, resolve

_REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_NAMESPACE = "http://schemas.openxmlformats.org/package/2006/relationships"


def _package(relationships: str, name: str = "word/_rels/document.xml.rels") -> Package:
    xml = f'<Relationships xmlns="{_NAMESPACE}">{relationships}</Relationships>'
    return open_package(zipped({name: xml.encode()}), "x")


class Resolving(unittest.TestCase):
    """From a target to a member."""

    def test_targets_relative_absolute_and_escaped(self) -> None:
        """Seen from word/document.xml."""
        cases = {
            "media/a.png": "word/media/a.png",
            "/word/media/a.png": "word/media/a.png",
            "../media/a.png": "media/a.png",
            "./styles.xml": "word/styles.xml",
            "media/a%20b.png": "word/media/a b.png",
            "../../../../a.png": "a.png",
        }
        for target, member in cases.items():
            with self.subTest(target):
                self.assertEqual(resolve("word/document.xml", target), member)

    def test_where_relationships_are_kept(self) -> None:
        """The package's own have no part's name."""
        self.assertEqual(rels_name("word/document.xml"), "word/_rels/document.xml.rels")
        self.assertEqual(rels_name(""), "_rels/.rels")


class Reading(unittest.TestCase):
    """What a part refers to."""

    def test_kinds_of_both_editions_and_outside_targets(self) -> None:
        """Strict and transitional types are one kind; an address is not a member."""
        strict = "http://purl.oclc.org/ooxml/officeDocument/relationships"
        found = Relationships(
            _package(
                f'<Relationship Id="a" Type="{_REL}/styles" Target="styles.xml"/>'
                f'<Relationship Id="b" Type="{strict}/numbering" Target="/word/numbering.xml"/>'
                f'<Relationship Id="c" Type="{_REL}/image" Target="http://harbour.example/a.png" TargetMode="External"/>'
            ),
            "word/document.xml",
        )
        styles, numbering, outside = found.first("styles"), found.first("numbering"), found.get("c")
        assert styles and numbering and outside
        self.assertEqual((styles.target, numbering.target), ("word/styles.xml", "word/numbering.xml"))
        self.assertEqual((outside.external, outside.target), (True, "http://harbour.example/a.png"))
        self.assertIsNone(found.first("image"))


class Adding(unittest.TestCase):
    """New relationships."""

    def test_ids_are_free_whatever_their_case(self) -> None:
        """Gaps are filled."""
        taken = '<Relationship Id="RID1" Type="t" Target="a"/><Relationship Id="rId3" Type="t" Target="b"/>'
        self.assertEqual(Relationships(_package(taken), "word/document.xml").free_ids(3), ["rId2", "rId4", "rId5"])

    def test_the_rest_stays_and_targets_are_relative(self) -> None:
        """Also where there was no such part at all."""
        before = '<Relationship  Id="a"   Type="t" Target="x"/>'
        added = Relationships(_package(before), "word/document.xml").with_added(
            [("rId1", f"{_REL}/image", "word/media/é.png")]
        )
        self.assertIn(before.encode(), added)
        self.assertIn('Target="media/é.png"'.encode(), added)
        nothing = Relationships(open_package(zipped({"a.xml": b"<a/>"}), "x"), "word/document.xml")
        self.assertFalse(nothing.exists)
        self.assertIn(b"<Relationship xmlns=", nothing.with_added([("rId1", "t", "word/a.png")]))


class Types(unittest.TestCase):
    """Which type a part has."""

    def _types(self, inside: str) -> ContentTypes:
        xml = f'<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">{inside}</Types>'
        return ContentTypes(open_package(zipped({"[Content_Types].xml": xml.encode()}), "x"))

    def test_an_override_wins_and_case_does_not_matter(self) -> None:
        """Extensions and part names compare without regard to case."""
        types = self._types('<Default Extension="PNG" ContentType="image/png"/><Override PartName="/Word/A.png" ContentType="image/odd"/>')  # fmt: skip
        self.assertEqual(
            [types.of("word/a.png"), types.of("word/b.png"), types.of("word/c.gif")], ["image/odd", "image/png", None]
        )

    def test_only_what_is_missing_is_added(self) -> None:
        """A default for a new extension, an override where the extension has another type, nothing where all is said."""
        types = self._types('<Default Extension="png" ContentType="image/png"/><Default Extension="jpeg" ContentType="odd/type"/>')  # fmt: skip
        self.assertIsNone(types.with_parts({"word/a.png": "image/png"}))
        added = types.with_parts({"word/a.jpeg": "image/jpeg", "word/b.gif": "image/gif", "word/c.gif": "image/gif"})
        assert added is not None
        self.assertEqual(added.count(b"<Override"), 1)
        self.assertEqual(added.count(b'Extension="gif"'), 1)
