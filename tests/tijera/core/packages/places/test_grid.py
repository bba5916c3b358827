"""Cells by name, tracks of columns and rows, places found again in a newer version."""

from __future__ import annotations

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from tests.support.docx import Docx, paragraph
from tests.support.xlsx import Tab, Xlsx, cells
from tijera.core.errors import SpotUnknown
from tijera.core.packages.places.finding_again import find_again, find_cells_again
from tijera.core.packages.places.grid import (
    CellRange,
    Run,
    column_index,
    column_name,
    columns_of,
    find_words,
    tracks,
    usual_spots,
)
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import as_sheets, open_document
from tijera.core.units import Length


class Names(unittest.TestCase):
    """As people write cells."""

    @given(st.integers(0, 16_383))
    def test_columns_have_letters(self, index: int) -> None:
        """There and back."""
        self.assertEqual(column_index(column_name(index)), index)

    def test_cells_are_read_in_any_order_and_case(self) -> None:
        """Corners are sorted; what no sheet has is refused."""
        cases = {
            "B3": "B3",
            "f20:b3": "B3:F20",
            "$B$3:F20": "B3:F20",
            "XFD1048576": "XFD1048576",
            "B0": None,
            "XFE1": None,
            "B1048577": None,
            "B3:": None,
            "B3:C4:D5": None,
            "3B": None,
        }
        for text, wanted in cases.items():
            with self.subTest(text):
                found = CellRange.parse(text)
                self.assertEqual(None if found is None else str(found), wanted)
        self.assertEqual((columns_of("F:B"), columns_of("B"), columns_of("B:XFE")), ((1, 5), None, None))


@st.composite
def _runs(draw: st.DrawFn) -> list[Run]:
    firsts = draw(st.lists(st.integers(0, 60), max_size=8))
    return [Run(first, first + draw(st.integers(0, 9)), Fraction(draw(st.integers(0, 50)))) for first in firsts]


class TracksOfAnySize(unittest.TestCase):
    """Against adding up one by one."""

    @given(_runs(), st.integers(0, 90))
    def test_a_start_is_the_sum_of_what_is_before_it(self, runs: list[Run], index: int) -> None:
        """Whatever runs there are, overlapping or not: of two the one that begins first counts."""
        own = tracks(Fraction(20), runs)
        sizes = [own.size(each) for each in range(index + 1)]
        self.assertEqual(own.start(index), sum(sizes[:-1], Fraction(0)))
        self.assertEqual(own.span(0, index), sum(sizes, Fraction(0)))

    @given(_runs(), st.integers(0, 3_000))
    def test_an_offset_lies_in_the_track_that_it_is_found_in(self, runs: list[Run], offset: int) -> None:
        """Found by halving; how far into it is what is left."""
        own = tracks(Fraction(20), runs)
        index, inside = own.at(Fraction(offset), 400)
        self.assertLessEqual(own.start(index), offset)
        self.assertGreater(own.start(index + 1), offset)
        self.assertEqual(own.start(index) + inside, offset)


