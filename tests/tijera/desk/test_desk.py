"""The practice desk: two monitors, windows that overlap, move, scroll and come to the top, menus, and frames of them."""

import tempfile
import unittest
from pathlib import Path

import numpy as np

from tijera.core.errors import NotFound, SceneBroken
from tijera.core.frames.frame import scale_factor_of, window_under
from tijera.core.frames.source import Desktop, LiveWindow
from tijera.core.geometry import Rect
from tijera.core.imaging.vips import draw_text_width
from tijera.desk.desk import PracticeDesk
from tijera.desk.drawing import MONO, SANS, SERIF
from tijera.desk.scene import DEFAULT, load_scene


class DeskCase(unittest.TestCase):
    """A fresh desk whose clock is moved by hand."""

    def setUp(self) -> None:
        """At its start."""
        self.seconds = 0.0
        self.desk = PracticeDesk(seconds=lambda: self.seconds)

    def window(self, id_: str) -> LiveWindow:
        """A window as it is seen live."""
        return next(window for window in self.desk.look().windows if window.id == id_)


class Screen(DeskCase):
    """A screen behind the interface of every source."""

    def test_two_monitors_of_two_scales_stand_side_by_side_and_not_in_line(self) -> None:
        """Between them there is nothing."""
        self.assertIsInstance(self.desk, Desktop)
        left, right = self.desk.look().monitors
        self.assertEqual((str(left.box), left.scale_factor), ("2560 × 1440 at 0, 0", 1.5))
        self.assertEqual((str(right.box), right.scale_factor), ("1920 × 1080 at 2560, 240", 1.0))
        gap = self.desk.grab().picture.cut(Rect(2_560, 0, 1_920, 240)).pixels
        self.assertFalse(gap.any())

    def test_a_frame_comes_with_its_windows(self) -> None:
        """At least seven, top first, some overlapping, one dark, one of them mostly covered."""
        grab = self.desk.grab()
        frame = grab.frame
        self.assertEqual(grab.picture.size, frame.size)
        self.assertGreaterEqual(len(frame.windows), 7)
        self.assertEqual([window.depth for window in frame.windows], list(range(len(frame.windows))))
        boxes = {window.id: window.box for window in frame.windows}
        covered = boxes["berth-plan"].overlap(boxes["weather"]) / boxes["berth-plan"].size.pixels
        self.assertGreater(covered, 0.75)
        dark = grab.picture.cut(boxes["engine-room"]).pixels.mean()
        self.assertLess(dark, 70)
        self.assertLess(dark, grab.picture.cut(boxes["tide-board"]).pixels.mean() / 2)

    def test_a_covered_window_comes_whole_beside_the_frame(self) -> None:
        """As it would look on top of all, pixel for pixel but for its title bar."""
        grab = self.desk.grab()
        berths = next(window for window in grab.frame.windows if window.id == "berth-plan")
        self.assertTrue(berths.is_whole)
        self.assertNotIn("engine-log", grab.whole)
        self.desk.raise_window("berth-plan")
        shown = self.desk.grab().picture.cut(berths.content or berths.box).pixels
        inner = (berths.content or berths.box).shifted(-berths.box.x, -berths.box.y)
        self.assertTrue(np.array_equal(grab.whole["berth-plan"].cut(inner).pixels, shown))

    def test_what_is_seen_live_is_what_is_frozen(self) -> None:
        """The topmost window's own picture stands in the frame, pixel for pixel."""
        self.desk.raise_window("crew-roster")
        grab = self.desk.grab()
        top = grab.frame.windows[0]
        self.assertEqual(top.id, "crew-roster")
        self.assertTrue(np.array_equal(grab.picture.cut(top.box).pixels, self.desk.window("crew-roster").pixels))

    def test_only_the_clock_moves_by_itself(self) -> None:
        """Two frames at one time are the same; a second later the clock alone differs."""
        first, again = self.desk.grab().picture.pixels, self.desk.grab().picture.pixels
        self.assertTrue(np.array_equal(first, again))
        self.seconds = 61.0
        rows, columns = np.nonzero((self.desk.grab().picture.pixels != first).any(axis=2))
        clock = self.window("quay-clock").box
        self.assertTrue(rows.size > 0)
        self.assertTrue(Rect(int(columns.min()), int(rows.min()), 1, 1).overlap(clock))
        self.assertTrue(Rect(int(columns.max()), int(rows.max()), 1, 1).overlap(clock))

    def test_the_pointer_is_a_layer_of_its_own(self) -> None:
        """Its tip is where it was brought; the bitmap is without it."""
        before = self.desk.grab().picture.pixels
        self.desk.point(700, 400)
        grab = self.desk.grab()
        self.assertTrue(np.array_equal(grab.picture.pixels, before))
        spot, drawn = grab.frame.pointer, grab.pointer
        self.assertEqual(spot and (spot.x, spot.y), (700, 400))
        self.assertTrue(drawn and drawn.has_alpha)


