"""The frame round every room: rooms by keys, accessible, usable at 200 % zoom and on small windows."""

import re
from pathlib import Path
from typing import ClassVar

from playwright.sync_api import expect

from tests.browser.case import BrowserCase

_AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
_ROOMS = {"t": "/take", "r": "/trim", "p": "/place", "h": "/hand-over"}


class Rooms(BrowserCase):
    """At the usual size."""

    def test_one_walks_between_rooms_by_keys_but_not_while_typing(self) -> None:
        """Single letters belong to the field that has the focus."""
        self.go()
        expect(self.page.locator("[data-spot]").first).to_be_attached()
        for key, path in _ROOMS.items():
            self.page.keyboard.press(key)
            expect(self.page).to_have_url(re.compile(rf"{self.server.address}{path}(\?|$)"))
        expect(self.page.get_by_role("heading", name="What weighs")).to_be_visible()
        self.page.keyboard.press("/")
        expect(self.page.get_by_label("Find a clipping by name")).to_be_focused()
        self.page.keyboard.type("tp")
        expect(self.page).to_have_url(re.compile(rf"{self.server.address}/hand-over(\?|$)"))

    def test_the_sheet_of_keys_opens_and_closes(self) -> None:
        """With "?" and Esc."""
        self.go("/trim")
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("dialog", name="Keys")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("dialog")).to_have_count(0)

    def test_rooms_are_read_out_as_words(self) -> None:
        """Though one letter of each is underlined."""
        self.go("/start")
        rooms = self.page.get_by_role("navigation", name="Rooms").get_by_role("link")
        expect(rooms).to_have_count(4)
        for at, name in enumerate(("Take", "Trim", "Place", "Hand over")):
            expect(rooms.nth(at)).to_have_accessible_name(name)

    def test_no_room_has_a_fault_of_accessibility(self) -> None:
        """axe-core, WCAG 2.2 A and AA, in every room and with a region drawn."""
        for path in ("/start", *_ROOMS.values()):
            with self.subTest(path):
                self.go(path)
                expect(self.page.locator(".room-body")).to_be_visible()
                self.page.wait_for_load_state("networkidle")
                if path == "/take":
                    self.page.keyboard.press("f")
                    self.drag(self.page.locator(".frozen[data-ready=true]"), (0.1, 0.2), (0.4, 0.5))
                self.assertEqual(self._faults(), [])

    def test_no_kind_of_cut_and_no_sheet_has_one_either(self) -> None:
        """Live and frozen, with a menu open, and over all of it the options and the keys."""
        self.go("/take")
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.button("Log, menu of Engine log").click()
        expect(self.page.get_by_role("menu")).to_be_visible()
        self.assertEqual(self._faults(), [])
        self.page.keyboard.press("f")
        for key in "23456":
            self.page.keyboard.press(key)
            self.assertEqual(self._faults(), [], key)
        for key, name in (("o", "Options"), ("?", "Keys")):
            self.page.keyboard.press(key)
            expect(self.page.get_by_role("dialog", name=name)).to_be_visible()
            self.assertEqual(self._faults(), [], name)
            self.page.keyboard.press("Escape")
            expect(self.page.get_by_role("dialog")).to_have_count(0)

    def _faults(self) -> list[str]:
        self.page.evaluate(_AXE.read_text(encoding="utf-8"))
        found = self.page.evaluate(
            "() => axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })"
        )
        return [f"{each['id']}: {node['html'][:120]} {node['failureSummary'][:200]}" for each in found["violations"] for node in each["nodes"][:2]]  # fmt: skip

    def test_everything_can_be_reached_with_the_keyboard_and_shows_its_focus(self) -> None:
        """Through Trim with Tab: what has the focus has an outline."""
        self.go("/trim")
        expect(self.page.locator(".mat-picture img")).to_be_visible()
        reached = set()
        for _ in range(45):
            self.page.keyboard.press("Tab")
            name, outline = self.page.evaluate(
                """() => {
                    const element = document.activeElement;
                    const shown = element.closest('.MuiInputBase-root') ?? element;
                    const pill = element.querySelector('.spot-pill') ?? shown;
                    return [element.getAttribute('aria-label') ?? element.textContent, getComputedStyle(pill).outlineStyle];
                }"""
            )
            if name and self.page.evaluate("document.activeElement !== document.body"):
                reached.add(name.strip())
                self.assertNotEqual(outline, "none", name)
        for wanted in ("Save as…", "Download copy", "Width of the crop in pixels", "screen pixels"):
            self.assertTrue(any(wanted in name for name in reached), wanted)


class Small(BrowserCase):
    """640 × 400: a laptop at 200 % zoom."""

    viewport: ClassVar[tuple[int, int]] = (640, 400)

    def test_nothing_is_cut_off_and_rack_and_galley_are_drawers(self) -> None:
        """No room scrolls sideways as a whole; the way out and the weight stay in view."""
        for path in ("/start", *_ROOMS.values()):
            with self.subTest(path):
                self.go(path)
                expect(self.page.locator(".room-body")).to_be_visible()
                overflow = self.page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
                self.assertLessEqual(overflow, 0)
                expect(self.page.locator(".rail-figure")).to_be_in_viewport()
        self.go("/trim")
        expect(self.page.locator(".slip").first).to_be_hidden()
        self.button("Rack", exact=True).click()
        expect(self.page.locator(".slip").first).to_be_in_viewport()
        self.page.keyboard.press("Escape")
        self.button("Galley", exact=True).click()
        expect(self.page.locator(".lane")).to_be_in_viewport()
