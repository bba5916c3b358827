"""Changing one record: worked out on what it is now, and once more where somebody else was quicker.

What a change is worked out from is read outside of the transaction, since working it out may take its time; in the
transaction only the fields that change are compared with what was read, and written.
"""

from __future__ import annotations

from collections.abc import Callable, Collection

from tijera.core.errors import Superseded
from tijera.store.rows import R, ranked
from tijera.usecases.workshop import Workshop

_MOST_TRIES = 50


def change_one(
    workshop: Workshop,
    kind: type[R],
    record_id: str,
    label: Callable[[R, R], str],
    make: Callable[[R], R],
    *,
    history: str | None = None,
    also: Collection[str] = (),
    to_the_end: bool = False,
) -> R:
    """Bring a record to what `make` makes of it, as one change under a label made of before and after.

    `history` is the clipping whose own history it belongs to; `also` names fields that must not change meanwhile although
    they are not written; `to_the_end` makes it the last in its order. Raises `NotFound`, and what `make` raises.
    """
    for _ in range(_MOST_TRIES):
        before = workshop.store.find(kind, record_id)
        after = make(before)
        try:
            with workshop.store.change(label(before, after), history) as change:
                if to_the_end:
                    after = ranked(after, change.next_rank())
                return change.update(before, after, also)
        except Superseded as error:
            latest = error
    raise latest
