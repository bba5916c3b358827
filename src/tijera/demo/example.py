"""What the demo starts with: the handbook, its limit, a few clippings of the practice desk."""

from __future__ import annotations

from tijera.core.geometry import Rect
from tijera.demo import notice, tide_table
from tijera.demo.handbook import NAME, make_handbook
from tijera.usecases import destinations, taking
from tijera.usecases.limits import remember_for_address
from tijera.usecases.mailing import Recipient, remember_own_address
from tijera.usecases.workshop import Example, Workshop

LIMIT_BYTES = 2_000_000
_INSET = 3
"""Cut inside a window's edge, in frame pixels."""
_TAKEN = ("harbour-chart", "crew-roster", "engine-log")


EXAMPLES = (
    Example(NAME, make_handbook, LIMIT_BYTES),
    Example(tide_table.NAME, tide_table.make_tide_table),
    Example(notice.NAME, notice.make_notice),
)
"""The handbook with a limit of 2 MB, a workbook, a message."""

OWN_ADDRESS = "Ferry watch <watch@quillhaven.example>"
RECIPIENTS = (
    Recipient("Help desk", "help-desk@quillhaven.example", "Help desk: {window}", 2_000_000),
    Recipient("Work order", "work-orders@quillhaven.example", "{window}", 2_000_000),
    Recipient("Harbour office", "harbour-office@quillhaven.example", "", 10_000_000),
)
"""Mailboxes of the postbox, as somebody who writes to them would have saved them."""


def fill(workshop: Workshop) -> None:
    """Hang clippings on the rack and open the handbook, unless that was done at an earlier start."""
    if workshop.store.destinations() or workshop.store.clippings():
        return
    desk = workshop.desktop("desk")
    order = [window.id for window in desk.look().windows]
    for window_id in _TAKEN:
        desk.raise_window(window_id)
        frame = taking.freeze(workshop, "desk")
        box = frame.windows[0].box
        inside = Rect(box.x + _INSET, box.y + _INSET, box.width - 2 * _INSET, box.height - 2 * _INSET)
        cut = taking.Cut(taking.CutKind.WINDOW, inside)
        taking.take(workshop, frame.id, cut, name=frame.windows[0].title)
    for window_id in order:
        desk.raise_window(window_id)
    remember_own_address(workshop, OWN_ADDRESS)
    for each in RECIPIENTS:
        if each.limit_bytes is not None:
            remember_for_address(workshop, each.address, each.limit_bytes)
    destinations.open_destination(workshop, make_handbook(), NAME, LIMIT_BYTES)
    workshop.store.forget_changes()
