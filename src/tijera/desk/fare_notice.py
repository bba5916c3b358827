"""The fare notice: a page longer than its window."""

from __future__ import annotations

from tijera.desk.drawing import LINE, SERIF, SOFT, Scene

TITLE = "Fare notice from 1 April"
WIDTH, HEIGHT = 640, 360
PAGE_HEIGHT = 1_960
_CHAPTERS = [
    ("Single crossings", [
        "Single crossings are sold at the kiosk, on board and from the machine on the outer quay.",
        "A ticket is valid on the day that is printed on it, for one crossing in one direction.",
        "Children under six travel free; up to fifteen they pay half, rounded up to ten pence.",
    ]),
    ("Books of ten", [
        "A book of ten saves two crossings and may be shared by a family or the crew of one boat.",
        "The slips are cancelled by the gangway crew, never in advance. Loose slips are not valid.",
        "Books from last year are taken until the end of May at the price that was paid for them.",
    ]),
    ("Bicycles and prams", [
        "Bicycles travel free before nine in the morning and after six in the evening.",
        "At other times they pay half a fare and stand on the port side, wheels in the rack.",
        "Prams and wheelchairs always travel free and board first.",
    ]),
    ("Cars and lorries", [
        "Cars must be booked by noon of the day before; the kiosk keeps four places for the doctor.",
        "Lorries above 7.5 t cross with the Harbour Lass only, ramp side first, engine off.",
        "Whoever misses a booked crossing keeps the place on the next one, if there is room.",
    ]),
    ("The night boat", [
        "The night boat takes passengers only. It leaves at 23:10 and waits for nobody.",
        "On nights with wind above 14 m/s the harbour master decides by 21:00, and the board shows it.",
        "The kiosk is closed then; fares are paid on board, in coins if at all possible.",
    ]),
    ("Dogs, goods and lost things", [
        "Dogs are welcome on the open deck, on a lead. In the cabin they wear a muzzle or stay in a basket.",
        "Goods up to 20 kg are hand luggage. Fish travels outside, covered, and pays by the crate.",
        "Lost things wait at the kiosk for three months, umbrellas for one.",
    ]),
]  # fmt: skip
_FARES = [("Outer quay – Island", "4.20"), ("Outer quay – Lighthouse", "6.80"), ("Island – Lighthouse", "3.60"),
          ("Round trip, all piers", "11.50")]  # fmt: skip


def draw() -> Scene:
    """The whole page, of which the window shows a part."""
    scene = Scene(WIDTH, PAGE_HEIGHT, "#fffdf7")
    scene.text(36, 56, "Fares and rules", 30, bold=True, family=SERIF)
    scene.text(36, 82, "Quillhaven Ferries, valid from 1 April. Please keep to them; they keep the boats on time.", 14,
               family=SERIF, colour=SOFT)  # fmt: skip
    y = 116
    for number, (route, fare) in enumerate(_FARES):
        scene.box(36, y, WIDTH - 88, 30, "#eef3f0" if number % 2 else "#e1ebe6")
        scene.text(48, y + 20, route, 14, family=SERIF)
        scene.text(WIDTH - 68, y + 20, fare, 14, family=SERIF, bold=True, anchor="end")
        y += 30
    y += 24
    number = 1
    for title, rules in _CHAPTERS:
        y += 22
        scene.text(36, y, title, 19, bold=True, family=SERIF)
        y += 14
        for rule in rules:
            scene.text(36, y + 16, f"{number}.", 14, family=SERIF, colour=SOFT)
            for line in _broken(rule, 78):
                scene.text(64, y + 16, line, 14.5, family=SERIF)
                y += 22
            y += 34
            number += 1
        scene.line(36, y - 14.5, WIDTH - 52, y - 14.5, LINE)
    return scene


def _broken(text: str, most: int) -> list[str]:
    """Break a text into lines of at most so many characters."""
    lines = [""]
    for word in text.split():
        if len(lines[-1]) + len(word) + 1 > most:
            lines.append("")
        lines[-1] = f"{lines[-1]} {word}".strip()
    return lines
