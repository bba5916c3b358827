"""Drag, hover and magnifier on a frame of 3840 × 2160 at a view of 1920 × 1080 in headless Chromium: frame intervals.

The pointer moves by itself inside the page, once an animation frame; the control is an empty animation loop.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

from benchmarks.measure import Result
from benchmarks.panes import large_frame
from tests.browser.case import ARGUMENTS, CHROMIUM
from tests.support.server import Server
from tijera.core.frames.frame import Frame, Monitor
from tijera.core.frames.source import Grab
from tijera.core.geometry import Rect
from tijera.usecases import taking

_FRAMES = 240
_MEDIAN_MS, _P95_MS = 17.0, 20.0
_MEASURE = """async ([frames, what]) => {
    const host = document.querySelector('.frozen');
    const box = host.getBoundingClientRect();
    const send = (kind, x, y) => host.dispatchEvent(new PointerEvent(kind, {
        bubbles: true, clientX: x, clientY: y, button: 0, pointerId: 1, isPrimary: true }));
    host.setPointerCapture = () => undefined;
    const next = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const times = [];
    if (what === 'drag') send('pointerdown', box.left + 30, box.top + 30);
    let last = await next();
    for (let i = 0; i < frames; i += 1) {
        const t = i / frames;
        if (what !== 'idle') send('pointermove', box.left + 40 + t * (box.width - 60), box.top + 40 + Math.abs(Math.sin(t * 9)) * (box.height - 60));
        const now = await next();
        times.push(now - last);
        last = now;
    }
    if (what === 'drag') send('pointerup', box.left + 300, box.top + 300);
    return times;
}"""


def run() -> Result:
    """Measure."""
    with Server(with_demo_data=True) as server, sync_playwright() as playwright:
        picture = large_frame()
        size = picture.size
        monitor = Monitor("large", "Large monitor", Rect.whole(size), 2.0)
        workshop = server.app.state.services.workshop
        frame = taking.keep_grab(workshop, "desk", Grab(Frame(size, (monitor,)), picture))
        browser = playwright.chromium.launch(executable_path=Path(CHROMIUM), args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1_920, "height": 1_080})
        with page.expect_response("**/panes"):
            page.goto(f"{server.address}/take?frame={frame.id}")
        page.locator(".frozen[data-ready=true]").wait_for()
        page.wait_for_timeout(1_500)
        idle = _of(page, "idle")
        drag = _of(page, "drag")
        page.get_by_role("button", name="Keep on the rack").and_(page.locator(":enabled")).wait_for()
        page.keyboard.press("Escape")
        page.locator(".area-box").wait_for(state="hidden")
        magnifier = _of(page, "hover")
        page.keyboard.press("3")
        hover = _of(page, "hover")
        browser.close()
    worst = (max(drag[0], hover[0], magnifier[0]), max(drag[1], hover[1], magnifier[1]))
    met = worst[0] <= _MEDIAN_MS and worst[1] <= _P95_MS
    parts = {"drag with magnifier": drag, "magnifier alone": magnifier, "hover over panes": hover, "idle page": idle}
    details = "; ".join(f"{name} {median:.1f} / {tail:.1f} ms" for name, (median, tail) in parts.items())
    figure = f"median {worst[0]:.1f} ms, 95th {worst[1]:.1f} ms"
    goal = f"≤ {_MEDIAN_MS:.0f} and ≤ {_P95_MS:.0f} ms"
    return Result("Drag, hover and magnifier on 3840 × 2160", figure, goal, met, f"{details}; {_FRAMES} frames each")


def _of(page: Page, what: str) -> tuple[float, float]:
    return quantiles(page.evaluate(_MEASURE, [_FRAMES, what]))


def quantiles(times: list[Any]) -> tuple[float, float]:
    """The median and the 95th percentile."""
    ordered = sorted(float(each) for each in times)
    return ordered[len(ordered) // 2], ordered[int(len(ordered) * 0.95)]
