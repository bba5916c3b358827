"""Clippings taken anew: their area on today's screen, beside the old one, in its place in all files or in some."""

import unittest
from typing import Any

from tests.support.bench import BenchCase
from tijera.core.budget.search import Progress
from tijera.core.errors import NotAnew
from tijera.core.frames.source import Grab
from tijera.core.geometry import Rect
from tijera.core.packages.registry import new_document
from tijera.desk.desk import PracticeDesk
from tijera.records import ClippingRecord, DestinationRecord
from tijera.usecases import destinations, edits, placing, retaking, taking
from tijera.usecases.retaking import LookedAt, Looks

FARES = "fare-notice"
ROSTER = "crew-roster"


class Anew(BenchCase):
    """On the practice desk, whose windows scroll and move."""

    def setUp(self) -> None:
        """The fare notice is on top."""
        super().setUp()
        self.looks = Looks()
        desk = self.workshop.source("desk")
        assert isinstance(desk, PracticeDesk)
        self.desk = desk
        self.desk.raise_window(FARES)

    def window(self, window_id: str = FARES) -> ClippingRecord:
        """A clipping of a whole window."""
        frame = taking.freeze(self.workshop, "desk")
        box = next(each.box for each in frame.windows if each.id == window_id)
        return taking.take(self.workshop, frame.id, taking.Cut(taking.CutKind.WINDOW, box, window=window_id))

    def region(self) -> ClippingRecord:
        """A part of the fare notice."""
        frame = taking.freeze(self.workshop, "desk")
        box = frame.windows[0].box
        area = Rect(box.x + 60, box.y + 120, 400, 200)
        return taking.take(self.workshop, frame.id, taking.Cut(taking.CutKind.REGION, area))

    def file(self, clipping: ClippingRecord, name: str) -> DestinationRecord:
        """A document with the clipping in it."""
        _, data = new_document("docx")
        file = self.open(data, name)
        spot = next(iter(destinations.document_of(self.workshop, file).spots())).id
        placing.place(self.workshop, file.id, clipping.id, spot)
        return file

    def shown(self, clipping_id: str) -> bytes:
        """The pixels of a clipping now."""
        record = self.workshop.store.find(ClippingRecord, clipping_id)
        return self.workshop.pictures.finished(record).pixels.tobytes()

    def test_where_nothing_changed_it_says_so(self) -> None:
        """Also when the window stands elsewhere now: the area goes along with it."""
        clipping = self.region()
        self.assertFalse(retaking.look(self.workshop, self.looks, clipping.id).is_changed)
        self.desk.move_window(FARES, 300, 200)
        look = retaking.look(self.workshop, self.looks, clipping.id)
        self.assertFalse(look.is_changed)
        self.assertNotEqual((look.after.area.x, look.after.area.y), (clipping.area.x, clipping.area.y))

    def test_a_window_that_is_covered_now_comes_whole(self) -> None:
        """As it would when it is taken; nothing of what lies over it is in the picture."""
        clipping = self.region()
        self.desk.move_window(ROSTER, 200, 300)
        self.desk.raise_window(ROSTER)
        frame = taking.freeze(self.workshop, "desk")
        fares = next(each for each in frame.windows if each.id == FARES)
        self.assertTrue(fares.is_whole)
        self.assertEqual(retaking.look(self.workshop, self.looks, clipping.id).share, 0)

    def test_it_replaces_itself_in_all_files_and_one_undo_brings_all_back(self) -> None:
        """With the crop that it has."""
        clipping = self.region()
        edits.make(self.workshop, clipping.id, None, edits.Crop(Rect(10, 10, 300, 150)))
        files = [self.file(clipping, f"Rules {number}.docx") for number in range(2)]
        before = self.shown(clipping.id)
        self.desk.scroll(FARES, 120)
        look = retaking.look(self.workshop, self.looks, clipping.id)
        self.assertTrue(0 < look.share <= 1)
        self.assertEqual({each.destination for each in look.places}, {each.id for each in files})
        self.assertEqual(self.shown(clipping.id), before)
        retaking.accept(self.workshop, self.looks, [look.id])
        after = self.workshop.store.find(ClippingRecord, clipping.id)
        self.assertEqual(after.crop, Rect(10, 10, 300, 150))
        self.assertNotEqual(self.shown(clipping.id), before)
        for file in files:
            written = placing.write_copy(self.workshop, file)
            self.assertEqual([each.clipping.id for each in written.placed], [clipping.id])
        self.workshop.store.undo()
        self.assertEqual(self.shown(clipping.id), before)

    def test_in_some_files_the_old_one_stays(self) -> None:
        """A copy of it takes the place there; undo takes the copy away."""
        clipping = self.region()
        old, new = self.file(clipping, "Old.docx"), self.file(clipping, "New.docx")
        before = self.shown(clipping.id)
        self.desk.scroll(FARES, 120)
        look = retaking.look(self.workshop, self.looks, clipping.id)
        retaking.accept(self.workshop, self.looks, [look.id], {old.id})
        [stays], [goes] = (self.workshop.store.placements(each.id) for each in (old, new))
        self.assertEqual(self.shown(stays.clipping), before)
        self.assertEqual(goes.clipping, clipping.id)
        self.assertNotEqual(self.shown(clipping.id), before)
        self.workshop.store.undo()
        self.assertEqual(self.workshop.store.placements(old.id)[0].clipping, clipping.id)
        self.assertEqual(self.workshop.store.count_clippings(), 1)

    def test_marks_that_may_not_fit_any_more_are_pointed_out(self) -> None:
        """Those round which the picture is another one, and no others."""
        clipping = self.window()
        height = clipping.area_height
        head = edits.DrawnMark("ring", ((20.0, 8.0), (200.0, 30.0)), id="head")
        text = edits.DrawnMark("ring", ((60.0, height - 160.0), (400.0, height - 90.0)), id="text")
        edits.make(self.workshop, clipping.id, None, edits.Add((head, text)))
        self.desk.scroll(FARES, 120)
        look = retaking.look(self.workshop, self.looks, clipping.id)
        self.assertEqual(look.marks_apart, ("text",))

    def test_a_window_that_is_gone_says_so_and_nothing_changes(self) -> None:
        """With its title."""
        clipping = self.window()
        source: Any = self.workshop.sources["desk"]
        real = source.grab

        def without() -> Grab:
            grab: Grab = real()
            windows = tuple(each for each in grab.frame.windows if each.id != FARES)
            object.__setattr__(grab.frame, "windows", windows)
            return grab

        source.grab = without
        with self.assertRaises(NotAnew) as refused:
            retaking.look(self.workshop, self.looks, clipping.id)
        self.assertIn(str(clipping.window), refused.exception.detail)

    def test_what_came_from_elsewhere_can_not(self) -> None:
        """It says what to do instead."""
        data = self.workshop.store.blobs.get(self.workshop.pictures.frame(self.region().frame).blob)
        brought = taking.bring_in(self.workshop, data, "Chart.png")
        with self.assertRaises(NotAnew) as refused:
            retaking.look(self.workshop, self.looks, brought.id)
        self.assertIn("Bring the newer picture in", refused.exception.remedy)

    def test_a_whole_files_clippings_at_once(self) -> None:
        """How far it is is said; those that can't are named; what changed is put in place as one change."""
        changed, same = self.region(), self.window("tide-board")
        file = self.file(changed, "Rules.docx")
        spot = next(iter(destinations.document_of(self.workshop, file).spots())).id
        placing.place(self.workshop, file.id, same.id, spot)
        data = self.workshop.store.blobs.get(self.workshop.pictures.frame(same.frame).blob)
        placing.place(self.workshop, file.id, taking.bring_in(self.workshop, data, "Chart.png").id, spot)
        self.desk.scroll(FARES, 120)
        *steps, found = retaking.look_at_all(self.workshop, self.looks, file.id)
        self.assertEqual([each.done for each in steps if isinstance(each, Progress)], [0, 1, 2])
        assert isinstance(found, LookedAt)
        self.assertEqual([name for name, *_ in found.failed], ["Chart"])
        looks = [self.looks.find(each) for each in found.looks]
        self.assertEqual([(each.before.id, each.is_changed) for each in looks], [(changed.id, True), (same.id, False)])
        # One moment of the screen for all.
        frames = {each.after.frame for each in looks if not self.workshop.pictures.frame(each.after.frame).windows[1:]}
        self.assertLessEqual(len(frames), 1)


if __name__ == "__main__":
    unittest.main()
