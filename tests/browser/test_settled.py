"""What is typed or held is what leaves: at once, after a change of room, after a reload; and two windows keep apart."""

from __future__ import annotations

import email
import email.policy
import io
import re
import zipfile
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, Route, expect

from tests.browser.case import BrowserCase
from tests.browser.take import TakeCase
from tests.support.docx import Docx, paragraph
from tests.support.pictures import encoded, text_like
from tijera.demo.tide_table import make_tide_table
from tijera.usecases.taking import bring_in


class Typed(BrowserCase):
    """Nothing waits for a moment of rest."""

    with_demo_data = False

    def setUp(self) -> None:
        """A new message."""
        super().setUp()
        self.go("/place")
        self.button("message", exact=True).click()
        expect(self.page.get_by_label("Subject")).to_be_visible()

    def type_subject(self, words: str) -> None:
        """As fast as keys go, in one go."""
        self.page.get_by_label("Subject").focus()
        self.page.keyboard.insert_text(words)

    def saved(self) -> str:
        """The subject of what Ctrl + S saves."""
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        data = Path(download.value.path()).read_bytes()
        return str(email.message_from_bytes(data, policy=email.policy.default)["Subject"])

    def test_saved_at_once_it_is_all_there(self) -> None:
        """And one goes on typing where one was."""
        self.type_subject("Low water at nine")
        self.assertEqual(self.saved(), "Low water at nine")
        self.page.keyboard.insert_text(", outer quay")
        self.assertEqual(self.saved(), "Low water at nine, outer quay")

    def test_a_slow_server_is_waited_for(self) -> None:
        """The copy is asked for when the words are kept, not before."""
        order: list[str] = []
        self.page.on("request", lambda request: order.append(f"{request.method} {request.url.rsplit('/', 1)[-1]}"))
        self.page.on("response", lambda answer: order.append(f"answered {answer.url.rsplit('/', 1)[-1]}"))
        self.type_subject("Depth at berth 4")
        self.assertEqual(self.saved(), "Depth at berth 4")
        self.assertLess(order.index("answered letter"), order.index("POST handovers"))

    def test_a_reload_and_a_change_of_room_lose_nothing(self) -> None:
        """Straight after the last key."""
        self.type_subject("Fog in the strait")
        self.reload()
        expect(self.page.get_by_label("Subject")).to_have_value("Fog in the strait")
        self.page.locator("#letter-text").focus()
        self.page.keyboard.insert_text("Wind from the west.")
        self.page.locator(".room", has_text="and over").click()
        expect(self.page.locator(".room-body").get_by_text("Wind from the west.").first).to_be_visible()


class Held(TakeCase):
    """Ctrl + S and Ctrl + C mean what is held on the frozen screen."""

    def hold(self, x: float, y: float, width: float, height: float) -> None:
        """A region of the left monitor."""
        self.freeze()
        self.page.mouse.move(*self.at(x, y))
        self.page.mouse.down()
        self.page.mouse.move(*self.at(x + width, y + height), steps=4)
        self.page.mouse.up()
        expect(self.button("Keep on the rack")).to_be_enabled()

    def slips(self, count: int) -> None:
        """So many clippings are kept."""
        expect(self.page.locator(".live-window").first).to_be_visible()
        self.assertEqual(self.workshop.store.count_clippings() - self.before, count)

    def test_saved_and_copied_is_what_is_held(self) -> None:
        """Not the clipping before it."""
        self.before = self.workshop.store.count_clippings()
        self.hold(100, 150, 300, 120)
        self.page.keyboard.press("Enter")
        self.slips(1)
        self.hold(500, 200, 160, 240)
        with self.page.expect_download() as download:
            self.page.keyboard.press("Control+s")
        saved = Image.open(Path(download.value.path()))
        self.assertLess(saved.width, saved.height)
        self.slips(2)
        self.hold(300, 150, 420, 60)
        self.page.keyboard.press("Control+c")
        expect(self.page.locator(".notice")).to_contain_text("is on the clipboard")
        data = self.page.evaluate(
            "async () => { const [item] = await navigator.clipboard.read();"
            " return [...new Uint8Array(await (await item.getType('image/png')).arrayBuffer())] }"
        )
        copied = Image.open(io.BytesIO(bytes(data)))
        self.assertGreater(copied.width, 4 * copied.height)


