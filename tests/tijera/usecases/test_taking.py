"""Taking of every kind, and what is kept of it."""

import itertools
import unittest
from dataclasses import replace

import numpy as np

from tests.support.bench import BenchCase
from tests.support.pictures import encoded, text_like
from tijera.core.errors import AreaEmpty, AreaOutside, KeyTaken, NotAble, NotFound, OptionUnreadable, WindowForgotten
from tijera.core.frames.source import Desktop
from tijera.core.geometry import Rect
from tijera.demo.handbook import make_handbook
from tijera.records import ClippingRecord, FrameRecord
from tijera.usecases import destinations, longpages, placing, rack, saving, taking
from tijera.usecases.jobs import Job
from tijera.usecases.options import change_options, options
from tijera.usecases.taking import Cut, CutKind


class TakingCase(BenchCase):
    """A frozen desk."""

    def setUp(self) -> None:
        """Freeze."""
        super().setUp()
        self.frame = taking.freeze(self.workshop, "desk")

    @property
    def desk(self) -> Desktop:
        """The practice desk."""
        return self.workshop.desktop("desk")

    def cut(self, kind: CutKind, area: Rect | None = None, **more: object) -> ClippingRecord:
        """Cut something out of the frame."""
        return taking.take(self.workshop, self.frame.id, Cut(kind, area, **more))  # type: ignore[arg-type]

    def pixels(self, record: ClippingRecord) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
        """What a clipping shows."""
        return self.workshop.pictures.finished(record).pixels


class Kinds(TakingCase):
    """Each gives what one means."""

    def test_a_covered_window_is_cut_from_its_own_picture(self) -> None:
        """With its frame or without; the pointer stays where it was on it."""
        window = next(each for each in self.frame.windows if each.id == "harbour-chart")
        whole = self.cut(CutKind.WINDOW, window="harbour-chart")
        inner = self.cut(CutKind.WINDOW, window="harbour-chart", content_only=True, pointer=True)
        self.assertEqual(whole.area.size, window.box.size)
        self.assertTrue(np.array_equal(self.pixels(whole), self.desk.window("harbour-chart").pixels))
        self.assertEqual(self.pixels(inner).shape[:2], (720, 990))
        pointer = self.frame.pointer
        assert pointer and window.content
        self.assertEqual(
            (inner.pointer_x, inner.pointer_y), (pointer.x - window.content.x, pointer.y - window.content.y)
        )
        self.assertEqual(inner.scale_factor, 1.5)

    def test_the_whole_picture_of_a_window_is_kept_for_fresh_frames_only(self) -> None:
        """After a restart it is gone, and that is said."""
        again = self.open_workshop()
        with self.assertRaises(WindowForgotten):
            taking.take(again, self.frame.id, Cut(CutKind.WINDOW, None, window="harbour-chart"))
        self.assertEqual(again.store.clippings(), [])

    def test_an_outline_is_taken_with_its_bounds(self) -> None:
        """What lies outside is transparent and empty."""
        record = self.cut(CutKind.FREEHAND, outline=((100.0, 200.0), (180.5, 210.0), (140.0, 290.0)))
        self.assertEqual(str(record.area), "81 × 90 at 100, 200")
        pixels = self.pixels(record)
        self.assertEqual(pixels[0, 80].tolist(), [0, 0, 0, 0])
        self.assertEqual(pixels[20, 40, 3], 255)
        saved = saving.save(self.workshop, record.id, "png")
        self.assertEqual(saved.media_type, "image/png")

    def test_wrong_areas_are_refused_and_nothing_is_hung_up(self) -> None:
        """Half outside, none at all, a window that is not there."""
        with self.assertRaises(AreaOutside):
            self.cut(CutKind.REGION, Rect(4_400, 1_300, 200, 200))
        with self.assertRaises(AreaOutside):
            self.cut(CutKind.REGION, Rect(-20, 30, 60, 60))
        with self.assertRaises(AreaEmpty):
            self.cut(CutKind.REGION)
        with self.assertRaises(AreaEmpty):
            self.cut(CutKind.FREEHAND, outline=((5.0, 5.0), (6.0, 6.0)))
        with self.assertRaises(NotFound):
            self.cut(CutKind.WINDOW, window="nobody")
        self.assertEqual(self.workshop.store.clippings(), [])

    def test_asked_twice_with_one_id_it_is_taken_once(self) -> None:
        """As after a broken connection; and placed once."""
        cut = Cut(CutKind.REGION, Rect(50, 60, 200, 100))
        records = [taking.take(self.workshop, self.frame.id, cut, None, "0123456789ab") for _ in range(2)]
        self.assertEqual(records[0], records[1])
        self.assertEqual(len(self.workshop.store.clippings()), 1)

    def test_the_alternative_text_begins_without_day_and_time(self) -> None:
        """Until the clipping is renamed: then it is the name."""
        destination = self.open(make_handbook())
        spot = next(iter(destinations.document_of(self.workshop, destination).spots())).id
        record = self.cut(CutKind.REGION, Rect(90, 130, 900, 420))
        placed = placing.place(self.workshop, destination.id, record.id, spot)
        self.assertEqual(placed.description, "Tide board, outer quay")
        rack.rename(self.workshop, record.id, "Low water on Thursday")
        self.assertEqual(
            placing.place(self.workshop, destination.id, record.id, spot).description, "Low water on Thursday"
        )
        again = placing.place(self.workshop, destination.id, record.id, spot, once=True)
        self.assertEqual(again.id, placed.id)

    def test_a_shared_frame_is_kept_as_it_came(self) -> None:
        """Its PNG is not encoded once more; its title names what is cut from it."""
        data = encoded(text_like(320, 200))
        frame = taking.bring_frame(self.workshop, data, "share", "Fares", 2.0)
        self.assertEqual(self.workshop.store.blobs.get(frame.blob), data)
        record = taking.take(self.workshop, frame.id, Cut(CutKind.REGION, Rect(10, 10, 100, 50)))
        self.assertEqual((record.scale_factor, record.window), (2.0, "Fares"))
        self.assertIsNone(taking.changed_since(self.workshop, frame.id))


