"""The whole job without a mouse, and the ways in that the first minute offers."""

import io
from pathlib import Path

import docx
from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.support.docx import Docx, paragraph, section
from tests.support.opc_checker import complaints


class WithoutMouse(BrowserCase):
    """With demo data."""

    def test_choose_take_trim_place_and_download_by_keys_alone(self) -> None:
        """Nothing is clicked; the bytes that leave hold the picture."""
        page, keys = self.page, self.page.keyboard
        self.go()
        # Find the heading, go to the place behind it, choose it.
        page.get_by_label("Go to a heading or words").focus()
        keys.type("5.1 Counting")
        expect(page.locator(".block-found")).to_contain_text("5.1 Counting")
        spot = page.locator(".block-found + .spot")
        spot.focus()
        keys.press("Enter")
        expect(page.locator(".goes-to")).to_contain_text("78.5 mm")
        # Raise a window, freeze, type a region, land it.
        keys.press("t")
        page.get_by_role("button", name="Crew roster, week 11, Space raises it").focus()
        keys.press("Space")
        expect(page.get_by_role("button", name="Crew roster, week 11, on top")).to_be_visible()
        keys.press("f")
        expect(page.locator(".frozen[data-ready=true]")).to_be_visible()
        for label, value in (("Width in pixels", 640), ("Height in pixels", 380), ("Left edge in pixels", 1_340), ("Top edge in pixels", 160)):  # fmt: skip
            page.get_by_label(label).focus()
            keys.type(str(value))
            keys.press("Enter")
            expect(page.get_by_label(label)).to_have_value(str(value))
        page.locator(".frozen").focus()
        keys.press("Enter")
        expect(page.locator(".placed")).to_have_count(1)
        # Crop it by keys: smaller by ten pixels, confirmed.
        page.locator(".placed-face").focus()
        keys.press("r")
        mat = page.locator(".mat-picture")
        expect(mat).to_be_visible()
        mat.focus()
        keys.press("Shift+Alt+ArrowUp")
        expect(self.button("Crop it")).to_be_visible()
        keys.press("Enter")
        expect(page.locator(".slip-facts").first).to_contain_text("640 × 370")
        with page.expect_download() as download:
            keys.press("p")
            expect(page.locator(".place .placed")).to_be_visible()
            keys.press("Control+s")
        copy = Path(download.value.path()).read_bytes()
        self.assertEqual(complaints(copy), [])
        read = docx.Document(io.BytesIO(copy))
        texts = [each.text for each in read.paragraphs]
        inline = read.paragraphs[texts.index("5.1 Counting") + 1]._p.xpath(".//wp:inline")[0]
        self.assertAlmostEqual(inline.extent.cx / inline.extent.cy, 640 / 370, places=3)


class FirstMinute(BrowserCase):
    """Without demo data."""

    with_demo_data = False

    def test_the_example_opens_with_its_limit(self) -> None:
        """One click, and the galley is there."""
        self.go()
        expect(self.page.get_by_text("Your clippings will hang here")).to_be_visible()
        self.button("Crew handbook.docx").click()
        expect(self.page.get_by_text("limit 2 MB")).to_be_visible()
        expect(self.page.get_by_text("Crew handbook", exact=True)).to_be_visible()

    def test_who_only_wants_to_know_what_weighs_goes_straight_there(self) -> None:
        """The file's own bytes, and a limit set from nothing."""
        self.go()
        paper = Docx(paragraph("Rules") + section()).build()
        with self.page.expect_file_chooser() as chooser:
            self.button("Make a file lighter…").click()
        chooser.value.set_files({"name": "Rules.docx", "mimeType": "application/octet-stream", "buffer": paper})
        expect(self.page.get_by_role("heading", name="What weighs")).to_be_visible()
        expect(self.page.locator(".rail-figure")).to_have_attribute("data-bytes", str(len(paper)))
        self.button("set one").click()
        self.page.get_by_label("What may the file weigh?").fill("1 kB")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".too-heavy").first).to_be_visible()
        self.button("Make it fit").click()
        expect(self.page.get_by_role("alert").filter(has_text="In the way")).to_contain_text("the text itself")

    def test_an_address_that_is_no_room_leads_to_the_beginning(self) -> None:
        """And empty rooms say what to do."""
        self.go("/trim")
        expect(self.page.get_by_text("Nothing lies on the mat")).to_be_visible()
        self.go("/place")
        expect(self.page.get_by_text("No document yet")).to_be_visible()
        self.go("/hand-over")
        expect(self.page.get_by_text("Nothing has left yet")).to_be_visible()
        self.page.get_by_role("link", name="Tijera").click()
        expect(self.page.get_by_role("heading", name="Cut what the screen shows.")).to_be_visible()
