"""A few words to write SVG scenes with; lengths in logical pixels of the desk."""

from __future__ import annotations

from xml.sax.saxutils import escape

SANS = "Atkinson Hyperlegible Next"
MONO = "Atkinson Hyperlegible Mono"
SERIF = "Newsreader"
INK, SOFT, LINE, PAPER, WHITE = "#22303a", "#5a6670", "#cfd6d8", "#f4f1e8", "#ffffff"


class Scene:
    """SVG text under construction."""

    def __init__(self, width: int, height: int, ground: str = WHITE) -> None:
        self.width = width
        self.height = height
        self._parts: list[str] = []
        self.box(0, 0, width, height, ground)

    def box(self, x: float, y: float, width: float, height: float, fill: str, *, edge: str = "none") -> None:
        """A rectangle; an edge is drawn one pixel wide inside it."""
        if edge == "none":
            self._parts.append(f'<rect x="{x}" y="{y}" width="{width}" height="{height}" fill="{fill}"/>')
        else:
            self._parts.append(
                f'<rect x="{x + 0.5}" y="{y + 0.5}" width="{width - 1}" height="{height - 1}" '
                f'fill="{fill}" stroke="{edge}"/>'
            )

    def line(self, x1: float, y1: float, x2: float, y2: float, colour: str, *, dashes: str = "") -> None:
        """A straight hairline."""
        dash = f' stroke-dasharray="{dashes}"' if dashes else ""
        self._parts.append(f'<line x1="{x1}" y1="{y1}" x2="{x2}" y2="{y2}" stroke="{colour}"{dash}/>')

    def path(self, data: str, *, fill: str = "none", stroke: str = "none", width: float = 1) -> None:
        """Any path."""
        self._parts.append(f'<path d="{data}" fill="{fill}" stroke="{stroke}" stroke-width="{width}"/>')

    def text(
        self,
        x: float,
        y: float,
        words: str,
        size: float = 13,
        *,
        colour: str = INK,
        bold: bool = False,
        family: str = SANS,
        anchor: str = "start",
    ) -> None:
        """A line of text on the baseline y."""
        weight = ' font-weight="700"' if bold else ""
        self._parts.append(
            f'<text x="{x}" y="{y}" font-size="{size}" font-family="{family}" fill="{colour}"{weight} '
            f'text-anchor="{anchor}">{escape(words)}</text>'
        )

    def svg(self) -> str:
        """The scene as SVG text."""
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{self.width}" height="{self.height}" '
            f'viewBox="0 0 {self.width} {self.height}">{"".join(self._parts)}</svg>'
        )