class LastArea(TakingCase):
    """Once more, on the newest picture."""

    def test_nothing_before_the_first(self) -> None:
        """None is the answer."""
        self.assertIsNone(taking.last_area(self.workshop, self.frame.id))

    def test_the_same_area_the_same_outline_the_same_window(self) -> None:
        """Also by another opening of the store."""
        self.cut(CutKind.REGION, Rect(50, 60, 200, 100))
        again = self.open_workshop()
        last = taking.last_area(again, taking.freeze(again, "desk").id)
        self.assertEqual(last and (last.kind, str(last.area)), (CutKind.REGION, "200 × 100 at 50, 60"))
        points = ((100.0, 200.0), (180.0, 210.0), (140.0, 290.0))
        self.cut(CutKind.FREEHAND, outline=points)
        last = taking.last_area(self.workshop, self.frame.id)
        self.assertEqual(last and last.outline, points)
        self.cut(CutKind.WINDOW, window="quay-clock", content_only=True)
        self.desk.move_window("quay-clock", 3_000, 400)
        last = taking.last_area(self.workshop, taking.freeze(self.workshop, "desk").id)
        self.assertEqual(last and (last.area.x, last.area.y), (3_001, 428))

    def test_on_a_smaller_screen_the_part_that_is_there(self) -> None:
        """With a word on it; a window that has gone is said to have."""
        self.cut(CutKind.REGION, Rect(250, 100, 200, 150))
        small = taking.bring_frame(self.workshop, encoded(text_like(320, 200)), "share", "", 1.0)
        last = taking.last_area(self.workshop, small.id)
        self.assertEqual(last and str(last.area), "70 × 100 at 250, 100")
        self.assertIn("does not lie on this screen of 320 × 200 px", (last and last.note) or "")
        self.cut(CutKind.WINDOW, window="engine-log")
        with self.assertRaises(NotFound):
            taking.last_area(self.workshop, small.id)


