"""A message goes out of the door: asked about, sent, waited for, seen where it arrived."""

import email
import email.policy
import io
import re
from typing import Any

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tests.support.pictures import photograph_like
from tijera.postbox.mailboxes import Arrived
from tijera.postbox.server import Conduct
from tijera.records import DestinationRecord
from tijera.usecases import placing, taking


class SendingCase(BrowserCase):
    """The demo, with its postbox."""

    def arrived(self, mailbox: str) -> list[Arrived]:
        """What lies in a mailbox of the postbox."""
        box: Any = self.server.app.state.services.postbox
        found: list[Arrived] = box.mailboxes.arrived(mailbox)
        return found

    def begin(self, to: str) -> str:
        """A message to somebody who is saved, from the first page; its id."""
        self.go("/start")
        self.page.get_by_role("group", name="Message to").get_by_role("button", name=to).click()
        expect(self.page).to_have_url(re.compile(r"/take\?file="))
        return self.page.url.rpartition("file=")[2]

    def place_heavy(self, destination: str, count: int) -> None:
        """Photographs in a message, as if they had been placed in another window; shown after a reload."""
        workshop = self.server.app.state.services.workshop
        for number in range(count):
            pixels = np.roll(photograph_like(900, 600).pixels, 31 * number, axis=1)
            out = io.BytesIO()
            Image.fromarray(pixels).save(out, "PNG")
            clipping = taking.bring_in(workshop, out.getvalue(), f"Photograph {number}.png")
            placing.place(workshop, destination, clipping.id, "h.0")
        self.reload()

    def behave(self, conduct: Conduct) -> None:
        """Tell the postbox how to behave."""
        self.server.app.state.services.postbox.conduct = conduct


class Sending(SendingCase):
    """From the first screen to the mailbox."""

    def test_a_window_goes_to_the_help_desk_in_five_actions(self) -> None:
        """Choose whom to write to, the kind, the window; place it; send it."""
        self.go("/start")
        self.page.get_by_role("group", name="Message to").get_by_role("button", name="Help desk").click()
        expect(self.page.get_by_text("Goes to Help desk")).to_be_visible()
        expect(self.page.get_by_text("Choose one to bring it to the top.")).to_be_visible()
        self.page.keyboard.press("2")
        expect(self.page.get_by_text("Choose one to hold it.")).to_be_visible()
        windows = self.page.get_by_role("list", name="Open windows")
        windows.get_by_role("button", name="Engine log").click()
        expect(self.page.get_by_role("button", name="Place it, 600 px")).to_be_enabled()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("Goes to Help desk: Engine log")).to_be_visible()
        self.button("Send message").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Sent to help-desk@quillhaven.example")
        [arrived] = self.arrived("help-desk")
        self.assertEqual((arrived.seen.subject, arrived.seen.pictures_shown), ("Help desk: Engine log", 1))
        # What is looked at are those very bytes.
        with self.page.context.expect_page() as beside:
            self.button("Look at it").click()
        expect(beside.value.get_by_role("heading", name="How it arrives")).to_be_visible()
        store = self.server.app.state.services.workshop.store
        opened = store.find(DestinationRecord, beside.value.url.rpartition("file=")[2])
        self.assertEqual(store.blobs.get(opened.blob), arrived.data)
        beside.value.close()

    def test_what_is_too_heavy_is_made_to_fit_and_sent_in_one_action(self) -> None:
        """The mailbox's limit stands in the rail from the beginning."""
        message = self.begin("Work order")
        self.place_heavy(message, 4)
        self.button("Send message").click()
        expect(self.page.locator(".notice-place")).to_contain_text("may weigh 2 MB")
        self.assertEqual(self.arrived("work-orders"), [])
        self.button("Make it fit and send it").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Sent to work-orders@", timeout=150_000)
        [arrived] = self.arrived("work-orders")
        self.assertLessEqual(len(arrived.data), 2_000_000)
        self.assertGreater(len(arrived.data), 1_900_000)
        self.assertEqual((arrived.order, arrived.seen.pictures_shown), (4_417, 4))

    def test_without_a_clipping_it_asks_once(self) -> None:
        """And sends it as it is when told so."""
        self.begin("Harbour office")
        self.button("Send message").click()
        expect(self.page.locator(".notice-place")).to_contain_text("No clipping stands in the message yet")
        self.assertEqual(self.arrived("harbour-office"), [])
        self.button("Send it as it is").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Sent to harbour-office@")

    def test_a_mailbox_that_is_not_there_is_said_and_leads_to_the_field(self) -> None:
        """In the server's own words, before anything was queued."""
        self.begin("Harbour office")
        self.page.get_by_role("link", name="change").click()
        self.page.get_by_label("To", exact=True).fill("nobody@quillhaven.example")
        self.button("Send message").click()
        self.button("Send it as it is").click()
        expect(self.page.get_by_role("alert")).to_contain_text("550 5.1.1 There is no such mailbox here")
        self.button("Go there").click()
        expect(self.page.get_by_label("To", exact=True)).to_be_focused()

    def test_a_server_that_is_away_keeps_nothing_from_being_sent_later(self) -> None:
        """It waits, says so with the server's words, and is tried again at once when asked."""
        self.begin("Harbour office")
        self.behave(Conduct.AWAY)
        self.button("Send message").click()
        self.button("Send it as it is").click()
        expect(self.page.locator(".notice-place")).to_contain_text("it waits and is tried again")
        self.button("Show what was sent").click()
        row = self.page.locator(".dispatches tbody tr")
        expect(row).to_contain_text("waits, again at")
        self.behave(Conduct.USUAL)
        row.get_by_role("button", name="try now").click()
        expect(row).to_contain_text("sent")
        expect(row).to_contain_text("250 2.0.0 Message taken")
        self.assertEqual(len(self.arrived("harbour-office")), 1)

    def test_one_that_is_unclear_comes_twice_and_the_postbox_tells(self) -> None:
        """Kept without a reply, then taken again under the same Message-ID."""
        self.begin("Harbour office")
        self.behave(Conduct.SILENT)
        self.button("Send message").click()
        self.button("Send it as it is").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Nobody knows whether it arrived")
        self.behave(Conduct.USUAL)
        self.button("Show what was sent").click()
        self.button("try now").click()
        expect(self.page.locator(".dispatches tbody tr")).to_contain_text("2 tries")
        self.page.get_by_role("link", name="Look into the postbox").click()
        expect(self.page.get_by_text("The same message came before, as number 1.")).to_be_visible()
        self.assertEqual([each.copy_of for each in self.arrived("harbour-office")], [1, None])


