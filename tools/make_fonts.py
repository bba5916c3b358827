"""Make the static TrueType fonts that the renderer uses from the variable web fonts that the interface uses.

Run once after a font package changes: needs ``fonttools`` and ``brotli``, an installed front end, and for the scripts that
the faces of the interface lack ``npm install --no-save`` of the packages in ``SCRIPTS`` (Noto, under the SIL Open Font License).
The results are committed, so that neither set-up nor run time needs this script.
"""

from __future__ import annotations

import json
import sys
import tempfile
from pathlib import Path

from fontTools.merge import Merger
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
# (package under @fontsource, subset, file stem, family): asked in this order for a sign that a face lacks.
SCRIPTS = [
    ("noto-sans", "greek", "noto-sans-greek", "Noto Sans Greek"),
    ("noto-sans", "greek-ext", "noto-sans-greek-ext", "Noto Sans Greek Ext"),
    ("noto-sans", "cyrillic", "noto-sans-cyrillic", "Noto Sans Cyrillic"),
    ("noto-sans", "cyrillic-ext", "noto-sans-cyrillic-ext", "Noto Sans Cyrillic Ext"),
    ("noto-sans", "vietnamese", "noto-sans-vietnamese", "Noto Sans Vietnamese"),
    # Before the symbols: for signs that are emoji the renderer asks it first, whatever is listed.
    ("noto-emoji", "emoji", "noto-emoji", "Noto Emoji"),
    ("noto-sans-hebrew", "hebrew", "noto-sans-hebrew", "Noto Sans Hebrew"),
    ("noto-sans-arabic", "arabic", "noto-sans-arabic", "Noto Sans Arabic"),
    ("noto-sans-devanagari", "devanagari", "noto-sans-devanagari", "Noto Sans Devanagari"),
    ("noto-sans-thai", "thai", "noto-sans-thai", "Noto Sans Thai"),
    ("noto-sans-georgian", "georgian", "noto-sans-georgian", "Noto Sans Georgian"),
    ("noto-sans-armenian", "armenian", "noto-sans-armenian", "Noto Sans Armenian"),
    ("noto-sans-syriac", "syriac", "noto-sans-syriac", "Noto Sans Syriac"),
    ("noto-sans-thaana", "thaana", "noto-sans-thaana", "Noto Sans Thaana"),
    ("noto-sans-ethiopic", "ethiopic", "noto-sans-ethiopic", "Noto Sans Ethiopic"),
    ("noto-sans-nko", "nko", "noto-sans-nko", "Noto Sans NKo"),
    ("noto-sans-tifinagh", "tifinagh", "noto-sans-tifinagh", "Noto Sans Tifinagh"),
    ("noto-sans-bengali", "bengali", "noto-sans-bengali", "Noto Sans Bengali"),
    ("noto-sans-gurmukhi", "gurmukhi", "noto-sans-gurmukhi", "Noto Sans Gurmukhi"),
    ("noto-sans-gujarati", "gujarati", "noto-sans-gujarati", "Noto Sans Gujarati"),
    ("noto-sans-oriya", "oriya", "noto-sans-oriya", "Noto Sans Oriya"),
    ("noto-sans-tamil", "tamil", "noto-sans-tamil", "Noto Sans Tamil"),
    ("noto-sans-telugu", "telugu", "noto-sans-telugu", "Noto Sans Telugu"),
    ("noto-sans-kannada", "kannada", "noto-sans-kannada", "Noto Sans Kannada"),
    ("noto-sans-malayalam", "malayalam", "noto-sans-malayalam", "Noto Sans Malayalam"),
    ("noto-sans-sinhala", "sinhala", "noto-sans-sinhala", "Noto Sans Sinhala"),
    ("noto-sans-myanmar", "myanmar", "noto-sans-myanmar", "Noto Sans Myanmar"),
    ("noto-sans-khmer", "khmer", "noto-sans-khmer", "Noto Sans Khmer"),
    ("noto-sans-lao", "lao", "noto-sans-lao", "Noto Sans Lao"),
    ("noto-sans-javanese", "javanese", "noto-sans-javanese", "Noto Sans Javanese"),
    ("noto-sans-balinese", "balinese", "noto-sans-balinese", "Noto Sans Balinese"),
    ("noto-sans-mongolian", "mongolian", "noto-sans-mongolian", "Noto Sans Mongolian"),
    ("noto-sans-cherokee", "cherokee", "noto-sans-cherokee", "Noto Sans Cherokee"),
    (
        "noto-sans-canadian-aboriginal",
        "canadian-aboriginal",
        "noto-sans-canadian-aboriginal",
        "Noto Sans Canadian Aboriginal",
    ),
    ("noto-serif-tibetan", "tibetan", "noto-serif-tibetan", "Noto Serif Tibetan"),
    ("noto-sans-math", "latin", "noto-sans-math", "Noto Sans Math"),
    ("noto-sans-symbols", "symbols", "noto-sans-symbols", "Noto Sans Symbols"),
    ("noto-sans-symbols-2", "symbols", "noto-sans-symbols-2", "Noto Sans Symbols 2"),
    ("noto-sans-sc", "chinese-simplified", "noto-sans-sc", "Noto Sans SC"),
    ("noto-sans-jp", "japanese", "noto-sans-jp", "Noto Sans JP"),
    ("noto-sans-kr", "korean", "noto-sans-kr", "Noto Sans KR"),
]
SCRIPT_PACKAGES = ROOT / "frontend/node_modules/@fontsource"
STYLES = {400: "Regular", 700: "Bold"}


