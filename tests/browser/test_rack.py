"""The rack: pictures in by every way, found, named, removed."""

import base64
from datetime import UTC, datetime, timedelta

from playwright.sync_api import FilePayload, expect

from tests.browser.case import BrowserCase
from tests.support.pictures import encoded, text_like
from tests.support.rack import fill_rack
from tijera.recognition.tesseract import find_recogniser
from tijera.usecases import rounds
from tijera.usecases.reading import read_next

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
        expect(
            self.page.get_by_text("Nothing has “rostxx” in name, window, day, place or on its picture.")
        ).to_be_visible()

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
        self.page.evaluate(
            """() => {
                window.said = [];
                const note = () => window.said.push(document.querySelector(".notice")?.textContent ?? "");
                new MutationObserver(note).observe(document.body, { subtree: true, childList: true, characterData: true });
            }"""
        )
        self.page.locator(".slip-face").first.focus()
        self.page.keyboard.press("Delete")
        expect(self.page.locator(".slip")).to_have_count(2)
        expect(self.page.locator(".notice")).to_contain_text("taken off the rack")
        # What was still being asked of it, for the mat, is no news to anybody.
        self.assertFalse([each for each in self.page.evaluate("window.said") if "Not there" in each])
        self.page.locator(".notice").get_by_role("button", name="Undo").click()
        expect(self.page.locator(".slip")).to_have_count(3)


class Many(BrowserCase):
    """A rack of five thousand."""

    with_demo_data = False

    def setUp(self) -> None:
        """Clippings of one frame, taken over many days."""
        super().setUp()
        fill_rack(self.server.app.state.services.workshop, 5_000)
        self.go("/trim")
        expect(self.page.locator(".slip").first).to_be_visible()

    def test_it_scrolls_without_a_blank_strip(self) -> None:
        """Wherever it stands, slips cover the view from edge to edge, and each shows its picture."""
        view = self.page.locator(".rack-view")
        self.assertLess(self.page.locator(".slip").count(), 40)
        for share in (0.13, 0.5, 0.77, 1.0):
            view.evaluate("(box, share) => { box.scrollTop = share * box.scrollHeight; }", share)
            self.page.wait_for_function(_COVERED)
        expect(self.page.locator(".slip-name").last).to_have_text("Quay 0000")

    def test_it_is_found_by_name_window_and_day(self) -> None:
        """While typing."""
        find = self.page.get_by_label("Find a clipping by name, window or day")
        find.fill("quay 4321")
        expect(self.page.locator(".slip")).to_have_count(1)
        find.fill("roster 2026-02-03")
        expect(self.page.locator(".slip-name").first).to_have_text("Quay 2479")
        find.fill("nowhere")
        expect(self.page.get_by_text("Nothing has “nowhere”")).to_be_visible()

    def test_several_are_chosen_and_removed_at_once_and_undo_brings_all_back(self) -> None:
        """With Ctrl and with Shift, by pointer and by keys."""
        slips = self.page.locator(".slip-face")
        slips.nth(0).click()
        slips.nth(2).click(modifiers=["Shift"])
        expect(self.page.locator(".slip-actions")).to_contain_text("3 chosen")
        slips.nth(1).click(modifiers=["Control"])
        expect(self.page.locator(".slip-actions")).to_contain_text("2 chosen")
        slips.nth(2).focus()
        self.page.keyboard.press("Shift+ArrowDown")
        self.page.keyboard.press("Delete")
        expect(self.page.locator(".notice")).to_contain_text("clippings were taken off the rack")
        store = self.server.app.state.services.workshop.store
        left = store.count_clippings()
        self.assertLess(left, 4_999)
        self.page.locator(".notice").get_by_role("button", name="Undo").click()
        expect(self.page.locator(".notice")).to_contain_text("Undone")
        self.assertEqual(store.count_clippings(), 5_000)

    def test_by_day(self) -> None:
        """Each day has its heading."""
        self.page.keyboard.press("o")
        self.page.get_by_label("Divide the rack by days").click()
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".rack-day").first).to_have_text("Saturday 7 March")


