"""A clipping: a frame's area, perhaps along an outline, a crop on it, the pointer's layer, and a sheet. Pure data.

What is hidden can't come out: `visible_pixels` copies what is visible and never looks at another pixel; what lies
outside an outline is not only transparent but emptied, what is blacked out is taken out before anything is worked out.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from tijera.core.clippings.sheet import PLAIN, Sheet
from tijera.core.clippings.straightening import straightened
from tijera.core.clippings.turning import back_rect, turned_size
from tijera.core.errors import AreaOutside, CropOutside
from tijera.core.frames.freehand import Coverage, Outline
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture, Pixels, whole_values
from tijera.core.marks.operations import Point


@dataclass(frozen=True)
class PointerLayer:
    """The pointer's picture, by its key, and where its left upper corner lies in the area's pixels."""

    picture: str
    x: int
    y: int


@dataclass(frozen=True)
class Clipping:
    """An area of a frame, in frame pixels, and a crop, in the pixels of the turned area."""

    frame_size: Size
    area: Rect
    crop: Rect
    scale_factor: float
    outline: Outline | None = None
    """In the area's own pixels."""
    shown: tuple[Rect, ...] = ()
    """The monitors' rectangles on the frame: between them there is no picture. None given: all of it is one."""
    pointer: PointerLayer | None = None
    sheet: Sheet = PLAIN

    def __post_init__(self) -> None:
        if not self.area.lies_within(self.frame_size):
            raise AreaOutside(area=str(self.area), size=str(self.frame_size))
        if not self.crop.lies_within(self.base_size):
            raise CropOutside(crop=str(self.crop), size=str(self.base_size))

    @classmethod
    def uncropped(cls, frame_size: Size, area: Rect, scale_factor: float) -> Clipping:
        """A fresh clipping that shows its whole area. Raises `AreaOutside`."""
        if not area.lies_within(frame_size):
            raise AreaOutside(area=str(area), size=str(frame_size))
        return cls(frame_size, area, Rect.whole(area.size), scale_factor)

    def cropped(self, crop: Rect) -> Clipping:
        """The same clipping with another crop. Raises `CropOutside`."""
        return replace(self, crop=crop)

    @property
    def base_size(self) -> Size:
        """The size of the whole area as it is turned: what crop and marks lie on."""
        return turned_size(self.sheet.turn, self.area.size)

    @property
    def visible(self) -> Rect:
        """The visible rectangle in frame pixels; of a straightened clipping the rectangle round it."""
        return back_rect(self.sheet.turn, self.area.size, self.crop).shifted(self.area.x, self.area.y)

    @property
    def is_whole_frame(self) -> bool:
        """Whether it is the frame and nothing else."""
        return (
            self.visible == Rect.whole(self.frame_size)
            and self.outline is None
            and self.pointer is None
            and self.sheet.is_plain
        )


def visible_pixels(clipping: Clipping, frame: Picture, pointer: Picture | None = None) -> Picture:
    """Cut what is visible out of the frame's pixels, turned, with what is blacked out gone.

    `pointer` is the picture of the clipping's pointer layer.
    """
    turn = clipping.sheet.turn
    source = back_rect(turn, clipping.area.size, clipping.crop)
    # What is transparent outside the crop must not make a picture of what is opaque inside it.
    picture = frame.cut(source.shifted(clipping.area.x, clipping.area.y)).as_seen()
    if clipping.pointer is not None and pointer is not None:
        picture = laid_over(picture, pointer, (clipping.pointer.x - source.x, clipping.pointer.y - source.y))
    coverage = _coverage(clipping, source)
    picture = picture if coverage is None else _masked(picture, coverage)
    if turn.degrees == 0:
        pixels = picture.pixels[:, ::-1] if turn.flipped else picture.pixels
        picture = Picture(np.ascontiguousarray(np.rot90(pixels, -turn.quarters % 4)), picture.density_ppi)
    else:
        picture = straightened(picture, source, turn, clipping.area.size, clipping.crop, clipping.sheet.black_outs)
    return blacked_out(picture, clipping.sheet.black_outs, (clipping.crop.x, clipping.crop.y)).as_seen()


def blacked_out(
    picture: Picture, black_outs: tuple[tuple[Point, ...], ...], corner: Point, scale: float = 1.0
) -> Picture:
    """A picture with every pixel that a black-out touches black and opaque; `corner` is the picture's, in clipping pixels."""
    if not black_outs:
        return picture
    pixels = picture.pixels.copy()
    for corners in black_outs:
        there = [((x - corner[0]) * scale, (y - corner[1]) * scale) for x, y in corners]
        rows, columns, mask = touched(there, picture.size)
        part = pixels[rows, columns]
        part[mask] = (0, 0, 0, 255)[: pixels.shape[2]]
    return Picture(pixels, picture.density_ppi)


def filled_in(picture: Picture, black_outs: tuple[tuple[Point, ...], ...], corner: Point) -> Picture:
    """A picture with each black-out filled with the visible pixel that is nearest beyond one of its four sides."""
    if not black_outs:
        return picture
    pixels = picture.pixels.copy()
    for corners in black_outs:
        there = [(x - corner[0], y - corner[1]) for x, y in corners]
        rows, columns, _ = touched(there, picture.size)
        part = pixels[rows, columns]
        if part.size:
            part[...] = _from_the_sides(picture.pixels, rows, columns)
    return Picture(pixels, picture.density_ppi)


