"""The made-up text of the Crew handbook: chapters of rules, the same at every run."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass

VESSELS = ("Sandpiper", "Marigold", "Little Auk", "Oystercatcher", "Harbour Lass")
_BERTHS = ("Q1", "Q2", "Q3", "Q4", "Q5")
_PEOPLE = ("the mate", "the watch", "the engineer on duty", "the gangway crew", "the harbour master", "the kiosk")
_TIMES = ("06:25", "07:40", "09:50", "12:15", "15:30", "18:05", "21:00")


@dataclass(frozen=True)
class Chapter:
    """A chapter: its title and its parts, each a heading with paragraphs."""

    title: str
    parts: tuple[tuple[str, tuple[str, ...]], ...]


_RULES = (
    "Before a vessel is called in, {who} reads the depth under keel from the tide board. Below one metre the vessel waits outside.",
    "The berths of the outer quay differ in depth. The table in the last chapter gives the lowest water at which each may be used, and the draught of every vessel of the fleet.",
    "Between calls the watch notes wind and visibility every half hour, and passes both on to the gangway crew of {berth}.",
    "Any change of berth is told to the bridge and to the gangway crew at the same time, by the same person, in the same words.",
    "Vessels that wait outside keep to the eastern side of the buoy and answer on channel 12. The {ship} keeps her lights on while she waits.",
    "Ropes are laid out before the vessel has passed the inner light. Nobody stands between a bollard and a rope under load, not even for a moment.",
    "The gangway is lowered when both ropes are fast and the mate has raised a hand. It is never lowered by the clock.",
    "The watch tells the bridge the new time on channel 12 and writes it into the log. If the wind is above 14 m/s, {who} decides.",
    "Each engine has its own meter. An entry below the last one is refused with code EL-207; the reason is nearly always that two meters were read in the wrong order.",
    "The figure in the log is never changed by hand; the old one stays readable beneath it. At the end of the week the mate compares both meters with the fuel that was taken on.",
    "At {time} the {ship} is expected at {berth}. Whoever is nearest takes the stern rope; the bow rope belongs to {who}.",
    "Passengers are counted twice, once at the gate and once on board. When the counts differ, the second one is repeated before the first is doubted.",
    "A pram, a wheelchair or a stretcher goes first, by the wide gangway, with one of the crew at each end.",
    "Lorries above 7.5 t are taken by the Harbour Lass only. They stand ramp side, engine off, in gear, with wedges under the rear wheels.",
    "In fog the horn is given every two minutes by the clock in the wheelhouse, not by feel. {who_cap} keeps the count in the log.",
    "Whoever hands over the watch says aloud: which vessels lie where, which ropes are doubled, what the glass did in the last three hours.",
    "The bilge of the {ship} is read at {time} and once more before the last crossing. More than four minutes of pumping is reported at once.",
    "Lost things are written down with place and time and taken to the kiosk after the last crossing. Umbrellas need no entry.",
    "If the crane at {berth} is in use, the passage beneath it is closed with both chains, and a hand stays there until it is open again.",
    "The tide board shows heights above chart datum. For the depth at a berth the figure from the chart is added; the sum stands in the last column.",
    "Life jackets are counted on the first day of the month. One that was opened counts as missing until it has been repacked by {who}.",
    "The night boat leaves at 23:10 and waits for nobody. When she is cancelled, the board shows it by 21:00 and the kiosk is told by telephone.",
    "Fuel is taken on at {berth} only, in daylight, with the fire pump running and the hatch of the engine room closed.",
    "A drill is held on the second Tuesday. The {ship} is out of service meanwhile, and the roster says who stands where.",
    "When the ice scraper is out, sand is spread on the quay as far as the second lamp, and the steps to the pontoon are roped off.",
)  # fmt: skip

_TITLES = (
    ("Calling a vessel in", ("Who calls", "Low water at the outer quay", "Waiting outside", "Ropes and hands")),
    ("Gangways and passengers", ("Counting", "Who boards first", "The wide gangway", "After the last crossing")),
    ("Engines and their hours", ("Hours of the engines", "Fuel", "Bilge", "What the log refuses")),
    ("Wind, fog and ice", ("Reading the glass", "Fog", "Ice on the quay", "The night boat")),
    ("Cars, lorries and goods", ("On the ramp", "Goods by the crate", "Cranes and chains", "Lost things")),
    ("Drills and handing over", ("The second Tuesday", "Handing over the watch", "Life jackets", "Entries in the log")),
)


def _paragraphs() -> Iterator[str]:
    """Rules in a fixed order, each time with other vessels, berths and hours; they never run out."""
    for number in itertools.count():
        rule = _RULES[(number * 7) % len(_RULES)]
        who = _PEOPLE[(number * 5 + number // len(_RULES)) % len(_PEOPLE)]
        yield rule.format(
            who=who,
            who_cap=who[0].upper() + who[1:],
            ship=VESSELS[(number * 3 + number // 7) % len(VESSELS)],
            berth=_BERTHS[(number * 2 + number // 5) % len(_BERTHS)],
            time=_TIMES[(number + number // 3) % len(_TIMES)],
        )


def chapters() -> tuple[Chapter, ...]:
    """The six chapters of rules."""
    supply = _paragraphs()
    return tuple(
        Chapter(title, tuple((part, tuple(itertools.islice(supply, 10))) for part in parts)) for title, parts in _TITLES
    )
