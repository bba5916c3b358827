"""The mat in headless Chromium at 1280 × 800: a pen stroke, opening a tall clipping, one step of undo, zoom."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, sync_playwright

from benchmarks.drag import quantiles
from benchmarks.measure import Result, middle
from tests.browser.case import ARGUMENTS, CHROMIUM
from tests.support.pictures import encoded, text_like
from tests.support.server import Server
from tijera.core.imaging.picture import Picture
from tijera.usecases import taking
from tijera.usecases.workshop import Workshop

_POINTS = 1_000
_MEDIAN_MS, _P95_MS = 17.0, 34.0
_STROKE = """async (count) => {
    const surface = document.querySelector('.mark-surface');
    const box = surface.getBoundingClientRect();
    surface.setPointerCapture = () => undefined;
    const send = (kind, i) => surface.dispatchEvent(new PointerEvent(kind, {
        bubbles: true, cancelable: true, button: 0, buttons: 1, pointerId: 1, pointerType: 'pen', isPrimary: true, pressure: 0.5,
        clientX: box.left + 20 + (i / count) * (box.width - 40),
        clientY: box.top + box.height / 2 + Math.sin(i / 30) * box.height / 3 }));
    const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const times = [];
    send('pointerdown', 0);
    let last = await next();
    for (let i = 1; i < count; i += 4) {
        for (let j = 0; j < 4; j += 1) send('pointermove', i + j);
        const now = await next();
        times.push(now - last);
        last = now;
    }
    send('pointerup', count);
    return times;
}"""
_UNDO = """async (shown) => {
    const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const start = performance.now();
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }));
    while (document.querySelectorAll('.mark-hold').length === shown) await new Promise((resolve) => setTimeout(resolve, 0));
    await next();
    return performance.now() - start;
}"""
_EMPTY = """async () => {
    const start = performance.now();
    await (await fetch('/api/v1/handovers')).text();
    return performance.now() - start;
}"""
_MOVE = """async ([what, count]) => {
    const mat = document.querySelector('.mat');
    const box = mat.getBoundingClientRect();
    const turn = (deltaY) => mat.dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, ctrlKey: true, deltaY,
        clientX: box.left + 400, clientY: box.top + 200 }));
    const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const times = [];
    let last = await next();
    for (let i = 0; i < count; i += 1) {
        if (what === 'in') turn(-33);
        if (what === 'out') turn(33);
        if (what === 'pan') {
            mat.scrollTop += i % 60 < 30 ? 37 : -37;
            mat.scrollLeft += i % 40 < 20 ? 11 : -11;
        }
        const now = await next();
        times.push(now - last);
        last = now;
    }
    return [times, Number(mat.dataset.scale)];
}"""
_FRAME_MS = 1000 / 60
_SHOW = """async (address) => {
    const start = performance.now();
    const image = new Image();
    image.src = address;
    await image.decode();
    document.body.replaceChildren(image);
    image.style.cssText = 'position:fixed;inset:0;height:600px';
    await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
    return performance.now() - start;
}"""
_OPEN = """async () => {
    const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const start = performance.now();
    document.querySelectorAll('.slip-face')[1].click();
    for (;;) {
        const image = document.querySelector('.mat-picture img');
        if (image && image.alt.startsWith('Tall') && image.complete && image.naturalHeight > 4000) break;
        await new Promise((resolve) => setTimeout(resolve, 0));
    }
    await next();
    await next();
    return performance.now() - start;
}"""


@contextmanager
def _mat() -> Iterator[tuple[Page, Workshop, str]]:
    with Server(with_demo_data=True) as server, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=Path(CHROMIUM), args=ARGUMENTS)
        page = browser.new_context(viewport={"width": 1_280, "height": 800}).new_page()
        yield page, server.app.state.services.workshop, server.address
        browser.close()


def run() -> list[Result]:
    """Measure them all."""
    with _mat() as (page, workshop, address):
        return [_stroke(page, address), _undo(page), _tall(page, workshop, address), _zoomed(page, workshop, address)]


def _stroke(page: Page, address: str) -> Result:
    page.goto(f"{address}/trim")
    page.locator(".mat-picture img").first.wait_for()
    page.wait_for_timeout(1_500)
    page.keyboard.press("Shift+P")
    page.locator(".mark-surface").wait_for()
    page.wait_for_timeout(500)
    median, tail = quantiles(page.evaluate(_STROKE, _POINTS))
    page.locator(".mark-hold").wait_for()
    met = median <= _MEDIAN_MS and tail <= _P95_MS
    figure, goal = f"median {median:.1f} ms, 95th {tail:.1f} ms", f"≤ {_MEDIAN_MS:.0f} and ≤ {_P95_MS:.0f} ms"
    return Result("A pen stroke of 1,000 points", figure, goal, met, "four points a frame, 250 frames")


def _undo(page: Page) -> Result:
    page.keyboard.press("Shift+N")
    surface = page.locator(".mark-surface")
    for count in range(9):
        surface.click(position={"x": 60 + 50 * count, "y": 80})
        page.wait_for_function("(count) => document.querySelectorAll('.mark-hold').length === count", arg=count + 2)
    page.wait_for_timeout(800)
    pairs = []
    for shown in range(10, 3, -1):
        mine = float(page.evaluate(_UNDO, shown))
        page.wait_for_timeout(600)
        pairs.append((mine, float(page.evaluate(_EMPTY)) + _FRAME_MS))
        page.wait_for_timeout(200)
    mine, plain = middle(pairs)
    found = mine / plain
    details = f"{mine:.0f} ms to the new view, a round trip of an empty request and one frame {plain:.0f} ms"
    return Result("Undo of one step to the new view", f"{found:.2f} ×", "≤ 2 ×", found <= 2, details)


def _tall(page: Page, workshop: Workshop, address: str) -> Result:
    pixels = np.concatenate([text_like(900, 430).pixels[:, :, :3] for _ in range(10)])
    pairs = []
    for number in range(9):
        # Another picture each time, so that nothing is at hand from the time before.
        pixels[number] ^= 1
        taking.bring_in(workshop, encoded(Picture(pixels)), f"Tall {number}.png")
        taking.bring_in(workshop, encoded(text_like(300, 200, number)), f"Small {number}.png")
        page.goto(f"{address}/trim")
        page.locator(".mat-picture img").first.wait_for()
        page.wait_for_timeout(1_200)
        mine = float(page.evaluate(_OPEN))
        pixels[number + 10] ^= 1
        other = taking.bring_in(workshop, encoded(Picture(pixels)), f"Plain {number}.png")
        plain = page.context.new_page()
        plain.goto(f"{address}/start")
        plain.wait_for_timeout(500)
        pairs.append((mine, float(plain.evaluate(_SHOW, f"/api/v1/clippings/{other.id}/picture.png?whole=true"))))
        plain.close()
    mine, theirs = middle(pairs)
    details = f"900 × 4300: {mine:.0f} ms on the mat, {theirs:.0f} ms as a plain picture from the same server"
    return Result("Opening a tall clipping", f"{mine / theirs:.2f} ×", "≤ 1.3 ×", mine <= 1.3 * theirs, details)


def _zoomed(page: Page, workshop: Workshop, address: str) -> Result:
    """Zoomed by the wheel in steps up to 32 times its size and back, and moved about at each size."""
    taking.bring_in(workshop, encoded(text_like(1_000, 12_000)), "Very tall.png")
    page.goto(f"{address}/trim")
    page.locator(".mat-picture img").first.wait_for()
    page.wait_for_timeout(2_000)
    zooming, moving = [], []
    most = 0.0
    while most < 32:
        times, most = page.evaluate(_MOVE, ["in", 5])
        zooming += times
        page.wait_for_timeout(200)
        moving += page.evaluate(_MOVE, ["pan", 60])[0]
    zooming += page.evaluate(_MOVE, ["out", 30])[0]
    (median, tail), (median_moved, tail_moved) = quantiles(zooming), quantiles(moving)
    met = max(median, median_moved) <= _MEDIAN_MS and max(tail, tail_moved) <= _P95_MS
    figure = f"median {max(median, median_moved):.1f} ms, 95th {max(tail, tail_moved):.1f} ms"
    details = f"zooming {median:.1f} / {tail:.1f} ms, moving {median_moved:.1f} / {tail_moved:.1f} ms"
    goal = f"≤ {_MEDIAN_MS:.0f} and ≤ {_P95_MS:.0f} ms"
    return Result("1000 × 12000 on the mat, up to 3,200 %", figure, goal, met, details)