def _from_the_sides(pixels: Pixels, rows: slice, columns: slice) -> Pixels:
    part = pixels[rows, columns]
    height, width = part.shape[:2]
    down, across = np.mgrid[0:height, 0:width]
    best = np.full((height, width), np.iinfo(np.int64).max)
    out = part.copy()
    sides: list[tuple[bool, Pixels, NDArray[np.int64]]] = [
        (rows.start > 0, pixels[rows.start - 1, columns][None], down),
        (rows.stop < len(pixels), pixels[min(rows.stop, len(pixels) - 1), columns][None], height - 1 - down),
        (columns.start > 0, pixels[rows, columns.start - 1][:, None], across),
        (
            columns.stop < pixels.shape[1],
            pixels[rows, min(columns.stop, pixels.shape[1] - 1)][:, None],
            width - 1 - across,
        ),
    ]
    for is_there, colours, away in sides:
        if is_there:
            nearer = away < best
            out[nearer] = np.broadcast_to(colours, part.shape)[nearer]
            best = np.minimum(best, away)
    return out


def touched(corners: list[Point], size: Size) -> tuple[slice, slice, Coverage]:
    """The pixels that a convex shape touches: the rows and columns round it, and a mask in them."""
    xs, ys = zip(*corners, strict=True)
    left, right = max(math.floor(min(xs) + 1e-6), 0), min(math.ceil(max(xs) - 1e-6), size.width)
    top, bottom = max(math.floor(min(ys) + 1e-6), 0), min(math.ceil(max(ys) - 1e-6), size.height)
    rows, columns = slice(top, max(bottom, top)), slice(left, max(right, left))
    down, across = np.mgrid[rows, columns].astype(np.float64) + 0.5
    mask = np.ones(down.shape, dtype=bool)
    middle = (sum(xs) / len(xs), sum(ys) / len(ys))
    for (ax, ay), (bx, by) in zip(corners, [*corners[1:], corners[0]], strict=True):
        nx, ny = by - ay, ax - bx
        if (middle[0] - ax) * nx + (middle[1] - ay) * ny < 0:
            nx, ny = -nx, -ny
        # A pixel's square reaches half of |nx| + |ny| from its middle towards a side.
        reach = (abs(nx) + abs(ny)) / 2
        mask &= (across - ax) * nx + (down - ay) * ny + reach > 1e-6
    return rows, columns, mask


def _coverage(clipping: Clipping, source: Rect) -> Coverage | None:
    """How much of each pixel of a part of the area counts; None for all of all."""
    coverage: Coverage | None = None
    if clipping.outline is not None:
        coverage = clipping.outline.coverage(source)
    visible = source.shifted(clipping.area.x, clipping.area.y)
    shared = sum(visible.overlap(box) for box in clipping.shown)
    if clipping.shown and shared < visible.size.pixels:
        on_screen = np.zeros((visible.height, visible.width), dtype=np.uint8)
        for box in clipping.shown:
            rows = slice(max(box.y - visible.y, 0), max(box.bottom - visible.y, 0))
            columns = slice(max(box.x - visible.x, 0), max(box.right - visible.x, 0))
            on_screen[rows, columns] = 255
        coverage = on_screen if coverage is None else np.minimum(coverage, on_screen)
    return coverage


def _masked(picture: Picture, coverage: Coverage) -> Picture:
    pixels = picture.pixels
    alpha = (
        coverage if not picture.has_alpha else (pixels[:, :, 3].astype(np.uint16) * coverage // 255).astype(np.uint8)
    )
    out: Pixels = np.dstack((pixels[:, :, :3], alpha))
    out[alpha == 0] = 0
    return Picture(out, picture.density_ppi)


def laid_over(picture: Picture, layer: Picture, at: tuple[int, int]) -> Picture:
    """A picture with another one laid over it (source over, CSS Compositing 1)."""
    x, y = at
    left, top = max(x, 0), max(y, 0)
    right = min(x + layer.size.width, picture.size.width)
    bottom = min(y + layer.size.height, picture.size.height)
    if left >= right or top >= bottom:
        return picture
    over = layer.pixels[top - y : bottom - y, left - x : right - x].astype(np.float32)
    out = picture.pixels.copy()
    under = out[top:bottom, left:right].astype(np.float32)
    mixed: NDArray[np.floating[Any]]
    share = over[:, :, 3:4] / 255 if layer.has_alpha else np.ones((*over.shape[:2], 1), dtype=np.float32)
    if picture.has_alpha:
        rest = under[:, :, 3:4] / 255 * (1 - share)
        alpha = share + rest
        mixed = (over[:, :, :3] * share + under[:, :, :3] * rest) / np.maximum(alpha, 1e-6)
        out[top:bottom, left:right, 3] = whole_values(alpha[:, :, 0] * 255)
    else:
        mixed = over[:, :, :3] * share + under[:, :, :3] * (1 - share)
    out[top:bottom, left:right, :3] = whole_values(mixed)
    return Picture(out, picture.density_ppi)
