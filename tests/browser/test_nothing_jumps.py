"""Whatever a line says, the surface below it stays where it is: rectangles through every tool and state, 0 px of movement."""

from __future__ import annotations

from typing import ClassVar

from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.browser.marks import KEYS, MarkCase
from tests.browser.take import TakeCase

_BOXES = """(names) => Object.fromEntries(names.map((name) => {
    const { x, y, width, height } = document.querySelector(name).getBoundingClientRect();
    return [name, [x, y, width, height]];
}))"""


def boxes(case: BrowserCase, *names: str) -> dict[str, list[float]]:
    """Where some elements stand, to the fraction of a pixel."""
    found: dict[str, list[float]] = case.page.evaluate(_BOXES, list(names))
    return found


class Page(BrowserCase):
    """The page itself."""

    def test_it_is_no_higher_than_the_window(self) -> None:
        """In every room: nothing to scroll by a pixel."""
        for room in ("/start", "/take", "/trim", "/place", "/hand-over", "/history"):
            with self.subTest(room):
                self.go(room)
                over = self.page.evaluate("() => document.documentElement.scrollHeight - window.innerHeight")
                self.assertLessEqual(over, 0)


class Mat(MarkCase):
    """In Trim."""

    surfaces: ClassVar[tuple[str, ...]] = (".mat", ".mat-foot", ".tools", ".trim-galley", ".foot", ".rail")

    def test_no_tool_and_no_state_moves_the_mat(self) -> None:
        """Every tool, with a mark chosen and without, a pending crop, as sent, a notice, a hidden word."""
        start = boxes(self, *self.surfaces)
        for name in KEYS:
            with self.subTest(name):
                self.tool(name)
                self.assertEqual(boxes(self, *self.surfaces), start)
        for number, (name, points) in enumerate(
            (("pennant", ((90, 90),)), ("ring", ((120, 120), (300, 220))), ("tint", ((60, 300), (400, 302))), ("black-out", ((30, 60), (160, 110)))), 1
        ):  # fmt: skip
            with self.subTest(f"{name} drawn"):
                self.tool(name)
                if len(points) == 1:
                    self.press(points[0])
                else:
                    self.draw(*points)
                self.expect_marks(number)
                self.assertEqual(boxes(self, *self.surfaces), start)
        expect(self.page.locator(".trim-says")).to_be_visible()
        self.tool("text")
        self.press((420, 480))
        self.page.locator(".writing").fill("a \U00013000 that no font has")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".tool-warns")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces), start)
        self.tool("crop")
        self.drag(self.page.locator(".area-grip-s"), (0.5, 0.5), (0.5, -2.0))
        expect(self.button("Crop it")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces), start)
        for name in ("as sent", "original", "screen pixels"):
            self.button(name).click()
            self.assertEqual(boxes(self, *self.surfaces), start)
        self.page.keyboard.press("Control+c")
        expect(self.page.locator(".notice")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces), start)

    def test_what_doesnt_fit_into_the_line_lies_under_more(self) -> None:
        """It opens over the mat, by a press and by keys that come to it, and moves nothing."""
        start = boxes(self, *self.surfaces)
        self.tool("text")
        expect(self.button("More", exact=True).first).to_be_visible()
        self.page.locator(".one-line-more").click()
        expect(self.page.locator(".one-line-open")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces), start)


class Screen(TakeCase):
    """In Take."""

    surfaces: ClassVar[tuple[str, ...]] = (".stage", ".take-kinds", ".foot", ".rail")

    def test_no_kind_and_no_state_moves_the_screen(self) -> None:
        """Live, counting down, frozen, held in every kind, kept."""
        start = boxes(self, *self.surfaces)
        screen = boxes(self, ".screen")
        self.page.keyboard.press("d")
        expect(self.page.locator(".count-line")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces), start)
        self.page.keyboard.press("Escape")
        self.freeze()
        self.assertEqual(boxes(self, *self.surfaces), start)
        self.assertEqual(boxes(self, ".screen"), screen)
        tide = self.box("tide-board")
        self.click(tide.x + 500, tide.y + 300)
        self.pull(300, 300, 800, 700)
        expect(self.button("Keep on the rack")).to_be_visible()
        for key in "234561":
            with self.subTest(key):
                self.page.keyboard.press(key)
                self.assertEqual(boxes(self, *self.surfaces), start)
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Escape")
        self.freeze()
        self.pull(300, 300, 800, 700)
        expect(self.button("Keep on the rack")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_label("Kept as")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces), start)
        self.assertEqual(boxes(self, ".screen"), screen)

    def test_a_held_window_moves_nothing(self) -> None:
        """With its choice of frame or content."""
        self.freeze()
        start = boxes(self, *self.surfaces, ".screen")
        self.kind("Window")
        tide = self.box("tide-board")
        self.click(tide.x + 500, tide.y + 40)
        expect(self.page.get_by_role("group", name="What of the window")).to_be_visible()
        self.assertEqual(boxes(self, *self.surfaces, ".screen"), start)


class Place(BrowserCase):
    """In Place."""

    def test_the_galley_and_the_grid_stay(self) -> None:
        """A place chosen, a picture placed, a notice."""
        self.go("/place")
        expect(self.page.locator("[data-spot]").first).to_be_attached()
        start = boxes(self, ".galley", ".foot", ".rail")
        self.page.locator(".spot").nth(1).click()
        expect(self.page.locator(".spot-chosen")).to_have_count(1)
        self.assertEqual(boxes(self, ".galley", ".foot", ".rail"), start)
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed")).to_have_count(1)
        self.assertEqual(boxes(self, ".galley", ".foot", ".rail"), start)
        self.go("/start")
        self.button("Tide table.xlsx").click()
        expect(self.page.locator(".grid-cells")).to_be_visible()
        start = boxes(self, ".grid-ground", ".foot", ".rail")
        self.page.mouse.click(400, 300)
        expect(self.page.locator(".grid-chosen").first).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed")).to_have_count(1)
        self.assertEqual(boxes(self, ".grid-ground", ".foot", ".rail"), start)