class Places(unittest.TestCase):
    """Cells as places."""

    def setUp(self) -> None:
        """Two sheets, one of a strange name, with merged cells and a hidden column."""
        merged = '<mergeCells><mergeCell ref="B2:C4"/></mergeCells>'
        hidden = '<cols><col min="4" max="4" hidden="1"/></cols>'
        tabs = [Tab("A!B", cells(("Boat", "Low"), ("Heron",)), hidden, merged), Tab("Crew", cells(("low water",)))]
        self.document = open_document(Xlsx(tabs).build())

    def test_a_cell_is_free_and_cells_bound(self) -> None:
        """One cell takes a picture at its natural size; a span of columns its width; several rows their height too."""
        one, span, area = (self.document.spot(f"Crew!{cells}") for cells in ("B3", "B3:F3", "B3:F20"))
        self.assertEqual((one.width.pixels, one.free_width is None, one.fit_width > span.width), (64, False, True))
        self.assertEqual((span.width.pixels, span.free_width, span.height > area.height), (320, None, True))
        self.assertEqual((area.height.pixels, area.stands[0], area.grows_to), (360, Stand.STRETCHES, None))
        self.assertEqual(one.stands, (Stand.HANGS, Stand.STRETCHES, Stand.STAYS))

    def test_a_merged_cell_stands_for_all_of_them(self) -> None:
        """Whichever of them is named."""
        for name in ("B2", "C4"):
            spot = self.document.spot(f"A!B!{name}")
            self.assertEqual((spot.width.pixels, spot.height.pixels, spot.free_width), (128, 60, None))

    def test_a_cell_beside_a_merged_one_stands_for_itself(self) -> None:
        """In its rows, in its columns, and at its corner."""
        for name in ("A2", "B1", "C5"):
            spot = self.document.spot(f"A!B!{name}")
            self.assertEqual((spot.width.pixels, spot.free_width is None), (64, False), name)

    def test_a_place_in_each_used_column_below_what_is_there(self) -> None:
        """And one beside them; what is hidden is none."""
        ids = [spot.id for spot in usual_spots(as_sheets(self.document).grids)]
        self.assertEqual([each for each in ids if each.startswith("Crew")], ["Crew!A2", "Crew!B2"])
        self.assertEqual([each for each in ids if each.startswith("A!B")], ["A!B!A3", "A!B!B3", "A!B!C3"])

    def test_a_sheet_that_is_in_use_to_its_end_has_its_places_there(self) -> None:
        """There is no row below the last one."""
        rows = '<row r="1048576"><c r="A1048576" t="inlineStr"><is><t>x</t></is></c></row>'
        ids = [spot.id for spot in open_document(Xlsx([Tab("Log", rows)]).build()).spots()]
        self.assertEqual(ids, ["Log!A1048576", "Log!B1048576"])

    def test_rows_that_are_all_hidden_are_no_place(self) -> None:
        """Nothing would be seen there."""
        rows = '<row r="1"><c r="A1" t="inlineStr"><is><t>x</t></is></c></row><row r="2" hidden="1"/><row r="3" hidden="1"/>'
        document = open_document(Xlsx([Tab("Log", rows)]).build())
        with self.assertRaises(SpotUnknown):
            document.spot("Log!A2:B3")
        self.assertEqual(document.spot("Log!A1:B3").height.pixels, 20)

    def test_what_is_no_place_is_refused(self) -> None:
        """Hidden columns, other sheets, nonsense; without a sheet the first one is meant."""
        for name in ("A!B!D1", "Nowhere!B3", "Crew!nonsense", "Crew!", ""):
            with self.subTest(name), self.assertRaises(SpotUnknown):
                self.document.spot(name)
        self.assertEqual(self.document.spot("B9").id, "A!B!B9")

    def test_words_are_found_in_all_sheets_and_round_again(self) -> None:
        """In the order of sheets and rows, without regard to case."""
        grids = as_sheets(self.document).grids
        first = find_words(grids, "LOW", None)
        self.assertEqual(first, (0, 0, 1))
        self.assertEqual(find_words(grids, "low", first), (1, 0, 0))
        self.assertEqual(find_words(grids, "low", (1, 0, 0)), first)
        self.assertEqual([find_words(grids, each, None) for each in ("", "  ", "nowhere")], [None, None, None])