_COVERED = """() => {
    const view = document.querySelector('.rack-view').getBoundingClientRect();
    const slips = [...document.querySelectorAll('.slip')].map((slip) => slip.getBoundingClientRect()).sort((a, b) => a.top - b.top);
    let covered = view.top;
    for (const slip of slips) if (slip.top <= covered + 14) covered = Math.max(covered, slip.bottom);
    const shown = slips.filter((slip) => slip.bottom > view.top && slip.top < view.bottom).length;
    const loaded = [...document.querySelectorAll('.slip img')].filter((image) => image.complete && image.naturalWidth > 0).length;
    return covered >= view.bottom - 14 && loaded >= shown && shown > 2;
}"""


class Words(BrowserCase):
    """The demo's rack, whose pictures are read."""

    def test_words_on_pictures_are_found_and_marked(self) -> None:
        """On the slip and on the mat, at the right place; and it is said where nobody reads them, or not yet."""
        self.go("/trim")
        find = self.page.get_by_label("Find a clipping by name, window or day")
        find.fill("coolant")
        expect(self.page.get_by_text("no recogniser is installed")).to_be_visible()
        expect(self.page.locator(".slip")).to_have_count(0)
        services = self.server.app.state.services
        recogniser = find_recogniser()
        assert recogniser is not None
        while read_next(services.workshop, recogniser):
            pass
        self.reload()
        find.fill("coolant")
        expect(self.page.locator(".slip-name")).to_have_count(1)
        expect(self.page.locator(".slip-name")).to_have_text("Engine log")
        expect(self.page.locator(".slip .found-words rect")).to_have_count(1)
        mark = self.page.locator(".mat-picture .found-words rect")
        expect(mark).to_have_count(1)
        box = mark.evaluate("rect => [rect.x, rect.y, rect.width, rect.height].map(each => each.baseVal.value)")
        for value, drawn in zip(box, (533, 103, 85, 18), strict=True):
            self.assertAlmostEqual(value, drawn, delta=12)
        find.fill("")
        expect(mark).to_have_count(0)


class Rounds(BrowserCase):
    """The demo's rack, and a clock that the test moves."""

    def test_a_clipping_is_taken_at_set_times_and_the_run_is_one_slip(self) -> None:
        """Begun in the form; opened, with what was missed and why; stopped."""
        services = self.server.app.state.services
        # The test goes the rounds itself.
        services.watchman.close()
        workshop = services.workshop
        real, ahead = workshop.now, [timedelta()]
        workshop.now = lambda: (datetime.fromisoformat(real()) + ahead[0]).isoformat(timespec="microseconds")
        self.go("/trim")
        self.page.get_by_role("button", name="Rounds").click()
        self.page.get_by_label("Name", exact=True).fill("Watch")
        self.page.get_by_label("Minutes").fill("30")
        self.page.get_by_label("Until").fill(f"{datetime.now(UTC).astimezone() + timedelta(hours=5):%Y-%m-%dT%H:%M}")
        self.page.get_by_role("button", name="Begin").click()
        expect(self.page.get_by_text("Watch is taken every 30 min until")).to_be_visible()
        for asleep in (30, 30, 90, 30):
            ahead[0] += timedelta(minutes=asleep)
            rounds.go(workshop)
        slip = self.page.locator(".slip").first
        expect(slip).to_contain_text("Watch")
        expect(slip).to_contain_text("4 taken, some missed, next")
        slip.locator(".slip-face").click()
        self.page.get_by_role("button", name="Open rounds").click()
        expect(self.page.locator(".slip")).to_have_count(4)
        head = self.page.get_by_role("region", name="Rounds of Watch")
        expect(head).to_contain_text("2 missed")
        expect(head).to_contain_text("Tijera was not running")
        head.get_by_role("button", name="stop").click()
        expect(head).to_contain_text("stopped")
        head.get_by_role("button", name="All clippings").click()
        expect(self.page.locator(".slip")).to_have_count(4)
