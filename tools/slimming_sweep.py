"""Files of others with many pictures in them, slimmed to a limit by chance, and looked at: `make sweep` (no part of the tests).

Into each file of the corpus eight pictures are placed, screens and photographs, as PNG and JPEG, some cropped by their
document. What is looked at: that nothing but pictures changed (`tests/support/slimmed_checker.py`), the rules of packages,
the limit. The same seed gives the same files.

`python -m tools.slimming_sweep [--seed S]`
"""

from __future__ import annotations

import argparse
import random
import sys
from collections.abc import Iterable, Iterator

from tests.corpus.corpus import declared, stored
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, photograph_like, text_like
from tests.support.slimmed_checker import changed_pictures
from tijera.core.errors import LimitNotMet, TijeraError
from tijera.core.packages.places.format import View
from tijera.core.packages.places.placed import PlacedPicture
from tijera.core.packages.registry import format_of, open_document, write
from tijera.core.units import Length
from tijera.usecases.slimming import Slimmed, slim

_PICTURES = 8


def _pictured(data: bytes, name: str, random_: random.Random) -> bytes | None:
    """A file with eight pictures more; None where that is not possible in it."""
    document = open_document(data, name)
    if format_of(document).view is View.MESSAGE:
        return None
    spots = [spot.id for spot in document.spots()]
    placed = []
    for number in range(_PICTURES):
        width, height = random_.randint(160, 420), random_.randint(120, 300)
        make = random_.choice((text_like, photograph_like))
        kind = random_.choice(("PNG", "JPEG"))
        options = {"quality": 95} if kind == "JPEG" else {}
        picture = encoded(make(width, height, seed=random_.randrange(1 << 30)), kind, **options)
        wide = Length.from_mm(random_.randint(25, 120))
        high = Length(wide.emu * height // width)
        placed.append(PlacedPicture(random_.choice(spots), picture, kind.lower(), wide, high, f"Log {number}"))
    return write(document, placed).data if spots else None


def _slimmed(seed: int) -> Iterator[tuple[str, int, str]]:
    """Each file, how many pictures of it became lighter, what is wrong with it."""
    for each in declared():
        for path, sha256 in each.members:
            if not stored(sha256, path).is_file():
                continue
            random_ = random.Random(f"{seed} {path}")  # noqa: S311  (files by chance, no secret)
            try:
                data = _pictured(stored(sha256, path).read_bytes(), path, random_)
            except TijeraError:
                continue
            if data is None:
                continue
            original = len(stored(sha256, path).read_bytes())
            # Of what was put in, so much is to go.
            limit = original + int((len(data) - original) * random_.uniform(0.25, 0.8))
            yield (path, *_looked_at(data, path, limit))


def _looked_at(data: bytes, path: str, limit: int) -> tuple[int, str]:
    try:
        *_, last = slim(data, path, limit)
        assert isinstance(last, Slimmed)
        changed = changed_pictures(data, last.data)
    except LimitNotMet:
        return 0, ""
    except (TijeraError, AssertionError) as error:
        return 0, f"{type(error).__name__}: {error}"
    wrong = [line for line in complaints(last.data) if line not in complaints(data)] if path.endswith("x") else []
    if len(last.data) > limit:
        wrong.append("it is over its limit")
    return changed, "; ".join(wrong)


def main(arguments: Iterable[str]) -> int:
    """Slim them all; 1 where something is wrong with one."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args(list(arguments))
    files = pictures = faults = 0
    for path, changed, wrong in _slimmed(given.seed):
        files, pictures, faults = files + (changed > 0), pictures + changed, faults + bool(wrong)
        if wrong:
            sys.stdout.write(f"{path}: {wrong}\n")
    sys.stdout.write(f"seed {given.seed}: {pictures} pictures slimmed in {files} files, {faults} files with faults\n")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
