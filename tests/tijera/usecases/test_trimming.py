"""Trimming and marking: edits, histories, parts and wholes, words that stay here, what leaves."""

from __future__ import annotations

import io
import zipfile
from dataclasses import replace

import numpy as np
from PIL import Image

from tests.support.bench import BenchCase
from tests.support.docx import Docx, paragraph, section
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.clippings.legend import legend_of
from tijera.core.clippings.sheet import PLAIN, Edge, Sheet
from tijera.core.errors import ChangedElsewhere, MarkOutside, NothingToUndo, PartInUse, PartOfItself
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode
from tijera.core.marks.mark import Mark
from tijera.core.placing.readability import Grade
from tijera.records import ClippingRecord
from tijera.store.sheets import sheet_as_json, sheet_of_json
from tijera.usecases import consent, destinations, placing, rack, saving, standings, styles, taking, trimming
from tijera.usecases.readability import readable

_TITLE = "Tide board, outer quay"
_PAPER = Docx(paragraph("Before a vessel is called in") + paragraph("the watch reads the depth") + section()).build()


class TrimCase(BenchCase):
    """With a window on the rack, its title bar with it."""

    def setUp(self) -> None:
        """Take the tide board."""
        super().setUp()
        frame = taking.freeze(self.workshop, "desk")
        window = next(each for each in frame.windows if each.title == _TITLE)
        cut = taking.Cut(taking.CutKind.WINDOW, None, window=window.id)
        self.record = taking.take(self.workshop, frame.id, cut)

    def add(self, *marks: Mark, to: ClippingRecord | None = None) -> ClippingRecord:
        """Put marks on a clipping, each in a step of its own."""
        record = to or self.record
        for each in marks:

            def with_it(sheet: Sheet, crop: Rect, each: Mark = each) -> tuple[Sheet, Rect]:
                return edits.add(sheet, [each]), crop

            record = trimming.edit(self.workshop, record.id, None, "Mark", with_it)
        return record

    def sheet(self, record: ClippingRecord) -> Sheet:
        """What is done to a clipping, as it is kept."""
        return self.workshop.pictures.sheet(self.workshop.store.find(ClippingRecord, record.id))


class Histories(TrimCase):
    """Undo for each clipping by itself."""

    def test_each_clipping_has_its_own_history_across_a_restart(self) -> None:
        """Steps of two clippings made by turns; each is taken back in its own order after a restart."""
        other = self.take()
        self.add(mark("ring", (10, 10), (60, 50), id_="r1"))
        self.add(mark("ring", (10, 10), (60, 50), id_="o1"), to=other)
        self.add(mark("arrow", (10, 10), (60, 50), id_="a1"))
        again = self.open_workshop()
        again.store.undo(self.record.id)
        kept = again.pictures.sheet(again.store.find(ClippingRecord, self.record.id))
        self.assertEqual([each.id for each in kept.marks], ["r1"])
        again.store.undo(self.record.id)
        self.assertIsNone(again.store.find(ClippingRecord, self.record.id).sheet)
        with self.assertRaises(NothingToUndo):
            again.store.undo(self.record.id)
        untouched = again.pictures.sheet(again.store.find(ClippingRecord, other.id))
        self.assertEqual([each.id for each in untouched.marks], ["o1"])
        for _ in range(2):
            again.store.redo(self.record.id)
        self.assertEqual(len(again.pictures.sheet(again.store.find(ClippingRecord, self.record.id)).marks), 2)

    def test_two_hundred_steps_are_taken_back(self) -> None:
        """Without limit."""
        self.add(*(mark("pennant", (20 + n, 40), id_=f"p{n}") for n in range(200)))
        for _ in range(200):
            self.workshop.store.undo(self.record.id)
        self.assertTrue(self.sheet(self.record).is_plain)

    def test_a_new_change_ends_only_its_own_redo(self) -> None:
        other = self.take()
        self.add(mark("pennant", (20, 40)), to=other)
        self.workshop.store.undo(other.id)
        self.add(mark("pennant", (20, 40)))
        self.assertIsNotNone(self.workshop.store.redoable(other.id))
        self.add(mark("pennant", (30, 40)), to=other)
        self.assertIsNone(self.workshop.store.redoable(other.id))

    def test_a_clipping_taken_off_the_rack_is_not_brought_back_by_redo(self) -> None:
        self.add(mark("pennant", (20, 40)))
        self.workshop.store.undo(self.record.id)
        rack.remove(self.workshop, [self.record.id])
        self.assertIsNone(self.workshop.store.redoable())

    def test_the_later_of_two_windows_is_told(self) -> None:
        """And nothing is overwritten."""
        version = self.workshop.pictures.version_of(self.record)
        self.add(mark("pennant", (20, 40), id_="first"))
        with self.assertRaises(ChangedElsewhere):
            trimming.edit(self.workshop, self.record.id, version, "Clear", lambda _sheet, crop: (PLAIN, crop))
        self.assertEqual([each.id for each in self.sheet(self.record).marks], ["first"])

    def test_a_sheet_is_kept_as_it_is(self) -> None:
        """All of it, through JSON and back."""
        sheet = Sheet(
            (
                Mark("m", "pen", ((1.5, 2.0), (3.0, 4.0)), {"weight_pt": 3.0}, (0.5, 1.0)),
                mark("pennant", (4, 5), id_="p"),
            ),
            ground="saffron",
            edge=Edge(1.0, shadow_pt=3),
            scale=0.5,
        )
        self.assertEqual(sheet_of_json(sheet_as_json(sheet)), sheet)

    def test_a_mark_that_nobody_would_see_is_refused(self) -> None:
        with self.assertRaises(MarkOutside):
            self.add(mark("ring", (5_000, 5_000), (5_100, 5_080)))
        self.assertTrue(self.sheet(self.record).is_plain)


