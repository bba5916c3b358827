"""The kinds of things that a scene can show, one function each; lengths in logical pixels.

Every function gets the SVG scene under construction and the item's values from the scene file.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any

from tijera.desk.drawing import INK, LINE, MONO, SANS, SERIF, SOFT, Scene

Values = Mapping[str, Any]
_FAMILIES = {"sans": SANS, "mono": MONO, "serif": SERIF}
_COLOURS = {"ink": INK, "soft": SOFT, "line": LINE}


def colour(values: Values, name: str, default: str) -> str:
    """A colour by its name or as #rrggbb."""
    given = str(values.get(name, default))
    return _COLOURS.get(given, given)


def text(scene: Scene, item: Values) -> None:
    """A line of text: x, y (baseline), words, and size, bold, family, colour, anchor."""
    scene.text(
        item["x"],
        item["y"],
        item["words"],
        item.get("size", 13),
        bold=item.get("bold", False),
        colour=colour(item, "colour", INK),
        family=_FAMILIES[item.get("family", "sans")],
        anchor=item.get("anchor", "start"),
    )


def box(scene: Scene, item: Values) -> None:
    """A rectangle: x, y, width, height, fill, edge."""
    edge = item.get("edge", "none")
    scene.box(item["x"], item["y"], item["width"], item["height"], colour(item, "fill", "none"), edge=edge)


def line(scene: Scene, item: Values) -> None:
    """A hairline: x1, y1, x2, y2, colour, dashes."""
    dashes = item.get("dashes", "")
    scene.line(item["x1"], item["y1"], item["x2"], item["y2"], colour(item, "colour", LINE), dashes=dashes)


def lines(scene: Scene, item: Values) -> None:
    """Hairlines below each other: x1, x2, y, step, count."""
    for number in range(item["count"]):
        y = item["y"] + number * item["step"]
        scene.line(item["x1"], y, item["x2"], y, colour(item, "colour", LINE))


def path(scene: Scene, item: Values) -> None:
    """An SVG path: data, fill, stroke, width."""
    scene.path(
        item["data"], fill=item.get("fill", "none"), stroke=item.get("stroke", "none"), width=item.get("width", 1)
    )


def table(scene: Scene, item: Values) -> None:
    """A table: x, y, width, columns (each a left edge), heads, rows; size, row_height, mark (a row to warn of)."""
    x, y, size = item["x"], item["y"], item.get("size", 12.5)
    step, width = item.get("row_height", 28), item["width"]
    ink, family = colour(item, "colour", INK), _FAMILIES[item.get("family", "sans")]
    if "heads" in item:
        scene.box(x, y, width, 30, colour(item, "head_fill", "#efece2"))
        for left, words in zip(item["columns"], item["heads"], strict=True):
            scene.text(left, y + 20, words, 12, bold=True, colour=ink)
        y += 30
    for number, row in enumerate(item["rows"]):
        base = y + number * step + step * 0.74
        for place, (left, words) in enumerate(zip(item["columns"], row, strict=True)):
            warn = number == item.get("mark") and place >= item.get("mark_from", 0)
            shade = "#9c2f1b" if warn else ink
            scene.text(left, base, words, size, colour=shade, bold=warn, family=family)
        scene.line(
            x, y + (number + 1) * step - 0.5, x + width, y + (number + 1) * step - 0.5, colour(item, "rule", LINE)
        )


def shifts(scene: Scene, item: Values) -> None:
    """A roster: names, and a letter a day for each; colours and hours by the kind of shift."""
    x, y, width = item["x"], item["y"], item["width"]
    scene.box(x, y, width, 28, "#efece2")
    scene.text(x + 8, y + 19, "Name", 12, bold=True)
    for number, day in enumerate(item["days"]):
        scene.text(x + 148 + number * 70, y + 19, day, 12, bold=True)
    scene.text(x + width - 12, y + 19, "Hours", 12, bold=True, anchor="end")
    for row, (name, week) in enumerate(item["weeks"]):
        top = y + 28 + row * 30
        scene.text(x + 8, top + 20, name, 12.5)
        hours = 0.0
        for day, letter in enumerate(week):
            word, fill, each = item["kinds"][letter]
            scene.box(x + 140 + day * 70, top + 1, 68, 28, fill)
            scene.text(x + 148 + day * 70, top + 20, word, 11.5, colour=INK if each else SOFT)
            hours += each
        scene.text(x + width - 12, top + 20, f"{hours:.1f}", 12.5, anchor="end", bold=hours > 40)
        scene.line(x, top + 29.5, x + width, top + 29.5, LINE)


