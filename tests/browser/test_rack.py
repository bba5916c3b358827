"""The rack: pictures in by every way, found, named, removed."""

import base64

from playwright.sync_api import FilePayload, expect

from tests.browser.case import BrowserCase
from tests.support.pictures import encoded, text_like

_DROP = """([name, type, base64]) => {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    const data = new DataTransfer();
    data.items.add(new File([bytes], name, { type }));
    document.body.dispatchEvent(new DragEvent("drop", { dataTransfer: data, bubbles: true, cancelable: true }));
}"""


class Incoming(BrowserCase):
    """Pictures from elsewhere."""

    with_demo_data = False

    def test_six_formats_by_choosing_and_by_dropping(self) -> None:
        """Each hangs on the rack under its own name, with its own pixels."""
        self.go()
        kinds = {"png": "PNG", "jpg": "JPEG", "bmp": "BMP", "webp": "WEBP", "tif": "TIFF", "gif": "GIF"}
        files = {f"berth-{ending}": (ending, encoded(text_like(90 + i, 50), kind)) for i, (ending, kind) in enumerate(kinds.items())}  # fmt: skip
        chosen: list[FilePayload] = [
            {"name": f"{name}.{ending}", "mimeType": "application/octet-stream", "buffer": data}
            for name, (ending, data) in list(files.items())[:3]
        ]
        with self.page.expect_file_chooser() as chooser:
            self.button("A picture…").click()
        chooser.value.set_files(chosen)
        expect(self.page.locator(".slip")).to_have_count(3)
        for count, (name, (ending, data)) in enumerate(list(files.items())[3:], 4):
            self.page.evaluate(_DROP, [f"{name}.{ending}", f"image/{ending}", base64.b64encode(data).decode()])
            expect(self.page.locator(".slip")).to_have_count(count)
        names = self.page.locator(".slip-name").all_inner_texts()
        self.assertEqual(sorted(names), sorted(files))
        facts = self.page.locator(".slip-facts").all_inner_texts()
        self.assertEqual(sorted(facts), sorted(f"{90 + i} × 50" for i in range(6)))

    def test_half_a_picture_is_refused_in_words(self) -> None:
        """The rack stays empty."""
        self.go()
        data = encoded(text_like(300, 200))[:600]
        self.page.evaluate(_DROP, ["half.png", "image/png", base64.b64encode(data).decode()])
        expect(self.page.get_by_role("alert")).to_contain_text("can't be read to its end")
        expect(self.page.locator(".slip")).to_have_count(0)


class Keeping(BrowserCase):
    """What hangs there."""

    def setUp(self) -> None:
        """Three clippings of the demo data."""
        super().setUp()
        self.go("/trim")
        expect(self.page.locator(".slip")).to_have_count(3)

    def test_found_while_typing(self) -> None:
        """By a part of the name; "/" leads to the field."""
        self.page.keyboard.press("/")
        self.page.keyboard.type("rost")
        expect(self.page.locator(".slip")).to_have_count(1)
        self.page.keyboard.type("xx")
        expect(self.page.get_by_text("No clipping has “rostxx” in its name, window or day.")).to_be_visible()

    def test_named_in_place(self) -> None:
        """By key; the name stays after a reload, undo takes it back."""
        self.page.locator(".slip-face").first.focus()
        self.page.keyboard.press("F2")
        self.page.keyboard.type("Entry 4417")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".slip-name").first).to_have_text("Entry 4417")
        self.reload()
        expect(self.page.locator(".slip-name").first).to_have_text("Entry 4417")
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".slip-name").first).to_have_text("Engine log")

    def test_removed_and_brought_back(self) -> None:
        """By key, with undo in the message."""
        self.page.locator(".slip-face").first.focus()
        self.page.keyboard.press("Delete")
        expect(self.page.locator(".slip")).to_have_count(2)
        self.page.locator(".notice").get_by_role("button", name="Undo").click()
        expect(self.page.locator(".slip")).to_have_count(3)