class Pointer(TakingCase):
    """A layer of its own."""

    def test_it_is_shown_hidden_moved_and_undone(self) -> None:
        """It covers but its own pixels, crop or not; without one there is nothing to show."""
        pointer = self.frame.pointer
        assert pointer
        record = self.cut(CutKind.REGION, Rect(pointer.x - 50, pointer.y - 40, 200, 150))
        plain = self.pixels(record)
        shown = rack.show_pointer(self.workshop, record.id, None, shown=True)
        self.assertEqual((shown.pointer_x, shown.pointer_y), (50, 40))
        self.assertNotEqual(shown.version, record.version)
        rows, _ = np.nonzero((self.pixels(shown) != plain).any(axis=2))
        self.assertTrue(30 <= rows.min() <= 44 and rows.max() < 80)
        moved = rack.show_pointer(self.workshop, record.id, (120, 100), shown=True)
        cropped = rack.crop(self.workshop, moved.id, Rect(0, 0, 100, 80))
        self.assertTrue(np.array_equal(self.pixels(cropped), plain[:80, :100]))
        for _ in range(2):
            self.workshop.store.undo()
        self.assertEqual(self.workshop.store.find(ClippingRecord, record.id), shown)
        other = taking.bring_in(self.workshop, encoded(text_like(60, 40)), "quay.png")
        with self.assertRaises(NotFound):
            rack.show_pointer(self.workshop, other.id, None, shown=True)


class Rack(TakingCase):
    """Names, finding, several at once, thumbnails."""

    def test_found_by_name_window_day_and_short_words(self) -> None:
        """All terms somewhere; signs that mean something to the index are just signs."""
        names = ("Depths at Q4", 'Roster "new" 100%', "Engine_log")
        for name in names:
            taking.take(self.workshop, self.frame.id, Cut(CutKind.REGION, Rect(90, 130, 900, 420)), name)
        find = self.workshop.store.slips
        for terms, found in (
            (["depths"], names[:1]),
            (["Q4"], names[:1]),
            (["tide", "board"], names),
            (["2026-03-12", "roster"], names[1:2]),
            (["Thursday"], names),
            (["0%"], names[1:2]),
            (['"new"'], names[1:2]),
            (["e_"], names[2:]),
            (["nothing"], ()),
        ):
            with self.subTest(terms):
                self.assertEqual(sorted(slip.name for slip in find(terms)), sorted(found))
        record = self.workshop.store.clippings()[0]
        rack.rename(self.workshop, record.id, "Lighthouse")
        self.assertEqual([slip.id for slip in find(["lighth"])], [record.id])
        self.workshop.store.undo()
        self.assertEqual(find(["lighth"]), [])
        rack.remove(self.workshop, [record.id])
        self.assertEqual(len(find(["tide"])), 2)
        self.workshop.store.undo()
        self.assertEqual(len(find(["tide"])), 3)

    def test_several_are_removed_in_one_step(self) -> None:
        """One undo brings them back; an unknown one stops all of it."""
        ids = [self.cut(CutKind.REGION, Rect(10 * n, 10, 90, 60)).id for n in range(4)]
        with self.assertRaises(NotFound):
            rack.remove(self.workshop, [ids[0], "nobody"])
        rack.remove(self.workshop, [*ids[:3], ids[0]])
        self.assertEqual([each.id for each in self.workshop.store.clippings()], [ids[3]])
        self.assertEqual(self.workshop.store.undo().label, "Remove 3 clippings")
        self.assertEqual(len(self.workshop.store.clippings()), 4)

    def test_a_thumbnail_is_made_once(self) -> None:
        """And anew when the picture changes."""
        record = self.cut(CutKind.REGION, Rect(90, 130, 900, 420))
        first = rack.thumbnail(self.workshop, record.id)
        frame = self.workshop.store.find(FrameRecord, record.frame)
        self.workshop.store.add(replace(frame, blob="0" * 64))
        self.workshop.pictures._frames._values.clear()
        self.workshop.pictures._frame_records._values.clear()
        self.assertEqual(rack.thumbnail(self.workshop, record.id), first)
        rack.crop(self.workshop, record.id, Rect(0, 0, 300, 200))
        with self.assertRaises(NotFound):
            rack.thumbnail(self.workshop, record.id)


