"""Take: the live desk, the region, and the ways on."""

from playwright.sync_api import expect

from tests.browser.case import BrowserCase


class Region(BrowserCase):
    """Too early a release costs nothing."""

    def setUp(self) -> None:
        """Frozen, with a region drawn."""
        super().setUp()
        self.go("/take")
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.page.keyboard.press("f")
        self.frozen = self.page.locator(".frozen[data-ready=true]")
        expect(self.frozen).to_be_visible()
        self.drag(self.page.locator(".screen"), (0.1, 0.2), (0.3, 0.5))
        expect(self.button("Keep on the rack")).to_be_enabled()

    def numbers(self) -> list[int]:
        """Left, top, width, height as the fields say."""
        labels = ("Left edge in pixels", "Top edge in pixels", "Width in pixels", "Height in pixels")
        return [int(self.page.get_by_label(label).input_value()) for label in labels]

    def test_it_can_be_moved_pulled_and_typed(self) -> None:
        """By pointer, by keys, by number; each says what it is."""
        x, y, width, height = self.numbers()
        self.assertEqual((round(x, -1), round(width, -1)), (260, 510))
        self.drag(self.page.locator(".area-box"), (0.5, 0.5), (0.6, 0.5))
        expect(self.page.get_by_label("Left edge in pixels")).not_to_have_value(str(x))
        moved = self.numbers()
        self.assertEqual(moved[1:], [y, width, height])
        self.assertGreater(moved[0], x + 20)
        self.drag(self.page.locator(".area-grip-ne"), (0.5, 0.5), (1.5, 0.1))
        expect(self.page.get_by_label("Width in pixels")).not_to_have_value(str(width))
        pulled = self.numbers()
        self.assertEqual((pulled[0], pulled[1] + pulled[3]), (moved[0], moved[1] + moved[3]))
        self.assertGreater(pulled[2], width)
        self.frozen.focus()
        self.page.keyboard.press("ArrowLeft")
        self.page.keyboard.press("Shift+ArrowDown")
        self.page.keyboard.press("Alt+ArrowRight")
        expect(self.page.get_by_label("Width in pixels")).to_have_value(str(pulled[2] + 1))
        self.assertEqual(self.numbers(), [pulled[0] - 1, pulled[1] + 10, pulled[2] + 1, pulled[3]])
        self.page.get_by_label("Width in pixels").fill("321")
        self.page.keyboard.press("Tab")
        expect(self.page.get_by_test_id("becomes")).to_contain_text("321 × ")

    def test_enter_keeps_exactly_those_pixels(self) -> None:
        """The clipping on the rack is the frozen screen's own."""
        x, y, width, height = self.numbers()
        self.frozen.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".notice")).to_contain_text("hangs on the rack")
        store = self.server.app.state.services.workshop.store
        kept = store.clippings()[0]
        self.assertEqual([kept.area_x, kept.area_y, kept.area_width, kept.area_height], [x, y, width, height])

    def test_esc_leaves_and_nothing_is_lost(self) -> None:
        """First the region, then the frozen screen; the rack is as before."""
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".area-box")).to_be_hidden()
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.page.get_by_role("tab", name="Rack").click()
        expect(self.page.locator(".slip")).to_have_count(3)

    def test_the_region_waits_while_a_place_is_chosen(self) -> None:
        """One goes to Place and comes back to the same frozen screen."""
        before = self.numbers()
        self.page.keyboard.press("p")
        self.page.get_by_label("Go to a heading or words").fill("4.2 low")
        self.page.locator(".block-found + .spot").click()
        self.page.keyboard.press("t")
        expect(self.page.locator(".area-box")).to_be_visible()
        self.assertEqual(self.numbers(), before)
        self.page.keyboard.press("Control+Enter")
        expect(self.page.locator(".placed")).to_be_visible()

    def test_without_a_place_the_way_there_is_said(self) -> None:
        """Ctrl + Enter has nowhere to land it."""
        self.page.keyboard.press("Control+Enter")
        expect(self.page.locator(".notice")).to_contain_text("No place is chosen yet")


class Live(BrowserCase):
    """The desk before it is frozen."""

    def test_windows_come_to_the_top_and_scroll(self) -> None:
        """By the list, by the keyboard, by the wheel; the frozen screen shows it."""
        self.go("/take")
        self.page.get_by_role("button", name="Fare notice from 1 April 963").click()
        notice = self.page.get_by_role("button", name="Fare notice from 1 April, on top")
        notice.hover(position={"x": 120, "y": 120})
        picture = notice.locator("img")
        before = picture.get_attribute("src")
        self.page.mouse.wheel(0, 200)
        expect(picture).not_to_have_attribute("src", before or "")
        desk = self.server.app.state.services.workshop.sources["desk"]
        top = next(window for window in desk.look().windows if window.depth == 0)
        self.assertEqual(top.id, "fare-notice")
        self.assertGreater(top.scrolled_px, 100)