class Handling(DeskCase):
    """What can be done to windows."""

    def test_scrolling_stops_at_both_ends_and_changes_the_version(self) -> None:
        """The page of more than 4,000 px moves between a fixed head and foot."""
        before, picture = self.window("fare-notice"), self.desk.content("fare-notice").pixels
        self.assertGreater(before.most_px + before.content.height, 4_000)
        self.assertEqual(self.desk.scroll("fare-notice", 10**6), before.most_px)
        after, there = self.window("fare-notice"), self.desk.content("fare-notice").pixels
        self.assertNotEqual(before.version, after.version)
        self.assertTrue(np.array_equal(picture[:60], there[:60]) and np.array_equal(picture[-39:], there[-39:]))
        self.assertFalse(np.array_equal(picture[60:-39], there[60:-39]))
        self.desk.scroll("fare-notice", -(10**6))
        self.assertEqual(self.window("fare-notice").scrolled_px, 0)
        with self.assertRaises(NotFound):
            self.desk.scroll("nothing", 1)

    def test_windows_move_and_stay_within_reach(self) -> None:
        """Their title bar can always be taken hold of again; what hangs over the edge is not on the frame."""
        self.desk.move_window("engine-log", 300, 200)
        self.assertEqual((self.window("engine-log").box.x, self.window("engine-log").box.y), (300, 200))
        self.desk.move_window("engine-log", -(10**6), -(10**6))
        box = self.window("engine-log").box
        self.assertEqual((box.right, box.y), (80, 0))
        log = next(window for window in self.desk.grab().frame.windows if window.id == "engine-log")
        self.assertEqual((log.box.x, log.box.width), (0, 80))

    def test_a_menu_closes_when_one_goes_elsewhere(self) -> None:
        """It is in the frozen picture while it is open."""
        without = self.desk.grab().picture.pixels
        self.desk.open_menu("engine-log", "Log")
        menu = self.desk.look().menu
        assert menu is not None
        self.assertEqual(len(menu.items), len(menu.item_boxes))
        shown = self.desk.grab().picture
        self.assertTrue(np.array_equal(shown.cut(menu.box).pixels, self.desk.menu().pixels))
        self.assertFalse(np.array_equal(shown.pixels, without))
        self.desk.raise_window("tide-board")
        self.assertIsNone(self.desk.look().menu)
        with self.assertRaises(NotFound):
            self.desk.open_menu("engine-log", "Nothing")


class Scenes(unittest.TestCase):
    """Another desk is another file."""

    def test_a_broken_scene_is_refused_with_the_reason(self) -> None:
        """Missing values, wrong syntax, a window on no monitor."""
        good = DEFAULT.read_text(encoding="utf-8")
        for text, why in (
            ("name = ", "Invalid"),
            ('name = "x"', "monitors"),
            (good.replace('monitor = "left"', 'monitor = "moon"', 1), "moon"),
            (good.replace('id = "weather"', 'id = "berth-plan"', 1), "same id"),
            (good.replace("scale_factor = 1.5", "scale_factor = 0", 1), "scale"),
        ):
            with self.subTest(why), tempfile.TemporaryDirectory() as folder:
                path = Path(folder) / "other.toml"
                path.write_text(text, encoding="utf-8")
                with self.assertRaises(SceneBroken) as caught:
                    load_scene(path)
                self.assertIn(why, caught.exception.detail)

    def test_another_scene_is_another_desk(self) -> None:
        """One monitor, one window."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "kiosk.toml"
            path.write_text(
                'name = "Kiosk"\ndate = "Fri"\nclock = "08:00:00"\npointer = [4, 5]\n'
                '[[monitors]]\nid = "only"\nname = "Kiosk"\nx = 0\ny = 0\nwidth = 800\nheight = 600\nscale_factor = 2.0\n'
                '[[windows]]\nid = "till"\ntitle = "Till"\nmonitor = "only"\nx = 20\ny = 40\nwidth = 200\nheight = 120\n'
                'items = [{ kind = "text", x = 10, y = 30, words = "4.20" }]\n',
                encoding="utf-8",
            )
            frame = PracticeDesk(load_scene(path)).grab().frame
        self.assertEqual((str(frame.size), frame.scale_factor), ("800 × 600", 2.0))
        self.assertEqual([str(window.content) for window in frame.windows], ["400 × 240 at 42, 136"])


class Text(unittest.TestCase):
    """What is drawn and how areas are named."""

    def test_text_is_drawn_with_the_fonts_that_ship(self) -> None:
        """A missing font is replaced in silence; then all families would measure alike."""
        widths = [draw_text_width("Quillhaven 0123", family) for family in (SANS, MONO, SERIF)]
        self.assertEqual(len(set(widths)), 3)
        self.assertEqual(widths[1], draw_text_width("Quillhaven 0123", MONO))

    def test_an_area_is_named_by_the_window_that_it_shows_most_of(self) -> None:
        """Over the desk alone it has no name."""
        frame = PracticeDesk().grab().frame
        box = next(window.box for window in frame.windows if window.id == "tide-board")
        under = window_under(Rect(box.x + 20, box.y + 60, 300, 200), frame.windows)
        self.assertEqual(under and under.title, "Tide board, outer quay")
        self.assertIsNone(window_under(Rect(2_540, 1_400, 20, 30), frame.windows))

    def test_an_area_has_the_larger_scale_factor_of_its_monitors(self) -> None:
        """CSS Values and Units: 96 CSS pixels an inch, so s × 96 screen pixels; the picture keeps its own pixels."""
        monitors = PracticeDesk().look().monitors
        self.assertEqual(scale_factor_of(Rect(100, 100, 50, 50), monitors), 1.5)
        self.assertEqual(scale_factor_of(Rect(2_600, 300, 50, 50), monitors), 1.0)
        self.assertEqual(scale_factor_of(Rect(2_550, 300, 50, 50), monitors), 1.5)
        self.assertEqual(scale_factor_of(Rect(2_600, 10, 50, 50), monitors), 1.0)
