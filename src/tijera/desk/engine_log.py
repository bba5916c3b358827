"""The engine log with the message that keeps the mate busy."""

from __future__ import annotations

from tijera.desk.drawing import LINE, MONO, PAPER, SOFT, WHITE, Scene

TITLE = "Engine log"
WIDTH, HEIGHT = 560, 340
_ENTRIES = [
    ("4413", "11:02", "engine 1", "18 874.2 h", "oil topped up, 4 l"),
    ("4414", "11:15", "engine 2", "18 211.0 h", "coolant checked"),
    ("4415", "11:24", "engine 1", "18 874.6 h", "filter changed"),
    ("4416", "11:31", "pump", "2 310.4 h", "bilge run, 6 min"),
    ("4417", "11:40", "engine 2", "18 204.6 h", "not saved"),
]


def draw() -> Scene:
    """The window's content: a log with a dialog over it."""
    scene = Scene(WIDTH, HEIGHT, "#f7f8f6")
    for number, entry in enumerate(_ENTRIES):
        y = 30 + number * 24
        for x, cell in zip((20, 76, 140, 240, 360), entry, strict=True):
            scene.text(x, y, cell, 12, family=MONO, colour=SOFT)
        scene.line(16, y + 7.5, WIDTH - 16, y + 7.5, LINE)
    for y in range(154, HEIGHT, 24):
        scene.line(16, y + 7.5, WIDTH - 16, y + 7.5, "#e3e7e6")
    _dialog(scene, 60, 112)
    return scene


def _dialog(scene: Scene, x: int, y: int) -> None:
    scene.box(x + 4, y + 5, 460, 176, "#c9cfcd")
    scene.box(x, y, 460, 176, WHITE, edge="#7b858a")
    scene.box(x + 1, y + 1, 458, 7, "#b4402a")
    scene.path(f"M{x + 42} {y + 36} L{x + 64} {y + 74} L{x + 20} {y + 74} Z", stroke="#b4402a", width=3)
    scene.line(x + 42, y + 50, x + 42, y + 62, "#b4402a")
    scene.box(x + 41, y + 65, 2, 3, "#b4402a")
    scene.text(x + 82, y + 44, "Entry 4417 was not saved", 16, bold=True)
    scene.text(x + 82, y + 70, "The hour meter of engine 2 (18 204.6 h) is below the last", 12.5, colour="#3d4a52")
    scene.text(x + 82, y + 88, "entry (18 211.0 h). Code EL-207.", 12.5, colour="#3d4a52")
    scene.box(x + 196, y + 120, 96, 34, PAPER, edge="#8d8a7e")
    scene.text(x + 244, y + 141, "Leave it", 12.5, bold=True, anchor="middle")
    scene.box(x + 304, y + 120, 136, 34, "#22303a")
    scene.text(x + 372, y + 141, "Correct the hours", 12.5, bold=True, anchor="middle", colour=WHITE)
