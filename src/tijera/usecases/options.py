"""The user's options, kept on the server."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass, field, fields, replace
from typing import Any

from tijera.core.keys import check_keys
from tijera.core.naming import DEFAULT_PATTERN, check_pattern
from tijera.usecases.workshop import Workshop

_SETTING = "options"


@dataclass(frozen=True)
class Options:
    """What can be set."""

    keep_at_once: bool = True
    """What was drawn goes into the chosen place as soon as the pointer lets go."""
    to_clipboard: bool = False
    """What is taken also goes onto the clipboard, as PNG."""
    pointer: bool = False
    """The pointer is shown in what is taken."""
    single_letters: bool = True
    """Keys without Ctrl or Alt work."""
    name_pattern: str = DEFAULT_PATTERN
    delay_seconds: int = 4
    by_day: bool = False
    """The rack is divided by days."""
    keys: dict[str, str] = field(default_factory=dict)
    """Changed keys, by action."""


def options(workshop: Workshop) -> Options:
    """The options as they stand."""
    kept = workshop.store.setting(_SETTING)
    if kept is None:
        return Options()
    known = {each.name for each in fields(Options)}
    return Options(**{name: value for name, value in json.loads(kept).items() if name in known})


def change_options(workshop: Workshop, **changes: Any) -> Options:  # noqa: ANN401  (the fields of `Options`)
    """Set some of them; the rest stay. Raises `OptionUnreadable`, `KeyTaken`; then nothing is set."""
    if "name_pattern" in changes:
        changes["name_pattern"] = check_pattern(changes["name_pattern"])
    if "keys" in changes:
        changes["keys"] = check_keys(changes["keys"])
    changed = replace(options(workshop), **changes)
    workshop.store.remember(_SETTING, json.dumps(asdict(changed)))
    return changed