class LongPages(TakingCase):
    """A page that scrolls by itself."""

    def scroll(self, window: str, stop_after: int = 10**6) -> list[longpages.Growing | longpages.PageJoined]:
        """Scroll a window through."""
        count = itertools.count(1)
        return list(
            longpages.scroll_through(
                self.workshop, longpages.LongPages(), "page", "desk", window, lambda: next(count) >= stop_after
            )
        )

    def test_it_comes_to_the_end_or_stops_with_what_it_has(self) -> None:
        """The frame is whole, its scale that of the window's monitor."""
        *growing, done = self.scroll("fare-notice")
        assert isinstance(done, longpages.PageJoined)
        heights = [each.height for each in growing]
        self.assertEqual((heights, done.note), (sorted(heights), ""))
        frame = self.workshop.store.find(FrameRecord, done.frame)
        self.assertEqual(
            (frame.height, frame.scale_factor, frame.windows[0].title), (4_359, 1.5, "Fare notice from 1 April")
        )
        *_, stopped = self.scroll("fare-notice", stop_after=3)
        assert isinstance(stopped, longpages.PageJoined)
        self.assertTrue(900 < stopped.height < 2_000)
        self.assertIn("what was joined is kept", stopped.note)

    def test_a_window_that_does_not_scroll_is_one_strip(self) -> None:
        """And one that is not there is said not to be."""
        *_, done = self.scroll("weather")
        self.assertEqual(done.height, 560)
        with self.assertRaises(NotFound):
            self.scroll("nobody")

    def test_strips_of_a_shared_screen_come_from_outside(self) -> None:
        """Only the desk scrolls by itself, and only the server's own screen is taken without a picture."""
        pages = longpages.LongPages()
        page = longpages.begin(self.workshop, pages, "share", "Fares", 1.0, None)
        with self.assertRaises(NotFound):
            longpages.finish(self.workshop, pages, page)
        with self.assertRaises(NotAble):
            longpages.add_strip(self.workshop, page, None)
        longpages.add_strip(self.workshop, page, encoded(text_like(300, 200)))
        self.assertEqual(longpages.finish(self.workshop, pages, page).height, 200)
        with self.assertRaises(NotFound):
            pages.find(page.id)

    def test_strips_of_the_servers_own_screen_are_taken_by_the_server(self) -> None:
        """An area of it, again and again, while somebody scrolls."""
        window = next(each for each in self.desk.look().windows if each.id == "fare-notice")
        self.desk.raise_window("fare-notice")
        page = longpages.begin(self.workshop, longpages.LongPages(), "desk", "Fares", 1.5, window.content)
        outcomes = []
        for by in (0, 180, 200, 0):
            self.desk.scroll("fare-notice", by)
            outcomes.append(longpages.add_strip(self.workshop, page, None).value)
        self.assertEqual((outcomes, page.stitcher.height), (["first", "new", "new", "same"], 540 + 380))
        self.assertTrue(longpages.thumbnail(page).startswith(b"\x89PNG"))

    def test_the_oldest_of_many_pages_is_dropped(self) -> None:
        """Nobody fills the memory with pages that are never finished."""
        pages = longpages.LongPages()
        made = [longpages.begin(self.workshop, pages, "share", "", 1.0, None) for _ in range(6)]
        with self.assertRaises(NotFound):
            pages.find(made[0].id)
        self.assertIs(pages.find(made[5].id), made[5])


class Settings(BenchCase):
    """The user's options."""

    def test_they_are_kept_and_a_wrong_one_changes_nothing(self) -> None:
        """Also by another opening; keys too."""
        change_options(self.workshop, by_day=True, keys={"freeze": "J"})
        for wrong, error in (
            ({"name_pattern": "{x}", "pointer": True}, OptionUnreadable),
            ({"keys": {"freeze": "A"}}, KeyTaken),
        ):
            with self.subTest(wrong), self.assertRaises(error):
                change_options(self.workshop, **wrong)
        kept = options(self.open_workshop())
        self.assertEqual((kept.by_day, kept.pointer, kept.keys), (True, False, {"freeze": "J"}))

    def test_what_a_newer_version_kept_is_passed_over(self) -> None:
        """And does not come in the way."""
        self.workshop.store.remember("options", '{"to_clipboard": true, "unheard_of": 5}')
        self.assertTrue(options(self.workshop).to_clipboard)


class Stopping(unittest.TestCase):
    """Work that rounds itself off."""

    def test_it_is_asked_to_stop_and_ends_by_itself(self) -> None:
        """Its last event still comes."""
        from concurrent.futures import ThreadPoolExecutor

        from tijera.usecases.jobs import Jobs

        jobs = Jobs(ThreadPoolExecutor(1))

        def work(_: str, stopped: object) -> object:
            while not stopped():  # type: ignore[operator]
                yield "step"
            yield "rounded off"

        job: Job = jobs.start_rounded_off(work)  # type: ignore[arg-type]
        jobs.stop(job.id)
        jobs.close()
        self.assertEqual((job.events[-1], job.is_over), ("rounded off", True))