class Windows(BrowserCase):
    """Each window shows its own file."""

    with_demo_data = False

    def open_in(self, page: Page, name: str) -> None:
        """A made-up document of its own name, by choosing it."""
        page.goto(f"{self.server.address}/start")
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Open a file…").click()
        data = Docx(paragraph(f"These are the {name}.")).build()
        chooser.value.set_files({"name": f"{name}.docx", "mimeType": "application/octet-stream", "buffer": data})
        expect(page.get_by_text(f"These are the {name}.").first).to_be_visible()

    def test_a_file_belongs_to_its_window(self) -> None:
        """Opened in one, the other keeps its own: on the page, after a reload, and in what leaves."""
        second = self.open_page()
        self.open_in(self.page, "Mooring rules")
        self.open_in(second, "Crew rules")
        self.page.bring_to_front()
        self.page.keyboard.press("t")
        expect(self.page.locator(".live-desk")).to_be_visible()
        self.page.keyboard.press("p")
        expect(self.page.get_by_text("These are the Mooring rules.").first).to_be_visible()
        self.reload()
        expect(self.page.get_by_text("These are the Mooring rules.").first).to_be_visible()
        with self.page.expect_download() as download:
            self.button("Download copy").click()
        with zipfile.ZipFile(Path(download.value.path())) as copy:
            self.assertIn(b"Mooring rules", copy.read("word/document.xml"))
        second.reload()
        expect(second.get_by_text("These are the Crew rules.").first).to_be_visible()
        # A third window, opened without a word, goes on with what was opened last.
        third = self.open_page()
        third.goto(self.server.address)
        expect(third.get_by_text("These are the Crew rules.").first).to_be_visible()

    def test_what_was_left_is_found_again(self) -> None:
        """From the first page and from another file, with what stands in it."""
        self.open_in(self.page, "Mooring rules")
        self.open_in(self.page, "Crew rules")
        self.page.get_by_role("button", name="Another file…").click()
        self.page.get_by_role("menuitem", name="Mooring rules.docx").click()
        expect(self.page.get_by_text("These are the Mooring rules.").first).to_be_visible()
        self.page.go_back()
        self.go("/start")
        self.page.get_by_role("button", name="Crew rules.docx").click()
        expect(self.page.get_by_text("These are the Crew rules.").first).to_be_visible()


class FirstClick(BrowserCase):
    """A press that does not move chooses one cell."""

    with_demo_data = False

    def test_it_chooses_one_cell_and_nothing_moves(self) -> None:
        """In every width of window, with a clipping in hand whose name is long."""
        workshop = self.server.app.state.services.workshop
        bring_in(
            workshop, encoded(text_like(80, 50)), "Tide board of the outer quay as it stood in the first days of March"
        )
        self.go("/start")
        self.open_file("Tide table.xlsx", make_tide_table())
        ground = self.page.locator(".grid-ground")
        for width in (1_280, 1_000, 700):
            with self.subTest(width=width):
                self.page.set_viewport_size({"width": width, "height": 800})
                expect(ground).to_be_visible()
                before = ground.bounding_box()
                assert before is not None
                self.page.mouse.move(before["x"] + 180, before["y"] + 260)
                self.page.mouse.down()
                self.page.mouse.up()
                expect(self.page.locator(".tool-says")).to_have_text(re.compile(r"^[A-Z]+[0-9]+: "))
                self.assertEqual(ground.bounding_box(), before)


class Enter(BrowserCase):
    """“Enter places …” is true as long as it is written there."""

    def test_it_places_though_nothing_has_the_focus(self) -> None:
        """Also where what was clicked was drawn anew since; and once, however often it is pressed."""
        self.go("/place")
        self.page.get_by_role("button", name="78.5 mm").first.click()
        expect(self.page.locator(".spot-chosen")).to_contain_text("Enter places Engine log")
        self.page.evaluate("document.activeElement.blur()")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed")).to_have_count(1)
        expect(self.page.locator(".spot-chosen")).to_contain_text("Engine log stands here")
        self.page.evaluate("document.activeElement.blur()")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".placed")).to_have_count(1)


class Undone(BrowserCase):
    """Undo means the last change, also where its answer is not there yet."""

    def test_it_waits_for_the_change_that_is_on_its_way(self) -> None:
        """A width that was just sent is taken back, and not the placing before it."""
        self.go("/place")
        self.page.get_by_label("Go to a heading or words").fill("4.2 low")
        spot = self.page.locator(".block-found + .spot")
        spot.click()
        self.page.locator(".slip-face", has_text="Engine log").click()
        spot.click()
        width = self.page.get_by_label("Width: a number")
        expect(width).to_be_visible()
        before = width.input_value()
        held: list[Route] = []

        def hold(route: Route) -> None:
            held.append(route)

        self.page.route("**/api/v1/placements/*", hold)
        sent: list[str] = []
        self.page.on("request", lambda request: sent.append(f"{request.method} {request.url.rsplit('/', 1)[-1]}"))
        width.fill("40 mm")
        with self.page.expect_request(lambda request: request.method == "PATCH"):
            width.press("Enter")
        self.button("Undo", exact=True).first.click()
        self.page.evaluate("() => new Promise(requestAnimationFrame)")
        self.assertNotIn("POST undo", sent)
        with self.page.expect_response(lambda answer: answer.url.endswith("/history/undo")):
            held[0].continue_()
        expect(width).to_have_value(before)
