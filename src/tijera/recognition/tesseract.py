"""Words read by Tesseract (Debian: `tesseract-ocr`), an engine of its own process: what it does wrong, it does alone."""

from __future__ import annotations

import io
import os
import shutil
import subprocess
from collections.abc import Sequence

from PIL import Image

from tijera.core.errors import RecogniserFailed
from tijera.core.geometry import Rect
from tijera.core.imaging.picture import Picture
from tijera.core.recognition.words import Word

PACKAGE = "tesseract-ocr"
_NAME = "tesseract"
_ENLARGED = 2.0
"""Pixels for one of the screen's own at factor 1: its letters are 10 to 14 px high, and it was taught larger ones."""
_LEAST_SURE = 30.0
_LONGEST_S = 120.0
_COLUMNS = 12
"""Of a row of its table: level, page, block, paragraph, line, word, left, top, width, height, confidence, text."""


def find_recogniser() -> Tesseract | None:
    """The recogniser of this computer; None where none is installed."""
    found = shutil.which(_NAME)
    return None if found is None else Tesseract(found)


class Tesseract:
    """Reads with what the system has. It runs below everything else: nobody waits for it."""

    def __init__(self, program: str) -> None:
        nice = shutil.which("nice")
        self._command = [
            *([nice, "-n", "19"] if nice else []),
            *(program, "-", "-", "--psm", "6", "--dpi", "192", "tsv"),
        ]

    def read(self, picture: Picture, scale_factor: float) -> Sequence[Word]:
        """See `tijera.core.recognition.words.Recogniser`."""
        times = max(_ENLARGED / scale_factor, 1.0)
        # One thread: the others are for who works.
        environment = {**os.environ, "OMP_THREAD_LIMIT": "1"}
        try:
            answer = subprocess.run(  # noqa: S603  (a program of the system, and no word of it from outside)
                self._command,
                input=_enlarged(picture, times),
                capture_output=True,
                env=environment,
                timeout=_LONGEST_S,
                check=True,
            )
        except (OSError, subprocess.SubprocessError) as error:
            raise RecogniserFailed(why=_why(error)) from error
        return _words(answer.stdout.decode("utf-8", "replace"), times)


def _enlarged(picture: Picture, times: float) -> memoryview:
    image = Image.fromarray(picture.pixels)
    if picture.has_alpha:
        # On paper, as it is shown.
        image = Image.alpha_composite(Image.new("RGBA", image.size, "white"), image)
    # Grey, as it is looked at: in colour both programs would hold three and four times as much.
    image = image.convert("L")
    size = (round(image.width * times), round(image.height * times))
    out = io.BytesIO()
    # Not compressed: it goes through a pipe and no further.
    image.resize(size, Image.Resampling.BICUBIC).save(out, "BMP")
    return out.getbuffer()


def _words(table: str, times: float) -> list[Word]:
    words = []
    for row in table.splitlines()[1:]:
        fields = row.split("\t")
        if len(fields) < _COLUMNS or float(fields[10]) < _LEAST_SURE or not fields[11].strip():
            continue
        x, y, width, height = (round(int(each) / times) for each in fields[6:10])
        words.append(Word(fields[11].strip(), Rect(x, y, max(width, 1), max(height, 1))))
    return words


def _why(error: Exception) -> str:
    if isinstance(error, subprocess.TimeoutExpired):
        return f"it took longer than {_LONGEST_S:.0f} s"
    if isinstance(error, subprocess.CalledProcessError):
        return (error.stderr or b"").decode("utf-8", "replace").strip()[:200] or f"it ended with {error.returncode}"
    return str(error)
