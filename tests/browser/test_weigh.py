"""The weight rail and What weighs."""

from pathlib import Path

from playwright.sync_api import expect

from tests.browser.case import BrowserCase

_SEARCH_MS = 150_000
"""A search is long work: on a slow machine it may take so long."""


class Rail(BrowserCase):
    """The handbook with the harbour chart in it: over 2 MB."""

    def setUp(self) -> None:
        """Choose a place and put the chart there."""
        super().setUp()
        self.go("/place")
        self.page.get_by_label("Go to a heading or words").fill("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        self.page.locator(".slip-face", has_text="Harbour chart").click()
        spot.click()
        expect(self.page.locator(".rail-figure.too-heavy")).to_be_visible()

    def limit(self, text: str) -> None:
        """Type another limit."""
        self.button("change", exact=True).click()
        self.page.get_by_label("What may the file weigh?").fill(text)
        self.button("Set", exact=True).click()

    def weighs(self) -> int:
        """The bytes that the rail stands for."""
        return int(self.page.locator(".rail-figure").get_attribute("data-bytes") or 0)

    def test_the_notch_stays_at_three_quarters_and_the_scale_adapts(self) -> None:
        """Over the limit the rest stands beyond it, in red."""
        bar = self.page.locator(".rail-bar").bounding_box()
        notch = self.page.locator(".rail-notch").bounding_box()
        assert bar and notch
        self.assertAlmostEqual((notch["x"] - bar["x"]) / bar["width"], 0.75, delta=0.01)
        expect(self.page.locator(".segment-over")).to_be_visible()
        self.limit("10 MiB")
        expect(self.page.locator(".fits")).to_be_visible()
        expect(self.page.locator(".segment-over")).to_have_count(0)
        expect(self.page.get_by_text("limit 10 MiB")).to_be_visible()

    def test_what_weighs_lists_every_picture_and_the_sum_is_the_file(self) -> None:
        """As written: the download has as many bytes."""
        self.page.keyboard.press("h")
        rows = self.page.locator(".weighs tbody tr")
        expect(rows).to_have_count(5)
        expect(rows.nth(0)).to_contain_text("Harbour chart")
        expect(rows.nth(1)).to_contain_text("was in the document")
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        self.assertEqual(Path(download.value.path()).stat().st_size, self.weighs())

    def test_fitting_can_be_undone(self) -> None:
        """One step back and everything weighs as before."""
        heavy = self.weighs()
        self.button("Make it fit").click()
        expect(self.page.locator(".notice-fitted")).to_contain_text("Everything else is untouched", timeout=_SEARCH_MS)
        expect(self.page.locator(".fits")).to_be_visible()
        self.page.locator(".notice").get_by_role("button", name="Undo").click()
        expect(self.page.locator(".rail-figure.too-heavy")).to_be_visible()
        self.assertEqual(self.weighs(), heavy)

    def test_what_can_not_fit_says_by_how_much_and_what_is_in_the_way(self) -> None:
        """And the document stays as it was."""
        self.limit("900 kB")
        heavy = self.weighs()
        self.button("Make it fit").click()
        alert = self.page.get_by_role("alert").filter(has_text="can't be made to fit")
        expect(alert).to_contain_text("over its limit of 0.90 MB", timeout=_SEARCH_MS)
        expect(alert).to_contain_text("Quillhaven harbour from above")
        self.assertEqual(self.weighs(), heavy)

    def test_what_the_user_says_counts(self) -> None:
        """A chart that is kept as it is can't pay; that is there after a reload, and one undo takes it back."""
        self.page.keyboard.press("h")
        said = self.page.get_by_label("You say of Harbour chart")
        said.select_option("keep as it is")
        expect(self.button("Undo", exact=True).first).to_be_enabled()
        self.page.reload()
        expect(said).to_have_value("keep-as-it-is")
        self.button("Make it fit").click()
        expect(self.page.get_by_role("alert")).to_contain_text("can't be made to fit", timeout=_SEARCH_MS)
        self.page.get_by_role("button", name="Close").click()
        self.page.keyboard.press("Control+z")
        expect(said).to_have_value("usual")

    def test_the_files_own_pictures_pay_when_asked(self) -> None:
        """Offered with what that gives, where the clippings are not enough; one undo gives all back."""
        self.limit("900 kB")
        heavy = self.weighs()
        self.button("Make it fit").click()
        self.page.get_by_role("alert").get_by_role("button", name="Also the file's own pictures").click(
            timeout=_SEARCH_MS
        )
        expect(self.page.locator(".notice-fitted")).to_contain_text("Quillhaven harbour from above", timeout=_SEARCH_MS)
        expect(self.page.locator(".fits")).to_be_visible()
        self.assertLessEqual(self.weighs(), 900_000)
        self.assertGreater(self.weighs(), 850_000)
        self.page.keyboard.press("h")
        row = self.page.locator(".weighs tbody tr").filter(has_text="Quillhaven harbour from above")
        expect(row).to_contain_text("made lighter, was 732 kB")
        self.page.locator(".notice").get_by_role("button", name="Undo").click()
        expect(self.page.locator(".rail-figure.too-heavy")).to_be_visible()
        self.assertEqual(self.weighs(), heavy)

    def test_the_search_can_be_stopped(self) -> None:
        """Nothing is changed, and the rest stays usable meanwhile."""
        self.limit("1.3 MB")
        heavy = self.weighs()
        self.button("Make it fit").click()
        self.button("Stop").click()
        expect(self.page.locator(".notice")).to_contain_text("Stopped. Nothing was changed.")
        self.assertEqual(self.weighs(), heavy)

    def test_a_limit_that_can_not_be_read_is_told_where_it_was_typed(self) -> None:
        """The old one stays."""
        self.limit("heavy")
        expect(self.page.locator(".limit-form")).to_contain_text("could not be read as a number of bytes")
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_text("limit 2 MB")).to_be_visible()
