"""Words on a picture, each with its box; long pictures are read in bands."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Protocol

from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture

BAND_PX, OVERLAP_PX = 1_600, 96
"""A band is read at once; bands overlap by more than a line of text is high, so that none is cut in two for both."""

_MOST_PIXELS = 4_500_000
"""Of a band: a screen of 2560 pixels has bands as high as any."""


@dataclass(frozen=True)
class Word:
    """A word and its box in pixels of the picture."""

    text: str
    box: Rect


@dataclass(frozen=True)
class Shown:
    """The words of a picture of that size, in reading order."""

    size: Size
    words: tuple[Word, ...]

    @property
    def text(self) -> str:
        """All of them in one line, which is what is searched."""
        return " ".join(each.text for each in self.words)

    def boxes_of(self, terms: Sequence[str]) -> list[Rect]:
        """Where words are that contain one of the terms, cases alike."""
        folded = [term.casefold() for term in terms if term]
        return [each.box for each in self.words if any(term in each.text.casefold() for term in folded)]


class Recogniser(Protocol):
    """Reads the words of one picture."""

    def read(self, picture: Picture, scale_factor: float) -> Sequence[Word]:
        """Its words in reading order; `scale_factor` is that of the screen which it was taken from.

        Raises `RecogniserFailed`.
        """


def bands(height: int, width: int = 0) -> Iterator[tuple[int, int, range]]:
    """From the top: where each band begins and ends, and in which rows the middle of a word lies that counts as its own.

    Of a picture that is wide they are less high: what reads them makes several copies of each.
    """
    band = min(BAND_PX, max(_MOST_PIXELS // max(width, 1), 3 * OVERLAP_PX))
    if height <= band + OVERLAP_PX:
        yield 0, height, range(height + 1)
        return
    top = 0
    while top < height:
        end = min(top + band + OVERLAP_PX, height)
        own_top = top + OVERLAP_PX // 2 if top else 0
        is_last = end == height
        yield top, end, range(own_top, height + 1 if is_last else top + band + OVERLAP_PX // 2)
        if is_last:
            return
        top += band


def read_shown(recogniser: Recogniser, picture: Picture, scale_factor: float) -> Iterator[Shown | None]:
    """Read a picture band by band: None after each band, then its words. Raises `RecogniserFailed`."""
    words: list[Word] = []
    for top, end, own in bands(picture.size.height, picture.size.width):
        band = picture.cut(Rect(0, top, picture.size.width, end - top))
        for each in recogniser.read(band, scale_factor):
            box = Rect(each.box.x, each.box.y + top, each.box.width, each.box.height)
            if box.y + box.height // 2 in own:
                words.append(Word(each.text, box))
        yield None
    yield Shown(picture.size, tuple(words))
