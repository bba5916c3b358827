"""Widths of columns and heights of rows, by the standards' own formulas, examples and units.

Sources: ECMA-376 Part 1 §18.3.1.13 (col: both formulas, and the example of 8 characters), §18.3.1.81 (sheetFormatPr),
§18.3.1.73 (row); ODF 1.2 Part 1 §18.3.18 (length: its units). Clause numbers from memory.
"""

from __future__ import annotations

import math
import unittest
from fractions import Fraction

from tests.support.ods import Ods, row
from tests.support.xlsx import Tab, Xlsx
from tijera.core.packages.formats.xlsx.tracks import digit_px, pixels_of_width, usual_column_px, width_of_characters
from tijera.core.packages.registry import open_document
from tijera.core.units import Length

_SHEETS = (
    # what stands before the data, the cells, their pixels; MDW is 7
    ("", "B1:F1", 320),
    ("", "A1", 64),
    ('<sheetFormatPr baseColWidth="10"/>', "A1:B1", 160),
    ('<sheetFormatPr defaultColWidth="8.7109375"/>', "A1", 61),
    ('<sheetFormatPr defaultColWidth="10.7109375"/>', "A1:C1", 225),
    ('<cols><col min="2" max="3" width="10.7109375"/></cols>', "A1:D1", 64 + 150 + 64),
    ('<cols><col min="2" max="2" width="0"/></cols>', "A1:C1", 128),
    ('<cols><col min="2" max="2" width="20" hidden="1"/></cols>', "A1:C1", 128),
    ('<cols><col min="3" max="16384" width="2.7109375"/></cols>', "B1:E1", 64 + 3 * 19),
    ('<cols><col min="1" max="1" width="255"/></cols>', "A1", 1_785),
)
_LENGTHS = (
    # a column's width as ODF writes it, and what it is in EMU
    ("2.258cm", 812_880),
    ("0.8925in", 816_102),
    ("64pt", 812_800),
    ("5.5pc", 838_200),
    ("85px", 809_625),
    ("22.58mm", 812_880),
)
_HEIGHTS = (
    # attributes of a row, its height in pixels
    ("", 20),
    (' ht="15.75"', 21),
    (' ht="30" customHeight="1"', 40),
    (' ht="409.5"', 546),
)


class Columns(unittest.TestCase):
    """Of spreadsheets."""

    def test_the_standards_example(self) -> None:
        """Eight characters of a font whose widest digit has 7 pixels: 8.7109375 and 61; ten: 10.7109375 and 75."""
        for characters, width, pixels in ((8, 8.7109375, 61), (10, 10.7109375, 75)):
            self.assertEqual(width_of_characters(characters, 7), width)
            self.assertEqual(pixels_of_width(width, 7), pixels)

    def test_both_formulas_for_other_fonts(self) -> None:
        """As the standard writes them, in whole numbers, beside ours."""
        for digit in (5, 6, 7, 8, 9, 11):
            for characters in (1, 5, 8, 20, 100):
                width = Fraction(math.floor(Fraction(characters * digit + 5, digit) * 256), 256)
                pixels = math.floor((256 * width + 128 // digit) / 256 * digit)
                with self.subTest(digit=digit, characters=characters):
                    self.assertEqual(width_of_characters(characters, digit), float(width))
                    self.assertEqual(pixels_of_width(float(width), digit), pixels)
                    self.assertEqual(pixels, characters * digit + 5)

    def test_the_usual_width_is_rounded_up_to_eight_pixels(self) -> None:
        """Padding and the line of the grid counted in."""
        self.assertEqual([usual_column_px(None, digit) for digit in (6, 7, 8, 9)], [56, 64, 72, 80])

    def test_the_widest_digit_follows_the_font(self) -> None:
        """Calibri and Arial of 11 and 10 points have 7 pixels at 96 dots per inch."""
        self.assertEqual(
            [digit_px("Calibri", 11), digit_px("Arial", 10), digit_px("Arial", 12), digit_px("Calibri", 18)],
            [7, 7, 8, 12],
        )

    def test_widths_of_cells(self) -> None:
        """Worked case 12 (B to F at the usual width: 320 pixels, 3,048,000 EMU), and more."""
        for before, cells, pixels in _SHEETS:
            with self.subTest(before or cells):
                spot = open_document(Xlsx([Tab(before=before)]).build()).spot(f"Timetable!{cells}")
                self.assertEqual(spot.width.emu, pixels * 9_525)

    def test_heights_of_rows(self) -> None:
        """In points; 15 where none is given."""
        for attributes, pixels in _HEIGHTS:
            with self.subTest(attributes):
                rows = f'<row r="2"{attributes}><c r="A2"><v>1</v></c></row>'
                spot = open_document(Xlsx([Tab(rows=rows)]).build()).spot("Timetable!A2:B3")
                self.assertEqual(spot.height.emu, (pixels + 20) * 9_525)

    def test_lengths_of_opendocument(self) -> None:
        """In every unit that the standard has."""
        for text, emu in _LENGTHS:
            style = f'<style:style style:name="c" style:family="table-column"><style:table-column-properties style:column-width="{text}"/></style:style>'
            inside = f'<table:table-column table:style-name="c" table:number-columns-repeated="3"/>{row("x")}'
            spot = open_document(Ods({"T": inside}, automatic=style).build()).spot("T!A1:C1")
            with self.subTest(text):
                self.assertAlmostEqual(spot.width.emu, 3 * emu, delta=1)
                self.assertEqual(spot.width, Length.exactly(Fraction(spot.width.emu)))
