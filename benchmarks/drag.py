"""Dragging a region on a 2560 × 1440 frame at a view of 1920 × 1080 in headless Chromium: intervals between frames.

The pointer moves by itself inside the page, once an animation frame; the control is an empty animation loop.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from playwright.sync_api import sync_playwright

from benchmarks.measure import Result
from tests.browser.case import ARGUMENTS, CHROMIUM
from tests.support.server import Server

_FRAMES = 240
_MEDIAN_MS, _P95_MS = 17.0, 34.0
_MEASURE = """async ([frames, drag]) => {
    const host = document.querySelector('.frozen');
    const box = host.getBoundingClientRect();
    const send = (kind, x, y) => host.dispatchEvent(new PointerEvent(kind, {
        bubbles: true, clientX: x, clientY: y, button: 0, pointerId: 1, isPrimary: true }));
    host.setPointerCapture = () => undefined;
    const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const times = [];
    if (drag) send('pointerdown', box.left + 30, box.top + 30);
    let last = await next();
    for (let i = 0; i < frames; i += 1) {
        const t = i / frames;
        if (drag) send('pointermove', box.left + 40 + t * (box.width - 60), box.top + 40 + Math.abs(Math.sin(t * 9)) * (box.height - 60));
        const now = await next();
        times.push(now - last);
        last = now;
    }
    if (drag) send('pointerup', box.left + 300, box.top + 300);
    return times;
}"""


def run() -> Result:
    """Measure."""
    with Server(with_demo_data=True) as server, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=Path(CHROMIUM), args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1_920, "height": 1_080})
        page.goto(f"{server.address}/take")
        page.locator(".live-window").first.wait_for()
        page.keyboard.press("f")
        page.locator(".frozen[data-ready=true]").wait_for()
        page.wait_for_timeout(1_500)
        idle = _quantiles(page.evaluate(_MEASURE, [_FRAMES, False]))
        drag = _quantiles(page.evaluate(_MEASURE, [_FRAMES, True]))
        browser.close()
    met = drag[0] <= _MEDIAN_MS and drag[1] <= _P95_MS
    figure = f"median {drag[0]:.1f} ms, 95th {drag[1]:.1f} ms"
    goal = f"≤ {_MEDIAN_MS:.0f} and ≤ {_P95_MS:.0f} ms"
    details = (
        f"idle page: median {idle[0]:.1f} ms, 95th {idle[1]:.1f} ms, ratio {drag[0] / idle[0]:.2f}; {_FRAMES} frames"
    )
    return Result("Dragging a region", figure, goal, met, details)


def _quantiles(times: list[Any]) -> tuple[float, float]:
    ordered = sorted(float(each) for each in times)
    return ordered[len(ordered) // 2], ordered[int(len(ordered) * 0.95)]
