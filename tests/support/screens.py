"""Made-up screens of which every word is known: light, dark, pale, small, on coloured grounds, beside photographs, in a corner."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture, Pixels
from tijera.core.marks.colours import contrast, luminance
from tijera.core.marks.scripts import FONTS

_WORDS = [
    "harbour",
    "tide",
    "berth",
    "vessel",
    "anchor",
    "rope",
    "gangway",
    "lighthouse",
    "crossing",
    "engine",
    "bilge",
    "quay",
    "pilot",
    "ballast",
    "cargo",
    "deck",
    "signal",
    "ferry",
    "timetable",
    "weather",
    "visibility",
    "passenger",
    "ticket",
    "lorry",
    "trailer",
    "winter",
    "summer",
    "morning",
    "evening",
    "departure",
    "arrival",
    "delay",
    "notice",
    "depth",
    "metre",
    "current",
    "channel",
    "buoy",
    "chart",
    "compass",
    "radio",
    "watch",
    "officer",
    "crew",
    "roster",
    "repair",
    "paint",
    "number",
    "report",
    "entry",
    "meter",
    "pump",
    "filter",
    "coolant",
    "hours",
]
Colour = tuple[int, int, int]
_SANS, _BOLD, _MONO, _SERIF = (
    f"{name}.ttf"
    for name in ("hyperlegible-next-400", "hyperlegible-next-700", "hyperlegible-mono-400", "newsreader-400")
)
_WHITE, _PAPER, _NIGHT = (255, 255, 255), (250, 250, 248), (24, 30, 34)


@dataclass(frozen=True)
class Sort:
    """What a screen looks like."""

    em_px: int
    face: str = _SANS
    ground: Colour = _PAPER
    contrast: float = 12.0
    size: tuple[int, int] = (430, 230)
    photograph: float = 0.0
    """The share of its width that a photograph takes."""
    in_a_corner: bool = False
    bands: Sequence[Colour] = ()


_BANDS = ((214, 234, 228), (250, 228, 180), (216, 210, 240), _PAPER)
_DARK_BANDS = ((20, 70, 62), (110, 40, 30), (40, 50, 110), (30, 30, 30))
SORTS: dict[str, Sort] = {
    "light": Sort(13, ground=_WHITE),
    "light, smaller": Sort(12),
    "light, serif": Sort(15, _SERIF),
    "light, mono": Sort(12, _MONO),
    "light, bold": Sort(13, _BOLD),
    "dark": Sort(13, ground=_NIGHT),
    "dark, mono": Sort(12, _MONO, (18, 38, 40)),
    "dark, bold": Sort(14, _BOLD, (40, 20, 50)),
    "at 150 %": Sort(20, size=(620, 330)),
    "at 150 %, dark": Sort(18, _MONO, (22, 28, 40), size=(620, 330)),
    "at 200 %": Sort(26, size=(780, 420)),
    "at 200 %, mono": Sort(24, _MONO, size=(780, 420)),
    "small": Sort(10, size=(360, 180)),
    "small, mono": Sort(10, _MONO, size=(360, 180)),
    "small, dark": Sort(10, ground=(20, 30, 30), size=(360, 180)),
    "pale": Sort(16, contrast=2.0),
    "pale, bold": Sort(14, _BOLD, (244, 240, 228), 2.2),
    "pale, dark": Sort(16, ground=(30, 40, 48), contrast=2.0),
    "pale at 200 %": Sort(26, contrast=2.0, size=(780, 420)),
    "coloured": Sort(13, contrast=9.0, bands=_BANDS),
    "coloured, dark": Sort(14, ground=(30, 30, 30), contrast=7.0, bands=_DARK_BANDS),
    "beside a photograph": Sort(13, photograph=0.5, size=(640, 230)),
    "dark beside a photograph": Sort(13, _BOLD, _NIGHT, photograph=0.5, size=(640, 230)),
    "pale beside a photograph": Sort(15, contrast=2.5, photograph=0.5, size=(640, 230)),
    "in a corner": Sort(13, in_a_corner=True, size=(520, 330)),
    "pale in a corner": Sort(14, contrast=2.6, in_a_corner=True, size=(520, 330)),
}


def screen(name: str) -> Picture:
    """One of them; always the same."""
    sort, seed = SORTS[name], zlib.crc32(name.encode())
    random = np.random.default_rng(seed)
    width, height = sort.size
    image = Image.new("RGB", sort.size, sort.ground)
    photograph = int(width * sort.photograph)
    if photograph:
        image.paste(Image.fromarray(_photograph(photograph, height, random)), (width - photograph, 0))
    draw = ImageDraw.Draw(image)
    box = text_box(name)
    if sort.in_a_corner:
        _shapes(draw, sort.size, random)
        draw.rectangle((box.x, box.y, box.right, box.bottom), fill=sort.ground)
    top = box.y + (6 if sort.in_a_corner else 8)
    _write(draw, sort, (10, top, box.right - 8, height - 4), _line(sort), random)
    return Picture(np.asarray(image).copy())


def text_box(name: str) -> Rect:
    """Where a screen's text stands, with its ground."""
    sort = SORTS[name]
    width, height = sort.size
    if sort.in_a_corner:
        top = height - 4 * _line(sort) - 10
        return Rect(0, top, width // 2, height - top)
    return Rect(0, 0, width - int(width * sort.photograph), height)


def _line(sort: Sort) -> int:
    return int(sort.em_px * 1.7)


def _write(
    draw: ImageDraw.ImageDraw, sort: Sort, box: tuple[int, int, int, int], line: int, random: np.random.Generator
) -> None:
    font = ImageFont.truetype(str(FONTS / sort.face), sort.em_px)
    left, y, right, bottom = box
    for number in range((bottom - y) // line):
        ground = sort.bands[number % len(sort.bands)] if sort.bands else sort.ground
        if sort.bands:
            draw.rectangle((0, y - 2, right + 8, y + line - 3), fill=ground)
        x = float(left)
        while True:
            word = _WORDS[int(random.integers(len(_WORDS)))]
            wide = draw.textlength(word, font=font)
            if x + wide > right:
                break
            draw.text((x, y), word, font=font, fill=_ink(ground, sort.contrast))
            x += wide + sort.em_px * 0.5
        y += line


def _ink(ground: Colour, wanted: float) -> Colour:
    """A colour of this contrast with the ground (WCAG 2.2), as near to it as can be."""
    towards = (10, 20, 30) if luminance(_hex(ground)) > 0.18 else (250, 250, 245)
    for share in np.linspace(0, 1, 200):
        ink = tuple(round(a + (b - a) * share) for a, b in zip(ground, towards, strict=True))
        if contrast(luminance(_hex(ink)), luminance(_hex(ground))) >= wanted:
            return ink[0], ink[1], ink[2]
    return towards


def _hex(colour: Sequence[int]) -> str:
    return "#" + bytes(colour).hex()


def _photograph(width: int, height: int, random: np.random.Generator) -> Pixels:
    """Clouds of any size, with the noise of a sensor."""
    out = np.zeros((height, width, 3))
    for octave in range(1, 7):
        cells = (random.random((2**octave + 1, 2**octave + 1, 3)) * 255).astype(np.uint8)
        out += np.asarray(Image.fromarray(cells).resize((width, height), Image.Resampling.BICUBIC)) / 2 ** (
            0.75 * octave
        )
    out += random.normal(0, 6, out.shape)
    out -= out.min()
    pixels: Pixels = (out * (255 / out.max())).astype(np.uint8)
    return pixels


def _shapes(draw: ImageDraw.ImageDraw, size: tuple[int, int], random: np.random.Generator) -> None:
    for _ in range(14):
        x, y = int(random.integers(size[0])), int(random.integers(size[1] - 60))
        wide, high = (int(side) for side in random.integers(20, 150, 2))
        fill = tuple(int(value) for value in random.integers(40, 230, 3))
        draw.ellipse((x, y, x + wide, y + high), fill=fill)
