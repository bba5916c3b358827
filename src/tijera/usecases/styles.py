"""The last style of each kind of mark: the next one looks like it."""

from __future__ import annotations

import json
from collections.abc import Mapping

from tijera.core.errors import OptionUnreadable
from tijera.core.marks.kinds import kind_of, kinds
from tijera.core.marks.mark import Value, Words
from tijera.usecases.workshop import Workshop

STYLES = "mark styles"


def last_styles(workshop: Workshop) -> dict[str, dict[str, Value]]:
    """By kind, the options that were set last; what a later version would not know any more is left out."""
    kept = json.loads(workshop.store.setting(STYLES) or "{}")
    found = {}
    for kind_id, options in kept.items():
        if kind_id in kinds():
            try:
                kind_of(kind_id).resolve(options)
            except OptionUnreadable:
                continue
            found[kind_id] = options
    return found


def remember_style(workshop: Workshop, kind_id: str, options: Mapping[str, Value]) -> None:
    """Remember how a mark was styled; what it says belongs to it alone."""
    declared = kind_of(kind_id).declared()
    style = {name: value for name, value in options.items() if not isinstance(declared.get(name), Words)}
    before = last_styles(workshop)
    after = {**before, kind_id: {**before.get(kind_id, {}), **style}}
    if after != before:
        workshop.store.remember(STYLES, json.dumps(after, sort_keys=True))


def styled(workshop: Workshop, kind_id: str, options: Mapping[str, Value]) -> dict[str, Value]:
    """The options of a new mark: those given, over those of the last one of its kind."""
    return {**last_styles(workshop).get(kind_id, {}), **options}
