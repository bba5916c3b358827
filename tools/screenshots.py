"""Take the pictures of `docs/screenshots` from the demo data, at 1280 × 800."""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.browser.case import ARGUMENTS, CHROMIUM
from tests.support.server import Server

TARGET = Path(__file__).resolve().parent.parent / "docs/screenshots"


def _settle(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(500)


def _shot(page: Page, name: str) -> None:
    _settle(page)
    page.screenshot(path=TARGET / f"{name}.png")
    sys.stdout.write(f"{name}\n")


def _choose_place(page: Page, words: str) -> None:
    page.get_by_label("Go to a heading or words").fill(words)
    page.locator(".block-found + .spot").click()
    _settle(page)


def _first_minute(page: Page, address: str) -> None:
    page.goto(address)
    _shot(page, "first-minute")


def _rooms(page: Page, address: str) -> None:
    page.goto(f"{address}/place")
    page.locator("[data-spot]").first.wait_for(state="attached")
    _choose_place(page, "4.2 low")
    page.keyboard.press("t")
    page.locator(".live-window").first.wait_for()
    page.keyboard.press("f")
    frozen = page.locator(".frozen[data-ready=true]")
    frozen.wait_for()
    box = frozen.bounding_box()
    if box is None:
        raise RuntimeError
    scale = box["width"] / 2_560
    page.mouse.move(box["x"] + 96 * scale, box["y"] + 140 * scale)
    page.mouse.down()
    page.mouse.move(box["x"] + 1_226 * scale, box["y"] + 704 * scale, steps=8)
    page.mouse.up()
    page.mouse.move(box["x"] + 900 * scale, box["y"] + 1_380 * scale)
    _shot(page, "take")
    page.keyboard.press("Control+Enter")
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
    _shot(page, "what-weighs")
    page.get_by_role("button", name="Make it fit").click()
    page.locator(".notice-fitted").wait_for()
    _shot(page, "made-to-fit")


def main() -> int:
    """Take all of them."""
    TARGET.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        for take, with_demo_data in ((_first_minute, False), (_rooms, True)):
            with Server(with_demo_data=with_demo_data) as server:
                page = browser.new_page(viewport={"width": 1_280, "height": 800})
                take(page, server.address)
                page.close()
        browser.close()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
