"""Newer versions, files on this computer, new messages, groups of one scale: in steps that can be undone."""

from __future__ import annotations

import io
import os
import tempfile
import zipfile
from pathlib import Path

from tests.support.bench import BenchCase
from tests.support.docx import Docx, members, paragraph, section
from tests.support.xlsx import Tab, Xlsx, cells
from tijera.core.clippings.sheet import Sheet
from tijera.core.errors import (
    ChangedOnDisk,
    FileUnreachable,
    InputRefused,
    InputTooHeavy,
    LengthUnreadable,
    NotADocument,
    NotFound,
)
from tijera.core.fit import WidthRule
from tijera.core.geometry import Rect
from tijera.core.marks.mark import Mark
from tijera.core.packages.formats.eml.compose import Letter
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Stand
from tijera.core.units import Length
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases import destinations, letters, placing, standings, trimming, versions


def _paper(*texts: str) -> bytes:
    return Docx("".join(map(paragraph, texts)) + section()).build()


class Newer(BenchCase):
    """The document goes on changing in its own program."""

    def test_places_are_found_again_those_lost_are_named_and_undo_brings_all_back(self) -> None:
        """The first bytes are kept, and the chosen place goes along."""
        clipping = self.take()
        old = self.open(_paper("one", "two", "three"))
        kept, lost = (placing.place(self.workshop, old.id, clipping.id, spot) for spot in ("b.2", "b.3"))
        destinations.choose_spot(self.workshop, old.id, "b.1")
        fresh = self.open(_paper("new", "one", "two"))
        earlier = versions.earlier_version(self.workshop, fresh.id)
        self.assertEqual(None if earlier is None else earlier.id, old.id)
        renewed = versions.take_over(self.workshop, old.id, fresh.id)
        self.assertEqual((renewed.found, [each.after_text for each in renewed.lost]), (1, ["three"]))
        now = self.workshop.store.find(DestinationRecord, old.id)
        self.assertEqual((now.blob, now.first_blob, now.spot), (fresh.blob, old.blob, "b.2"))
        self.assertEqual(self.workshop.store.find(PlacementRecord, kept.id).spot, "b.3")
        with self.assertRaises(NotFound):
            self.workshop.store.find(PlacementRecord, lost.id)
        self.workshop.store.undo()
        self.assertEqual(self.workshop.store.find(DestinationRecord, old.id).blob, old.blob)
        self.assertEqual(self.workshop.store.find(PlacementRecord, lost.id).spot, "b.3")
        self.assertEqual(self.workshop.store.find(DestinationRecord, fresh.id).blob, fresh.blob)

    def test_cells_move_along_and_another_kind_of_file_is_no_newer_version(self) -> None:
        """By the nearest label."""
        clipping = self.take()
        old = self.open(Xlsx([Tab("T", cells(("Boat",), ("Heron",)))]).build(), "t.xlsx")
        placed = placing.place(self.workshop, old.id, clipping.id, "T!B2")
        fresh = self.open(Xlsx([Tab("T", cells(("x",), ("Boat",), ("Heron",)))]).build(), "T.xlsx")
        versions.take_over(self.workshop, old.id, fresh.id)
        self.assertEqual(self.workshop.store.find(PlacementRecord, placed.id).spot, "T!B3")
        with self.assertRaises(NotFound):
            versions.take_over(self.workshop, old.id, self.open(_paper("x"), "t.xlsx").id)


