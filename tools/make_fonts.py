"""Make the static TrueType fonts that the renderer uses from the variable web fonts that the interface uses.

Run once after a font package changes: needs ``fonttools`` and ``brotli`` and an installed front end.
The results are committed, so that neither set-up nor run time needs this script.
"""

from __future__ import annotations

import sys
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

ROOT = Path(__file__).resolve().parent.parent
PACKAGES = ROOT / "frontend/node_modules/@fontsource-variable"
TARGET = ROOT / "src/tijera/fonts"

# (package, family name in the ttf, file stem, weights)
FACES = [
    ("atkinson-hyperlegible-next", "Atkinson Hyperlegible Next", "hyperlegible-next", (400, 700)),
    ("atkinson-hyperlegible-mono", "Atkinson Hyperlegible Mono", "hyperlegible-mono", (400,)),
    ("newsreader", "Newsreader", "newsreader", (400, 700)),
]
STYLES = {400: "Regular", 700: "Bold"}


def make(package: str, family: str, stem: str, weight: int) -> Path:
    """Write one static face and return its path; weight in CSS units."""
    source = PACKAGES / package / "files" / f"{package}-latin-wght-normal.woff2"
    font = TTFont(source)
    font.flavor = None
    static = instancer.instantiateVariableFont(font, {"wght": weight})
    style = STYLES[weight]
    for name_id, text in {1: family, 2: style, 4: f"{family} {style}", 6: f"{stem}-{style}"}.items():
        static["name"].setName(text, name_id, 3, 1, 0x409)
    for name_id in (16, 17, 25):
        static["name"].removeNames(nameID=name_id)
    static["OS/2"].usWeightClass = weight
    bold = weight == 700
    static["OS/2"].fsSelection = (static["OS/2"].fsSelection & ~0x61) | (0x20 if bold else 0x40)
    static["head"].macStyle = 1 if bold else 0
    target = TARGET / f"{stem}-{weight}.ttf"
    static.save(target, reorderTables=True)
    return target


def main() -> int:
    """Make every face of ``FACES``."""
    for package, family, stem, weights in FACES:
        for weight in weights:
            sys.stdout.write(f"{make(package, family, stem, weight).name}\n")
        licence = (PACKAGES / package / "LICENSE").read_text(encoding="utf-8")
        (TARGET / f"{stem}-OFL.txt").write_text(licence, encoding="utf-8")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
