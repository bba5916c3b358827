"""A picture leaves as a link: set up, made, opened by somebody else, withdrawn; and in a message that is too heavy."""

import email
import email.policy
import re
import socket

from playwright.sync_api import Page, expect

from tests.browser.test_sending import SendingCase


class Links(SendingCase):
    """The demo, in which links are off."""

    own_context = True

    def switch_on(self) -> None:
        """Set links up in the options."""
        with socket.socket() as asked:
            asked.bind(("127.0.0.1", 0))
            port = str(asked.getsockname()[1])
        self.page.get_by_role("button", name="Options").click()
        self.page.get_by_role("button", name="Set links up").click()
        self.page.get_by_label("Address that others reach").fill(f"http://127.0.0.1:{port}")
        self.page.get_by_label("Port of this computer").fill(port)
        self.page.get_by_role("button", name="Switch links on").click()
        expect(self.page.get_by_text("On: others open them at")).to_be_visible()
        self.page.get_by_role("button", name="Close").click()

    def outside(self) -> Page:
        """The page that somebody sees who opens the address that was just made."""
        with self.page.context.expect_page() as opened:
            self.page.get_by_role("button", name="Look at it").click()
        return opened.value

    def test_off_it_is_offered_nowhere_and_on_it_goes_all_the_way(self) -> None:
        """With a password and a number of views; what somebody else sees; withdrawn, nothing more."""
        self.go("/trim")
        expect(self.page.get_by_role("button", name="Save as…")).to_be_visible()
        expect(self.page.get_by_role("button", name=re.compile("^Link"))).to_have_count(0)
        self.go("/hand-over")
        expect(self.page.get_by_role("button", name="Links", exact=True)).to_have_count(0)
        self.go("/trim")
        self.switch_on()
        self.page.get_by_role("button", name="Link…").click()
        self.page.get_by_label("Password").fill("low tide")
        self.page.get_by_label("Shown at most").fill("2")
        self.page.get_by_role("button", name="Make the link and copy it").click()
        expect(self.page.get_by_text("A link to Engine log")).to_be_visible()
        outside = self.outside()
        outside.get_by_label("Password").fill("high tide")
        outside.get_by_role("button", name="Show the picture").click()
        expect(outside.get_by_role("alert")).to_contain_text("That is not the password")
        outside.get_by_label("Password").fill("low tide")
        outside.keyboard.press("Enter")
        picture = outside.get_by_role("img", name="Engine log")
        self.assertEqual(picture.evaluate("async img => { await img.decode(); return img.naturalWidth }"), 837)
        for _ in range(3):
            outside.reload()
        self.go("/hand-over")
        self.page.get_by_role("button", name="Links", exact=True).click()
        row = self.page.get_by_role("row", name=re.compile("Engine log"))
        expect(row).to_contain_text("opened once")
        row.get_by_role("button", name="withdraw: Engine log").click()
        expect(row).to_contain_text("withdrawn")
        outside.reload()
        expect(outside.get_by_role("heading")).to_contain_text("can't be opened any more")
        self.go("/history")
        expect(self.page.get_by_text("Engine log was withdrawn")).to_be_visible()
        outside.close()

    def test_a_message_that_is_too_heavy_sends_its_pictures_as_links(self) -> None:
        """In one action; what arrives names them, and they can be opened."""
        letter = self.begin("Work order")
        self.switch_on()
        self.place_heavy(letter, 4)
        self.button("Send message").click()
        self.button("Send pictures as links").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Sent to work-orders@")
        [arrived] = self.arrived("work-orders")
        self.assertLess(len(arrived.data), 2_000_000)
        text = arrived.data.decode("ascii").replace("=\r\n", "").replace("=3D", "=")
        addresses = set(re.findall(r"http://127\.0\.0\.1:\d+/[\w-]{32}", text))
        self.assertEqual(len(addresses) + arrived.seen.pictures_shown, 4)
        for address in addresses:
            answer = self.page.request.get(address)
            self.assertEqual(answer.status, 200)
            self.assertIn("Photograph", answer.text())

    def test_a_message_that_is_too_heavy_goes_as_two(self) -> None:
        """In one action; both arrive, each light enough, and their subjects say which is which."""
        letter = self.begin("Work order")
        self.place_heavy(letter, 4)
        self.button("Send message").click()
        expect(self.button("Send two messages")).to_be_visible()
        expect(self.button("Send pictures as links")).to_have_count(0)
        self.button("Send two messages").click()
        expect(self.page.locator(".notice-place")).to_contain_text("Sent to work-orders@", timeout=150_000)
        for _ in range(100):
            if len(self.arrived("work-orders")) == 2:
                break
            self.page.wait_for_timeout(200)
        one, other = self.arrived("work-orders")
        self.assertLess(max(len(one.data), len(other.data)), 2_000_000)
        self.assertEqual(one.seen.pictures_shown + other.seen.pictures_shown, 4)
        subjects = {
            str(email.message_from_bytes(each.data, policy=email.policy.default)["subject"])[-8:]
            for each in (one, other)
        }
        self.assertEqual(subjects, {"(1 of 2)", "(2 of 2)"})
