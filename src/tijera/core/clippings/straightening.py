"""Turning pixels by an angle, without letting a hidden one have a say in a visible one.

A visible pixel is mixed of the four source pixels round the point that it comes from (bilinear). Those that are hidden
(no part of them touches the crop, or a black-out touches them) are left out, and the weights of the others make up one.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from tijera.core.clippings.sheet import Turn
from tijera.core.clippings.turning import back, forward
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture, whole_values
from tijera.core.imaging.vips import affine
from tijera.core.marks.operations import Point

Planes = NDArray[np.float32]
_HALF_DIAGONAL = math.sqrt(0.5)
_LEAST_WEIGHT = 1e-4
_FAINTEST = 0.5
"""Of 255: what is fainter is empty, and has no colour either."""
_SLIVER = 0.3
"""A pixel that reaches less than this far into the crop counts as hidden. The middle of every visible pixel lies half a
pixel inside, so the one that it comes from is always among those that count."""


def straightened(
    picture: Picture, source: Rect, turn: Turn, area: Size, crop: Rect, black_outs: tuple[tuple[Point, ...], ...]
) -> Picture:
    """The crop's pixels, from the picture of a rectangle of the area (`source`); transparent beyond the area's sides."""
    planes = _weighted(picture, _shown(source, turn, area, crop, black_outs))
    # Where the middle of the crop's first pixel comes from, and one step to the right and down from there.
    (ox, oy), (rx, ry), (dx, dy) = back(
        turn, area, [(crop.x + 0.5, crop.y + 0.5), (crop.x + 1.5, crop.y + 0.5), (crop.x + 0.5, crop.y + 1.5)]
    )
    mixed = affine(
        planes, (ox - source.x - 0.5, oy - source.y - 0.5), (rx - ox, ry - oy), (dx - ox, dy - oy), crop.size
    )
    cover, shown, inside = mixed[:, :, 3], mixed[:, :, 4], mixed[:, :, 5]
    colour = mixed[:, :, :3] / np.maximum(cover, _LEAST_WEIGHT)[:, :, None]
    alpha = np.where(shown > _LEAST_WEIGHT, cover / np.maximum(shown, _LEAST_WEIGHT), 0) * inside * 255
    out: Planes = np.dstack((colour, alpha)).astype(np.float32)
    out *= (alpha >= _FAINTEST)[:, :, None]
    pixels = whole_values(out)
    if not picture.has_alpha and int(pixels[:, :, 3].min()) == 255:
        pixels = np.ascontiguousarray(pixels[:, :, :3])
    return Picture(pixels, picture.density_ppi)


def _weighted(picture: Picture, shown: NDArray[np.bool_]) -> Planes:
    """Colours by their cover, cover, what is shown, what there is at all: six planes."""
    pixels = picture.pixels.astype(np.float32)
    own = pixels[:, :, 3] / 255 if picture.has_alpha else np.ones(shown.shape, dtype=np.float32)
    cover = own * shown
    return np.dstack((pixels[:, :, :3] * cover[:, :, None], cover, shown, np.ones(shown.shape))).astype(np.float32)


def _shown(
    source: Rect, turn: Turn, area: Size, crop: Rect, black_outs: tuple[tuple[Point, ...], ...]
) -> NDArray[np.bool_]:
    """Which pixels of the source have a say: those that touch the crop and are touched by no black-out."""
    (ox, oy), (rx, ry), (dx, dy) = forward(
        turn,
        area,
        [(source.x + 0.5, source.y + 0.5), (source.x + 1.5, source.y + 0.5), (source.x + 0.5, source.y + 1.5)],
    )
    columns = np.arange(source.width, dtype=np.float64)[None, :]
    rows = np.arange(source.height, dtype=np.float64)[:, None]
    x = ox + columns * (rx - ox) + rows * (dx - ox)
    y = oy + columns * (ry - oy) + rows * (dy - oy)
    # Two rectangles meet where they do along the axes of both: the crop's, then the pixel's own.
    slope = math.radians(turn.degrees)
    reach = (abs(math.cos(slope)) + abs(math.sin(slope))) / 2 - _SLIVER
    shown: NDArray[np.bool_] = (
        (x > crop.x - reach) & (x < crop.right + reach) & (y > crop.y - reach) & (y < crop.bottom + reach)
    )
    xs, ys = zip(*back(turn, area, _corners(crop)), strict=True)
    shown &= (columns + source.x + 1 > min(xs) + _SLIVER) & (columns + source.x < max(xs) - _SLIVER)
    shown &= (rows + source.y + 1 > min(ys) + _SLIVER) & (rows + source.y < max(ys) - _SLIVER)
    for corners in black_outs:
        shown &= ~_near(x, y, corners, _HALF_DIAGONAL)
    return shown


def _corners(rect: Rect) -> list[Point]:
    return [(rect.x, rect.y), (rect.right, rect.y), (rect.right, rect.bottom), (rect.x, rect.bottom)]


def _near(
    x: NDArray[np.float64], y: NDArray[np.float64], corners: tuple[Point, ...], reach: float
) -> NDArray[np.bool_]:
    """Which points lie in a convex shape or within a distance of its sides."""
    middle = (sum(px for px, _ in corners) / len(corners), sum(py for _, py in corners) / len(corners))
    near = np.ones(x.shape, dtype=bool)
    for (ax, ay), (bx, by) in zip(corners, [*corners[1:], corners[0]], strict=True):
        length = math.hypot(bx - ax, by - ay) or 1.0
        nx, ny = (by - ay) / length, (ax - bx) / length
        if (middle[0] - ax) * nx + (middle[1] - ay) * ny < 0:
            nx, ny = -nx, -ny
        near &= (x - ax) * nx + (y - ay) * ny > -reach
    return near
