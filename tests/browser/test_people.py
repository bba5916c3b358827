"""Signing in and out in a browser, where several people share the server."""

from __future__ import annotations

import tempfile
import threading
import time
import unittest
from pathlib import Path

import uvicorn
from playwright.sync_api import Route, expect

from tests.browser.case import CHROMIUM, shared_browser
from tijera.people.accounts import Accounts
from tijera.people.server import people_app
from tijera.serving import build_app, listen

_PASSWORD = "seven gulls on a mast"


@unittest.skipUnless(CHROMIUM.exists(), "Debian's Chromium is not installed: `make test` installs it")
class SignedIn(unittest.TestCase):
    """By the form, as a person does it: browsers send more along with a form than other programs do."""

    def setUp(self) -> None:
        """A server for Marit."""
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        accounts = Accounts(folder, time.time)
        accounts.add("Marit", _PASSWORD)
        hosts = frozenset({"127.0.0.1"})
        app = people_app(
            accounts,
            lambda person: build_app(accounts.folder_of(person), with_demo_data=False, hosts=hosts),
            hosts,
            secure=False,
        )
        listener = listen(0)
        assert listener
        self.address = f"http://127.0.0.1:{listener.getsockname()[1]}"
        server = uvicorn.Server(uvicorn.Config(app, log_level="error", access_log=False, lifespan="off"))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()

        def end() -> None:
            server.should_exit = True
            thread.join(30)
            listener.close()
            app.close()

        self.addCleanup(end)
        self.context = shared_browser().new_context(viewport={"width": 1_280, "height": 800})
        self.context.set_default_timeout(90_000)
        self.addCleanup(self.context.close)

    def test_what_is_of_the_machine_is_not_offered_before_it_is_known_whose_it_is(self) -> None:
        """The answer about who is signed in comes last: the room waits for it."""
        page = self.context.new_page()
        page.goto(f"{self.address}/start")
        page.get_by_label("Name").fill("marit")
        page.get_by_label("Password").fill(_PASSWORD)
        page.keyboard.press("Enter")
        expect(page.get_by_role("link", name="all that was worked on")).to_be_visible()
        held: list[Route] = []

        def hold(route: Route) -> None:
            held.append(route)

        page.route("**/api/v1/session", hold)
        with page.expect_response("**/api/v1/bench"), page.expect_response("**/api/v1/options"):
            page.reload(wait_until="commit")
        page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        by_path = page.get_by_role("button", name="follow a file where it lies")
        self.assertEqual(by_path.count(), 0)
        expect(page.locator(".room-body[aria-busy]")).to_be_attached()
        for route in held:
            route.continue_()
        expect(page.get_by_role("link", name="all that was worked on")).to_be_visible()
        self.assertEqual(by_path.count(), 0)

    def test_in_by_the_form_and_out_by_the_options(self) -> None:
        """The page that was meant comes up; a wrong password keeps the name; nothing of the machine itself is offered."""
        page = self.context.new_page()
        page.goto(f"{self.address}/start")
        page.get_by_label("Name").fill("marit")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("Name and password don't belong together.")
        expect(page.get_by_label("Name")).to_have_value("marit")
        page.keyboard.type(_PASSWORD)
        page.keyboard.press("Enter")
        expect(page.locator(".room-body:not([aria-busy])")).to_be_visible()
        self.assertTrue(page.url.startswith(f"{self.address}/start"), page.url)
        expect(page.get_by_role("link", name="all that was worked on")).to_be_visible()
        self.assertEqual(page.get_by_role("button", name="follow a file where it lies").count(), 0)
        page.get_by_role("button", name="Options").click()
        expect(page.get_by_text("Signed in as Marit")).to_be_visible()
        page.get_by_role("button", name="sign out", exact=True).click()
        expect(page.get_by_role("heading", name="Sign in to Tijera")).to_be_visible()
        page.goto(f"{self.address}/take")
        expect(page.get_by_role("heading", name="Sign in to Tijera")).to_be_visible()
