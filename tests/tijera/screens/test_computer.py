"""This computer's screen, on a virtual one with real windows."""

import gc
import os
import unittest
import warnings
from unittest import mock

import numpy as np

from tests.support.xscreen import OPENBOX, XVFB, VirtualScreen
from tijera.core.errors import ScreenUnavailable
from tijera.core.frames.frame import WindowBox
from tijera.core.frames.source import Desktop, Grab
from tijera.screens.computer import ComputerScreen, open_screen
from tijera.screens.xserver import XServer

_RED, _BLUE = 0xB4402A, 0x38698C


def _colour(grab: Grab, x: int, y: int) -> int:
    r, g, b = (int(band) for band in grab.picture.pixels[y, x])
    return r << 16 | g << 8 | b


class NoScreen(unittest.TestCase):
    """Where no screen is, it is said so."""

    def test_a_session_without_a_display_or_with_a_wrong_one(self) -> None:
        """The reason is in the words."""
        with mock.patch.dict(os.environ):
            os.environ.pop("DISPLAY", None)
            with self.assertRaisesRegex(ScreenUnavailable, "DISPLAY is not set"):
                open_screen()
            os.environ["DISPLAY"] = ":9876"
            with warnings.catch_warnings():
                # The binding leaves the sockets open that it tried.
                warnings.simplefilter("ignore", ResourceWarning)
                with self.assertRaisesRegex(ScreenUnavailable, ":9876 can't be reached"):
                    open_screen()
                gc.collect()

    def test_a_system_that_tells_of_no_windows_says_what_to_do(self) -> None:
        """Its abilities are fewer than the table's, in words."""
        abilities = ComputerScreen(None).abilities
        self.assertIn("draw a region", abilities.window_list or "")
        self.assertTrue(abilities.can("exact_colours"))


@unittest.skipUnless(XVFB.exists(), "Xvfb is not installed: `make test` installs it")
class GoneAway(unittest.TestCase):
    """Somebody signs out while Tijera runs, and signs in again."""

    def test_it_is_said_and_the_next_one_of_that_name_is_taken(self) -> None:
        """No fault, whatever is asked; and a question that comes after the end is answered so too."""
        with VirtualScreen(managed=False) as first:
            name, server = first.name, XServer.connect(first.name)
            screen = ComputerScreen(server)
            self.addCleanup(server.close)
            self.assertEqual(str(screen.look().size), "1280 × 800")
        with warnings.catch_warnings():
            # As above: the binding leaves its sockets open.
            warnings.simplefilter("ignore", ResourceWarning)
            for ask in (screen.look, screen.grab, screen.look, server.pointer):
                with self.assertRaises(ScreenUnavailable):
                    ask()
            gc.collect()
        with VirtualScreen(managed=False, name=name):
            self.assertEqual(str(screen.look().size), "1280 × 800")
            self.assertEqual(str(screen.grab().picture.size), "1280 × 800")
            server.close()
            with self.assertRaisesRegex(ScreenUnavailable, f"{name} was closed"):
                screen.look()


@unittest.skipUnless(
    XVFB.exists() and OPENBOX.exists(), "Xvfb and openbox are not installed: `make test` installs them"
)
class RealWindows(unittest.TestCase):
    """Windows, pixels and the pointer, as the X server has them."""

    def screen(self, *, managed: bool, dpi: int | None = None) -> tuple[VirtualScreen, ComputerScreen]:
        """A virtual screen and the source that looks at it."""
        virtual = self.enterContext(VirtualScreen(managed=managed, dpi=dpi))
        server = XServer.connect(virtual.name)
        self.addCleanup(server.close)
        return virtual, ComputerScreen(server)

    def test_without_a_window_manager(self) -> None:
        """Two windows, one over the other: titles, places, order, colours."""
        virtual, source = self.screen(managed=False)
        virtual.window("Tide board", 100, 80, 400, 300, _RED)
        virtual.window("Engine log", 300, 200, 500, 320, _BLUE)
        grab = source.grab()
        self.assertEqual(str(grab.frame.size), "1280 × 800")
        found = [(each.title, str(each.box), each.depth) for each in grab.frame.windows]
        self.assertEqual(found, [("Engine log", "500 × 320 at 300, 200", 0), ("Tide board", "400 × 300 at 100, 80", 1)])
        self.assertEqual((_colour(grab, 110, 90), _colour(grab, 310, 210)), (_RED, _BLUE))
        live = source.look()
        self.assertEqual([each.title for each in live.windows], ["Tide board", "Engine log"])
        self.assertNotIsInstance(source, Desktop)

    def test_with_one_the_frame_and_the_content_are_told_apart(self) -> None:
        """The content is exactly what the program drew; the frame lies round it."""
        virtual, source = self.screen(managed=True)
        virtual.window("Berth plan", 200, 160, 420, 260, _BLUE)
        extents = virtual.display.intern_atom("_NET_CLIENT_LIST_STACKING")
        virtual.wait(lambda: len(getattr(virtual.root.get_full_property(extents, 33), "value", ())) > 0)
        virtual.wait(lambda: _framed(source.grab()))
        grab = source.grab()
        window = next(each for each in grab.frame.windows if each.title == "Berth plan")
        content = window.content
        assert content is not None
        self.assertEqual((content.width, content.height), (420, 260))
        self.assertGreater(content.y, window.box.y + 8)
        self.assertGreaterEqual(window.box.bottom, content.bottom)
        blue = (grab.picture.cut(content).pixels == np.array([0x38, 0x69, 0x8C])).all()
        self.assertTrue(blue)

    def test_the_pointer_comes_as_a_layer(self) -> None:
        """Where it was brought to, and not in the bitmap."""
        virtual, source = self.screen(managed=False)
        virtual.window("Tide board", 0, 0, 1_280, 800, _RED)
        virtual.root.warp_pointer(345, 234)
        virtual.display.sync()
        grab = source.grab()
        self.assertEqual(grab.frame.pointer and (grab.frame.pointer.x, grab.frame.pointer.y), (345, 234))
        self.assertTrue(grab.pointer and grab.pointer.has_alpha and grab.pointer.pixels[:, :, 3].any())
        self.assertEqual(len(np.unique(grab.picture.pixels.reshape(-1, 3), axis=0)), 1)

    def test_the_scale_factor_is_that_of_the_session(self) -> None:
        """144 dots an inch are 1.5 pixels for a CSS pixel (CSS Values and Units: 96 an inch)."""
        _, source = self.screen(managed=False, dpi=144)
        self.assertEqual(source.grab().frame.scale_factor, 1.5)


def _framed(grab: Grab) -> bool:
    return any(_has_frame(each) for each in grab.frame.windows)


def _has_frame(window: WindowBox) -> bool:
    return window.content is not None and window.content != window.box


if __name__ == "__main__":
    unittest.main()
