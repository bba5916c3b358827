"""Many random placements into real files, each written copy looked at with other means: `make sweep` (no part of the tests).

The same seed gives the same placements. What is looked at: the bytes and the order of all that was not touched, the rules
of packages, ids, types, the size as reckoned here from the rules of measures, the pixels, the alternative text.

`python -m tools.sweep [--count N] [--seed S]`
"""

from __future__ import annotations

import argparse
import email
import email.policy
import io
import random
import re
import sys
import xml.etree.ElementTree as ET
import zipfile
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from PIL import Image

from tests.corpus.corpus import declared, stored
from tests.support.opc_checker import complaints
from tests.support.pictures import encoded, text_like
from tijera.core.errors import InputRefused, NotPossibleThere, TijeraError
from tijera.core.fit import WidthRule
from tijera.core.packages.places.grid import FREE
from tijera.core.packages.places.placed import Layout
from tijera.core.packages.places.spots import Spot, SpotKind, Stand
from tijera.core.packages.registry import open_document
from tijera.core.units import Length
from tijera.demo.handbook import make_handbook
from tijera.demo.notice import make_notice
from tijera.demo.tide_table import make_tide_table
from tijera.usecases.files import PlacedFile, place_file

_EMU_PER_PIXEL = 9_525
_EMU = {"mm": 36_000, "cm": 360_000, "in": 914_400, "pt": 12_700}
_MAY_CHANGE = re.compile(
    r"\[Content_Types\]\.xml|mimetype|META-INF/manifest\.xml|content\.xml|.*document\d*\.xml|.*\.rels|.*settings\.xml"
    r"|.*numbering\d*\.xml|.*drawings/drawing\d+\.xml|.*worksheets/[^/]+\.xml"
)
"""Members that a placement may change; all others stay to the byte."""


@dataclass(frozen=True)
class Try:
    """One placement."""

    name: str
    before: bytes
    spot: Spot
    size: tuple[int, int]
    picture: bytes
    rule: Length | WidthRule
    layout: Layout
    words: str


