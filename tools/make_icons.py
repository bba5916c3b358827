"""Draw the application's icons from its mark; run by hand when the mark changes."""

from __future__ import annotations

from pathlib import Path

from tijera.core.imaging.encode import encode_png
from tijera.core.imaging.vips import draw_svg

ROOT = Path(__file__).resolve().parent.parent / "frontend"
MARK_SIDE = 32
"""Of the mark's own drawing."""


def main() -> None:
    """Write them where the front end's build takes them from."""
    svg = (ROOT / "src/app/mark.svg").read_text(encoding="utf-8")
    for side in (192, 512):
        icon = draw_svg(svg, side / MARK_SIDE)
        (ROOT / f"public/icon-{side}.png").write_bytes(encode_png(icon))


if __name__ == "__main__":
    main()
