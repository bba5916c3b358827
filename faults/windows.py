"""What the server has in memory after many rounds of work, each done in a window of a browser that was opened for it."""

from __future__ import annotations

from playwright.sync_api import Browser, Page, sync_playwright

from faults.served import Finding, Served
from tests.browser.case import ARGUMENTS
from tests.support.docx import Docx, paragraph, section
from tijera.ownership import secret_of
from tijera.web.entry import Entry

_CHROMIUM = "/usr/bin/chromium"
_EARLY = 10
_MOST_GROWTH_MB = 60.0
_WORDS = "Ropes are laid out before the vessel has passed."


def run(rounds: int = 200) -> Finding:
    """Rounds of place, take, trim and hand over by pointer and keys, with a new window and a new file in each."""
    paper = Docx(paragraph(_WORDS) + section()).build()
    with Served() as served, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=_CHROMIUM, args=list(ARGUMENTS))
        entry = Entry(secret_of(served.folder))
        early = 0.0
        for number in range(rounds):
            _round(browser, served.address, entry, paper, number)
            if number == _EARLY - 1:
                early = served.resident_mb()
        last = served.resident_mb()
        browser.close()
    growth = last - early
    return Finding(
        f"Memory after {rounds} rounds in fresh windows against that after {_EARLY}",
        f"{growth:.0f} MB more",
        f"≤ {_MOST_GROWTH_MB:.0f} MB",
        growth <= _MOST_GROWTH_MB,
        f"{early:.0f} MB after {_EARLY} rounds, {last:.0f} MB after {rounds}; in each a file is opened, a place chosen, "
        "a part of the screen drawn, cropped, placed, and the copy downloaded",
    )


def _round(browser: Browser, address: str, entry: Entry, paper: bytes, number: int) -> None:
    window = browser.new_context(viewport={"width": 1_280, "height": 800}, accept_downloads=True)
    window.add_cookies([{"name": entry.cookie, "value": entry.cookie_value, "url": address}])
    page = window.new_page()
    page.goto(f"{address}/start")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Open a file…").click()
    docx = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"
    chooser.value.set_files({"name": f"Rules {number}.docx", "mimeType": docx, "buffer": paper})
    page.get_by_text(_WORDS).first.wait_for()
    page.locator(".place [data-spot]").last.dblclick()
    page.locator(".live-desk").wait_for()
    page.keyboard.press("f")
    _drag(page, ".frozen[data-ready=true]", (0.10 + number / 2_000, 0.12), (0.45, 0.5))
    page.locator(".placed").first.wait_for()
    page.keyboard.press("r")
    page.locator(".mat-picture img").first.wait_for()
    _drag(page, ".area-grip-s", (0.5, 0.5), (0.5, -3.0))
    page.keyboard.press("p")
    page.locator(".placed").first.wait_for()
    with page.expect_download() as download:
        page.get_by_role("button", name="Download copy").click()
    download.value.path()
    window.close()


def _drag(page: Page, on: str, start: tuple[float, float], end: tuple[float, float]) -> None:
    """In shares of the box of what is dragged on."""
    element = page.locator(on)
    element.wait_for()
    box = element.bounding_box()
    assert box
    (x, y), (to_x, to_y) = ((box["x"] + a * box["width"], box["y"] + b * box["height"]) for a, b in (start, end))
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(to_x, to_y, steps=4)
    page.mouse.up()
