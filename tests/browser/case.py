"""A browser test: one Chromium for the whole run; a page and a server of its own for each test.

The pages of most tests share one context, one process of the browser and one address, where each finds the scripts compiled that
the one before it ran: that is two thirds of what opening a page costs. What one leaves behind (cookies, kept pictures, other
windows, routes) is cleared after each. A test with a window of another size, with fingers or a clock of its own has its own context.
"""

from __future__ import annotations

import atexit
import os
import sys
import unittest
from pathlib import Path
from typing import ClassVar

from playwright.sync_api import Browser, BrowserContext, Locator, Page, Playwright, expect, sync_playwright

from tests.support.server import Server
from tijera.web.entry import Entry

CHROMIUM = Path("/usr/bin/chromium")
_SHELL = Path("/usr/bin/chromium-headless-shell")
"""The same without all that only a window needs: a test takes it two thirds of the time. Where Debian is older, Chromium itself."""
ARGUMENTS = (
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--process-per-site",
)
_WIDE = (1_280, 800)
_PATIENCE_MS = int(os.environ.get("TIJERA_TEST_PATIENCE_MS", "90000"))
"""For what comes in a second here: a machine that is busy with other things has stood still for half a minute."""


class _Shared:
    playwright: ClassVar[Playwright | None] = None
    browser: ClassVar[Browser | None] = None
    context: ClassVar[BrowserContext | None] = None
    port: ClassVar[int] = 0


def shared_browser() -> Browser:
    """The browser of this run, started once."""
    if _Shared.browser is None:
        _Shared.playwright = sync_playwright().start()
        browser = _SHELL if _SHELL.exists() else CHROMIUM
        _Shared.browser = _Shared.playwright.chromium.launch(executable_path=browser, args=ARGUMENTS)
        atexit.register(_stop)
        expect.set_options(timeout=_PATIENCE_MS)
    return _Shared.browser


def _shared_context(address: str) -> BrowserContext:
    """The context that most tests share; a page that stays open in it keeps its process."""
    if _Shared.context is None:
        _Shared.context = _new_context(_WIDE, has_touch=False)
        _Shared.context.new_page().goto(f"{address}/icon-192.png")
    return _Shared.context


def _new_context(viewport: tuple[int, int], *, has_touch: bool) -> BrowserContext:
    context = shared_browser().new_context(
        viewport={"width": viewport[0], "height": viewport[1]},
        permissions=["clipboard-read", "clipboard-write"],
        accept_downloads=True,
        has_touch=has_touch,
    )
    context.set_default_timeout(_PATIENCE_MS)
    return context


def _clear(context: BrowserContext) -> None:
    """What a test leaves behind in the shared context, but for the page that stays."""
    stays, *others = context.pages
    for page in others:
        page.close()
    context.unroute_all(behavior="ignoreErrors")
    context.clear_cookies()
    session = context.new_cdp_session(stays)
    session.send("Network.enable")
    # Also what the process itself keeps: pictures of another server may have the same address.
    session.send("Network.setCacheDisabled", {"cacheDisabled": True})
    session.send("Network.clearBrowserCache")
    session.detach()


def _stop() -> None:
    if _Shared.browser:
        _Shared.browser.close()
    if _Shared.playwright:
        _Shared.playwright.stop()


@unittest.skipUnless(CHROMIUM.exists(), "Debian's Chromium is not installed: `make test` installs it")
class BrowserCase(unittest.TestCase):
    """Opens the application; any error on the page's console fails the test."""

    with_demo_data: ClassVar[bool] = True
    viewport: ClassVar[tuple[int, int]] = _WIDE
    has_touch: ClassVar[bool] = False
    own_context: ClassVar[bool] = False
    let_in: ClassVar[bool] = True
    """Whether the browser has opened the address that the start prints before."""

    def setUp(self) -> None:
        """Start a server and open a page on it."""
        entry = Entry(b"an installation of the tests")
        self.server = self.enterContext(Server(with_demo_data=self.with_demo_data, port=_Shared.port, entry=entry))
        _Shared.port = self.server.port
        if self.own_context or self.has_touch or self.viewport != _WIDE:
            self.context = _new_context(self.viewport, has_touch=self.has_touch)
            self.addCleanup(self.context.close)
        else:
            self.context = _shared_context(self.server.address)
            self.addCleanup(_clear, self.context)
        if self.let_in:
            self.context.add_cookies([{"name": entry.cookie, "value": entry.cookie_value, "url": self.server.address}])
        self.complaints: list[str] = []
        self.page = self.open_page()

    def tearDown(self) -> None:
        """Nothing may have been complained about on the console; where a test failed, what the page shows is printed."""
        # The test's own outcome: unittest has no public word for it before 3.12.
        if not self._outcome.success:  # type: ignore[attr-defined]
            sys.stderr.write(f"{self.id()}\n{self.page.url}\n{self.page.locator('body').aria_snapshot()}\n")
        self.assertEqual(self.complaints, [])

    def open_page(self) -> Page:
        """A page that notes what the console complains about."""
        page = self.context.new_page()
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on("console", lambda line: self._note(line.type, line.text))
        return page

    def _note(self, kind: str, text: str) -> None:
        # Refusals are answered with a status of 4xx on purpose; the browser lists them as errors.
        if kind == "error" and "status of 4" not in text:
            self.complaints.append(text)

    def go(self, path: str = "/") -> None:
        """Open a room by its address and wait until it is there."""
        self.page.goto(f"{self.server.address}{path}")
        self._wait()

    def reload(self) -> None:
        """Load the page again and wait until it is there."""
        self.page.reload()
        self._wait()

    def _wait(self) -> None:
        expect(self.page.locator(".room-body:not([aria-busy])")).to_be_visible()

    def button(self, name: str, *, exact: bool = False) -> Locator:
        """A button by its name."""
        return self.page.get_by_role("button", name=name, exact=exact)

    def open_file(self, name: str, data: bytes) -> None:
        """By choosing it: from the first minute, from an empty Place, or from one that shows another file."""
        another = self.button("Another file\u2026")
        way = self.button("Open a file\u2026").or_(another).first
        expect(way).to_be_visible()
        if another.count():
            way.click()
            way = self.page.get_by_role("menuitem", name="Open a file\u2026")
        with self.page.expect_file_chooser() as chooser:
            way.click()
        chooser.value.set_files({"name": name, "mimeType": "application/octet-stream", "buffer": data})

    def stands_still(self, area: Locator) -> None:
        """Wait until an element has stopped moving: scrolled to, or moved by what opens beside it."""
        before = None
        for _ in range(200):
            now = area.bounding_box()
            if now is not None and now == before:
                return
            before = now
            self.page.wait_for_timeout(150)
        self.fail("it goes on moving")

    def drag(self, area: Locator, start: tuple[float, float], end: tuple[float, float]) -> None:
        """Drag with the mouse, in shares of an element's box."""
        box = area.bounding_box()
        if box is None:
            self.fail("the element is not shown")
        mouse = self.page.mouse
        mouse.move(box["x"] + start[0] * box["width"], box["y"] + start[1] * box["height"])
        mouse.down()
        mouse.move(box["x"] + end[0] * box["width"], box["y"] + end[1] * box["height"], steps=6)
        mouse.up()
