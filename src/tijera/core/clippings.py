"""A clipping: a frame's area, perhaps along an outline, a crop on it, and the pointer's layer. Pure data.

What is hidden can't come out: `visible_pixels` copies the visible rectangle and never looks at another pixel; what lies
outside an outline is not only transparent but emptied.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from tijera.core.errors import AreaOutside, CropOutside
from tijera.core.frames.freehand import Coverage, Outline
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture, Pixels


@dataclass(frozen=True)
class PointerLayer:
    """The pointer's picture, by its key, and where its left upper corner lies in the area's pixels."""

    picture: str
    x: int
    y: int


@dataclass(frozen=True)
class Clipping:
    """An area of a frame, in frame pixels, and a crop, in the area's own pixels."""

    frame_size: Size
    area: Rect
    crop: Rect
    scale_factor: float
    outline: Outline | None = None
    """In the area's own pixels."""
    shown: tuple[Rect, ...] = ()
    """The monitors' rectangles on the frame: between them there is no picture. None given: all of it is one."""
    pointer: PointerLayer | None = None

    def __post_init__(self) -> None:
        if not self.area.lies_within(self.frame_size):
            raise AreaOutside(area=str(self.area), size=str(self.frame_size))
        if not self.crop.lies_within(self.area.size):
            raise CropOutside(crop=str(self.crop), size=str(self.area.size))

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
    def visible(self) -> Rect:
        """The visible rectangle in frame pixels."""
        return self.crop.shifted(self.area.x, self.area.y)

    @property
    def is_whole_frame(self) -> bool:
        """Whether it is the frame and nothing else."""
        return self.visible == Rect.whole(self.frame_size) and self.outline is None and self.pointer is None


def visible_pixels(clipping: Clipping, frame: Picture, pointer: Picture | None = None) -> Picture:
    """Cut what is visible out of the frame's pixels; `pointer` is the picture of the clipping's pointer layer."""
    picture = frame.cut(clipping.visible)
    if clipping.pointer is not None and pointer is not None:
        at = (clipping.pointer.x - clipping.crop.x, clipping.pointer.y - clipping.crop.y)
        picture = _laid_over(picture, pointer, at)
    coverage = _coverage(clipping)
    return picture if coverage is None else _masked(picture, coverage)


def _coverage(clipping: Clipping) -> Coverage | None:
    """How much of each visible pixel counts; None for all of all."""
    coverage: Coverage | None = None
    if clipping.outline is not None:
        coverage = clipping.outline.coverage(clipping.crop)
    visible = clipping.visible
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


def _laid_over(picture: Picture, layer: Picture, at: tuple[int, int]) -> Picture:
    """A picture with another one, which has transparency, laid over it (source over, CSS Compositing 1)."""
    x, y = at
    left, top = max(x, 0), max(y, 0)
    right = min(x + layer.size.width, picture.size.width)
    bottom = min(y + layer.size.height, picture.size.height)
    if left >= right or top >= bottom:
        return picture
    over = layer.pixels[top - y : bottom - y, left - x : right - x].astype(np.float32)
    share = over[:, :, 3:4] / 255
    out = picture.pixels.copy()
    under = out[top:bottom, left:right].astype(np.float32)
    mixed = over[:, :, :3] * share + under[:, :, :3] * (1 - share)
    out[top:bottom, left:right, :3] = np.round(mixed).astype(np.uint8)
    if picture.has_alpha:
        out[top:bottom, left:right, 3] = np.round(over[:, :, 3] + under[:, :, 3] * (1 - share[:, :, 0])).astype(
            np.uint8
        )
    return Picture(out, picture.density_ppi)