def stripes(scene: Scene, item: Values) -> None:
    """Rows with a word at the left and one at the right, on two grounds in turn: x, y, width, rows."""
    for number, (left, right) in enumerate(item["rows"]):
        y = item["y"] + number * 30
        scene.box(item["x"], y, item["width"], 30, "#eef3f0" if number % 2 else "#e1ebe6")
        scene.text(item["x"] + 12, y + 20, left, 14, family=SERIF)
        scene.text(item["x"] + item["width"] - 16, y + 20, right, 14, family=SERIF, bold=True, anchor="end")


def rules(scene: Scene, item: Values) -> None:
    """Chapters of numbered rules, from y on: x, width, first (the first number), chapters of a title and rules."""
    x, y, number = item["x"], item["y"], item.get("first", 1)
    for title, chapter in item["chapters"]:
        y += 22
        scene.text(x, y, title, 19, bold=True, family=SERIF)
        y += 14
        for rule in chapter:
            scene.text(x, y + 16, f"{number}.", 14, family=SERIF, colour=SOFT)
            for part in broken(rule, 78):
                scene.text(x + 28, y + 16, part, 14.5, family=SERIF)
                y += 22
            y += 34
            number += 1
        scene.line(x, y - 14.5, x + item["width"], y - 14.5, LINE)


def repeated(scene: Scene, item: Values) -> None:
    """The same row so many times: x, y, width, step, count, words."""
    for number in range(item["count"]):
        y = item["y"] + number * item["step"]
        scene.text(item["x"], y + item["step"] * 0.7, item["words"], 14, family=SERIF)
        scene.text(item["x"] + item["width"], y + item["step"] * 0.7, item["end"], 14, family=SERIF, anchor="end")
        scene.line(item["x"], y + item["step"] - 0.5, item["x"] + item["width"], y + item["step"] - 0.5, LINE)


def tide(scene: Scene, item: Values) -> None:
    """A day's tide, two highs and two lows: x, y, width, height, marks (hour, words, above)."""
    left, top, width, height = item["x"], item["y"], item["width"], item["height"]
    bottom = top + height
    scene.box(left, top, width, height, "#f0f4f3")
    middle, swing = (top + bottom) / 2 + 10, height / 2 - 42

    def level(hour: float) -> float:
        return float(middle - swing * math.cos((hour - 3.2) / 12.4 * 2 * math.pi))

    points = [f"{x} {level((x - left) / width * 24):.1f}" for x in range(left, left + width + 1, 4)]
    curve = "M" + " L".join(points)
    scene.path(f"{curve} L{left + width} {bottom} L{left} {bottom} Z", fill="#d3e5e1")
    scene.path(curve, stroke="#1f6f68", width=2.5)
    for hour, words, above in item["marks"]:
        y = level(hour)
        scene.text(left + hour / 24 * width, y - 10 if above else y + 22, words, 11.5, anchor="middle")
    now = left + item["now"] / 24 * width
    scene.line(now, top, now, bottom, "#a8741a", dashes="4 3")
    scene.text(now + 6, bottom - 12, item["now_words"], 11, colour="#875900")


def bars(scene: Scene, item: Values) -> None:
    """A chart of bars: x, y, width, height, values (0 to 1), labels, fill, ground."""
    x, y, width, height = item["x"], item["y"], item["width"], item["height"]
    scene.box(x, y, width, height, colour(item, "ground", "#f0f4f3"), edge=item.get("edge", "none"))
    gap = (width - 32) / len(item["values"])
    for number, (value, words) in enumerate(zip(item["values"], item["labels"], strict=True)):
        tall = (height - 56) * value
        left = x + 16 + number * gap
        scene.box(left, y + height - 30 - tall, gap * 0.62, tall, colour(item, "fill", "#2f7f74"))
        scene.text(left + gap * 0.31, y + height - 12, words, 11, anchor="middle", colour=colour(item, "ink", INK))


def clock(scene: Scene, item: Values) -> None:
    """The time of the desk: x, y, size and a format with hours, minutes and seconds."""
    seconds = int(item["now"])
    words = f"{seconds // 3_600 % 24:02}:{seconds // 60 % 60:02}:{seconds % 60:02}"
    text(scene, {**item, "words": words})


def broken(words: str, most: int) -> list[str]:
    """Break a text into lines of at most so many characters."""
    out = [""]
    for word in words.split():
        if len(out[-1]) + len(word) + 1 > most:
            out.append("")
        out[-1] = f"{out[-1]} {word}".strip()
    return out


KINDS: dict[str, Callable[[Scene, Values], None]] = {
    each.__name__: each
    for each in (text, box, line, lines, path, table, shifts, stripes, rules, repeated, tide, bars, clock)
}
"""Every kind by its name in the scene file; `map` besides, which is no drawing (see `tijera.desk.windows`)."""


def draw(scene: Scene, items: tuple[Values, ...], now: int) -> None:
    """Draw items in their order; `now` is the desk's clock in seconds since midnight."""
    for item in items:
        if item["kind"] != "map":
            KINDS[item["kind"]](scene, {**item, "now": item.get("now", now)})
