"""What was left is found again: files, what happened, where a clipping stands."""

import io
import zipfile

from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tijera.core.packages.registry import new_document
from tijera.usecases import destinations, placing
from tijera.usecases.looking import newest


class FoundAgain(BrowserCase):
    """By name, day and recipient; as it was left."""

    def test_a_file_that_was_left_is_found_by_a_clipping_in_it_and_gone_on_with(self) -> None:
        """Behind several that were opened since."""
        workshop = self.server.app.state.services.workshop
        clipping = newest(workshop)
        assert clipping is not None
        _, data = new_document("docx")
        old = destinations.open_destination(workshop, data, "Berth list.docx", 500_000)
        spot = next(iter(destinations.document_of(workshop, old).spots()))
        placing.place(workshop, old.id, clipping.id, spot.id)
        for number in range(8):
            destinations.open_destination(workshop, data, f"Letter {number}.docx")
        self.go("/start")
        self.page.get_by_role("link", name="all that was worked on").click()
        works = self.page.get_by_role("region", name="Files and messages")
        expect(works.get_by_role("listitem")).to_have_count(10)
        self.page.get_by_label("Find in the history").fill(f"today {clipping.name}")
        expect(works.get_by_role("listitem")).to_have_count(1)
        expect(works).to_contain_text("1 clipping · limit 500 kB")
        works.get_by_role("button", name="Berth list.docx").first.click()
        expect(self.page.locator(".placed img")).to_be_visible()
        expect(self.page.get_by_text("limit 500 kB")).to_be_visible()

    def test_from_a_clipping_to_its_places_and_a_copy_is_got_again(self) -> None:
        """The very bytes that left."""
        self.go("/place")
        self.page.locator(".spot").first.wait_for()
        workshop = self.server.app.state.services.workshop
        file = destinations.current(workshop)
        clipping = newest(workshop)
        assert file is not None
        assert clipping is not None
        placing.place(workshop, file.id, clipping.id, next(iter(destinations.document_of(workshop, file).spots())).id)
        self.reload()
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        left = download.value.path().read_bytes()
        self.page.get_by_role("button", name="Places", exact=True).click()
        expect(self.page.locator(".history-clipping")).to_contain_text(file.name)
        self.page.get_by_role("button", name="show everything").click()
        with self.page.expect_download() as again:
            # A link that downloads begins a navigation that never ends: it is not waited for.
            self.page.get_by_role("link", name="these very bytes").click(no_wait_after=True)
        self.assertEqual(again.value.path().read_bytes(), left)
        self.assertIsNone(zipfile.ZipFile(io.BytesIO(left)).testzip())
        time_line = self.page.get_by_role("region", name="What happened")
        expect(time_line).to_contain_text(f"Place {clipping.name}")
        expect(time_line).to_contain_text(f"{clipping.name} taken")


class ClearedOut(BrowserCase):
    """What may go goes, what is pinned stays."""

    def test_pinned_stays_on_top_and_the_rest_is_cleared_out_and_brought_back(self) -> None:
        """With how many there are and how much that frees; emptied, it is gone."""
        self.go("/history")
        slips = self.page.locator(".slip")
        expect(slips).to_have_count(3)
        slips.nth(2).locator(".slip-face").click()
        self.button("Pin", exact=True).click()
        expect(slips.first).to_contain_text("Harbour chart")
        expect(slips.first).to_contain_text("pinned")
        self.button("Clear the rack out…").click()
        expect(self.page.get_by_text("there is nothing of that kind")).to_be_visible()
        self.page.get_by_label("Days").fill("0")
        expect(self.page.get_by_text("days may go: 2 clippings")).to_be_visible()
        self.button("Clear out", exact=True).click()
        expect(slips).to_have_count(1)
        notice = self.page.locator(".notice-place")
        notice.get_by_role("button", name="Undo").click()
        expect(slips).to_have_count(3)
        self.button("Clear the rack out…").click()
        self.page.get_by_label("Days").fill("0")
        self.button("Clear out", exact=True).click()
        notice.get_by_role("button", name="Empty for good").click()
        expect(notice).to_contain_text("Gone for good")
        expect(slips).to_have_count(1)
        # What was done before to what is still there can be taken back.
        expect(self.button("Undo", exact=True)).to_have_attribute("title", "Undo: Pin Harbour chart")
