"""The crew roster: a dense table in colours."""

from __future__ import annotations

from tijera.desk.drawing import INK, LINE, SOFT, Scene

TITLE = "Crew roster, week 11"
WIDTH, HEIGHT = 760, 452
_COLOURS = {"early": "#cfe3dd", "late": "#f0deb8", "night": "#d6d6e8", "spare": "#eceae2", "–": "#ffffff"}
_NAMES = (
    "A. Brandvik", "M. Okoro", "P. Lindqvist", "S. Tamura", "R. Achterberg", "J. Falco", "D. Ilves", "K. Novotna",
    "T. Mbeki", "E. Sorrel", "H. Quist", "L. Varga",
)  # fmt: skip
_LETTERS = {"e": "early", "l": "late", "n": "night", "s": "spare", "-": "–"}
_WEEKS = (
    "eee-lls", "lll-ee-", "-nnn-es", "ee-lle-", "sll-nn-", "e-eesll", "nn--eel", "llse-e-", "-eel-nn", "ees-ll-",
    "l-nnn-e", "sleel--",
)  # fmt: skip
_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


def draw() -> Scene:
    """The window's content."""
    scene = Scene(WIDTH, HEIGHT)
    scene.text(18, 32, "Deck and engine, 9 to 15 March", 17, bold=True)
    scene.text(WIDTH - 18, 32, "published by the mate, Friday 17:30", 11.5, colour=SOFT, anchor="end")
    top = 48
    scene.box(18, top, WIDTH - 36, 28, "#efece2")
    scene.text(26, top + 19, "Name", 12, bold=True)
    for number, name in enumerate(_DAYS):
        scene.text(166 + number * 70, top + 19, name, 12, bold=True)
    scene.text(WIDTH - 30, top + 19, "Hours", 12, bold=True, anchor="end")
    for row, name in enumerate(_NAMES):
        y = top + 28 + row * 30
        scene.text(26, y + 20, name, 12.5)
        hours = 0.0
        for day in range(7):
            shift = _LETTERS[_WEEKS[row][day]]
            scene.box(158 + day * 70, y + 1, 68, 28, _COLOURS[shift])
            scene.text(166 + day * 70, y + 20, shift, 11.5, colour=INK if shift != "–" else SOFT)
            hours += {"early": 7.5, "late": 7.5, "night": 9.0, "spare": 4.0}.get(shift, 0.0)
        scene.text(WIDTH - 30, y + 20, f"{hours:.1f}", 12.5, anchor="end", bold=hours > 40)
        scene.line(18, y + 29.5, WIDTH - 18, y + 29.5, LINE)
    return scene
