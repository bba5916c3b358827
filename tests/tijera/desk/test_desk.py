"""The practice desk: windows that overlap, scroll and come to the top, and frames of them."""

import unittest

import numpy as np

from tijera.core.errors import NotFound
from tijera.core.frames.frame import title_under
from tijera.core.frames.source import LiveWindow
from tijera.core.geometry import Rect
from tijera.core.imaging.vips import draw_text_width
from tijera.desk.desk import SCALE_FACTOR, SIZE, PracticeDesk
from tijera.desk.drawing import MONO, SANS, SERIF


class Desk(unittest.TestCase):
    """A screen behind the interface of every source."""

    def setUp(self) -> None:
        """A fresh desk."""
        self.desk = PracticeDesk()

    def test_a_frame_comes_with_its_windows(self) -> None:
        """At least five, top first, all on the screen, some overlapping."""
        frame, picture = self.desk.grab()
        self.assertEqual((picture.size, frame.size, frame.scale_factor), (SIZE, SIZE, SCALE_FACTOR))
        self.assertGreaterEqual(len(frame.windows), 5)
        self.assertEqual([window.depth for window in frame.windows], list(range(len(frame.windows))))
        self.assertTrue(all(window.box.lies_within(SIZE) for window in frame.windows))
        pairs = [(a, b) for a in frame.windows for b in frame.windows if a.depth < b.depth and a.box.overlap(b.box)]
        self.assertGreater(len(pairs), 2)

    def test_what_is_seen_live_is_what_is_frozen(self) -> None:
        """The topmost window's own picture stands in the frame, pixel for pixel."""
        self.desk.raise_window("crew-roster")
        frame, picture = self.desk.grab()
        top = frame.windows[0]
        self.assertEqual(top.id, "crew-roster")
        self.assertTrue(np.array_equal(picture.cut(top.box).pixels, self.desk.window("crew-roster").pixels))

    def test_two_frames_of_the_same_state_are_the_same(self) -> None:
        """Nothing moves by itself."""
        self.assertTrue(np.array_equal(self.desk.grab()[1].pixels, self.desk.grab()[1].pixels))

    def test_scrolling_stops_at_both_ends_and_changes_the_version(self) -> None:
        """The page moves under a fixed frame."""
        before = self._window("fare-notice")
        self.desk.scroll("fare-notice", 10**6)
        after = self._window("fare-notice")
        self.assertEqual((before.scrolled_px, after.scrolled_px), (0, after.most_px))
        self.assertNotEqual(before.version, after.version)
        self.desk.scroll("fare-notice", -(10**6))
        self.assertEqual(self._window("fare-notice").scrolled_px, 0)
        with self.assertRaises(NotFound):
            self.desk.scroll("nothing", 1)

    def _window(self, id_: str) -> LiveWindow:
        return next(window for window in self.desk.look().windows if window.id == id_)

    def test_text_is_drawn_with_the_fonts_that_ship(self) -> None:
        """A missing font is replaced in silence; then all families would measure alike."""
        widths = [draw_text_width("Quillhaven 0123", family) for family in (SANS, MONO, SERIF)]
        self.assertEqual(len(set(widths)), 3)
        self.assertEqual(widths[1], draw_text_width("Quillhaven 0123", MONO))

    def test_an_area_is_named_by_the_window_that_it_shows_most_of(self) -> None:
        """Over the desk alone it has no name."""
        frame, _ = self.desk.grab()
        box = next(window.box for window in frame.windows if window.id == "tide-board")
        self.assertEqual(title_under(Rect(box.x + 20, box.y + 60, 300, 200), frame.windows), "Tide board, outer quay")
        self.assertIsNone(title_under(Rect(2_540, 1_400, 20, 30), frame.windows))
