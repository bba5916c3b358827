"""A text of 300 pages: it is there at once, no lane is blank wherever one goes, and what is placed stays in view."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.support.docx import Docx, paragraph, section

_CHAPTERS, _RULES = 30, 120
_WORDS = "Ropes are laid out before the vessel has passed the inner light, and nobody stands beside them. " * 3


def _book() -> bytes:
    """Twelve paragraphs of four lines to a page; every chapter's rules are numbered."""
    body = "".join(
        paragraph(f"Rule {chapter}.{rule}. {_WORDS}")
        for chapter in range(1, _CHAPTERS + 1)
        for rule in range(1, _RULES + 1)
    )
    return Docx(body + section()).build()


class LongText(BrowserCase):
    """What is on view of 3,600 paragraphs."""

    def setUp(self) -> None:
        """Open it in Place."""
        super().setUp()
        self.page.goto(f"{self.server.address}/place")
        self.open_file("Rules.docx", _book())
        expect(self.page.locator(".lanes p").first).to_contain_text("Rule 1.1.")
        expect(self.page.locator(".tool-says")).to_contain_text("section 1 of 1")
        self.galley = self.page.locator(".galley")

    def bare_in_view(self) -> int:
        """How many stretches that lie in the view are not there, one frame after whatever was done."""
        found: int = self.galley.evaluate(
            """async (galley) => {
                await new Promise(requestAnimationFrame);
                const view = galley.getBoundingClientRect();
                return [...galley.children].filter((each) => {
                    const box = each.getBoundingClientRect();
                    return box.right > view.left && box.left < view.right && !each.querySelector('.lanes p');
                }).length;
            }"""
        )
        return found

    def moved_by(self, step: int) -> float:
        """How far a paragraph on view went, in pixels, when the galley was moved by a step."""
        moved: float = self.galley.evaluate(
            """async (galley, step) => {
                const view = galley.getBoundingClientRect();
                const seen = [...galley.querySelectorAll('.lanes p')].find((each) => {
                    const box = each.getBoundingClientRect();
                    return box.left > view.left && box.right > view.left + 400;
                });
                const before = seen.getBoundingClientRect().left;
                galley.scrollLeft += step;
                await new Promise(requestAnimationFrame);
                await new Promise(requestAnimationFrame);
                return seen.getBoundingClientRect().left - before;
            }""",
            step,
        )
        return moved

    def test_no_lane_is_blank_wherever_one_goes(self) -> None:
        """In steps and in jumps, forward and back; only a few of the stretches are there at a time."""
        self.assertGreater(self.page.locator("[data-stretch]").count(), 20)
        for to in (400, 3_000, 9_000, 100_000, 300_000, 299_000, 290_000, 5_000_000, 0):
            self.galley.evaluate("(galley, to) => { galley.scrollLeft = to; }", to)
            self.assertEqual(self.bare_in_view(), 0, to)
            self.assertLess(self.page.locator(".lanes").count(), 8, to)

    def test_what_is_on_view_stays_when_what_lies_before_it_comes(self) -> None:
        """Words are found far off, then the lanes before them are read; a place there is chosen by keys and kept."""
        page = self.page
        page.get_by_label("Go to a heading or words").fill("Rule 21.60.")
        found = page.locator(".block-found")
        expect(found).to_be_in_viewport()
        self.assertEqual(self.bare_in_view(), 0)
        for _ in range(30):
            self.assertAlmostEqual(self.moved_by(-400), 400, delta=1)
        page.keyboard.press("Enter")
        expect(found).to_be_in_viewport()
        page.locator(".block-found + .spot").focus()
        page.keyboard.press("ArrowDown")
        expect(page.locator(".spot:focus")).to_have_attribute("data-spot", f"b.{20 * _RULES + 61}")
        page.keyboard.press("Enter")
        expect(page.locator(".spot-chosen")).to_have_count(1)
        page.keyboard.press("Enter")
        placed = page.locator(".placed img")
        expect(placed).to_be_in_viewport()
        self.galley.evaluate("(galley) => { galley.scrollLeft = 0; }")
        expect(placed).not_to_be_in_viewport()
        page.reload()
        expect(page.locator(".spot-chosen")).to_be_in_viewport()
        expect(page.locator(".placed img")).to_be_in_viewport()
        self.assertEqual(self.bare_in_view(), 0)