class FoundAgain(unittest.TestCase):
    """Places in a newer version."""

    def _again(self, before: list[str], after: list[str], spot: str) -> str | None:
        old, new = (
            list(open_document(Docx("".join(map(paragraph, texts))).build()).spots()) for texts in (before, after)
        )
        found = find_again(old, new, spot)
        return None if found is None else found.id

    def test_a_place_goes_with_the_text_that_it_follows(self) -> None:
        """Wherever that stands now; of several alike the one with the same neighbours; without either it is lost."""
        text = ["one", "two", "three"]
        cases: list[tuple[list[str], list[str], str, str | None]] = [
            (text, ["new", *text], "b.2", "b.3"),
            (text, ["three", "two", "one"], "b.3", "b.1"),
            (text, ["one", "two, changed", "three"], "b.2", "b.2"),
            (text, ["one", "three"], "b.2", None),
            (text, text, "b.0", "b.0"),
            (["a", "same", "b", "same", "c"], ["b", "same", "c"], "b.4", "b.2"),
            (["a", "same", "b", "same"], ["x", "a", "same", "b", "same"], "b.2", "b.3"),
            (["a", "", "b"], ["b", "", "a", "", "c"], "b.2", "b.4"),
        ]
        for before, after, spot, wanted in cases:
            with self.subTest(before=before, after=after):
                self.assertEqual(self._again(before, after, spot), wanted)

    def test_cells_go_with_their_labels(self) -> None:
        """Rows and columns that came in between move them; a sheet that is gone loses them."""
        before = Xlsx([Tab("Tides", cells(("Boat", "Low"), ("Heron", ""), ("Teal", "")))]).build()
        moved = Xlsx(
            [
                Tab(
                    "Tides",
                    cells(
                        (
                            "",
                            "",
                        ),
                        ("", "Boat", "Low"),
                        ("", "new", ""),
                        ("", "Heron", ""),
                        ("", "Teal"),
                    ),
                )
            ]
        ).build()
        gone = Xlsx([Tab("Other", cells(("Boat",)))]).build()
        old, new, other = (as_sheets(open_document(data)).grids for data in (before, moved, gone))
        for spot, wanted in (("Tides!B2", "Tides!C4"), ("Tides!B3:C3", "Tides!C5:D5"), ("Tides!B9", "Tides!C10")):
            found = find_cells_again(old, new, spot)
            self.assertEqual(None if found is None else found.id, wanted)
        self.assertIsNone(find_cells_again(old, other, "Tides!B2"))


class Anchors(unittest.TestCase):
    """Where a picture ends."""

    def test_at_the_edge_of_the_sheet_it_ends_in_the_last_cell(self) -> None:
        """A column or a row beyond XFD1048576 is none (ECMA-376 Part 1, 18.3.1.73; limits as common practice)."""
        grid = as_sheets(open_document(Xlsx([Tab(rows=cells(("one",)))]).build())).grids[0]
        last = CellRange.parse("XFD1048576")
        assert last is not None
        column, x, row, y = grid.end(last, Length.from_mm(400), Length.from_mm(400), {})
        self.assertEqual((column, row), (16_383, 1_048_575))
        self.assertEqual((x.emu, y.emu), (int(grid.columns.size(column)), int(grid.rows.size(row))))

    def test_a_row_that_grew_for_a_picture_holds_all_of_it(self) -> None:
        """It ends in the row that it begins in, at that row's lower edge, and the next row begins there."""
        grid = as_sheets(open_document(Xlsx([Tab(rows=cells(("one",)))]).build())).grids[0]
        cell, below = CellRange.parse("B3"), CellRange.parse("B4")
        assert cell is not None
        assert below is not None
        high = Length.from_mm(40)
        heights = grid.grown([(cell, high), (cell, Length.from_mm(12))])
        self.assertEqual(heights, {2: Fraction(high.emu)})
        _, _, row, y = grid.end(cell, Length.from_mm(10), high, heights)
        self.assertEqual((row, y), (2, high))
        self.assertEqual(grid.corner(below, heights)[1] - grid.corner(cell, heights)[1], high)


class Stretches(unittest.TestCase):
    """A sheet is read as far as it is shown."""

    def test_every_cell_of_the_last_row_is_there(self) -> None:
        """Read from the beginning, which stops behind that row and not within it."""
        data = Xlsx([Tab(rows=cells(("a", "b", "c"), ("d", "e", "f"), ("g", "h", "i")))]).build()
        for first, last, wanted in ((0, 0, 3), (0, 1, 6), (1, 1, 3), (2, 2, 3)):
            grid = as_sheets(open_document(data)).grids[0]
            with self.subTest((first, last)):
                self.assertEqual(len(grid.cells_between(first, last)), wanted)
