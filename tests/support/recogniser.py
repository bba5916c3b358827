"""Words as a recogniser of Debian's packages reads them (tesseract-ocr): what can be read, told by somebody else."""

from __future__ import annotations

import hashlib
import io
import os
import re
import subprocess
from collections import Counter
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path

from PIL import Image

from tests.corpus.corpus import cache
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture

TESSERACT = Path("/usr/bin/tesseract")
_ENLARGED = (2.0, 3.0)
_ONCE_MORE = 2.5
_WORD = re.compile(r"[A-Za-z]{3,}")


_BY_NEIGHBOURHOOD = 2
"""Of the ways to part letters from their ground: by each neighbourhood, where the usual one takes the whole picture at once."""


def words_of(
    picture: Picture, enlarged: float, size: Size | None = None, threshold: int = 0, box: Rect | None = None
) -> Counter[str]:
    """The words that are read on a picture, so much larger than `size` (its own where none is given).

    Of a `box` alone, in pixels of `size`, where what stands beside it would decide what counts as dark.
    """
    of = size or picture.size
    part = box or Rect(0, 0, of.width, of.height)
    wide, high = round(part.width * enlarged), round(part.height * enlarged)
    across, down = picture.size.width / of.width, picture.size.height / of.height
    out = io.BytesIO()
    Image.fromarray(picture.pixels[:, :, :3]).resize(
        (wide, high),
        Image.Resampling.BICUBIC,
        box=(part.x * across, part.y * down, part.right * across, part.bottom * down),
    ).save(out, "PNG", compress_level=1)
    command = [
        str(TESSERACT),
        "-",
        "-",
        "--psm",
        "6",
        "-l",
        "eng",
        "--dpi",
        "192",
        "-c",
        f"thresholding_method={threshold}",
    ]
    return Counter(word.lower() for word in _WORD.findall(_read(command, out.getvalue())))


def _read(command: Sequence[str], picture: bytes) -> str:
    """What the recogniser says; kept by its version, what it was asked and what it was shown: it says the same each time."""
    key = hashlib.sha256(repr((_version(), command)).encode() + picture).hexdigest()
    kept = cache().parent / "read" / f"{key}.txt"
    if kept.is_file():
        return kept.read_text()
    # One thread: several tests run side by side.
    environment = {**os.environ, "OMP_THREAD_LIMIT": "1"}
    answer = subprocess.run(command, input=picture, capture_output=True, env=environment, check=True)
    words = answer.stdout.decode()
    kept.parent.mkdir(parents=True, exist_ok=True)
    beside = kept.with_suffix(f".{os.getpid()}")
    beside.write_text(words)
    beside.replace(kept)
    return words


@lru_cache(maxsize=1)
def _version() -> str:
    return subprocess.run([str(TESSERACT), "--version"], capture_output=True, text=True, check=True).stdout


def readable(picture: Picture, box: Rect | None = None) -> Counter[str]:
    """The words of an original that are read at both enlargements: the others tell of the recogniser, not of the picture."""
    one, other = (words_of(picture, enlarged, box=box) for enlarged in _ENLARGED)
    return one & other


def recall(of: Counter[str], picture: Picture, size: Size, box: Rect | None = None) -> float:
    """The share of an original's readable words that are still read on a rendition in one way or another, 0 to 1.

    By the neighbourhood too: a photograph beside pale letters decides what counts as dark on the whole picture.
    """
    found: Counter[str] = Counter()
    for enlarged, threshold in (*((each, 0) for each in _ENLARGED), (_ONCE_MORE, 0), (_ENLARGED[0], _BY_NEIGHBOURHOOD)):
        found = of & (found | words_of(picture, enlarged, size, threshold, box))
        if found.total() == of.total():
            break
    return found.total() / of.total()
