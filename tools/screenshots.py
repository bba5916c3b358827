"""Take the pictures of `docs/screenshots` from the demo data, at 1280 × 800."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.browser.case import ARGUMENTS, CHROMIUM
from tests.support.server import Server
from tijera.usecases.linking import LinkSetup, LinkWish

TARGET = Path(__file__).resolve().parent.parent / "docs/screenshots"


def _settle(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(500)
    page.wait_for_function("() => [...document.images].every(each => each.complete)")


def _shot(page: Page, name: str) -> None:
    _settle(page)
    page.screenshot(path=TARGET / f"{name}.png")
    sys.stdout.write(f"{name}\n")


def _choose_place(page: Page, words: str) -> None:
    page.get_by_label("Go to a heading or words").fill(words)
    page.locator(".block-found + .spot").click()
    _settle(page)


def _first_minute(page: Page, server: Server) -> None:
    page.goto(server.address)
    _shot(page, "first-minute")


def _rooms(page: Page, server: Server) -> None:
    address = server.address
    page.goto(f"{address}/place")
    page.locator("[data-spot]").first.wait_for(state="attached")
    _choose_place(page, "4.2 low")
    page.keyboard.press("t")
    page.locator(".live-window").first.wait_for()
    page.get_by_role("button", name="waits").click()
    page.keyboard.press("f")
    frozen = page.locator(".frozen[data-ready=true]")
    frozen.wait_for()
    move = _mover(page)
    move(96, 140)
    page.mouse.down()
    move(1_226, 704)
    # The magnifier stands beside the corner while it is being dragged.
    _shot(page, "take")
    page.mouse.up()
    page.get_by_role("button", name="Place it").and_(page.locator(":enabled")).wait_for()
    page.keyboard.press("Enter")
    page.locator(".placed").wait_for()
    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_label("Alternative text").fill("Tide curve of 12 March; Oystercatcher waits at Q4 until 09:50.")
    page.keyboard.press("Enter")
    page.mouse.move(700, 60)
    _shot(page, "place")
    page.keyboard.press("Escape")
    page.locator(".placed-face").focus()
    page.keyboard.press("r")
    page.locator(".mat-picture img").wait_for()
    handle = page.locator(".area-grip-s").bounding_box()
    if handle is None:
        raise RuntimeError
    page.mouse.move(handle["x"] + 14, handle["y"] + 14)
    page.mouse.down()
    page.mouse.move(handle["x"] + 14, handle["y"] - 60, steps=5)
    page.mouse.up()
    _shot(page, "trim")
    page.get_by_role("button", name="Leave it").click()
    page.keyboard.press("p")
    page.locator(".slip-face", has_text="Harbour chart").click()
    page.locator(".spot-chosen").click()
    page.locator(".rail-figure.too-heavy").wait_for()
    page.mouse.move(700, 60)
    _shot(page, "over-limit")
    page.keyboard.press("h")
    page.locator(".weighs").wait_for()
    _shot(page, "what-weighs")
    page.get_by_role("button", name="Make it fit").click()
    page.locator(".notice-fitted").wait_for()
    _shot(page, "made-to-fit")
    page.get_by_role("button", name="Compare", exact=True).click()
    page.get_by_role("button", name="at screen pixels").click()
    _shot(page, "compare")


def _mover(page: Page) -> Callable[[float, float], None]:
    """Move the mouse to a pixel of the practice desk."""
    screen = page.locator(".screen").bounding_box()
    if screen is None:
        raise RuntimeError
    scale = screen["width"] / 2_560

    def move(x: float, y: float) -> None:
        page.mouse.move(screen["x"] + x * scale, screen["y"] + y * scale, steps=8)

    return move


def _kinds(page: Page, server: Server) -> None:
    """The other kinds of cut and the delay."""
    address = server.address
    page.goto(f"{address}/take")
    page.locator(".live-window").first.wait_for()
    page.keyboard.press("f")
    page.locator(".frozen[data-ready=true]").wait_for()
    move = _mover(page)
    page.keyboard.press("2")
    move(700, 300)
    _shot(page, "take-window")
    page.keyboard.press("4")
    move(1_000, 900)
    page.mouse.down()
    for x, y in (
        (1_150, 780),
        (1_400, 760),
        (1_560, 900),
        (1_480, 1_120),
        (1_200, 1_150),
        (1_010, 1_020),
        (1_000, 900),
    ):
        move(x, y)
    page.mouse.up()
    _settle(page)
    page.keyboard.press("Enter")
    page.locator(".live-window").first.wait_for()
    page.get_by_role("button", name="Close", exact=True).click()
    desk = server.app.state.services.workshop.sources["desk"]
    scroll = desk.scroll

    def slowly(window: str, by_px: int) -> int:
        time.sleep(0.4)
        return int(scroll(window, by_px))

    desk.scroll = slowly
    page.keyboard.press("6")
    page.get_by_role("button", name="Fare notice from 1 April, scroll it").click()
    page.wait_for_function(
        "() => { const made = document.querySelector('.long-page img'); return made?.complete && made.naturalHeight > 450; }"
    )
    page.screenshot(path=TARGET / "take-long-page.png")
    sys.stdout.write("take-long-page\n")
    page.locator(".frozen[data-ready=true]").wait_for()
    page.keyboard.press("Enter")
    page.get_by_text("hangs on the rack").wait_for()


def _marks(page: Page, server: Server) -> None:
    """Marks and what becomes of them."""
    page.goto(f"{server.address}/place")
    page.locator("[data-spot]").first.wait_for(state="attached")
    _choose_place(page, "4.2 low")
    page.keyboard.press("r")
    page.locator(".mat-picture img").first.wait_for()
    _settle(page)
    at = _on_mat(page)
    page.keyboard.press("Shift+N")
    says = ("The entry that was refused", "Read the meter again", "Then correct the hours")
    for number, (place, words) in enumerate(zip([(44, 266), (160, 470), (590, 470)], says, strict=True), 1):
        page.mouse.click(*at(*place))
        page.wait_for_function("(n) => document.querySelectorAll('.mark-hold').length === n", arg=number)
        page.get_by_label("Says", exact=True).fill(words)
        page.keyboard.press("Enter")
        page.wait_for_timeout(300)
    for key, start, end in (("R", (540, 380), (756, 448)), ("A", (450, 500), (545, 430)), ("B", (330, 58), (440, 100))):
        page.keyboard.press(f"Shift+{key}")
        page.mouse.move(*at(*start))
        page.mouse.down()
        page.mouse.move(*at(*end), steps=5)
        page.mouse.up()
        _settle(page)
    page.keyboard.press("Shift+S")
    page.mouse.click(*at(500, 464))
    _shot(page, "trim-marks")
    page.keyboard.press("Escape")
    _joined(page)


def _joined(page: Page) -> None:
    page.keyboard.press("Shift+M")
    page.get_by_label("bottom in px").fill("70")
    page.keyboard.press("Enter")
    page.keyboard.press("Shift+G")
    page.get_by_label("Weight in pt").fill("1")
    page.keyboard.press("Enter")
    page.get_by_label("Shadow in pt").fill("5")
    page.keyboard.press("Enter")
    _settle(page)
    page.keyboard.press("v")
    _shot(page, "trim-as-sent")
    page.keyboard.press("v")


def _on_mat(page: Page) -> Callable[[float, float], tuple[float, float]]:
    """From clipping pixels to the window."""

    def at(x: float, y: float) -> tuple[float, float]:
        box = page.locator(".mat-picture").bounding_box()
        if box is None:
            raise RuntimeError
        scale = float(page.locator(".mat").get_attribute("data-scale") or 1)
        return (box["x"] + x * scale, box["y"] + y * scale)

    return at


def _formats(page: Page, server: Server) -> None:
    """The grid and the message, each with a clipping in it."""
    page.goto(f"{server.address}/start")
    page.get_by_role("button", name="Tide table.xlsx").click()
    grid = page.locator(".grid-ground")
    grid.wait_for()
    _settle(page)
    box = grid.bounding_box()
    if box is None:
        raise RuntimeError
    # Over C5 to F5.
    page.mouse.move(box["x"] + 46 + 89 + 117 + 20, box["y"] + 24 + 32 + 20 * 4 + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 46 + 89 + 117 + 3 * 82 + 40, box["y"] + 24 + 32 + 20 * 4 + 11, steps=4)
    page.mouse.up()
    _settle(page)
    page.locator(".slip-face", has_text="Engine log").click()
    page.get_by_role("button", name="Place it over").click()
    page.locator(".grid-note").wait_for()
    page.mouse.move(700, 60)
    _shot(page, "grid")
    page.goto(f"{server.address}/start")
    page.get_by_role("button", name="Ferry notice.eml").click()
    page.locator("[data-spot='h.4']").click()
    _settle(page)
    page.locator("[data-spot='h.4']").click()
    page.locator(".placed").wait_for()
    page.keyboard.press("h")
    page.frame_locator("iframe").locator("img").wait_for()
    page.mouse.move(700, 60)
    # A frame without scripts never reports that its network is idle.
    page.wait_for_timeout(1_000)
    page.screenshot(path=TARGET / "message-arrives.png")
    sys.stdout.write("message-arrives\n")


def _sending(page: Page, server: Server) -> None:
    """A message goes to the help desk; where it arrived, what happened, and what changed since."""
    page.goto(f"{server.address}/start")
    page.get_by_role("button", name="Help desk").click()
    page.get_by_text("Choose one to bring it to the top.").wait_for()
    page.keyboard.press("2")
    page.get_by_role("list", name="Open windows").get_by_role("button", name="Engine log").click()
    page.get_by_role("button", name="Place it").and_(page.locator(":enabled")).wait_for()
    page.keyboard.press("Enter")
    page.get_by_text("Goes to Help desk: Engine log").wait_for()
    page.keyboard.press("p")
    page.get_by_label("Text; an empty line").fill(
        "Good morning,\n\nsince 11:40 the log refuses new hours for engine 2."
    )
    page.get_by_role("button", name="Send message").click()
    page.get_by_role("button", name="Look at it").wait_for()
    page.get_by_role("button", name="Close", exact=True).click()
    page.keyboard.press("h")
    page.get_by_role("button", name="Sending").click()
    page.locator(".dispatches").wait_for()
    _shot(page, "sending")
    page.get_by_role("link", name="Look into the postbox").click()
    page.frame_locator("iframe").locator("img").wait_for()
    # It looks for new mail again and again.
    page.wait_for_timeout(1_000)
    page.screenshot(path=TARGET / "postbox.png")
    sys.stdout.write("postbox\n")
    page.goto(f"{server.address}/history")
    page.locator(".happening").first.wait_for()
    _shot(page, "history")
    server.app.state.services.workshop.source("desk").scroll("fare-notice", 60)
    page.goto(f"{server.address}/take")
    page.get_by_text("Choose one to bring it to the top.").wait_for()
    page.keyboard.press("2")
    page.get_by_role("list", name="Open windows").get_by_role("button", name="Fare notice").click()
    page.get_by_role("button", name="Keep on the rack").and_(page.locator(":enabled")).click()
    page.get_by_text("hangs on the rack").wait_for()
    page.get_by_role("button", name="Close", exact=True).click()
    server.app.state.services.workshop.source("desk").scroll("fare-notice", 140)
    page.get_by_role("tab", name="Rack").click()
    page.get_by_role("button", name="Anew").click()
    page.get_by_role("article").first.wait_for()
    _shot(page, "take-anew")
    _linked(page, server)


def _linked(page: Page, server: Server) -> None:
    """A link's page, as somebody else sees it."""
    services = server.app.state.services
    services.link_listener.set_up(LinkSetup("http://127.0.0.1:7489", 7_489, "127.0.0.1"))
    clipping = next(each for each in services.workshop.store.clippings() if each.window == "Crew roster, week 11")
    page.goto(services.links.address_of(services.links.make(clipping.id, LinkWish())) or "")
    page.get_by_role("img").wait_for()
    page.screenshot(path=TARGET / "link.png")
    sys.stdout.write("link\n")


def main() -> int:
    """Take all of them."""
    TARGET.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        for take, with_demo_data in (
            (_first_minute, False),
            (_rooms, True),
            (_kinds, True),
            (_marks, True),
            (_formats, True),
            (_sending, True),
        ):
            with Server(with_demo_data=with_demo_data) as server:
                page = browser.new_page(viewport={"width": 1_280, "height": 800})
                take(page, server)
                page.close()
        browser.close()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
