"""How a picture stands is one rule: the written copy, the interface's figures and the command line say the same."""

from __future__ import annotations

from itertools import product

from tests.support.bench import BenchCase
from tests.support.docx import Docx, paragraph, section
from tests.support.pictures import encoded, text_like
from tijera.core.fit import WidthRule
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Stand
from tijera.core.packages.registry import open_document, report_pictures
from tijera.core.units import Length
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases import placing, standings, trimming
from tijera.usecases.files import place_file
from tijera.usecases.taking import bring_in

_PAPER = Docx(paragraph("Ropes are laid out") + paragraph("Nobody stands between") + section()).build()
_SIZES = ((200, 90), (60, 1_100), (760, 240), (40, 40))
_RULES: tuple[Length | WidthRule, ...] = (WidthRule.FIT, WidthRule.FILL, Length.from_mm(33))
_LAYOUTS = (
    Layout(),
    Layout(caption="Depth at berth 4"),
    Layout(stand=Stand.TEXT_LEFT),
    Layout(stand=Stand.WORD),
    Layout(caption="word " * 200, caption_above=True),
)


class OneRule(BenchCase):
    """Every size with every rule and layout."""

    def test_written_shown_and_by_command(self) -> None:
        """The extent in the copy is the one that Place and Trim show, and that the command line writes."""
        for size in _SIZES:
            picture = encoded(text_like(*size))
            destination = self.open(_PAPER)
            clipping = bring_in(self.workshop, picture, "Berths")
            placed = placing.place(self.workshop, destination.id, clipping.id, "b.1")
            # One after the other: what was asked for before leaves no trace.
            for rule, layout in product(_RULES, _LAYOUTS):
                with self.subTest(size=size, rule=rule, stand=layout.stand, caption=layout.caption[:5]):
                    self._agree(picture, placed, rule, layout)

    def _agree(self, picture: bytes, placed: PlacementRecord, rule: Length | WidthRule, layout: Layout) -> None:
        by_command = place_file(_PAPER, "Rules.docx", spot_id="b.1", picture=picture, picture_name="a.png", width=rule, layout=layout)  # fmt: skip
        destination = self.workshop.store.find(DestinationRecord, placed.destination)
        placing.adjust(self.workshop, placed.id, layout=layout)
        record = placing.adjust(self.workshop, placed.id, width=rule)
        shown = standings.standing(self.workshop, record).measures
        record_now = self.workshop.store.find(ClippingRecord, placed.clipping)
        in_trim = trimming.place_of(self.workshop, record_now, record.id)
        (extent,) = _extents(placing.write_copy(self.workshop, destination).written.data)
        self.assertEqual(extent, (shown.width.emu, shown.height.emu))
        self.assertEqual(extent, (in_trim.width.emu, in_trim.height.emu))
        self.assertEqual(extent, (by_command.measures.width.emu, by_command.measures.height.emu))
        self.assertEqual([extent], _extents(by_command.data))


def _extents(data: bytes) -> list[tuple[int, int]]:
    """What the document itself says, as another opening of it reports."""
    reports = report_pictures(open_document(data))
    return [(width.emu, height.emu) for report in reports for width, height in report.shown]