class OtherWays(SendingCase):
    """Drafts, the clipboard, servers and recipients."""

    def test_a_draft_and_a_copy_go_to_the_users_own_mail_program(self) -> None:
        """The draft as a file that is marked; the copy as HTML with the pictures in it."""
        message = self.begin("Help desk")
        self.place_heavy(message, 1)
        self.page.goto(f"{self.server.address}/hand-over?file={message}")
        self.button("Sending").click()
        with self.page.expect_download() as download:
            self.button("Draft for my mail program").click()
        draft = email.message_from_bytes(download.value.path().read_bytes(), policy=email.policy.default)
        self.assertEqual(
            (draft["X-Unsent"], draft["To"], draft["Message-ID"]), ("1", "help-desk@quillhaven.example", None)
        )
        self.button("Copy to paste elsewhere").click()
        expect(self.page.locator(".notice-place")).to_contain_text("on the clipboard, with its pictures")
        html = self.page.evaluate(
            "async () => { const [item] = await navigator.clipboard.read(); return (await item.getType('text/html')).text(); }"
        )
        self.assertRegex(html, r"<img[^>]* width=")
        self.assertIn("data:image/png;base64,", html)
        # The browser looks through what goes to the clipboard under the page's own policy, and grumbles about its styles.
        self.complaints = [each for each in self.complaints if "inline style" not in each]

    def test_a_server_is_set_up_and_forgotten_and_its_password_is_never_shown(self) -> None:
        """Mail goes there from then on."""
        message = self.begin("Help desk")
        self.page.goto(f"{self.server.address}/hand-over?file={message}")
        self.button("Sending").click()
        expect(self.page.get_by_text("Mail goes to the postbox")).to_be_visible()
        self.button("Set a mail server up").click()
        form = self.page.get_by_role("form", name="Mail server")
        form.get_by_label("Server").fill("mail.quillhaven.example")
        form.get_by_label("User").fill("watch")
        form.get_by_label("Password").fill("seven gulls")
        self.button("Use this server").click()
        expect(
            self.page.get_by_text("Mail goes to mail.quillhaven.example, port 587, signed in as watch.")
        ).to_be_visible()
        self.assertNotIn(b"gulls", self.context.request.get(f"{self.server.address}/api/v1/mail").body())
        self.button("Forget it").click()
        expect(self.page.get_by_text("Mail goes to the postbox")).to_be_visible()

    def test_somebody_is_saved_with_a_subject_and_a_limit_and_forgotten(self) -> None:
        """And stands on the first page at once."""
        message = self.begin("Help desk")
        self.page.goto(f"{self.server.address}/hand-over?file={message}")
        self.button("Sending").click()
        self.button("add somebody").click()
        form = self.page.get_by_role("form", name="Recipient")
        for label, text in (
            ("Name", "Pilots"),
            ("Address", "pilot-station@quillhaven.example"),
            ("Subject begins with", "Pilots, {window}"),
            ("Takes at most", "500 kB"),
        ):
            form.get_by_label(label).fill(text)
        form.get_by_role("button", name="Save").click()
        self.button("Harbour office").click()
        form.get_by_role("button", name="Forget").click()
        self.begin("Pilots")
        expect(self.page.get_by_text("Goes to Pilots")).to_be_visible()
        expect(self.page.get_by_text("limit 500 kB")).to_be_visible()
