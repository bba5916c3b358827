"""Options and keys: kept on the server, changed by the user, a clash named."""

import base64
import io

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.browser.take import TakeCase

_READ_CLIPBOARD = """async () => {
    const [item] = await navigator.clipboard.read();
    const bytes = new Uint8Array(await (await item.getType('image/png')).arrayBuffer());
    return btoa(String.fromCharCode(...bytes));
}"""


class Options(TakeCase):
    """What can be set."""

    def option(self, name: str) -> None:
        """Turn a switch in the sheet."""
        self.page.keyboard.press("o")
        self.page.get_by_label(name).click()
        self.page.get_by_role("dialog").get_by_role("button", name="Close").click()
        expect(self.page.get_by_role("dialog")).to_have_count(0)

    def test_one_drag_places_unless_what_is_drawn_waits(self) -> None:
        """It lands in the chosen place, at column width; switched off, it is held until Enter places it."""
        self.freeze()
        self.pull(200, 200, 500, 400)
        expect(self.button("Keep on the rack")).to_be_visible()
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("p")
        self.page.get_by_label("Go to a heading or words").fill("4.2 low")
        self.page.locator(".block-found + .spot").click()
        expect(self.page.locator(".goes-to")).to_contain_text("78.5 mm")
        self.page.keyboard.press("t")
        expect(self.page.locator(".live-window")).to_have_count(9)
        self.freeze()
        self.pull(120, 200, 1_100, 800)
        expect(self.page.locator(".placed")).to_be_visible()
        placed = self.workshop.store.placements()[-1]
        self.assertEqual(round(placed.place_width_emu / 36_000, 1), 78.5)
        self.page.keyboard.press("t")
        self.option("What is drawn goes into the chosen place at once")
        self.freeze()
        self.pull(120, 200, 1_100, 900)
        self.page.get_by_role("button", name="Place it, 78.5 mm Enter").click()
        expect(self.page.locator(".placed")).to_have_count(2)

    def test_what_is_taken_goes_to_the_clipboard_too(self) -> None:
        """As PNG, pixel for pixel."""
        self.option("What is taken also goes onto the clipboard")
        self.freeze()
        self.pull(200, 200, 500, 400)
        expect(self.button("Keep on the rack")).to_be_enabled()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".notice")).to_contain_text("is on the clipboard as PNG")
        read = base64.b64decode(self.page.evaluate(_READ_CLIPBOARD))
        kept = self.workshop.pictures.finished(self.workshop.store.clippings()[0])
        with Image.open(io.BytesIO(read)) as image:
            self.assertTrue(np.array_equal(np.asarray(image.convert("RGB")), kept.pixels))

    def test_the_pattern_of_names(self) -> None:
        """A wrong one is refused in words, a good one holds for the next clipping."""
        self.page.keyboard.press("o")
        field = self.page.get_by_label("Names of clippings")
        field.fill("{where} {date}")
        field.press("Enter")
        expect(self.page.get_by_role("alert")).to_contain_text("{where} is none of its parts")
        field.fill("Office {counter}: {window}")
        expect(self.page.get_by_role("dialog")).to_contain_text("Office 1: Tide board")
        field.press("Enter")
        expect(self.page.get_by_role("alert")).to_have_count(0)
        self.page.keyboard.press("Escape")
        self.freeze()
        self.pull(200, 200, 500, 400)
        expect(self.button("Keep on the rack")).to_be_enabled()
        self.assertEqual(self.keep()[0].name, "Office 1: Tide board, outer quay")


class Keys(TakeCase):
    """The sheet of keys."""

    def test_a_key_is_changed_and_a_clash_names_the_other_action(self) -> None:
        """The new key works, the old one does not, also after a reload."""
        self.page.keyboard.press("?")
        sheet = self.page.get_by_role("dialog")
        sheet.get_by_role("button", name="freeze the screen: F").click()
        self.page.keyboard.press("a")
        expect(sheet.get_by_role("alert")).to_contain_text("A belongs to “last area again” already")
        self.page.keyboard.press("j")
        expect(sheet.get_by_role("button", name="freeze the screen: J, change it")).to_be_visible()
        sheet.get_by_role("button", name="Close").click()
        self.reload()
        expect(self.page.locator(".live-window")).to_have_count(9)
        expect(self.button("Freeze J")).to_be_visible()
        self.page.keyboard.press("f")
        self.freeze("j")
        self.page.keyboard.press("?")
        sheet.get_by_role("button", name="All as they were at first").click()
        expect(sheet.get_by_role("button", name="freeze the screen: F, change it")).to_be_visible()

    def test_single_signs_can_be_switched_off(self) -> None:
        """Then they do nothing; keys with Ctrl and named keys still work."""
        self.page.keyboard.press("o")
        self.page.get_by_label("Keys of a single sign").click()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("dialog")).to_have_count(0)
        expect(self.button("Freeze", exact=True)).to_be_visible()
        self.page.keyboard.press("r")
        self.page.keyboard.press("f")
        self.button("Freeze", exact=True).click()
        expect(self.frozen).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".live-window")).to_have_count(9)