class Leaving(TrimCase):
    """What leaves."""

    def test_marks_are_drawn_at_the_placed_size(self) -> None:
        """A clipping in a narrow place and in a wide one: other pixels, both with their nine points."""
        self.add(mark("text", (40, 60), text="Low water", size_pt=9.0))
        destination = self.open(_PAPER)
        spot = next(iter(destinations.document_of(self.workshop, destination).spots())).id
        placed = placing.place(self.workshop, destination.id, self.record.id, spot)
        wide = standings.standing(self.workshop, placed)
        small = placing.adjust(self.workshop, placed.id, width=wide.measures.width.parse("50mm"))
        narrow = standings.standing(self.workshop, small)
        self.assertGreater(narrow.px_per_pt, wide.px_per_pt * 1.5)
        one, other = (placing.rendition_bytes(self.workshop, each)[0] for each in (wide, narrow))
        self.assertNotEqual(one, other)

    def test_what_was_made_fit_is_void_after_a_mark(self) -> None:
        """A rendition shows what was visible then."""
        destination = self.open(_PAPER)
        spot = next(iter(destinations.document_of(self.workshop, destination).spots())).id
        placed = placing.place(self.workshop, destination.id, self.record.id, spot)
        before = standings.standing(self.workshop, placed).shown
        self.add(mark("pennant", (40, 60)))
        self.assertNotEqual(standings.standing(self.workshop, placed).shown, before)

    def test_saved_copied_placed_and_small_pictures_hold_no_blacked_out_pixel(self) -> None:
        """Everything that leaves, decoded: black where it was blacked out."""
        self.add(mark("black-out", (40, 200), (300, 260)))
        png = decode(saving.save(self.workshop, self.record.id, "png").data).pixels
        self.assertFalse(png[200:260, 40:300].any())
        jpeg = decode(saving.save(self.workshop, self.record.id, "jpeg").data).pixels
        self.assertLess(int(jpeg[204:256, 44:296].max()), 12)
        self.assertFalse(decode(rack.show(self.workshop, self.record.id, None)).pixels[200:260, 40:300].any())
        small = decode(rack.thumbnail(self.workshop, self.record.id))
        share = small.size.width / self.record.crop_width
        rows = slice(round(203 * share), round(255 * share))
        self.assertLess(int(small.pixels[rows, round(44 * share) : round(290 * share)].max()), 60)

    def test_no_metadata_but_density(self) -> None:
        saved = saving.save(self.workshop, self.record.id, "png").data
        chunks = png_chunks(saved)
        self.assertLessEqual(set(chunks), {"IHDR", "PLTE", "IDAT", "pHYs", "tRNS", "IEND"})
        self.assertEqual(Image.open(io.BytesIO(saving.save(self.workshop, self.record.id, "jpeg").data)).getexif(), {})


