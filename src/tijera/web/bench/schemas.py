"""What goes over the wire about the bench as a whole: what lies on it, options, keys."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from tijera.web.base import Wire
from tijera.web.place.schemas import DestinationOut
from tijera.web.rack.schemas import ClippingOut


class SessionOut(Wire):
    """Who is signed in."""

    person: str | None


class BenchOut(Wire):
    """Everything that lies on the bench: the newest clipping, those in the current destination, how many hang in all."""

    newest: ClippingOut | None
    placed: list[ClippingOut]
    count: int
    destination: DestinationOut | None
    undo: str | None
    redo: str | None
    examples: list[str]
    """The made-up files to try things on, by name."""


class OptionsIn(Wire):
    """Options to set; what is left out stays."""

    keep_at_once: bool | None = None
    to_clipboard: bool | None = None
    pointer: bool | None = None
    single_letters: bool | None = None
    name_pattern: Annotated[str, Field(max_length=200)] | None = None
    delay_seconds: Annotated[int, Field(ge=1, le=120)] | None = None
    by_day: bool | None = None
    keys: dict[Annotated[str, Field(max_length=40)], Annotated[str, Field(max_length=40)]] | None = None


class ActionOut(Wire):
    """Something that a key does, and the key that it has now."""

    id: str
    where: str
    does: str
    key: str
    default: str


class FixedKeyOut(Wire):
    """A key that always means the same."""

    where: str
    key: str
    does: str


class OptionsOut(Wire):
    """All options, and all keys as they stand."""

    keep_at_once: bool
    to_clipboard: bool
    pointer: bool
    single_letters: bool
    name_pattern: str
    delay_seconds: int
    by_day: bool
    actions: list[ActionOut]
    fixed: list[FixedKeyOut]
