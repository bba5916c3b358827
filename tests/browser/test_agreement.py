"""What the mat shows and what leaves agree: each kind of mark at three scales, screenshot against rendition.

A browser and librsvg draw the very same SVG text with the very same fonts; they may smooth edges differently.
"""

from __future__ import annotations

import io
from dataclasses import replace

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from tests.browser.marks import MarkCase, pixels_of
from tests.support.pictures import encoded
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.clippings.sheet import Sheet
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.marks.mark import Mark
from tijera.usecases import taking, trimming

SIZE = (800, 500)
FAR = 64
"""Of 255: a pixel that differs by more is another one."""
MOST_OUTSIDE_TEXT = 5 / 400_000
MOST_IN_TEXT = 0.003

KINDS: dict[str, tuple[Mark, ...]] = {
    "arrow": (
        mark("arrow", (60, 80), (400, 220), weight_pt=3.0),
        mark("arrow", (60, 300), (500, 420), id_="b", line="bent", head="filled", colour="rust"),
    ),
    "line": (mark("line", (60, 80), (700, 300), dash="dashed", weight_pt=2.0),),
    "pen": (Mark("p", "pen", tuple((60 + i, 250 + 80 * float(np.sin(i / 40))) for i in range(600)), {}),),
    "tint": (mark("tint", (60, 200), (700, 204), weight_pt=20.0),),
    "ring": (
        mark("ring", (60, 60), (360, 240)),
        mark("ring", (420, 60), (720, 240), id_="e", shape="ellipse", dash="dotted"),
    ),
    # Its sides lie on whole pixels at all three scales: elsewhere what leaves hides a pixel more, on purpose.
    "black-out": (mark("black-out", (80, 100), (320, 220)),),
    "text": (mark("text", (60, 80), text="Low water at berth Q4\nŁódź, Århus", size_pt=14.0),),
    "scripts": (
        mark("text", (60, 60), text="→ ≤ ✓ Ελληνικά Кириллица\nनमस्ते สวัสดี 中文 한국어 ⚓", size_pt=14.0),
        mark("text", (60, 220), (560, 220), id_="r", text="שלום עולם\nمرحبا بالعالم", size_pt=14.0),
        mark("text", (60, 330), id_="s", text="ქართული Հայերեն አማርኛ বাংলা\nதமிழ் മലയാളം සිංහල ភាសាខ្មែរ", size_pt=14.0),
    ),
    "callout": (mark("callout", (80, 90), (400, 300), text="Read the depth here", size_pt=12.0),),
    "pennant": (mark("pennant", (100, 100), size_pt=16.0), mark("pennant", (300, 200), id_="q", row="letters")),
}
WITH_TEXT = {"text", "callout", "pennant"}
MOST_IN_SCRIPTS = 0.02
"""The same letters, five times as many; but the two place shaped words by fractions of a pixel that differ: up to 2 px at a line's end."""


class Agreement(MarkCase):
    """On a flat picture, so that only marks are compared and not how a picture is scaled."""

    viewport = (1_700, 1_060)

    def test_the_mat_shows_what_leaves(self) -> None:
        """Outside text at most 5 of 400,000 pixels differ by more than 64 of 255, in text at most 0.3 %."""
        pixels = np.full((SIZE[1], SIZE[0], 3), (222, 230, 226), np.uint8)
        record = taking.bring_in(self.workshop, encoded(Picture(pixels)), "Flat.png")
        self.reload()
        expect(self.page.locator(".mat-picture img").first).to_be_visible()
        for kind, marks in KINDS.items():

            def only(sheet: Sheet, crop: Rect, marks: tuple[Mark, ...] = marks) -> tuple[Sheet, Rect]:
                return edits.add(sheet.with_marks(()), marks), crop

            trimming.edit(self.workshop, record.id, None, "Mark", only)
            # As when somebody comes back to the window: what another one changed is asked for.
            drawn = "() => [...document.querySelectorAll('.mat-picture svg')].map((each) => each.innerHTML).join()"
            before = self.page.evaluate(drawn)
            self.page.evaluate("() => window.dispatchEvent(new Event('visibilitychange'))")
            self.page.wait_for_function(f"(before) => ({drawn})() !== before", arg=before)
            self.page.evaluate("() => document.fonts.ready")
            self.page.keyboard.press("Shift+0")
            for steps, scale in (("", 1.0), ("+", 1.25), ("--", 0.8)):
                for key in steps:
                    self.page.keyboard.press(key)
                expect(self.page.locator(".mat")).to_have_attribute("data-scale", f"{scale:g}")
                with self.subTest(kind=kind, scale=scale):
                    shown, left = self.shown(), self.leaving(scale)
                    self.assertEqual(shown.shape, left.shape)
                    far = (np.abs(shown.astype(int) - left) > FAR).any(axis=2).mean()
                    self.assertTrue((left != left[0, 0]).any(), "nothing was drawn")
                    most = (
                        MOST_IN_SCRIPTS
                        if kind == "scripts"
                        else MOST_IN_TEXT
                        if kind in WITH_TEXT
                        else MOST_OUTSIDE_TEXT
                    )
                    self.assertLessEqual(far, most)

    def shown(self) -> Pixels:
        """The picture on the mat, without the lines that are laid over it."""
        self.page.evaluate(
            """() => document.querySelectorAll('.area-edge, .area-box, .area-grip').forEach((each) => {
                each.style.visibility = 'hidden';
            })"""
        )
        box = self.page.locator(".mat-picture").bounding_box()
        assert box is not None
        clip = {"x": box["x"], "y": box["y"], "width": round(box["width"]), "height": round(box["height"])}
        return pixels_of(self.page.screenshot(clip=clip))  # type: ignore[arg-type]

    def leaving(self, scale: float) -> Pixels:
        """The finished picture at the mat's scale, its marks in the same proportion."""
        record = self.workshop.store.clippings()[0]
        sheet = replace(self.workshop.pictures.sheet(record), scale=scale)
        scaled = trimming.with_sheet(self.workshop, record, sheet)
        finished = self.workshop.pictures.finished(scaled, 4 / 3 * scale)
        out = io.BytesIO()
        Image.fromarray(finished.pixels).save(out, "PNG")
        return pixels_of(out.getvalue())
