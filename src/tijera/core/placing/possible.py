"""What can be asked of a place: a wish that it can't fulfil is refused where somebody made it just for that place."""

from __future__ import annotations

from dataclasses import dataclass

from tijera.core.errors import NotPossibleThere
from tijera.core.packages.places.placed import Align, Layout
from tijera.core.packages.places.spots import Spot, SpotKind, Stand

_WITHOUT_WORDS = {
    Stand.WORD: "like a word",
    Stand.UNDER: "under the text",
    Stand.ATTACHED: "among the attachments",
    Stand.HANGS: "on a sheet",
    Stand.STRETCHES: "on a sheet",
    Stand.STAYS: "on a sheet",
}
"""The stands in which no words go with a picture, and how they are called."""


@dataclass(frozen=True)
class _Asked:
    what: str
    is_asked: bool
    can: bool
    why: str


def check_possible(spot: Spot, layout: Layout) -> None:
    """Raise `NotPossibleThere` for the first wish of a layout that has no effect at a spot."""
    where = _where(spot)
    if layout.stand is not None and layout.stand not in spot.stands:
        can = ", ".join(each.value for each in spot.stands)
        raise NotPossibleThere(what=f"Standing “{layout.stand.value}”", where=where, why=f"it has {can}")
    stand = layout.stand or spot.stands[0]
    bare = _WITHOUT_WORDS.get(stand)
    if bare is not None:
        where = bare
    is_sheet = spot.kind is SpotKind.SHEET
    is_file = stand is Stand.ATTACHED
    in_lines = stand in (Stand.LINES, Stand.IN_BODY, Stand.BOTH)
    no_words = "no words go with a picture there"
    asked = (
        _Asked("A caption", bool(layout.caption), bare is None, no_words),
        _Asked("A caption above", layout.caption_above, bool(layout.caption), "there is no caption"),
        _Asked("A legend", layout.legend, bare is None, no_words),
        _Asked("Text beside it", bool(layout.beside), in_lines, "it goes beside a picture on lines of its own only"),
        _Asked("A margin", layout.margin is not None, not is_sheet and not is_file, "nothing runs round it"),
        _Asked("A side", layout.align is not Align.CENTRE, not is_sheet and not is_file and stand is not Stand.WORD, "it stands where it is put"),
        _Asked("A growing row", layout.grows_row, spot.grows_to is not None, "there is no row that can grow"),
        _Asked("An outline", layout.along_outline, stand in (Stand.TEXT_LEFT, Stand.TEXT_RIGHT), "no text runs beside it"),
    )  # fmt: skip
    for each in asked:
        if each.is_asked and not each.can:
            raise NotPossibleThere(what=each.what, where=where, why=each.why)


def _where(spot: Spot) -> str:
    if Stand.ATTACHED in spot.stands and len(spot.stands) == 1:
        return "among the attachments"
    return {
        SpotKind.BODY: "in a text document",
        SpotKind.CELL: "in a cell of a table",
        SpotKind.SHEET: "on a sheet",
        SpotKind.MESSAGE: "in a message",
    }[spot.kind]
