"""The tide board of the outer quay: a curve and a table."""

from __future__ import annotations

import math

from tijera.desk.drawing import INK, LINE, SOFT, Scene

TITLE = "Tide board, outer quay"
WIDTH, HEIGHT = 780, 500
_SEA, _WATER, _FAINT = "#1f6f68", "#d3e5e1", "#f0f4f3"
_ROWS = [
    ("Q1", "Sandpiper", "06:40", "07:05", "2.1 m", "Gangway crew at 06:25"),
    ("Q2", "Marigold", "07:20", "07:55", "1.4 m", "Check bow thruster"),
    ("Q3", "Little Auk", "07:45", "08:00", "1.9 m", "Mail for the island"),
    ("Q4", "Oystercatcher", "08:10", "08:30", "0.9 m", "Below 1.0 m: wait for 09:50"),
    ("Q5", "Harbour Lass", "09:05", "09:35", "1.6 m", "Two lorries, ramp side"),
]
_COLUMNS = (28, 108, 250, 340, 430, 540)


def draw() -> Scene:
    """The window's content."""
    scene = Scene(WIDTH, HEIGHT)
    scene.text(24, 40, "Thursday 12 March", 22, bold=True)
    scene.text(24, 64, "Heights in metres above chart datum", 13, colour=SOFT)
    _curve(scene, top=84, bottom=286)
    scene.box(24, 304, WIDTH - 48, 30, "#efece2")
    heads = ("Berth", "Vessel", "Arrives", "Leaves", "Under keel", "Remark")
    for x, head in zip(_COLUMNS, heads, strict=True):
        scene.text(x, 324, head, 12, bold=True)
    for number, row in enumerate(_ROWS):
        y = 356 + number * 28
        low = float(row[4].split()[0]) < 1
        for x, cell in zip(_COLUMNS, row, strict=True):
            warn = low and x >= _COLUMNS[4]
            scene.text(x, y, cell, 12.5, colour="#9c2f1b" if warn else INK, bold=warn)
        scene.line(24, y + 9.5, WIDTH - 24, y + 9.5, LINE)
    return scene


def _curve(scene: Scene, top: int, bottom: int) -> None:
    """A day's tide, two highs and two lows."""
    scene.box(24, top, WIDTH - 48, bottom - top, _FAINT)
    middle, swing = (top + bottom) / 2 + 10, (bottom - top) / 2 - 42
    points = []
    for x in range(24, WIDTH - 23, 4):
        phase = (x - 24) / (WIDTH - 48) * 24
        points.append(f"{x} {middle - swing * math.cos((phase - 3.2) / 12.4 * 2 * math.pi):.1f}")
    curve = "M" + " L".join(points)
    scene.path(f"{curve} L{WIDTH - 24} {bottom} L24 {bottom} Z", fill=_WATER)
    scene.path(curve, stroke=_SEA, width=2.5)
    for hour, label, above in ((3.2, "03:12 · 4.31", True), (9.4, "09:27 · 0.92", False), (15.6, "15:40 · 4.58", True)):
        at = 24 + hour / 24 * (WIDTH - 48)
        y = middle - swing * math.cos((hour - 3.2) / 12.4 * 2 * math.pi)
        scene.text(at, y - 10 if above else y + 22, label, 11.5, anchor="middle")
    now = 24 + 12.08 / 24 * (WIDTH - 48)
    scene.line(now, top, now, bottom, "#a8741a", dashes="4 3")
    scene.text(now + 6, bottom - 12, "now 12:05", 11, colour="#875900")
