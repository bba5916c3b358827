"""Limits, remembered: what a form or an address takes is what it took the last time."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import replace
from email.utils import getaddresses

from tijera.core.packages.registry import is_new_name
from tijera.records import DestinationRecord
from tijera.store.letters import letter_from_json
from tijera.usecases.changing import change_one
from tijera.usecases.workshop import Workshop

_SETTING = "limits"
_MOST_REMEMBERED = 1_000


def set_limit(workshop: Workshop, destination_id: str, limit_bytes: int | None) -> DestinationRecord:
    """Say what a file may weigh; remembered for its name and for whom it goes to. Raises `NotFound`."""
    record = change_one(
        workshop,
        DestinationRecord,
        destination_id,
        lambda _, __: "Change the limit",
        lambda before: replace(before, limit_bytes=limit_bytes),
    )
    _keep(workshop, _keys_of(record), limit_bytes)
    return record


def remember_for_address(workshop: Workshop, address: str, limit_bytes: int) -> None:
    """Remember what an address takes."""
    _keep(workshop, _address_keys((address,)), limit_bytes)


def remembered_for_name(workshop: Workshop, name: str) -> int | None:
    """The limit that a file of this name had the last time; None where none is known."""
    return None if is_new_name(name) else _remembered(workshop).get(_name_key(name))


def remembered_for_addresses(workshop: Workshop, *fields: str) -> int | None:
    """The least that any of the addresses in some fields takes; None where none is known."""
    known = _remembered(workshop)
    return min((known[key] for key in _address_keys(fields) if key in known), default=None)


def _remembered(workshop: Workshop) -> dict[str, int]:
    kept = workshop.store.setting(_SETTING)
    return {} if kept is None else json.loads(kept)


def _keep(workshop: Workshop, keys: Iterable[str], limit_bytes: int | None) -> None:
    known = _remembered(workshop)
    for key in keys:
        known.pop(key, None)
        if limit_bytes is not None:
            known[key] = limit_bytes
    newest = dict(list(known.items())[-_MOST_REMEMBERED:])
    workshop.store.remember(_SETTING, json.dumps(newest))


def _keys_of(record: DestinationRecord) -> list[str]:
    if record.letter is None:
        return [] if is_new_name(record.name) else [_name_key(record.name)]
    letter = letter_from_json(record.letter)
    return _address_keys((letter.to, letter.cc))


def _name_key(name: str) -> str:
    return f"file {name.casefold()}"


def _address_keys(fields: Iterable[str]) -> list[str]:
    return [f"address {address.casefold()}" for _, address in getaddresses(list(fields)) if "@" in address]
