"""Nine tasks from the first screen, done by mouse and keys and counted from a log of the real input.

How many each took before and how many it may take are in `TASKS`; `make bench` prints the table.
"""

from __future__ import annotations

import io
from pathlib import Path
from typing import ClassVar

import docx
import numpy as np
from PIL import Image
from playwright.sync_api import Locator, expect

from tests.browser.actions import counted, watch
from tests.browser.case import BrowserCase
from tests.support.pictured import pictured
from tests.support.pictures import photograph_like
from tijera.core.imaging.picture import Pixels
from tijera.desk.desk import PracticeDesk
from tijera.records import FrameRecord
from tijera.usecases import destinations, limits
from tijera.usecases.workshop import Workshop

TASKS = {
    "1a": ("part of a window into a document, its place chosen and Take open", 3, 1),
    "1b": ("the same from the first screen", 7, 4),
    "2": ("a window into a new message, sent", 7, 4),
    "3": ("part of the screen as a file with a name of one's own", 9, 4),
    "4": ("part of a window, cropped again, as a file", 8, 5),
    "5": ("a window, five pennants and a ring, into a message, sent", 19, 12),
    "6": ("a long page with a tint, saved", 8, 5),
    "7": ("a picture with words and an arrow, joined with another, into a message, sent", 16, 9),
    "8": ("a menu that vanishes, into a document", 6, 4),
    "9": ("ten heavy pictures under a limit", 4, 2),
}
"""The task, the actions that it took before, and how many it may take."""


