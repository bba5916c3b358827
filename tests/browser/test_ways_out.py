"""Every way out says what left and how heavy, and leads to those very bytes."""

import base64
import io
import re
from dataclasses import replace

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.case import BrowserCase
from tijera.core.packages.registry import open_document
from tijera.records import ClippingRecord, HandoverRecord
from tijera.usecases import placing

_HTML = (
    "async () => { const [item] = await navigator.clipboard.read(); return (await item.getType('text/html')).text(); }"
)
_PICKER = """
(name) => {
  window.asked = [];
  window.showSaveFilePicker = async (options) => {
    window.asked.push(options);
    const folder = await navigator.storage.getDirectory();
    return folder.getFileHandle(name ?? options.suggestedName, { create: true });
  };
}
"""
"""A folder of the browser's own instead of one of the user's: the same interface, without a window of the system's."""
_READ = """
async (name) => {
  const folder = await navigator.storage.getDirectory();
  const bytes = new Uint8Array(await (await (await folder.getFileHandle(name)).getFile()).arrayBuffer());
  return btoa(Array.from(bytes, (each) => String.fromCharCode(each)).join(""));
}
"""


class WaysOut(BrowserCase):
    """The demo: a handbook and three clippings."""

    own_context = True

    def last(self) -> tuple[HandoverRecord, bytes]:
        """What left last, and its bytes."""
        store = self.server.app.state.services.workshop.store
        record = store.handovers(0, 1)[0]
        return record, store.blobs.get(record.blob)

    def look(self) -> Page:
        """The window that *Look at it* opens."""
        with self.page.context.expect_page() as opened:
            self.button("Look at it").click()
        opened.value.wait_for_load_state()
        return opened.value

    def test_a_saved_picture_is_shown_as_it_left(self) -> None:
        """In a window of its own, byte for byte."""
        self.go("/trim")
        with self.page.expect_download():
            self.button("Save", exact=True).click()
        expect(self.page.locator(".notice")).to_contain_text(re.compile(r"Saved to your downloads: Engine log.png, \d"))
        shown = self.look()
        bytes_shown = self.page.request.get(shown.url)
        self.assertEqual(bytes_shown.body(), self.last()[1])
        self.assertTrue(bytes_shown.headers["content-disposition"].startswith("inline"))
        self.assertEqual(shown.locator("img").evaluate("img => img.naturalWidth"), 837)
        shown.close()

    def test_a_copy_is_opened_beside_what_is_worked_on(self) -> None:
        """With the clipping where it was placed; this window stays with its own file."""
        workshop = self.server.app.state.services.workshop
        file = workshop.store.destinations()[0]
        placing.place(workshop, file.id, workshop.store.clippings()[0].id, "b.1")
        self.go(f"/place?file={file.id}")
        with self.page.expect_download():
            self.button("Download copy").click()
        record, data = self.last()
        beside = self.look()
        # The picture stands in the file itself there: it was placed when the file was opened.
        expect(beside.locator(".galley img").nth(1)).to_be_visible()
        opened = workshop.store.find(type(file), beside.url.rpartition("file=")[2])
        self.assertEqual(workshop.store.blobs.get(opened.blob), data)
        self.assertIn(file.id, self.page.url)
        self.assertEqual(workshop.store.setting("current destination"), file.id)
        self.assertTrue(open_document(data, record.name))
        beside.close()

    def test_the_clipboard_has_the_picture_and_its_placed_size(self) -> None:
        """165 mm of a column are 624 CSS pixels; without a place, its natural size."""
        self.go("/trim")
        self.button("Copy", exact=True).first.click()
        expect(self.page.locator(".notice")).to_contain_text("on the clipboard as PNG")
        natural = str(self.page.evaluate(_HTML))
        width = int(re.search(r'width="(\d+)"', natural)[1])  # type: ignore[index]
        picture = Image.open(io.BytesIO(base64.b64decode(re.search(r"base64,([^\"]+)", natural)[1])))  # type: ignore[index]
        # 837 px of a screen at 1.5: 558 CSS pixels.
        self.assertEqual((width, picture.size[0]), (558, 837))
        shown = self.look()
        self.assertEqual(shown.locator("img").evaluate("img => img.naturalWidth"), 837)
        shown.close()
        store = self.server.app.state.services.workshop.store
        file = store.destinations()[0]
        store.set_aside(type(file), file.id, lambda each: replace(each, spot="b.1"))
        store.set_aside(ClippingRecord, store.clippings()[0].id, lambda each: replace(each, scale_factor=1.0))
        self.reload()
        self.button("Copy", exact=True).first.click()
        expect(self.page.locator(".notice")).to_contain_text("on the clipboard as PNG")
        self.assertIn('width="624"', str(self.page.evaluate(_HTML)))

    def test_a_folder_and_a_name_are_asked_and_proposed_again(self) -> None:
        """For each file its own; what lies there then is what left."""
        self.go("/hand-over")
        self.button("Files", exact=True).click()
        self.page.evaluate(_PICKER, "Handbook for print.docx")
        self.button("Save in a folder…").click()
        expect(self.page.locator(".notice")).to_contain_text("Saved as Handbook for print.docx")
        self.assertEqual(base64.b64decode(self.page.evaluate(_READ, "Handbook for print.docx")), self.last()[1])
        self.page.evaluate(_PICKER, None)
        self.button("Save in a folder…").click()
        expect(self.page.locator(".notice")).to_contain_text("Saved as Handbook for print.docx")
        (asked,) = self.page.evaluate("() => window.asked")
        self.assertEqual(asked["suggestedName"], "Handbook for print.docx")
        self.assertRegex(asked["id"], "^[A-Za-z0-9_-]{1,32}$")

    def test_a_clipping_is_saved_in_a_folder_by_the_name_that_was_chosen(self) -> None:
        """Its ending decides the kind."""
        self.go("/trim")
        self.button("Save as…").click()
        expect(self.page.get_by_label("Name; its ending")).to_be_visible()
        self.page.evaluate(_PICKER, "Entry 4417.jpg")
        self.button("Save in a folder…").click()
        expect(self.page.locator(".notice")).to_contain_text("Saved as Entry 4417.jpg")
        data = base64.b64decode(self.page.evaluate(_READ, "Entry 4417.jpg"))
        self.assertEqual((Image.open(io.BytesIO(data)).format, data), ("JPEG", self.last()[1]))

    def test_a_slip_that_is_dragged_out_carries_a_file(self) -> None:
        """Its name and the address of its bytes, as Chromium takes them; nothing is lost of what the page itself needs."""
        self.go("/trim")
        carried = self.page.locator(".slip-face").first.evaluate(
            """slip => { const data = new DataTransfer();
               slip.dispatchEvent(new DragEvent("dragstart", { dataTransfer: data, bubbles: true }));
               return data.getData("DownloadURL"); }"""
        )
        kind, name, address = carried.split(":", 2)
        answer = self.page.request.get(address)
        self.assertEqual((kind, name), ("image/png", "Engine log.png"))
        self.assertEqual(Image.open(io.BytesIO(answer.body())).size, (837, 548))
