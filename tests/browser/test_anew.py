"""Clippings taken anew: compared before anything changes, then in their places."""

from typing import Any

from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tijera.usecases import destinations, placing
from tijera.usecases.looking import newest


class Anew(BrowserCase):
    """From the rack, and for a whole file."""

    def setUp(self) -> None:
        """The newest clipping stands in the handbook, and its window shows something else since."""
        super().setUp()
        self.workshop: Any = self.server.app.state.services.workshop
        clipping = newest(self.workshop)
        file = destinations.current(self.workshop)
        assert clipping is not None
        assert file is not None
        self.clipping, self.file = clipping, file
        for each in reversed(self.workshop.store.clippings()):
            placing.place(self.workshop, file.id, each.id, next(iter(self.document().spots())).id)

    def document(self) -> Any:  # noqa: ANN401  (whatever it is)
        """The handbook."""
        return destinations.document_of(self.workshop, self.file)

    def test_one_is_compared_and_replaced_and_undone(self) -> None:
        """The picture in its place is the new one."""
        self.workshop.source("desk").scroll("fare-notice", 80)
        self.go("/take")
        expect(self.page.get_by_text("Choose one to bring it to the top.")).to_be_visible()
        self.page.keyboard.press("2")
        windows = self.page.get_by_role("list", name="Open windows")
        windows.get_by_role("button", name="Fare notice").click()
        self.button("Keep on the rack").click()
        self.page.get_by_role("tab", name="Rack").click()
        expect(self.page.locator(".slip")).to_have_count(4)
        self.workshop.source("desk").scroll("fare-notice", 90)
        # What was taken is in hand.
        with_it = self.page.get_by_role("group", name="With Fare notice")
        with_it.get_by_role("button", name="Anew").click()
        expect(self.page.get_by_text("it shows something else now")).to_be_visible()
        expect(self.page.get_by_role("img", name="as the screen shows it now")).to_be_visible()
        self.button("Use the new one").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Taken anew: Fare notice")
        self.page.locator(".notice-place").get_by_role("button", name="Undo").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Undone: Take Fare notice")

    def test_a_whole_file_says_how_many_changed(self) -> None:
        """Those that show the same are left alone."""
        self.go("/place")
        self.button("Another file…").click()
        self.page.get_by_role("menuitem", name="Take all its clippings anew…").click()
        expect(self.page.get_by_text("of 3 changed")).to_be_visible()
        expect(self.page.get_by_role("article")).to_have_count(3)