def _instance(package: str, subset: str, weight: int) -> TTFont:
    font = TTFont(PACKAGES / package / "files" / f"{package}-{subset}-wght-normal.woff2")
    font.flavor = None
    return instancer.instantiateVariableFont(font, {"wght": weight})


def _merged(fonts: list[TTFont]) -> TTFont:
    """One font with the letters of all subsets."""
    with tempfile.TemporaryDirectory() as folder:
        paths = []
        for number, font in enumerate(fonts):
            # Only the first one's layout rules are kept: the merger can't join those of variable origin.
            for table in ("STAT", "avar", "MVAR", "HVAR", "DSIG", *(("GPOS", "GSUB", "GDEF") if number else ())):
                if table in font:
                    del font[table]
            paths.append(str(Path(folder) / f"{number}.ttf"))
            font.save(paths[-1])
        return Merger().merge(paths)


def measure(path: Path) -> dict[str, object]:
    """A face's measures in thousandths of the em: advances by code point, heights."""
    font = TTFont(path)
    unit = font["head"].unitsPerEm / 1000
    widths = font["hmtx"].metrics
    return {
        "x_height": round(font["OS/2"].sxHeight / unit),
        "cap_height": round(font["OS/2"].sCapHeight / unit),
        "ascent": round(font["hhea"].ascent / unit),
        "descent": round(-font["hhea"].descent / unit),
        "advances": {code: round(widths[glyph][0] / unit, 1) for code, glyph in sorted(font.getBestCmap().items())},
    }


def make(package: str, family: str, stem: str, weight: int) -> Path:
    """Write one static face and return its path; weight in CSS units."""
    static = _merged([_instance(package, subset, weight) for subset in ("latin", "latin-ext")])
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


def make_script(package: str, subset: str, family: str, stem: str) -> dict[str, object]:
    """Write the face of a script; its family, file and advances, as runs of code points of one advance."""
    font = TTFont(SCRIPT_PACKAGES / package / "files" / f"{package}-{subset}-400-normal.woff2")
    font.flavor = None
    for name_id, text in {1: family, 2: "Regular", 4: f"{family} Regular", 6: f"{stem}-Regular"}.items():
        font["name"].setName(text, name_id, 3, 1, 0x409)
    for name_id in (16, 17, 25):
        font["name"].removeNames(nameID=name_id)
    font.save(TARGET / f"{stem}-400.ttf", reorderTables=True)
    unit, widths = font["head"].unitsPerEm / 1000, font["hmtx"].metrics
    runs: list[list[int]] = []
    for code, glyph in sorted(font.getBestCmap().items()):
        advance = round(widths[glyph][0] / unit)
        if runs and runs[-1][1] == code - 1 and runs[-1][2] == advance:
            runs[-1][1] = code
        else:
            runs.append([code, code, advance])
    return {"family": family, "file": f"{stem}-400", "runs": runs}


def main() -> int:
    """Make every face of ``FACES`` and ``SCRIPTS``."""
    scripts = [make_script(package, subset, family, stem) for package, subset, stem, family in SCRIPTS]
    (TARGET / "scripts.json").write_text(json.dumps(scripts, separators=(",", ":")) + "\n", encoding="utf-8")
    licence = (SCRIPT_PACKAGES / "noto-sans" / "LICENSE").read_text(encoding="utf-8")
    (TARGET / "noto-OFL.txt").write_text(licence, encoding="utf-8")
    measures = {}
    for package, family, stem, weights in FACES:
        for weight in weights:
            path = make(package, family, stem, weight)
            measures[path.stem] = {"family": family, "weight": weight, **measure(path)}
            sys.stdout.write(f"{path.name}\n")
        licence = (PACKAGES / package / "LICENSE").read_text(encoding="utf-8")
        (TARGET / f"{stem}-OFL.txt").write_text(licence, encoding="utf-8")
    (TARGET / "measures.json").write_text(json.dumps(measures, separators=(",", ":")) + "\n", encoding="utf-8")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