def main(arguments: Iterable[str]) -> int:
    """Run them and print the report; 1 where anything was found."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=1_500)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args(list(arguments))
    chance = random.Random(given.seed)  # noqa: S311  (nothing secret is drawn)
    files = _files()
    done, refused, found, kinds = 0, Counter[str](), list[str](), Counter[str]()
    while done < given.count:
        name, data = chance.choice(files)
        for step in range(chance.randint(1, 3)):
            try:
                attempt = _draw(chance, name, data)
                placed = _placed(attempt)
            except (NotPossibleThere, InputRefused) as error:
                refused[error.code] += 1
                break
            except TijeraError as error:
                found.append(f"{name}, step {step}: {error.code}: {error.detail}")
                break
            done += 1
            kinds[name.rpartition(".")[2]] += 1
            found += [f"{name}, step {step} at {attempt.spot.id}: {line}" for line in _looked_at(attempt, placed)]
            data = placed.data
    report = f"{done} placements into {len(files)} files, seed {given.seed}: {dict(kinds)}; refused {dict(refused)}\n"
    sys.stdout.write(report + "".join(f"{line}\n" for line in found))
    return 1 if found else 0


def _files() -> list[tuple[str, bytes]]:
    paths = [(path, stored(sha256, path)) for source in declared() for path, sha256 in source.members]
    files = [(path.rsplit("/", 1)[-1], file.read_bytes()) for path, file in paths if file.exists()]
    demo = [("handbook.docx", make_handbook()), ("tides.xlsx", make_tide_table()), ("notice.eml", make_notice())]
    return files + demo


def _draw(chance: random.Random, name: str, data: bytes) -> Try:
    spot = chance.choice(list(open_document(data, name).spots()))
    size = chance.choice(((40, 30), (300, 120), (120, 900), (1_400, 500)))
    rule: Length | WidthRule = chance.choice((WidthRule.FIT, WidthRule.FIT, WidthRule.FILL))
    if spot.fit_width.mm > 25 and chance.random() < 0.2:
        rule = Length.from_mm(chance.randint(5, 25))
    stand = chance.choice((None, *spot.stands))
    picture = encoded(text_like(*size, seed=chance.randrange(50)))
    return Try(name, data, spot, size, picture, rule, Layout(stand=stand), f"Tide & <berth> {chance.randrange(10**9)}")


def _placed(each: Try) -> PlacedFile:
    return place_file(
        each.before,
        each.name,
        spot_id=each.spot.id,
        picture=each.picture,
        picture_name="tide.png",
        width=each.rule,
        description=each.words,
        layout=each.layout,
        signed=True,
    )


def _looked_at(each: Try, placed: PlacedFile) -> list[str]:
    if not placed.data.startswith(b"PK"):
        return [*_in_message(each, placed), *_size(each, placed)]
    return [*_members(each, placed.data), *_picture_in_package(each, placed), *_size(each, placed)]


def _members(each: Try, after: bytes) -> Iterable[str]:
    with zipfile.ZipFile(io.BytesIO(each.before)) as one, zipfile.ZipFile(io.BytesIO(after)) as other:
        names, now = one.namelist(), other.namelist()
        kept = [name for name in now if name in set(names)]
        order = [name for name in names if name != "mimetype"]
        if [name for name in kept if name != "mimetype"] != order:
            yield "the order of members changed"
        for name in names:
            if not _MAY_CHANGE.fullmatch(name) and one.read(name) != other.read(name):
                yield f"{name} changed"
        if "[Content_Types].xml" in now:
            yield from set(complaints(after)) - set(complaints(each.before))
        yield from _ids(one, other)


def _ids(one: zipfile.ZipFile, other: zipfile.ZipFile) -> Iterable[str]:
    """Ids of shapes are unique in each part, as far as they were before."""
    for name in other.namelist():
        if not re.fullmatch(r".*(document\d*|drawing\d+)\.xml|content\.xml", name):
            continue
        before = _shape_ids(one.read(name)) if name in one.namelist() else Counter()
        for key, count in _shape_ids(other.read(name)).items():
            if count > max(before[key], 1):
                yield f"id {key} {count} times in {name}"


def _shape_ids(xml: bytes) -> Counter[str]:
    try:
        root = ET.fromstring(xml)  # noqa: S314  (what was just written here)
    except ET.ParseError:
        return Counter()
    ids = [node.get("id", "") for node in root.iter() if node.tag.rsplit("}", 1)[-1] in ("docPr", "cNvPr")]
    # A picture's own properties repeat the id of its frame in a text (python-docx's writer does, and so do others).
    names = [value for node in root.iter() for key, value in node.attrib.items() if key.endswith("}name") and node.tag.endswith("}frame")]  # fmt: skip
    own = Counter(f"docPr {node.get('id')}" for node in root.iter() if node.tag.endswith("}docPr"))
    is_drawing = not own
    return Counter(f"cNvPr {key}" for key in ids if is_drawing) + own + Counter(f"frame {name}" for name in names)


def _picture_in_package(each: Try, placed: PlacedFile) -> Iterable[str]:
    with zipfile.ZipFile(io.BytesIO(placed.data)) as package:
        wanted = _pixels(each.picture)
        pictures = [name for name in package.namelist() if name.lower().endswith((".png", ".jpg", ".jpeg"))]
        if not any(_same(package.read(name), wanted) for name in pictures):
            yield "no picture with these pixels"
        texts = [package.read(name) for name in package.namelist() if name.endswith(".xml")]
    escaped = each.words.replace("&", "&amp;").replace("<", "&lt;")
    said = sum(text.count(form.encode()) for text in texts for form in {escaped, escaped.replace(">", "&gt;")})
    # In a text document it belongs to the drawing and to the picture in it.
    if not 1 <= said <= 2:
        yield f"the alternative text stands there {said} times"


def _in_message(each: Try, placed: PlacedFile) -> Iterable[str]:
    before = email.message_from_bytes(each.before, policy=email.policy.compat32)
    after = email.message_from_bytes(placed.data, policy=email.policy.compat32)
    wanted = _pixels(each.picture)
    images = [part for part in after.walk() if part.get_content_maintype() == "image"]
    if not any(_same(bytes(part.get_payload(decode=True) or b""), wanted) for part in images):
        yield "no picture with these pixels"
    ids = Counter(part["Content-ID"] for part in after.walk() if part["Content-ID"])
    known = Counter(part["Content-ID"] for part in before.walk() if part["Content-ID"])
    yield from (f"content-id {key} {count} times" for key, count in ids.items() if count > max(known[key], 1))
    others = ("text/html", "multipart/mixed", "multipart/related", "multipart/alternative")
    leaves = [
        Counter(bytes(part.get_payload(decode=True) or b"") for part in message.walk() if part.get_content_type() not in others)
        for message in (before, after)
    ]  # fmt: skip
    if leaves[0] - leaves[1]:
        yield "a part of the message changed"


def _pixels(data: bytes) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGB"))


def _same(data: bytes, wanted: np.ndarray[tuple[int, ...], np.dtype[np.uint8]]) -> bool:
    try:
        return np.array_equal(_pixels(data), wanted)
    except (OSError, SyntaxError, ValueError):
        return False


def _size(each: Try, placed: PlacedFile) -> Iterable[str]:
    """Reckoned here: natural size is 96 pixels an inch; the place's width where that is less; then the height."""
    spot, (wide, high) = each.spot, each.size
    natural = wide * _EMU_PER_PIXEL
    place = min(width.emu for width in spot.widths)
    most = spot.free_width.emu if spot.free_width is not None else place
    if isinstance(each.rule, Length):
        width = float(each.rule.emu)
    elif each.rule is WidthRule.FILL:
        width = float(place)
    else:
        width = float(min(natural, most))
    if spot.height.emu < FREE.emu and width * high / wide > spot.height.emu:
        width = spot.height.emu * wide / high
    if (
        each.rule is WidthRule.FIT
        and each.layout.stand in (Stand.TEXT_LEFT, Stand.TEXT_RIGHT)
        and width > place * 2 / 3
    ):
        width = place / 2
    got = placed.measures.width.emu
    if abs(got - width) > 1:
        yield f"{got} EMU wide, {width:.0f} reckoned"
    if abs(placed.measures.height.emu - width * high / wide) > 1:
        yield f"{placed.measures.height.emu} EMU high, {width * high / wide:.0f} reckoned"
    if spot.kind is SpotKind.BODY and placed.data.startswith(b"PK"):
        yield from _written_size(placed)


def _written_size(placed: PlacedFile) -> Iterable[str]:
    """The extent stands in the written part, in EMU or as a length."""
    with zipfile.ZipFile(io.BytesIO(placed.data)) as package:
        texts = b"".join(package.read(name) for name in package.namelist() if name.endswith(".xml"))
    width = placed.measures.width.emu
    written = [int(text) for text in re.findall(rb'cx="([0-9]+)"', texts)]
    for number, unit in re.findall(rb'svg:width="([0-9.]+)(mm|cm|in|pt)"', texts):
        written.append(round(float(number) * _EMU[unit.decode()]))
    if not any(abs(each - width) <= _EMU_PER_PIXEL // 100 for each in written):
        yield f"no extent of {width} EMU is written"


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
