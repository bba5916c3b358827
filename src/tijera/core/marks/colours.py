"""The colours that marks have, and contrast: relative luminance and contrast ratio as WCAG 2.2 defines them."""

from __future__ import annotations

from collections.abc import Mapping

COLOURS: Mapping[str, tuple[str, str]] = {
    "ink": ("Ink", "#20282a"),
    "glass": ("Sea glass", "#2f7f74"),
    "harbour": ("Harbour blue", "#1f5f9e"),
    "rust": ("Rust", "#b5351f"),
    "plum": ("Plum", "#7a3a78"),
    "light-glass": ("Light sea glass", "#8cc0b5"),
    "saffron": ("Saffron", "#f0c24b"),
    "paper": ("Paper", "#fbf8f1"),
}
"""By key: the name that people read, and the sRGB value."""

LEAST_CONTRAST = 3.0
"""For graphical objects: WCAG 2.2, success criterion 1.4.11."""
LEAST_TEXT_CONTRAST = 4.5
"""For text: WCAG 2.2, success criterion 1.4.3."""
_WHITE = "#ffffff"
_PAPER, _INK = COLOURS["paper"][1], COLOURS["ink"][1]


def hex_of(colour: str) -> str:
    """The sRGB value of a colour's key."""
    return COLOURS[colour][1]


def luminance(colour: str) -> float:
    """The relative luminance of "#rrggbb", 0 to 1: WCAG 2.2, definition of relative luminance."""
    channels = (int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5))
    red, green, blue = (each / 12.92 if each <= 0.04045 else ((each + 0.055) / 1.055) ** 2.4 for each in channels)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: float, other: float) -> float:
    """The contrast ratio of two relative luminances, 1 to 21: WCAG 2.2, definition of contrast ratio."""
    lighter, darker = max(one, other), min(one, other)
    return (lighter + 0.05) / (darker + 0.05)


def edge_for(colour: str) -> str:
    """The colour of the edge that sets a colour off: paper round dark ones, ink round light ones."""
    value = luminance(colour)
    return _PAPER if contrast(value, luminance(_PAPER)) >= contrast(value, luminance(_INK)) else _INK


def words_on(ground: str) -> str:
    """The colour of words on a ground: the one of ink and white that reads better."""
    value = luminance(ground)
    return _INK if contrast(value, luminance(_INK)) >= contrast(value, luminance(_WHITE)) else _WHITE