class Consent(TrimCase):
    """Words from the window's title."""

    def test_a_title_leaves_until_something_is_hidden(self) -> None:
        self.assertIn(_TITLE, saving.save(self.workshop, self.record.id, "png").name)
        self.add(mark("black-out", (40, 200), (300, 260)))
        self.assertEqual(saving.save(self.workshop, self.record.id, "png").name, "Clipping.png")
        consent.allow(self.workshop, self.record.id, allowed=True)
        self.assertIn(_TITLE, saving.save(self.workshop, self.record.id, "png").name)

    def test_cropping_the_title_bar_away_holds_it_back_too(self) -> None:
        """A crop that leaves the bar whole does not."""
        rack.crop(self.workshop, self.record.id, Rect(0, 0, self.record.area_width, 300))
        self.assertFalse(consent.holds_back(self.workshop, self.workshop.store.find(ClippingRecord, self.record.id)))
        rack.crop(self.workshop, self.record.id, Rect(0, 60, self.record.area_width, 300))
        self.assertTrue(consent.holds_back(self.workshop, self.workshop.store.find(ClippingRecord, self.record.id)))

    def test_a_document_holds_no_word_of_it(self) -> None:
        """No member of the written copy has the title, until it is allowed; own words always leave."""
        self.add(mark("black-out", (40, 200), (300, 260)))
        destination = self.open(_PAPER)
        spot = next(iter(destinations.document_of(self.workshop, destination).spots())).id
        placed = placing.place(self.workshop, destination.id, self.record.id, spot)

        def members() -> bytes:
            data = placing.write_copy(self.workshop, destination).written.data
            package = zipfile.ZipFile(io.BytesIO(data))
            return b"".join(package.read(name) for name in package.namelist())

        self.assertNotIn(_TITLE.encode(), members())
        placing.adjust(self.workshop, placed.id, description="Depths at berth Q4")
        self.assertIn(b"Depths at berth Q4", members())
        placing.adjust(self.workshop, placed.id, description=_TITLE)
        self.assertNotIn(_TITLE.encode(), members())
        consent.allow(self.workshop, self.record.id, allowed=True)
        self.assertIn(_TITLE.encode(), members())


class Parts(TrimCase):
    """Parts and wholes."""

    def test_parts_show_what_the_whole_shows_there(self) -> None:
        """Pixel for pixel, black-outs and marks with them; the whole stays."""
        whole = self.add(
            mark("black-out", (40, 200), (300, 260), id_="b"), mark("ring", (400, 300), (500, 380), id_="r")
        )
        areas = [Rect(20, 180, 200, 150), Rect(380, 280, 160, 120)]
        made = trimming.part(self.workshop, whole.id, areas)
        picture = self.workshop.pictures.finished(whole).pixels
        for record, area in zip(made, areas, strict=True):
            part = self.workshop.pictures.finished(record).pixels
            self.assertTrue(np.array_equal(part, picture[area.y : area.bottom, area.x : area.right]))
        self.assertEqual([each.id for each in self.sheet(made[0]).marks], ["b"])
        self.assertEqual([each.id for each in self.sheet(made[1]).marks], ["b", "r"])
        self.assertEqual(self.workshop.store.count_clippings(), 3)

    def test_marks_of_joined_parts_keep_their_points(self) -> None:
        """The ink of a label is as high on the whole as on its own clipping at the same place, and follows that place."""
        self.add(mark("text", (60, 300), id_="t", text="HHHH", size_pt=9.0, colour="rust", ground="none"))
        joined = trimming.join(self.workshop, [self.record.id, self.take().id], stacked=False)
        own = self.workshop.store.find(ClippingRecord, self.record.id)
        under = self.workshop.pictures.finished(replace(own, sheet=None)).pixels[:, :, :3].astype(int)
        heights = []
        for record, px_per_pt in ((own, 4.0), (joined, 4.0), (joined, 2.0)):
            pixels = self.workshop.pictures.finished(record, px_per_pt).pixels
            drawn = np.abs(pixels[: len(under), : under.shape[1], :3].astype(int) - under).sum(axis=2) > 60
            heights.append(int(np.ptp(np.flatnonzero(drawn.any(axis=1)))) + 1)
        self.assertEqual(heights[0], heights[1])
        self.assertAlmostEqual(heights[1] / heights[2], 2, delta=0.2)

    def test_joined_parts_stay_editable(self) -> None:
        """The whole shows its parts, and shows them anew when they change."""
        other = self.take()
        joined = trimming.join(self.workshop, [self.record.id, other.id], stacked=True)
        picture = self.workshop.pictures.finished(joined).pixels
        first = self.workshop.pictures.finished(self.record).pixels
        self.assertTrue(np.array_equal(picture[: first.shape[0], : first.shape[1], :3], first[:, :, :3]))
        before = self.workshop.pictures.version_of(joined)
        self.add(mark("black-out", (40, 200), (300, 260)))
        self.assertNotEqual(self.workshop.pictures.version_of(joined), before)
        self.assertFalse(self.workshop.pictures.finished(joined).pixels[200:260, 40:300].any())

    def test_a_part_of_another_is_not_taken_off_by_itself(self) -> None:
        """With the whole it is; one undo brings both back."""
        joined = trimming.join(self.workshop, [self.record.id, self.take().id], stacked=False)
        with self.assertRaises(PartInUse):
            rack.remove(self.workshop, [self.record.id])
        rack.remove(self.workshop, [self.record.id, joined.id])
        self.workshop.store.undo()
        self.assertEqual(self.workshop.store.find(ClippingRecord, joined.id).parts, joined.parts)

    def test_a_clipping_is_not_laid_on_itself(self) -> None:
        joined = trimming.join(self.workshop, [self.record.id, self.take().id], stacked=False)
        with self.assertRaises(PartOfItself):
            trimming.inset_of(self.workshop, self.record, joined.id, (0, 0))

    def test_hidden_pixels_of_a_part_stay_hidden_in_the_whole(self) -> None:
        """Cropped away on the part: not in the bytes of the whole."""
        rack.crop(self.workshop, self.record.id, Rect(100, 100, 200, 150))
        joined = trimming.join(self.workshop, [self.record.id, self.take().id], stacked=True)
        picture = self.workshop.pictures.finished(joined).pixels
        seen = self.workshop.pictures.finished(self.workshop.store.find(ClippingRecord, self.record.id)).pixels
        self.assertTrue(np.array_equal(picture[:150, :200, :3], seen))
        self.assertTrue((picture[:150, 210:, :3] == 255).all())