class OnDisk(BenchCase):
    """Files of this computer."""

    def test_a_file_is_followed_and_written_back_only_while_it_is_what_was_read(self) -> None:
        """Atomically; twice in a row; never over what somebody else wrote."""
        path = self.folder / "Rules.docx"
        path.write_bytes(_paper("one", "two"))
        own = versions.open_path(self.workshop, path)
        placing.place(self.workshop, own.id, self.take().id, "b.1")
        self.assertEqual(versions.on_disk(self.workshop, own), versions.OnDisk.SAME)
        for _ in range(2):
            size = versions.write_back(self.workshop, own.id)
            self.assertEqual((path.stat().st_size, versions.on_disk(self.workshop, own)), (size, versions.OnDisk.SAME))
        self.assertEqual(sorted(each.name for each in self.folder.glob("*Rules*")), ["Rules.docx"])
        theirs = _paper("zero", "one", "two")
        path.write_bytes(theirs)
        self.assertEqual(versions.on_disk(self.workshop, own), versions.OnDisk.CHANGED)
        with self.assertRaises(ChangedOnDisk):
            versions.write_back(self.workshop, own.id)
        self.assertEqual(path.read_bytes(), theirs)
        self.assertEqual(versions.take_over_from_disk(self.workshop, own.id).found, 1)
        versions.write_back(self.workshop, own.id)
        main = members(path.read_bytes())["word/document.xml"].decode()
        self.assertLess(main.index("one"), main.index("<wp:inline"))

    def test_only_files_are_opened_and_what_a_link_leads_to_is_said(self) -> None:
        """A pipe is not waited for, a device has no end, a file that is too large is not read; a note is no message."""
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        pipe, huge, note = folder / "pipe.docx", folder / "huge.docx", folder / "keys.txt"
        os.mkfifo(pipe)
        with huge.open("wb") as file:
            file.truncate(self.workshop.guards.file_bytes + 1)
        note.write_text("Password: seven gulls\n\nnothing", encoding="utf-8")
        for path, why in ((pipe, "not a file but"), (folder, "Is a directory"), (Path("/dev/zero"), "not a file but")):
            with self.assertRaisesRegex(FileUnreachable, why):
                versions.open_path(self.workshop, path)
        with self.assertRaises(InputTooHeavy):
            versions.open_path(self.workshop, huge)
        with self.assertRaises(NotADocument):
            versions.open_path(self.workshop, note)
        real, link = folder / "Rules.docx", folder / "link.docx"
        real.write_bytes(_paper("one"))
        link.symlink_to(real)
        opened = versions.open_path(self.workshop, link)
        self.assertEqual((opened.path, opened.name), (str(real.resolve()), "Rules.docx"))

    def test_what_was_written_back_is_not_put_in_twice(self) -> None:
        """The newer version was made from our own copy: the picture stands in it already."""
        path = self.folder / "Rules.docx"
        path.write_bytes(_paper("one", "two"))
        own = versions.open_path(self.workshop, path)
        placing.place(self.workshop, own.id, self.take().id, "b.1")
        versions.write_back(self.workshop, own.id)
        changed = members(path.read_bytes())
        changed["word/document.xml"] = changed["word/document.xml"].replace(b">two<", b">two, revised<")
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as package:
            for name, data in changed.items():
                package.writestr(name, data)
        path.write_bytes(out.getvalue())
        renewed = versions.take_over_from_disk(self.workshop, own.id)
        self.assertEqual((renewed.found, renewed.already, renewed.lost), (0, 1, ()))
        now = self.workshop.store.find(DestinationRecord, own.id)
        written = placing.write_copy(self.workshop, now).written.data
        self.assertEqual(members(written)["word/document.xml"].count(b"<wp:inline"), 1)

    def test_a_file_that_is_gone_or_broken_changes_nothing(self) -> None:
        """Told in words; what stands here stays."""
        path = self.folder / "Rules.docx"
        path.write_bytes(_paper("one"))
        own = versions.open_path(self.workshop, path)
        path.write_bytes(b"PK broken")
        with self.assertRaises(InputRefused):
            versions.take_over_from_disk(self.workshop, own.id)
        path.unlink()
        self.assertEqual(versions.on_disk(self.workshop, own), versions.OnDisk.GONE)
        with self.assertRaises(FileUnreachable):
            versions.write_back(self.workshop, own.id)
        self.assertEqual(self.workshop.store.find(DestinationRecord, own.id).blob, own.blob)
        self.assertIsNone(versions.on_disk(self.workshop, self.open(_paper("x"))))


