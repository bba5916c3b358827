"""Write NOTICE: whose work ships with Tijera, under which licence, with the text that each asks to be kept.

`python -m tools.make_notice [--check]`. What ships are the Python packages of requirements.lock, the packages that the front end is
built of (those that its lock does not mark as for development), the fonts, and what wheels carry inside.
"""

from __future__ import annotations

import json
import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from importlib.metadata import Distribution, distribution
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
TARGET = ROOT / "NOTICE"
_TEXTS = re.compile(r"^(licen[cs]e|copying|notice|authors)([.-].*)?$", re.IGNORECASE)
_INSIDE = """\
The wheel of pyvips-binary carries libvips (LGPL-2.1-or-later) and the libraries that it is built with, among them libpng, libjpeg (mozjpeg),
libwebp, libtiff, librsvg, HarfBuzz, FriBidi, Pango, cairo, GLib (LGPL-2.1-or-later), Little CMS and zlib-ng; its makers list them, with
their licences, at the place that the package's metadata names. libvips is used through its own interface, as a library of its own that
can be replaced. A palette quantiser is part of it, whose licence the wheel does not show: Tijera never calls it (docs/decisions).

The wheel of Pillow carries FreeType, libjpeg-turbo, libtiff, libwebp, Little CMS, OpenJPEG, zlib-ng and others; the wheel of lxml carries
libxml2 and libxslt; the wheel of NumPy carries OpenBLAS; their texts are part of those of the packages below.
"""


@dataclass(frozen=True)
class Part:
    """Something that ships."""

    name: str
    version: str
    licence: str
    texts: tuple[str, ...]


def python_parts() -> Iterator[Part]:
    """The packages that the application runs with."""
    for line in (ROOT / "requirements.lock").read_text(encoding="utf-8").splitlines():
        name = line.split("==")[0].strip()
        if not name or name.startswith("#"):
            continue
        found = distribution(name)
        yield Part(name, found.version, _licence_of(found), tuple(_texts_of(found)))


def _licence_of(found: Distribution) -> str:
    about = found.metadata
    said = next((about[each] for each in ("License-Expression", "License") if each in about), "")
    if said and len(said) < 80:
        return said
    named = [
        each.split("::")[-1].strip() for each in about.get_all("Classifier") or [] if each.startswith("License ::")
    ]
    return ", ".join(named) or "see its text"


def _texts_of(found: Distribution) -> Iterator[str]:
    seen = set()
    for path in found.files or ():
        if _TEXTS.match(path.name) and ".dist-info" in str(path):
            text = Path(str(found.locate_file(path))).read_text(encoding="utf-8", errors="replace").strip()
            if text not in seen:
                seen.add(text)
                yield text


def front_end_parts() -> Iterator[Part]:
    """The packages that the pages are built of."""
    locked = json.loads((ROOT / "frontend" / "package-lock.json").read_text(encoding="utf-8"))["packages"]
    for place, about in sorted(locked.items()):
        if not place or about.get("dev") or about.get("devOptional") or about.get("optional"):
            continue
        folder = ROOT / "frontend" / place
        texts = (each for each in sorted(folder.glob("*")) if each.is_file() and _TEXTS.match(each.name))
        name = place.rpartition("node_modules/")[2]
        yield Part(
            name,
            about.get("version", ""),
            str(about.get("license", "see its text")),
            tuple(each.read_text(encoding="utf-8", errors="replace").strip() for each in texts),
        )


def font_parts() -> Iterator[Part]:
    """The fonts, which have their own texts beside them."""
    for path in sorted((ROOT / "src" / "tijera" / "fonts").glob("*OFL*.txt")):
        yield Part(f"Fonts: {path.stem}", "", "OFL-1.1", (path.read_text(encoding="utf-8").strip(),))


def notice() -> str:
    """The whole text; each licence text stands once, under all that have it word for word."""
    parts = [*python_parts(), *front_end_parts(), *font_parts()]
    by_text: dict[str, list[str]] = {}
    for part in parts:
        for text in part.texts:
            by_text.setdefault(re.sub(r"[ \t]+\n", "\n", text.replace("\r\n", "\n")), []).append(part.name)
    lines = [
        "Tijera",
        "Copyright (c) 2026 The Tijera authors. MIT licence, see LICENSE.",
        "",
        "What follows is the work of others that ships with Tijera. Written by tools/make_notice.py.",
        "",
        *(f"- {part.name} {part.version}".rstrip() + f": {part.licence}" for part in parts),
        "",
        _INSIDE,
    ]
    for text, names in by_text.items():
        lines += ["=" * 100, ", ".join(dict.fromkeys(names)), "-" * 100, text, ""]
    return "\n".join(lines)


def main(arguments: list[str]) -> int:
    """Write it; or with `--check` say whether it is as it would be written."""
    text = notice()
    if "--check" in arguments:
        same = TARGET.is_file() and TARGET.read_text(encoding="utf-8") == text
        if not same:
            sys.stdout.write("NOTICE is not what ships: run `make notice`\n")
        return 0 if same else 1
    TARGET.write_text(text, encoding="utf-8")
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
