"""A print-friendly version of a dark screen: the dark ground becomes light, hues stay, photographs are left alone.

Lightness is turned round in CIE L*a*b* (D65, 2°; CIE 15:2004), a* and b* stay; where a colour would leave sRGB its
chroma is lowered and its hue kept.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture, Pixels, whole_values

Floats = NDArray[np.float64]

_RGB_TO_XYZ = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)
"""IEC 61966-2-1, linear sRGB to XYZ, more decimals by Lindbloom."""
_XYZ_TO_RGB = np.linalg.inv(_RGB_TO_XYZ)
_WHITE = _RGB_TO_XYZ.sum(axis=1)
_DARK_GROUND = 50.0
_TILE = 16
_FLAT_SHARE = 0.35
_LEAST_TILES = 3
_STEPS = 12


def lab_of(colours: Pixels) -> Floats:
    """CIE L*a*b* of sRGB colours of shape (n, 3)."""
    values = colours.astype(np.float64) / 255
    linear = np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4)
    ratios: Floats = linear @ _RGB_TO_XYZ.T / _WHITE
    f = np.where(ratios > (6 / 29) ** 3, np.cbrt(ratios), ratios * (29 / 6) ** 2 / 3 + 4 / 29)
    lab: Floats = np.stack((116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])), axis=1)
    return lab


def _linear_of(lab: Floats) -> Floats:
    fy = (lab[:, 0] + 16) / 116
    f = np.stack((fy + lab[:, 1] / 500, fy, fy - lab[:, 2] / 200), axis=1)
    ratios = np.where(f > 6 / 29, f**3, 3 * (6 / 29) ** 2 * (f - 4 / 29))
    linear: Floats = ratios * _WHITE @ _XYZ_TO_RGB.T
    return linear


def srgb_of(lab: Floats) -> Pixels:
    """SRGB of L*a*b* colours, chroma lowered at the same hue and lightness where they lie outside."""
    chroma = np.ones(len(lab))
    outside = _is_outside(_linear_of(lab))
    low, high = np.zeros(int(outside.sum())), np.ones(int(outside.sum()))
    for _ in range(_STEPS):
        middle = (low + high) / 2
        tried = lab[outside] * np.stack((np.ones_like(middle), middle, middle), axis=1)
        too_far = _is_outside(_linear_of(tried))
        high = np.where(too_far, middle, high)
        low = np.where(too_far, low, middle)
    chroma[outside] = low
    linear = np.clip(_linear_of(lab * np.stack((np.ones_like(chroma), chroma, chroma), axis=1)), 0, 1)
    values = np.where(linear <= 0.0031308, linear * 12.92, 1.055 * linear ** (1 / 2.4) - 0.055)
    return whole_values(values * 255)


def _is_outside(linear: Floats) -> NDArray[np.bool_]:
    return np.asarray(((linear < -1e-4) | (linear > 1 + 1e-4)).any(axis=1), dtype=np.bool_)


def print_friendly(picture: Picture) -> Picture:
    """The picture for paper; one whose ground is light already comes back as it is."""
    pixels = picture.pixels
    height, width = pixels.shape[:2]
    packed = pixels[:, :, 0].astype(np.uint32) << 16 | pixels[:, :, 1].astype(np.uint32) << 8 | pixels[:, :, 2]
    colours, indices, counts = np.unique(packed, return_inverse=True, return_counts=True)
    palette = np.stack((colours >> 16, colours >> 8 & 255, colours & 255), axis=1).astype(np.uint8)
    lab = lab_of(palette)
    order = np.argsort(lab[:, 0])
    median = lab[order[np.searchsorted(np.cumsum(counts[order]), height * width / 2)], 0]
    if median >= _DARK_GROUND:
        return picture
    turned = lab * np.array([-1.0, 1.0, 1.0]) + np.array([100.0, 0.0, 0.0])
    out = pixels.copy()
    out[:, :, :3] = srgb_of(turned)[indices.reshape(height, width)]
    for area in photographs(picture):
        rows, columns = slice(area.y, area.bottom), slice(area.x, area.right)
        out[rows, columns] = pixels[rows, columns]
    if picture.has_alpha:
        out[out[:, :, 3] == 0] = 0
    return Picture(out, picture.density_ppi)


def photographs(picture: Picture) -> list[Rect]:
    """The rectangles of a screen that look like photographs: hardly a pixel in them equals its neighbour."""
    pixels = picture.pixels
    height, width = pixels.shape[:2]
    same = np.zeros((height, width), dtype=bool)
    same[:, 1:] = (pixels[:, 1:] == pixels[:, :-1]).all(axis=2)
    rows, columns = height // _TILE, width // _TILE
    if rows < _LEAST_TILES or columns < _LEAST_TILES:
        return []
    tiles = same[: rows * _TILE, : columns * _TILE].reshape(rows, _TILE, columns, _TILE).mean(axis=(1, 3))
    busy = tiles < _FLAT_SHARE
    found = []
    seen = np.zeros_like(busy)
    for row, column in zip(*np.nonzero(busy), strict=True):
        if seen[row, column]:
            continue
        box = _flood(busy, seen, int(row), int(column))
        top, left, bottom, right = box
        if bottom - top >= _LEAST_TILES and right - left >= _LEAST_TILES and busy[top:bottom, left:right].mean() > 0.6:
            found.append(_fitted(same, Rect(left * _TILE, top * _TILE, (right - left) * _TILE, (bottom - top) * _TILE)))
    return found


def _flood(busy: NDArray[np.bool_], seen: NDArray[np.bool_], row: int, column: int) -> tuple[int, int, int, int]:
    """The box, in tiles, of what hangs together with one tile."""
    waiting = [(row, column)]
    seen[row, column] = True
    top, left, bottom, right = row, column, row + 1, column + 1
    while waiting:
        y, x = waiting.pop()
        top, left, bottom, right = min(top, y), min(left, x), max(bottom, y + 1), max(right, x + 1)
        for ny, nx in ((y - 1, x), (y + 1, x), (y, x - 1), (y, x + 1)):
            if 0 <= ny < busy.shape[0] and 0 <= nx < busy.shape[1] and busy[ny, nx] and not seen[ny, nx]:
                seen[ny, nx] = True
                waiting.append((ny, nx))
    return top, left, bottom, right


def _fitted(same: NDArray[np.bool_], box: Rect) -> Rect:
    """The box brought to the photograph's own sides: out to where rows and columns become flat, in while they are."""
    height, width = same.shape
    left, top, right, bottom = box.x, box.y, box.right, box.bottom
    flat = 1 - _FLAT_SHARE
    while top > 0 and same[top - 1, left:right].mean() < flat:
        top -= 1
    while bottom < height and same[bottom, left:right].mean() < flat:
        bottom += 1
    while left > 1 and same[top:bottom, left - 1].mean() < flat:
        left -= 1
    while right < width and same[top:bottom, right].mean() < flat:
        right += 1
    while top < bottom - 1 and same[top, left:right].mean() >= flat:
        top += 1
    while bottom > top + 1 and same[bottom - 1, left:right].mean() >= flat:
        bottom -= 1
    return Rect(left, top, right - left, bottom - top)
