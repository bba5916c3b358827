"""What ships and under which terms: the notice is whole, and code whose licence can't be shown is never reached."""

import ast
import unittest
from collections.abc import Iterator
from pathlib import Path

from tools.make_notice import TARGET, font_parts, front_end_parts, python_parts

_SOURCE = Path(__file__).resolve().parents[2] / "src" / "tijera"
_QUANTISING = frozenset({"palette", "bitdepth", "colours", "dither", "quantize"})
"""What libvips asks its quantiser for: arguments of `pngsave` (libvips manual, "foreign"); `gifsave` always does."""


def _reaches_quantiser(code: str) -> Iterator[str]:
    """Calls that would have libvips find a palette: a GIF, a PNG or a write by a file's name with such an argument."""
    for node in ast.walk(ast.parse(code)):
        if not isinstance(node, ast.Call):
            continue
        name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        words = [each.value for each in node.args if isinstance(each, ast.Constant) and isinstance(each.value, str)]
        if "gifsave" in name or any("gifsave" in each or each.startswith(".gif") for each in words):
            yield f"{name} writes GIF"
        saves = (
            "pngsave" in name
            or name in ("write_to_buffer", "write_to_file")
            or any("pngsave" in each for each in words)
        )
        if saves and any(each.arg in _QUANTISING or each.arg is None for each in node.keywords):
            yield f"{name} with a palette"


class Quantiser(unittest.TestCase):
    """The one inside the imaging wheel."""

    def test_no_code_of_ours_asks_for_it(self) -> None:
        """No call in any module; palettes are our own."""
        found = {
            f"{path.relative_to(_SOURCE)}: {what}"
            for path in _SOURCE.rglob("*.py")
            for what in _reaches_quantiser(path.read_text(encoding="utf-8"))
        }
        self.assertEqual(found, set())

    def test_a_call_that_asks_for_it_would_be_found(self) -> None:
        """However it is written."""
        for code in (
            "image.pngsave_buffer(palette=True)",
            "image.gifsave('x')",
            "image.write_to_buffer('.gif')",
            "image.write_to_buffer('.png', bitdepth=4)",
            "image.pngsave('x', **options)",
            "Operation.call('gifsave_buffer', image)",
        ):
            self.assertNotEqual(list(_reaches_quantiser(code)), [], code)


class Notice(unittest.TestCase):
    """NOTICE."""

    def test_everything_that_ships_is_named_with_its_licence_and_text(self) -> None:
        """Python, front end, fonts; where a package brings no text of its own its licence is named."""
        text = TARGET.read_text(encoding="utf-8")
        parts = [*python_parts(), *front_end_parts(), *font_parts()]
        self.assertGreater(len(parts), 90)
        for part in parts:
            self.assertIn(f"- {part.name} {part.version}".rstrip() + f": {part.licence}", text)
            self.assertTrue(part.texts or part.licence != "see its text", part.name)
        copyleft = sorted(part.name for part in parts if "GPL" in part.licence)
        self.assertEqual(copyleft, ["python-xlib", "pyvips-binary"])
