"""Trim: crop, views, copy and save."""

import io
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.browser.case import BrowserCase


class Mat(BrowserCase):
    """The newest clipping of the demo data: the engine log, 837 × 548."""

    def setUp(self) -> None:
        """On the mat."""
        super().setUp()
        self.go("/trim")
        expect(self.page.locator(".mat-picture img")).to_be_visible()

    def test_a_crop_hides_until_it_is_taken_back(self) -> None:
        """By handle, confirmed with Enter; the waste stays on the mat; all of it comes back."""
        self.drag(self.page.locator(".area-grip-e"), (0.5, 0.5), (-4, 0.5))
        expect(self.button("Crop it")).to_be_visible()
        expect(self.page.locator(".area-veil-e")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.button("Crop it")).to_be_hidden()
        width = int(self.page.get_by_label("Width of the crop in pixels").input_value())
        self.assertLess(width, 837)
        expect(self.page.locator(".slip-facts").first).to_contain_text(f"{width} × 548")
        self.button("Show all of it").click()
        expect(self.page.locator(".slip-facts").first).to_contain_text("837 × 548")

    def test_it_is_saved_under_a_name_a_size_and_a_limit(self) -> None:
        """Both weights stand there; the ending says the kind; what was chosen is proposed again."""
        self.button("Save as\u2026").click()
        form = self.page.locator("form.save-as")
        expect(form).to_contain_text("PNG suits it")
        expect(form).to_contain_text("as JPEG")
        self.page.get_by_label("Name; its ending").fill("Entry 4417.png")
        self.page.get_by_label("Width in px").fill("600")
        self.page.get_by_label("Density in ppi").fill("200")
        self.page.get_by_label("It may weigh").fill("15 kB")
        with self.page.expect_download() as download:
            form.get_by_role("button", name="Save", exact=True).click()
        data = Path(download.value.path()).read_bytes()
        self.assertEqual(download.value.suggested_filename, "Entry 4417.png")
        self.assertLessEqual(len(data), 15_000)
        with Image.open(io.BytesIO(data)) as image:
            self.assertEqual((image.format, image.width, round(float(image.info["dpi"][0]))), ("PNG", 600, 200))
        expect(self.page.locator(".notice")).to_contain_text("colours")
        self.button("Save as\u2026").click()
        expect(self.page.get_by_label("It may weigh")).to_have_value("15 kB")
        expect(self.page.get_by_label("Width in px")).to_have_value("600")
        self.page.get_by_label("It may weigh").fill("")
        self.assertEqual(self.density_saved(), ("200", 200))
        self.button("Save as\u2026").click()
        self.page.get_by_label("It may weigh").fill("90 B")
        form.get_by_role("button", name="Save", exact=True).click()
        expect(form.get_by_role("alert")).to_contain_text("over its limit")

    def test_the_density_that_is_shown_is_the_one_that_is_written(self) -> None:
        """It follows the width, so that the size on paper stays, until one is typed; that one is written, also where it is the usual one."""
        self.button("Save as\u2026").click()
        expect(self.page.get_by_label("Density in ppi")).to_have_value("144")
        self.page.get_by_label("Width in px").fill("600")
        self.assertEqual(self.density_saved(), ("103", 103))
        self.button("Save as\u2026").click()
        self.page.get_by_label("Density in ppi").fill("１４４")
        self.assertEqual(self.density_saved(), ("１４４", 144))

    def density_saved(self) -> tuple[str, int]:
        """What the form shows, and what the file has that it gives."""
        shown = self.page.get_by_label("Density in ppi").input_value()
        with self.page.expect_download() as download:
            self.page.locator("form.save-as").get_by_role("button", name="Save", exact=True).click()
        with Image.open(Path(download.value.path())) as image:
            return shown, round(float(image.info["dpi"][0]))

    def test_esc_drops_a_crop_that_was_not_confirmed(self) -> None:
        """The clipping is as before."""
        self.page.get_by_label("Width of the crop in pixels").fill("200")
        self.page.keyboard.press("Tab")
        expect(self.button("Crop it")).to_be_visible()
        self.page.locator(".mat-picture").focus()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_label("Width of the crop in pixels")).to_have_value("837")

    def test_the_views_change_the_scale_and_not_the_measures(self) -> None:
        """Fit, as large as in the document, screen pixels, larger, smaller."""
        mat = self.page.locator(".mat")

        def scale() -> float:
            return float(mat.get_attribute("data-scale") or 0)

        fit = scale()
        self.page.keyboard.press("Shift+0")
        expect(self.button("screen pixels")).to_have_attribute("aria-pressed", "true")
        self.assertEqual(scale(), 1)
        self.button("in the document").click()
        self.assertAlmostEqual(scale(), 96 / (96 * 1.5), places=3)
        self.page.keyboard.press("0")
        expect(mat).to_have_attribute("data-scale", str(fit))
        self.page.keyboard.press("+")
        expect(mat).not_to_have_attribute("data-scale", str(fit))
        self.assertAlmostEqual(scale(), fit * 1.25, places=3)
        expect(self.page.locator(".measures")).to_contain_text("147.6 × 96.7 mm")

    def test_copy_puts_the_visible_pixels_on_the_clipboard(self) -> None:
        """Read back from the clipboard and compared."""
        self.page.keyboard.press("Control+c")
        expect(self.page.locator(".notice")).to_contain_text("on the clipboard as PNG")
        data = self.page.evaluate(
            """async () => {
                const [item] = await navigator.clipboard.read();
                const blob = await item.getType("image/png");
                return [...new Uint8Array(await blob.arrayBuffer())];
            }"""
        )
        workshop = self.server.app.state.services.workshop
        visible = workshop.pictures.finished(workshop.store.clippings()[0])
        copied = np.asarray(Image.open(io.BytesIO(bytes(data))).convert("RGB"))
        self.assertTrue(np.array_equal(copied, visible.pixels))

    def test_save_as_png_and_jpeg(self) -> None:
        """By the usual key and by the button; the file is what its name says, and the list knows it."""
        with self.page.expect_download() as png:
            self.page.keyboard.press("Control+s")
        with self.page.expect_download() as jpeg:
            self.button("Save as\u2026").click()
            self.page.get_by_label("Name; its ending").fill("Engine log.jpg")
            self.page.keyboard.press("Enter")
        self.assertEqual([each.value.suggested_filename for each in (png, jpeg)], ["Engine log.png", "Engine log.jpg"])
        for download, kind in ((png, "PNG"), (jpeg, "JPEG")):
            image = Image.open(io.BytesIO(Path(download.value.path()).read_bytes()))
            self.assertEqual((image.format, image.size), (kind, (837, 548)))
        # Until the sheet is gone, letters are typed into its field.
        expect(self.page.get_by_label("Name; its ending")).to_have_count(0)
        self.page.keyboard.press("h")
        self.button("Files").click()
        expect(self.page.get_by_role("row", name="Engine log.jpg")).to_be_visible()
