"""Panes against the true rectangles: of the practice desk's scene, and marked by hand on real screens."""

from __future__ import annotations

import bisect
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from tijera.core.frames.panes import LEAST_HEIGHT, LEAST_WIDTH, find_panes
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture
from tijera.desk import items
from tijera.desk.desk import PracticeDesk
from tijera.desk.drawing import Scene
from tijera.desk.scene import WindowScene

_SCREENS = Path(__file__).parents[1] / "data" / "screens"


def _near(one: Rect, other: Rect, within: int = 1) -> bool:
    sides = (one.x - other.x, one.y - other.y, one.right - other.right, one.bottom - other.bottom)
    return max(abs(side) for side in sides) <= within


class _Boxes(Scene):
    """A scene that only notes its boxes."""

    def __init__(self, width: int, height: int, ground: str) -> None:
        self.found: list[tuple[float, float, float, float, str, str]] = []
        self.lines: list[tuple[float, float, float, float]] = []
        super().__init__(width, height, ground)

    def box(self, x: float, y: float, width: float, height: float, fill: str, *, edge: str = "none") -> None:
        self.found.append((x, y, width, height, fill, edge))
        super().box(x, y, width, height, fill, edge=edge)

    def line(self, x1: float, y1: float, x2: float, y2: float, colour: str, *, dashes: str = "") -> None:
        self.lines.append((min(x1, x2), min(y1, y2), abs(x2 - x1), abs(y2 - y1)))
        super().line(x1, y1, x2, y2, colour, dashes=dashes)


def _drawn_boxes(window: WindowScene, *, cells: bool) -> list[Rect]:
    """The boxes of a window that can be seen whole, in pixels of its content: the cells of a roster, or all others."""
    scene = _Boxes(window.width, window.height, window.ground)
    items.draw(scene, tuple(item for item in window.items if (item["kind"] == "shifts") == cells), 0)
    rects: list[tuple[Rect, str, str]] = []
    for x, y, width, height, fill, edge in scene.found[1:]:
        left, top, right, bottom = (window.px(each) for each in (x, y, x + width, y + height))
        if right > left and bottom > top:
            rects.append((Rect(left, top, right - left, bottom - top), fill, edge))
    seen = []
    for number, (rect, fill, edge) in enumerate(rects):
        later = [other for other, _, _ in rects[number + 1 :]]
        crossed = any(rect.overlap(other) and rect.meet(other) != other for other in later)
        is_large = rect.width >= LEAST_WIDTH and rect.height >= LEAST_HEIGHT
        if (
            is_large
            and not crossed
            and rect.bottom <= window.inner.height
            and (fill != window.ground or edge != "none")
        ):
            seen.append(rect)
    return seen


def _all_boxes(window: WindowScene) -> list[Rect]:
    """All that a window draws with straight sides, however small, in pixels of its content."""
    scene = _Boxes(window.width, window.height, window.ground)
    items.draw(scene, (*window.items, *window.head_items, *window.foot_items), 0)
    return [
        Rect(
            window.px(x),
            window.px(y),
            max(window.px(x + width) - window.px(x), 1),
            max(window.px(y + height) - window.px(y), 1),
        )
        for x, y, width, height in (*(each[:4] for each in scene.found), *scene.lines)
    ]


def _is_at(side: int, known: list[int]) -> bool:
    place = bisect.bisect_left(known, side - 3)
    return place < len(known) and known[place] <= side + 3