class Actions(BrowserCase):
    """Each ends with the picture where it was wanted, to the bytes."""

    found: ClassVar[dict[str, list[str]]] = {}
    """What was done for each task, for the table."""

    @property
    def workshop(self) -> Workshop:
        """The server's own."""
        workshop: Workshop = self.server.app.state.services.workshop
        return workshop

    def begin(self) -> None:
        """The first screen, and the log begins."""
        self.go("/start")
        watch(self.page)

    def end(self, task: str) -> None:
        """As few actions as were promised."""
        done = counted(self.page)
        Actions.found[task] = done
        self.assertLessEqual(len(done), TASKS[task][2], done)

    def desk(self) -> Locator:
        """The live desk, once it is there."""
        expect(self.page.locator(".live-window")).to_have_count(9)
        return self.page.locator(".screen")

    def click_on(self, area: Locator, x: float, y: float, *, times: int = 1) -> None:
        """Click at shares of an element's box."""
        box = area.bounding_box()
        assert box
        self.page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"], click_count=times)

    def handbook(self) -> None:
        """The example document, and a double click on the place behind a heading's first paragraph."""
        self.page.get_by_role("button", name="Crew handbook.docx example").click()
        place = self.page.locator(".spot").nth(3)
        expect(place).to_be_attached()
        place.scroll_into_view_if_needed()
        place.dblclick()

    def to_help_desk(self) -> None:
        """A message to somebody who is written to often."""
        self.page.get_by_role("group", name="Message to").get_by_role("button", name="Help desk").click()

    def arrived(self) -> list[str]:
        """What the server said of the message."""
        expect(self.page.locator(".notice-place")).to_contain_text("Sent to help-desk@quillhaven.example")
        return [mail.seen.subject for mail in self.server.app.state.services.postbox.mailboxes.arrived("help-desk")]

    def saved(self, act: str | None = None) -> tuple[str, Pixels]:
        """The file that a key saves: its name and its pixels."""
        with self.page.expect_download() as download:
            self.page.keyboard.press(act or "Control+s")
        data = Path(download.value.path()).read_bytes()
        return download.value.suggested_filename, np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))

    def test_part_of_a_window_into_a_document(self) -> None:
        """From the first screen four actions at most; the next clipping takes the drag alone."""
        self.begin()
        self.handbook()
        self.drag(self.desk(), (0.05, 0.12), (0.35, 0.42))
        expect(self.page.locator(".placed")).to_have_count(1)
        self.end("1b")
        with self.page.expect_download() as download:
            self.button("Download copy").click()
        before = len(docx.Document(io.BytesIO(Path(download.value.path()).read_bytes())).inline_shapes)
        self.page.keyboard.press("t")
        screen = self.desk()
        start = len(counted(self.page))
        self.drag(screen, (0.60, 0.12), (0.85, 0.40))
        expect(self.page.locator(".placed")).to_have_count(2)
        Actions.found["1a"] = counted(self.page)[start:]
        self.assertLessEqual(len(Actions.found["1a"]), TASKS["1a"][2])
        with self.page.expect_download() as download:
            self.button("Download copy").click()
        self.assertEqual(
            len(docx.Document(io.BytesIO(Path(download.value.path()).read_bytes())).inline_shapes), before + 1
        )

    def test_a_window_into_a_new_message(self) -> None:
        """Begun, clicked, placed, sent."""
        self.begin()
        self.to_help_desk()
        self.click_on(self.desk(), 0.85, 0.62)
        expect(self.button("Place it, 600 px")).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed")).to_have_count(1)
        self.button("Send message").click()
        self.assertEqual(self.arrived(), ["Help desk: Engine log"])
        self.end("2")

    def test_part_of_the_screen_as_a_file_of_ones_own_name(self) -> None:
        """The name is selected as soon as it is kept: it is typed, and Enter saves it."""
        self.begin()
        self.page.get_by_role("button", name="A picture of its own").click()
        self.drag(self.desk(), (0.05, 0.12), (0.35, 0.42))
        expect(self.page.get_by_label("Kept as")).to_be_focused()
        self.page.keyboard.type("Tides of Thursday")
        name, pixels = self.saved("Enter")
        self.assertEqual(name, "Tides of Thursday.png")
        self.assertEqual(
            pixels.shape[:2], self.workshop.pictures.finished(self.workshop.store.clippings()[0]).pixels.shape[:2]
        )
        self.end("3")

    def test_part_of_a_window_cropped_again(self) -> None:
        """Going to Trim keeps what is held; saving takes the crop as it was pulled."""
        self.begin()
        self.page.keyboard.press("t")
        self.drag(self.desk(), (0.05, 0.12), (0.35, 0.42))
        expect(self.button("Keep on the rack")).to_be_visible()
        self.page.keyboard.press("r")
        expect(self.page.locator(".mat-picture img")).to_be_visible()
        whole = self.workshop.store.clippings()[0]
        handle = self.page.locator(".area-grip-s")
        expect(handle).to_be_visible()
        self.drag(handle, (0.5, 0.5), (0.5, -3.5))
        expect(self.button("Crop it")).to_be_visible()
        _, pixels = self.saved()
        self.assertEqual(pixels.shape[1], whole.area.width)
        self.assertLess(pixels.shape[0], whole.area.height - 20)
        self.end("4")

    def test_a_window_with_five_pennants_and_a_ring(self) -> None:
        """A tool's key keeps what is held and goes to Trim with that tool in hand."""
        self.begin()
        self.to_help_desk()
        self.click_on(self.desk(), 0.85, 0.62)
        expect(self.button("Place it, 600 px")).to_be_visible()
        self.page.keyboard.press("Shift+N")
        expect(self.page.locator(".mark-surface")).to_be_visible()
        mat = self.page.locator(".mat-picture")
        for number in range(5):
            self.click_on(mat, 0.1 + 0.17 * number, 0.9)
        self.page.keyboard.press("Shift+R")
        self.drag(mat, (0.1, 0.35), (0.9, 0.8))
        expect(self.page.locator(".mark-hold")).to_have_count(6)
        self.page.keyboard.press("Control+Enter")
        expect(self.page.locator(".placed")).to_have_count(1)
        self.button("Send message").click()
        self.assertEqual(self.arrived(), ["Help desk: Engine log"])
        kinds = [mark.kind for mark in self.workshop.pictures.sheet(self.workshop.store.clippings()[0]).marks]
        self.assertEqual(sorted(kinds), ["pennant"] * 5 + ["ring"])
        self.end("5")

    def test_a_long_page_with_a_tint(self) -> None:
        """What scrolls offers its whole page; the tint's key keeps it and goes to Trim."""
        self.begin()
        self.page.keyboard.press("t")
        self.desk()
        self.page.get_by_role("button", name="Whole page of Fare notice").click()
        expect(self.page.locator(".frozen[data-ready=true]")).to_be_visible()
        expect(self.button("Keep on the rack")).to_be_visible()
        self.page.keyboard.press("Shift+I")
        expect(self.page.locator(".mark-surface")).to_be_visible()
        mat = self.page.locator(".mat-picture")
        self.drag(mat, (0.2, 0.02), (0.7, 0.02))
        expect(self.page.locator(".mark-hold")).to_have_count(1)
        _, pixels = self.saved()
        self.assertGreater(pixels.shape[0], 2_000)
        self.end("6")

    def test_words_an_arrow_and_another_picture_into_a_message(self) -> None:
        """Placed by the drag; what is done on the mat then is in the message."""
        self.begin()
        self.to_help_desk()
        self.drag(self.desk(), (0.05, 0.12), (0.40, 0.45))
        expect(self.page.locator(".placed")).to_have_count(1)
        self.page.keyboard.press("Shift+T")
        expect(self.page.locator(".mark-surface")).to_be_visible()
        mat = self.page.locator(".mat-picture")
        self.click_on(mat, 0.2, 0.8)
        self.page.keyboard.type("Low water at 09:27")
        self.page.get_by_role("button", name="Arrow", exact=True).click()
        self.drag(mat, (0.3, 0.75), (0.5, 0.5))
        expect(self.page.locator(".mark-hold")).to_have_count(2)
        self.page.locator(".slip-face", has_text="Harbour chart").drag_to(mat, target_position={"x": 300, "y": 60})
        expect(self.page.locator(".mark-hold")).to_have_count(3)
        self.button("Send message").click()
        self.assertEqual(len(self.arrived()), 1)
        kinds = [mark.kind for mark in self.workshop.pictures.sheet(self.workshop.store.clippings()[0]).marks]
        self.assertEqual(sorted(kinds), ["arrow", "inset", "text"])
        self.end("7")

    def test_a_menu_that_vanishes_into_a_document(self) -> None:
        """A drag freezes the screen with the menu open."""
        self.begin()
        self.handbook()
        self.desk()
        self.button("Week, menu of Crew roster").click()
        expect(self.page.get_by_role("menuitem", name="Next week")).to_be_visible()
        self.drag(self.page.locator(".screen"), (0.54, 0.05), (0.80, 0.40))
        expect(self.page.locator(".placed")).to_have_count(1)
        record = self.workshop.store.clippings()[0]
        desk = self.workshop.sources["desk"]
        assert isinstance(desk, PracticeDesk)
        menu = desk.look().menu
        assert menu
        frame = self.workshop.frame_pixels(self.workshop.store.find(FrameRecord, record.frame))
        self.assertTrue(np.array_equal(frame.cut(menu.box).pixels, desk.menu().pixels))
        self.assertTrue(record.area.x <= menu.box.x and menu.box.right <= record.area.right)
        self.assertTrue(record.area.y <= menu.box.y and menu.box.bottom <= record.area.bottom)
        self.end("8")

    def test_ten_heavy_pictures_under_a_limit(self) -> None:
        """The limit of a form is known from the last time: the file is opened, and made to fit."""
        pictures: list[tuple[bytes, str]] = []
        for number in range(10):
            out = io.BytesIO()
            Image.fromarray(np.roll(photograph_like(600, 400).pixels, 31 * number, axis=1)).save(out, "PNG")
            pictures.append((out.getvalue(), "png"))
        data = pictured(pictures)
        before = destinations.open_destination(self.workshop, data, "Berths.docx")
        limits.set_limit(self.workshop, before.id, 400_000)
        self.begin()
        with self.page.expect_file_chooser() as chooser:
            self.page.get_by_role("button", name="Make a file lighter").click()
        chooser.value.set_files({"name": "Berths.docx", "mimeType": "application/octet-stream", "buffer": data})
        self.button("Make it fit").click()
        expect(self.page.locator(".notice-fitted")).to_contain_text("of 400 kB", timeout=150_000)
        self.end("9")