class NewMessages(BenchCase):
    """Written here while pictures stand in them."""

    def test_a_picture_stays_behind_its_paragraph(self) -> None:
        """Whatever is written before it; a paragraph that is taken away leaves it where it was."""
        own = letters.new_message(self.workshop)
        letters.write_letter(self.workshop, own.id, Letter(text="one\n\ntwo\n\nthree"))
        placed = placing.place(self.workshop, own.id, self.take().id, "h.2")
        for text, spot in (
            ("zero\n\none\n\ntwo\n\nthree", "h.3"),
            ("zero\n\none\n\ntwo, changed\n\nthree", "h.3"),
            ("alone", "h.1"),
            ("", "h.0"),
        ):
            letters.write_letter(self.workshop, own.id, Letter(text=text))
            self.assertEqual(self.workshop.store.find(PlacementRecord, placed.id).spot, spot)
        for _ in range(4):
            self.workshop.store.undo()
        self.assertEqual(self.workshop.store.find(PlacementRecord, placed.id).spot, "h.2")
        with self.assertRaises(NotFound):
            letters.write_letter(self.workshop, self.open(_paper("x")).id, Letter())


class Measures(BenchCase):
    """Widths as they are typed, groups of one scale, room beside."""

    def setUp(self) -> None:
        """A document with two clippings in it."""
        super().setUp()
        self.paper = self.open(_paper("one", "two"))
        wide, narrow = self.take(Rect(90, 130, 1_400, 300)), self.take(Rect(90, 130, 500, 300))
        self.wide, self.narrow = (
            placing.place(self.workshop, self.paper.id, each.id, "b.1") for each in (wide, narrow)
        )

    def _mm(self, placed: PlacementRecord) -> float:
        found = standings.standing(self.workshop, self.workshop.store.find(PlacementRecord, placed.id))
        return round(found.measures.width.mm, 1)

    def test_a_width_is_read_in_every_way_that_people_type_it(self) -> None:
        """Shares are of the place, or of the natural width where no place bounds it."""
        cases = {"60mm": 60.0, "6 cm": 60.0, "2 in": 50.8, "226px": 59.8, "50 %": 80.0, "12,5%": 20.0, "7,25 cm": 72.5}
        for text, wanted in cases.items():
            width = placing.width_of(self.workshop, self.wide.id, text)
            assert isinstance(width, Length)
            self.assertEqual(round(width.mm, 1), wanted)
        self.assertEqual(placing.width_of(self.workshop, self.wide.id, "fill"), WidthRule.FILL)
        for text in ("", "wide", "0 %", "5 elephants"):
            with self.assertRaises(LengthUnreadable):
                placing.width_of(self.workshop, self.wide.id, text)
        sheet = self.open(Xlsx().build(), "t.xlsx")
        free = placing.place(self.workshop, sheet.id, self.narrow.clipping, "Timetable!B3")
        natural = standings.standing(self.workshop, free).measures.width
        half = placing.width_of(self.workshop, free.id, "50%")
        self.assertEqual(half, Length(natural.emu // 2))

    def test_a_group_has_the_smallest_scale_that_any_of_them_needs(self) -> None:
        """Computed again when one changes; who leaves has its own again, and a group of one is none."""
        before = self._mm(self.narrow)
        placing.set_alike(self.workshop, self.narrow.id, self.wide.id)
        self.assertEqual(self._mm(self.wide), 160.0)
        self.assertEqual(self._mm(self.narrow), round(160.02 * 500 / 1_400, 1))
        placing.adjust(self.workshop, self.wide.id, width=Length.from_mm(70))
        self.assertEqual((self._mm(self.wide), self._mm(self.narrow)), (70.0, 25.0))
        placing.set_alike(self.workshop, self.narrow.id, None)
        self.assertEqual(self._mm(self.narrow), before)
        self.assertIsNone(self.workshop.store.find(PlacementRecord, self.wide.id).alike)

    def test_text_beside_gets_room(self) -> None:
        """A picture as wide as its column becomes half as wide; a width that was typed stays; so does a narrow one."""
        placing.adjust(self.workshop, self.wide.id, layout=Layout(stand=Stand.TEXT_LEFT))
        self.assertEqual(self._mm(self.wide), 80.0)
        placing.adjust(self.workshop, self.narrow.id, width=Length.from_mm(150))
        placing.adjust(self.workshop, self.narrow.id, layout=Layout(stand=Stand.TEXT_LEFT))
        self.assertEqual(self._mm(self.narrow), 150.0)

    def test_a_caption_takes_height_and_counts(self) -> None:
        """What is highest on the page becomes lower by its words."""
        tall = self.take(Rect(90, 130, 300, 600))
        placed = placing.place(self.workshop, self.paper.id, tall.id, "b.2")
        placing.adjust(self.workshop, placed.id, width=WidthRule.FILL)
        before = self._mm(placed)
        placing.adjust(self.workshop, placed.id, layout=Layout(caption="Tide"))
        self.assertLess(self._mm(placed), before)
        placing.adjust(self.workshop, self.wide.id, layout=Layout(caption="First"))
        every = standings.standings(self.workshop, self.paper)
        self.assertEqual(placing.caption_numbers(self.workshop, self.paper, every), ["Figure 1:", "", "Figure 2:"])

    def test_another_clipping_takes_its_place(self) -> None:
        """At its width; words that were the old one's own go with it, others stay."""
        placing.adjust(self.workshop, self.wide.id, width=Length.from_mm(50))
        placing.adjust(self.workshop, self.wide.id, clipping_id=self.narrow.clipping)
        self.assertEqual(self._mm(self.wide), 50.0)
        placing.adjust(self.workshop, self.narrow.id, description="Said by hand")
        placing.adjust(self.workshop, self.narrow.id, clipping_id=self.wide.clipping)
        self.assertEqual(self.workshop.store.find(PlacementRecord, self.narrow.id).description, "Said by hand")

    def test_a_new_crop_keeps_the_scale_or_fits_the_place_again(self) -> None:
        """As chosen: cropped to half, it is half as wide, or as wide as it can be."""
        record = self.workshop.store.find(ClippingRecord, self.wide.clipping)
        half = record.cropped_to(Rect(0, 0, record.crop_width // 2, record.crop_height))
        self.workshop.store.add(half)
        # Its natural size at 150 %: 700 pixels are 123.5 mm, less than the place has.
        self.assertEqual(self._mm(self.wide), 123.5)
        self.workshop.store.add(record)
        placing.adjust(self.workshop, self.wide.id, keeps_scale=True)
        self.assertEqual(self._mm(self.wide), 160.0)
        self.workshop.store.add(half)
        self.assertEqual(self._mm(self.wide), 80.0)
        placing.adjust(self.workshop, self.wide.id, width=WidthRule.FIT)
        self.assertEqual(self._mm(self.wide), 123.5)

    def test_the_alternative_text_is_proposed_from_name_and_legend(self) -> None:
        """What its pennants say comes behind what it is called."""
        record = self.workshop.store.find(ClippingRecord, self.narrow.clipping)
        pennants = tuple(
            Mark(f"m{n}", "pennant", ((50.0 + n, 60.0),), {"text": text})
            for n, text in enumerate(("the bell", "", "the rope"))
        )
        self.workshop.store.add(trimming.with_sheet(self.workshop, record, Sheet(marks=pennants)))
        placed = placing.place(self.workshop, self.paper.id, record.id, "b.2")
        self.assertTrue(placed.description.endswith(": 1 the bell; 3 the rope"), placed.description)
