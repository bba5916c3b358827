"""A browser that was not let in yet, and how it gets in."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.browser.case import BrowserCase


class Door(BrowserCase):
    """At first the way in is all that can be seen."""

    let_in = False

    def test_the_printed_address_opens_and_later_the_bare_one_does(self) -> None:
        """It leads to the page that was meant, the key is gone from the address, and a reload needs none."""
        self.page.goto(f"{self.server.address}/take")
        expect(self.page.get_by_role("heading", name="This browser was not let in yet")).to_be_visible()
        expect(self.page.get_by_text("tijera address")).to_be_visible()
        key = self.server.app.state.entry.key
        self.page.goto(f"{self.server.address}/enter?key={key}&to=/take")
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.assertTrue(self.page.url.startswith(f"{self.server.address}/take"), self.page.url)
        self.assertNotIn(key, self.page.url)
        self.reload()
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.assertEqual(self.page.evaluate("document.cookie"), "")
        self.assertNotIn(key, self.page.evaluate("document.referrer + JSON.stringify(localStorage)"))

    def test_a_browser_that_lost_its_cookie_says_what_to_do(self) -> None:
        """In the middle of work; what was done is there when it is let in again."""
        enter = f"{self.server.address}/enter?key={self.server.app.state.entry.key}&to=/place"
        self.page.goto(enter)
        expect(self.page.locator(".spot").first).to_be_visible()
        self.context.clear_cookies()
        self.button("78.5 mm").first.click()
        expect(self.page.locator(".notice")).to_contain_text("Not let in")
        expect(self.page.locator(".notice")).to_contain_text("tijera address")
        self.page.goto(enter)
        expect(self.page.locator(".spot").first).to_be_visible()