class Helping(TrimCase):
    """Suggestions and styles."""

    def test_the_last_style_of_a_kind_is_remembered_without_its_words(self) -> None:
        styles.remember_style(self.workshop, "text", {"text": "private", "size_pt": 14.0})
        self.assertEqual(styles.styled(self.workshop, "text", {"bold": True}), {"size_pt": 14.0, "bold": True})
        self.assertEqual(styles.last_styles(self.open_workshop())["text"], {"size_pt": 14.0})

    def test_the_legend_follows_the_pennants(self) -> None:
        """Numbers before letters, those without words left out."""
        self.add(
            mark("pennant", (20, 40), id_="1", text="The depth to read"),
            mark("pennant", (20, 60), id_="2"),
            mark("pennant", (20, 80), id_="a", row="letters", text="The lamp"),
            mark("pennant", (20, 90), id_="3", text="The vessel that waits"),
        )
        lines = [(line.label, line.text) for line in legend_of(self.sheet(self.record))]
        self.assertEqual(lines, [("1", "The depth to read"), ("3", "The vessel that waits"), ("a", "The lamp")])

    def test_small_text_opens_doors_with_figures_that_hold(self) -> None:
        """In a place of 40 mm: the crop that is offered really makes the text as large as was said."""
        destination = self.open(_PAPER)
        spot = next(iter(destinations.document_of(self.workshop, destination).spots()))
        record = self.workshop.store.find(ClippingRecord, self.record.id)
        placed = placing.place(self.workshop, destination.id, record.id, spot.id)
        small = placing.adjust(self.workshop, placed.id, width=spot.width.parse("50mm"))
        place = trimming.place_of(self.workshop, record, small.id)
        found = readable(self.workshop, record, place, destination, spot)
        self.assertIs(found.grade, Grade.WEAK)
        doors = {door.name: door for door in found.doors}
        self.assertIn("natural", doors)
        placing.adjust(self.workshop, placed.id, width=doors["natural"].width)
        after = readable(self.workshop, record, trimming.place_of(self.workshop, record, small.id), destination, spot)
        self.assertAlmostEqual(after.text_pt or 0, doors["natural"].text_pt, places=1)

    def test_panes_marks_and_border_are_suggested(self) -> None:
        record = self.add(mark("ring", (400, 300), (500, 380)))
        found = trimming.suggest_crops(self.workshop, record.id)
        self.assertTrue(found.panes)
        assert found.marks is not None
        self.assertLessEqual((found.marks.x, found.marks.y), (400, 300))


def png_chunks(data: bytes) -> list[str]:
    """The names of a PNG's chunks (PNG 3rd edition, 5.3)."""
    names, at = [], 8
    while at < len(data):
        length = int.from_bytes(data[at : at + 4], "big")
        names.append(data[at + 4 : at + 8].decode("ascii"))
        at += 12 + length
    return names
