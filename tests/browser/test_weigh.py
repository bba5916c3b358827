"""The weight rail and What weighs."""

import base64
import email
import io
import re
from pathlib import Path

import openpyxl
from playwright.sync_api import Route, expect

from tests.browser.case import BrowserCase
from tests.support.slimmed_checker import changed_pictures
from tijera.demo.handbook import make_handbook

_SEARCH_MS = 150_000
"""A search is long work: on a slow machine it may take so long."""


class _Weighing(BrowserCase):
    def weighs(self) -> int:
        """The bytes that the rail stands for."""
        return int(self.page.locator(".rail-figure").get_attribute("data-bytes") or 0)


class Rail(_Weighing):
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
        expect(rows.nth(1)).to_contain_text("the file’s own")
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
        expect(alert).to_contain_text("over its limit of 900.0 kB", timeout=_SEARCH_MS)
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

    def test_what_would_change_is_seen_before_it_does(self) -> None:
        """The table names each picture's weight and what it would give up; then it is done just so."""
        self.page.keyboard.press("h")
        heavy = self.weighs()
        self.button("See what fitting would change").click()
        row = self.page.locator(".weighs tbody tr").filter(has_text="Harbour chart").first
        expect(row).to_contain_text("would be", timeout=_SEARCH_MS)
        proposed = row.locator("td").nth(6).inner_text()
        self.assertEqual(self.weighs(), heavy)
        self.button("Make it fit").click()
        expect(self.page.locator(".notice-fitted")).to_be_visible(timeout=_SEARCH_MS)
        expect(row).not_to_contain_text("would be")
        self.assertIn(row.locator("td").nth(6).inner_text(), proposed)

    def test_what_was_given_up_is_compared_with_the_original(self) -> None:
        """The whole original while C is held; a patch of it that is dragged, and moved by keys; Esc goes back."""
        self.button("Make it fit").click()
        self.button("Compare", exact=True).click(timeout=_SEARCH_MS)
        both = self.page.locator(".compare-both")
        expect(both).to_be_visible()
        now, original = (both.locator("img").nth(number) for number in (0, 1))
        sizes = [each.evaluate("each => each.naturalWidth") for each in (now, original)]
        self.assertEqual(sizes[1], 987)
        width = self.page.evaluate("document.querySelector('.compare-both').getBoundingClientRect().width")
        self.assertAlmostEqual(width, 78.5 / 25.4 * 96, delta=1)
        self.button("at screen pixels").click()
        expect(both).to_have_css("width", "987px")
        patch = self.page.locator(".compare-patch")
        self.drag(both, (0.5, 0.5), (0.25, 0.4))
        box, at = both.bounding_box(), patch.bounding_box()
        assert box and at
        self.assertAlmostEqual(at["x"] + at["width"] / 2 - box["x"], 0.25 * box["width"], delta=3)
        both.press("Shift+ArrowRight")
        moved = patch.bounding_box()
        assert moved
        self.assertAlmostEqual(moved["x"] - at["x"], 10, delta=0.5)
        self.assertIn("inset", original.evaluate("each => each.style.clipPath"))
        self.page.keyboard.down("c")
        expect(patch).to_have_count(0)
        self.assertEqual(original.evaluate("each => each.style.clipPath"), "")
        self.page.keyboard.up("c")
        expect(patch).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".weighs")).to_be_visible()
        self.button("Compare Harbour chart with the original").click()
        expect(both).to_be_visible()

    def test_what_fits_is_kept_fitting(self) -> None:
        """One drag more, over the limit: all are fitted anew by themselves; undo is not fought; switched off, it stays over."""
        self.button("Make it fit").click()
        expect(self.page.locator(".notice-fitted")).to_be_visible(timeout=_SEARCH_MS)
        self.button("Close", exact=True).click()
        self.limit("1.75 MB")
        expect(self.page.locator(".rail-figure.too-heavy")).to_be_visible()
        self.page.locator(".slip-face", has_text="Crew roster").click()
        self.page.locator(".spot-chosen").click()
        expect(self.page.locator(".notice-fitted")).to_be_visible(timeout=_SEARCH_MS)
        expect(self.page.locator(".fits")).to_be_visible()
        self.assertLessEqual(self.weighs(), 1_750_000)
        self.page.keyboard.press("Control+z")
        expect(self.page.locator(".rail-figure.too-heavy")).to_be_visible()
        expect(self.button("Make it fit")).to_be_visible()
        self.button("change", exact=True).click()
        self.page.get_by_label("Keep it under the limit").uncheck()
        self.page.keyboard.press("Escape")
        self.page.locator(".slip-face", has_text="Engine log").click()
        self.page.locator(".spot-chosen").click()
        expect(self.page.locator(".placed")).to_have_count(3)
        expect(self.button("Make it fit")).to_be_visible()

    def test_what_is_placed_is_counted_before_the_server_has_answered(self) -> None:
        """The answer is held back until the rail says what it will come to about; then the written figure is there."""
        held: list[Route] = []
        self.page.route("**/placements", lambda route: held.append(route))  # noqa: PLW0108  (it gets an attribute there)
        heavy = self.weighs()
        self.page.locator(".slip-face", has_text="Crew roster").click()
        self.page.locator(".spot-chosen").click()
        figure = self.page.locator(".rail-figure")
        expect(figure).to_contain_text("about")
        expect(self.page.locator(".rail")).to_contain_text("measuring…")
        held[0].continue_()
        expect(figure).not_to_contain_text("about")
        expect(figure).to_have_attribute("data-bytes", re.compile(r"\d+"))
        self.assertGreater(self.weighs(), heavy)

    def test_a_limit_is_remembered_for_the_file(self) -> None:
        """Opened again, it has the one that it had."""
        self.limit("1.9 MB")
        expect(self.page.get_by_text("limit 1.9 MB")).to_be_visible()
        self.go("/start")
        self.button("Crew handbook.docx").first.click()
        expect(self.page.get_by_text("limit 1.9 MB")).to_be_visible()
        expect(self.page.locator(".placed")).to_have_count(0)

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


