"""Writing packages of the Open Packaging Conventions: what would be none is refused."""

import unittest
from unittest import mock

from tests.support.docx import members
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, text_like
from tests.support.xlsx import Tab, Xlsx, cells
from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.zipped import open_package
from tijera.core.packages.families.opc.content_types import ContentTypes
from tijera.core.packages.families.opc.relationships import TRANSITIONAL, Relationships
from tijera.core.packages.families.opc.writing import write_parts
from tijera.core.packages.formats.xlsx.document import open_xlsx
from tijera.core.packages.formats.xlsx.writer import write
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.units import Length

_PNG = encoded(text_like(60, 40))
_RELS = "application/vnd.openxmlformats-package.relationships+xml"


class OverridesOnly(unittest.TestCase):
    """A workbook whose content types name every part and have no defaults."""

    def test_every_part_that_comes_in_has_a_type(self) -> None:
        """The new drawing, the picture, and the relationships of both sheet and drawing."""
        data = Xlsx([Tab(rows=cells(("Berth", "Depth")))], overrides_only=True).build()
        self.assertEqual(complaints(data), [])
        picture = PlacedPicture("Timetable!B3", _PNG, "png", Length.from_mm(20), Length.from_mm(13), "Tide")
        written = write(open_xlsx(data), [picture]).data
        self.assertEqual(complaints(written), [])
        types = ContentTypes(open_package(written, "copy.xlsx"))
        new = [name for name in members(written) if name not in members(data)]
        self.assertEqual(len(new), 4)
        self.assertEqual({types.of(name) for name in new if name.endswith(".rels")}, {_RELS})


class Refusing(unittest.TestCase):
    """What is about to be written is looked at again."""

    def setUp(self) -> None:
        """A small workbook."""
        self.package = open_package(Xlsx([Tab()]).build(), "a.xlsx")
        self.types = ContentTypes(self.package)

    def test_a_part_without_a_type(self) -> None:
        """Nobody said what it is, or what was said did not arrive."""
        with self.assertRaisesRegex(StructureBroken, "no content type"):
            write_parts(self.package, self.types, {}, {"xl/media/a.png": _PNG}, {})
        with mock.patch.object(ContentTypes, "with_parts", return_value=None), self.assertRaises(StructureBroken):
            write_parts(self.package, self.types, {}, {"xl/media/a.png": _PNG}, {"xl/media/a.png": "image/png"})

    def test_a_name_that_differs_only_in_its_case(self) -> None:
        """Some readers find the wrong one."""
        with self.assertRaisesRegex(StructureBroken, "but for its case"):
            write_parts(
                self.package, self.types, {}, {"XL/Workbook.XML": b"<a/>"}, {"XL/Workbook.XML": "application/xml"}
            )

    def test_a_relationship_that_leads_nowhere(self) -> None:
        """A new one only: what the file itself has stays as it is."""
        listed = Relationships(self.package, "xl/worksheets/sheet1.xml")
        added = listed.with_added([("rId9", f"{TRANSITIONAL}/drawing", "xl/drawings/drawing1.xml")])
        with self.assertRaisesRegex(StructureBroken, "not there"):
            write_parts(self.package, self.types, {}, {listed.name: added}, {})

    def test_a_part_without_an_ending_is_named_by_itself(self) -> None:
        """A default could not be for it."""
        written = write_parts(self.package, self.types, {}, {"xl/notice": b"x"}, {"xl/notice": "text/plain"})
        self.assertEqual(complaints(written), [])
