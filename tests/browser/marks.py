"""Helpers for journeys on the mat: points in clipping pixels, tools by their keys, the bytes that left."""

from __future__ import annotations

import io
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from playwright.sync_api import expect

from tests.browser.case import BrowserCase
from tijera.core.imaging.picture import Pixels
from tijera.core.marks.mark import Mark
from tijera.records import ClippingRecord
from tijera.usecases.workshop import Workshop

KEYS = {
    "select": "S",
    "crop": "C",
    "part": "K",
    "arrow": "A",
    "line": "L",
    "text": "T",
    "callout": "O",
    "pennant": "N",
    "ring": "R",
    "pen": "P",
    "tint": "I",
    "black-out": "B",
    "turn": "U",
    "tones": "E",
    "edge": "G",
    "room": "M",
    "scale": "X",
}
XY = tuple[float, float]


class MarkCase(BrowserCase):
    """The newest clipping of the demo data lies on the mat: the engine log, 837 × 548."""

    _unmarked: ClassVar[Pixels | None] = None

    def setUp(self) -> None:
        """On the mat."""
        super().setUp()
        self.go("/trim")
        expect(self.page.locator(".mat-picture img").first).to_be_visible()

    @property
    def before(self) -> Pixels:
        """The clipping's pixels before anything was done to it; the demo data are the same for every test."""
        if MarkCase._unmarked is None:
            record = replace(self.record(), sheet=None, parts=())
            MarkCase._unmarked = self.workshop.pictures.finished(record).pixels
        return MarkCase._unmarked

    @property
    def workshop(self) -> Workshop:
        """The server's own."""
        workshop: Workshop = self.server.app.state.services.workshop
        return workshop

    def record(self) -> ClippingRecord:
        """The clipping that was newest."""
        return self.workshop.store.clippings()[0]

    def marks(self) -> tuple[Mark, ...]:
        """Its marks, as they are kept."""
        return self.workshop.pictures.sheet(self.record()).marks

    def finished(self) -> Pixels:
        """The pixels that would leave now."""
        return self.workshop.pictures.finished(self.record()).pixels

    def tool(self, name: str) -> None:
        """Take a tool in hand by its key."""
        self.page.keyboard.press(f"Shift+{KEYS[name]}")
        if name not in ("crop", "turn", "tones", "edge", "room", "scale"):
            expect(self.page.locator(".mark-surface")).to_be_visible()

    def client(self, point: XY) -> XY:
        """Where a clipping pixel is in the window."""
        box = self.page.locator(".mat-picture").bounding_box()
        assert box is not None
        scale = float(self.page.locator(".mat").get_attribute("data-scale") or 0)
        return (box["x"] + point[0] * scale, box["y"] + point[1] * scale)

    def press(self, point: XY) -> None:
        """Click a clipping pixel."""
        self.page.mouse.click(*self.client(point))

    def draw(self, *points: XY) -> None:
        """Draw through clipping pixels."""
        places = [self.client(point) for point in points]
        self.page.mouse.move(*places[0])
        self.page.mouse.down()
        for place in places[1:]:
            self.page.mouse.move(*place, steps=5)
        self.page.mouse.up()

    def expect_marks(self, count: int) -> None:
        """Wait until so many marks are on the mat."""
        expect(self.page.locator(".mark-hold")).to_have_count(count)

    def wait_until(self, holds: Callable[[], bool], why: str = "it never became so") -> None:
        """Until something holds on the server."""
        for _ in range(500):
            if holds():
                return
            self.page.wait_for_timeout(30)
        self.fail(why)

    def left(self) -> Pixels:
        """The pixels of the PNG that the button gives out."""
        with self.page.expect_download() as download:
            self.page.locator(".trim-top").get_by_role("button", name="Save", exact=True).click()
        return pixels_of(Path(download.value.path()).read_bytes())

    def assert_changed_only_in(self, after: Pixels, box: Sequence[float]) -> None:
        """Inside a box something changed; outside of it nothing did."""
        changed: NDArray[np.bool_] = (after[:, :, :3] != self.before[:, :, :3]).any(axis=2)
        left, top, right, bottom = (round(value) for value in box)
        self.assertTrue(changed[top:bottom, left:right].any(), "nothing was drawn")
        changed[max(top, 0) : bottom, max(left, 0) : right] = False
        self.assertEqual(int(changed.sum()), 0, "something changed elsewhere")


def pixels_of(data: bytes) -> Pixels:
    """A picture's pixels, as colours, with transparency where there is some."""
    image = Image.open(io.BytesIO(data))
    mode = "RGBA" if "A" in image.mode or "transparency" in image.info else "RGB"
    return np.asarray(image.convert(mode), dtype=np.uint8)