class Letter(_Weighing):
    """A new message that is too heavy for its address."""

    def test_what_helps_is_done_in_one_action(self) -> None:
        """In the body and attached is too much: each way is offered with its weight; attached only, it fits."""
        self.go("/place")
        self.button("Another file\u2026").click()
        self.page.get_by_role("menuitem", name="New message").click()
        expect(self.page.locator("[data-spot='h.0']")).to_be_visible()
        for name in ("Harbour chart", "Crew roster"):
            self.page.locator(".slip-face", has_text=name).click()
            self.page.locator("[data-spot='h.0']").click()
            expect(self.button("Standing: in the body")).to_be_visible()
            self.button("Standing: in the body").click()
            self.page.get_by_role("menuitem", name="in the body and attached").click()
            expect(self.button("Standing: in the body and attached")).to_be_visible()
            self.page.keyboard.press("Escape")
        self.button("set one", exact=True).click()
        self.page.get_by_label("What may the file weigh?").fill("150 kB")
        self.button("Set", exact=True).click()
        self.button("Make it fit").click()
        alert = self.page.get_by_role("alert")
        expect(alert).to_contain_text("can't be made to fit", timeout=_SEARCH_MS)
        expect(alert.get_by_role("button", name="Leave Harbour chart out")).to_be_visible()
        alert.get_by_role("button", name="Attach the pictures only").click()
        expect(self.page.locator(".notice-fitted")).to_be_visible(timeout=_SEARCH_MS)
        expect(self.page.locator(".fits")).to_be_visible()
        self.assertLessEqual(self.weighs(), 150_000)