class Scenes(unittest.TestCase):
    """The scene says where its rectangles are."""

    def test_nearly_all_are_found_to_the_pixel_and_few_are_offered_that_are_none(self) -> None:
        """At least 95 % within a pixel; of parts, such as rows and columns, nearly all have sides that the scene drew."""
        desk = PracticeDesk()
        for id_ in ("harbour-chart", "berth-plan", "crew-roster", "tide-board", "fare-notice", "engine-log", "weather"):
            desk.raise_window(id_)
        grab = desk.grab()
        boxes = {each.id: each for each in grab.frame.windows}
        truth: list[Rect] = []
        also: list[Rect] = []
        cells: list[Rect] = []
        drawn = [each.box for each in desk.scene.monitors]
        for window in desk.scene.windows:
            box = boxes[window.id]
            above = [each.box for each in grab.frame.windows if each.depth < box.depth]
            inner = window.inner
            bar = Rect(box.box.x, box.box.y, box.box.width, inner.y)
            parts = (box.box, box.content or box.box, bar)
            also += [part for part in parts if not any(part.overlap(each) for each in above)]
            head = window.px(window.head)
            drawn += [each.shifted(box.box.x + inner.x, box.box.y + inner.y + head) for each in _all_boxes(window)]
            for kept, of_cells in ((truth, False), (cells, True)):
                for rect in _drawn_boxes(window, cells=of_cells):
                    there = rect.shifted(box.box.x + inner.x, box.box.y + inner.y + head)
                    fits = rect.bottom + head <= inner.height - window.px(window.foot)
                    if fits and not any(there.overlap(each) for each in above):
                        kept.append(there)
        panes = find_panes(grab.picture)
        true = [*truth, *cells, *also]
        missed = [rect for rect in (*truth, *cells) if not any(_near(rect, pane) for pane in panes)]
        false = [pane for pane in panes if not any(_near(rect, pane, 2) for rect in true)]
        rows = sorted({side for rect in (*true, *drawn) for side in (rect.y, rect.bottom)})
        columns = sorted({side for rect in (*true, *drawn) for side in (rect.x, rect.right)})
        unlined = [
            pane
            for pane in false
            if not all(_is_at(side, rows) for side in (pane.y, pane.bottom))
            or not all(_is_at(side, columns) for side in (pane.x, pane.right))
        ]
        self.assertGreater(len(truth) + len(cells), 80)
        self.assertLessEqual(len(missed), 0.05 * (len(truth) + len(cells)), [str(each) for each in missed])
        self.assertLessEqual(len(false), 2 * len(true), f"{len(panes)} panes in all")
        self.assertLessEqual(len(unlined), 0.05 * len(panes), [str(each) for each in unlined])

    def test_text_photographs_gradients_and_a_blank_screen_offer_nothing(self) -> None:
        """Nor does noise."""
        random = np.random.default_rng(3)
        ramp = np.linspace(0, 255, 900).astype(np.uint8)
        for name, pixels in (
            ("blank", np.full((600, 900, 3), 250, dtype=np.uint8)),
            ("noise", random.integers(0, 256, (600, 900, 3), dtype=np.uint8)),
            ("gradient", np.broadcast_to(ramp[None, :, None], (600, 900, 3)).copy()),
            ("photograph", PracticeDesk().content("harbour-chart").pixels),
        ):
            with self.subTest(name):
                self.assertEqual(find_panes(Picture(pixels)), [])

    def test_a_rectangle_is_found_whatever_its_border_and_corners(self) -> None:
        """A filled one, a hairline, a thick line, rounded corners; width and height differ."""
        from tijera.core.imaging.vips import draw_svg

        for name, drawn in (
            ("filled", '<rect x="60" y="40" width="210" height="90" fill="#e1ebe6"/>'),
            ("hairline", '<rect x="60.5" y="40.5" width="209" height="89" fill="none" stroke="#b9c0c4"/>'),
            (
                "thick",
                '<rect x="61.5" y="41.5" width="207" height="87" fill="none" stroke="#20282a" stroke-width="3"/>',
            ),
            ("rounded", '<rect x="60" y="40" width="210" height="90" rx="8" fill="#2f7f74"/>'),
        ):
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="400" height="200"><rect width="400" height="200" fill="#fff"/>{drawn}</svg>'
            with self.subTest(name):
                panes = find_panes(Picture(np.ascontiguousarray(draw_svg(svg, 1).pixels[:, :, :3])))
                self.assertTrue(
                    any(_near(each, Rect(60, 40, 210, 90)) for each in panes), [str(each) for each in panes]
                )


# left, top, right, bottom (exclusive), with the border.
_MARKED = {
    "light": [
        (16, 37, 792, 71), (896, 36, 1101, 72), (1011, 99, 1161, 133), (1011, 138, 1161, 168), (1011, 173, 1161, 203),
        (82, 163, 250, 192), (1011, 214, 1132, 248), (1011, 253, 1132, 287),
    ],
    "plain": [(18, 7, 1059, 658), (485, 174, 603, 208), (12, 664, 118, 698), (959, 664, 1065, 698)],
    "dark": [(523, 150, 775, 184), (142, 316, 508, 345), (5, 316, 119, 345), (5, 289, 1343, 399), (174, 72, 343, 106)],
}  # fmt: skip


class RealScreens(unittest.TestCase):
    """Three screens from the documentation of a general program; see tests/data/screens/README.md."""

    def test_what_was_marked_by_hand_is_found(self) -> None:
        """At least four in five of all within two pixels: hand and eye are not surer than that."""
        found, asked, missed = 0, 0, []
        for name, marks in _MARKED.items():
            with Image.open(_SCREENS / f"{name}.png") as image:
                panes = find_panes(Picture(np.asarray(image.convert("RGB"))))
            self.assertLess(len(panes), 400, name)
            for left, top, right, bottom in marks:
                mark = Rect(left, top, right - left, bottom - top)
                asked += 1
                if any(_near(mark, pane, 2) for pane in panes):
                    found += 1
                else:
                    missed.append(f"{name}: {mark}")
        self.assertGreaterEqual(found / asked, 0.8, missed)


if __name__ == "__main__":
    unittest.main()