class Elsewhere(_Weighing):
    """A clipping that is too heavy for a sheet, and for the body of a message."""

    def begin(self, words: str, place: str) -> None:
        """A new file with the harbour chart at a place, and a limit."""
        self.go("/place")
        self.button("Another file\u2026").click()
        self.page.get_by_role("menuitem", name=f"New {words}").click()
        self.page.locator(".slip-face", has_text="Harbour chart").click()
        spot = self.page.locator(place)
        expect(spot).to_be_visible()
        if words == "message":
            spot.click()
        else:
            spot.click(position={"x": 160, "y": 60})
            self.page.keyboard.press("Enter")
        expect(self.page.locator("[data-placement]")).to_have_count(1)
        self.button("set one", exact=True).click()
        self.page.get_by_label("What may the file weigh?").fill("400 kB")
        self.button("Set", exact=True).click()
        expect(self.page.locator(".rail-figure.too-heavy")).to_be_visible()

    def fits(self) -> bytes:
        """Made to fit in one action; the copy's bytes, which are as many as the rail says."""
        self.button("Make it fit").click()
        expect(self.page.locator(".notice-fitted")).to_contain_text("Harbour chart", timeout=_SEARCH_MS)
        expect(self.page.locator(".fits")).to_be_visible()
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        data = Path(download.value.path()).read_bytes()
        self.assertEqual(len(data), self.weighs())
        self.assertTrue(300_000 < len(data) <= 400_000, len(data))
        return data

    def test_a_sheet(self) -> None:
        """Its picture is read back by another library."""
        self.begin("spreadsheet (.xlsx)", ".grid-ground")
        sheet = openpyxl.load_workbook(io.BytesIO(self.fits())).active
        self.assertEqual(len(sheet._images), 1)

    def test_the_body_of_a_message(self) -> None:
        """Base64 counted in."""
        self.begin("message", "[data-spot='h.0']")
        message = email.message_from_bytes(self.fits())
        self.assertEqual([part.get_content_maintype() for part in message.walk()].count("image"), 1)

    def test_attached_to_a_message(self) -> None:
        """Beside its text, where it weighs as much."""
        self.assertEqual(self.hung("attached as a file"), ["attachment"])

    def test_in_a_message_and_attached(self) -> None:
        """Each copy counts: the picture is half as heavy as it could be once."""
        self.assertEqual(self.hung("in the body and attached"), ["inline", "attachment"])

    def hung(self, stand: str) -> list[str | None]:
        """A message whose picture stands so, made to fit; how its parts say that they are shown."""
        self.begin("message", "[data-spot='h.0']")
        self.button("Standing: in the body").click()
        self.page.get_by_role("menuitem", name=stand, exact=True).click()
        expect(self.button(f"Standing: {stand}", exact=True)).to_be_visible()
        message = email.message_from_bytes(self.fits())
        pictures = [part for part in message.walk() if part.get_content_maintype() == "image"]
        self.assertEqual(len({part.get_payload(decode=True) for part in pictures}), 1)
        return [part.get_content_disposition() for part in pictures]


class Heavy(_Weighing):
    """A heavy file of somebody else, which only has to become lighter."""

    with_demo_data = False

    def test_dropped_where_things_are_weighed_it_is_slimmed_compared_and_had(self) -> None:
        """Nothing is placed: its own pictures pay at once; text and all else are what they were, to the byte."""
        self.go("/hand-over")
        before = make_handbook()
        handle = self.page.evaluate_handle(
            """([name, data]) => {
                const transfer = new DataTransfer();
                transfer.items.add(new File([Uint8Array.from(atob(data), (each) => each.charCodeAt(0))], name));
                return transfer;
            }""",
            ["Sea log.docx", base64.b64encode(before).decode()],
        )
        self.page.dispatch_event("main", "drop", {"dataTransfer": handle})
        expect(self.page.locator(".weighs tbody tr")).to_have_count(4)
        self.button("set one", exact=True).click()
        self.page.get_by_label("What may the file weigh?").fill("450 kB")
        self.button("Set", exact=True).click()
        self.button("Make it fit").click()
        expect(self.page.locator(".notice-fitted")).to_contain_text("Quillhaven harbour", timeout=_SEARCH_MS)
        expect(self.page.locator(".fits")).to_be_visible()
        self.button("Compare", exact=True).click()
        both = self.page.locator(".compare-both img")
        expect(both).to_have_count(2)
        sizes = [both.nth(at).evaluate("each => each.decode().then(() => each.naturalWidth)") for at in (0, 1)]
        self.assertLessEqual(sizes[0], sizes[1])
        self.button("The next picture").click()
        expect(self.page.locator(".tool-end")).to_contain_text("2 of ")
        self.button("Back to what weighs").click()
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        data = Path(download.value.path()).read_bytes()
        self.assertLessEqual(len(data), 450_000)
        self.assertGreater(changed_pictures(before, data), 0)
