"""Sheets as JSON, kept among the blobs: a row holds only the key, so a change of a mark stays small in the journal."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from tijera.core.clippings.sheet import Edge, Margins, Sheet, Tones, Turn
from tijera.core.marks.mark import Mark


class _Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class _Mark(_Kept):
    id: str
    kind: str
    points: list[tuple[float, float]]
    options: dict[str, bool | float | str] = {}
    pressures: list[float] = []


class _Turn(_Kept):
    flipped: bool = False
    quarters: int = 0
    degrees: float = 0.0


class _Tones(_Kept):
    brightness: float = 0.0
    contrast: float = 0.0
    paler: float = 0.0
    grey: bool = False
    print_friendly: bool = False


class _Room(_Kept):
    left: int = 0
    top: int = 0
    right: int = 0
    bottom: int = 0


class _Edge(_Kept):
    weight_pt: float = 0.0
    colour: str = "ink"
    dash: str = "solid"
    shadow_pt: float = 0.0


class _Sheet(_Kept):
    form: Literal[1] = 1
    marks: list[_Mark] = []
    turn: _Turn = _Turn()
    tones: _Tones = _Tones()
    room: _Room = _Room()
    ground: Annotated[str | None, Field()] = None
    edge: _Edge = _Edge()
    scale: float = 1.0


def sheet_as_json(sheet: Sheet) -> bytes:
    """A sheet as it is kept; the same sheet gives the same bytes."""
    values = {"form": 1, **asdict(sheet)}
    for mark in values["marks"]:
        mark["options"] = dict(sorted(mark["options"].items()))
    return json.dumps(values, ensure_ascii=False, separators=(",", ":")).encode()


def sheet_of_json(data: bytes) -> Sheet:
    """A kept sheet."""
    kept = _Sheet.model_validate_json(data)
    marks = tuple(
        Mark(each.id, each.kind, tuple(each.points), each.options, tuple(each.pressures)) for each in kept.marks
    )
    return Sheet(
        marks,
        Turn(**kept.turn.model_dump()),
        Tones(**kept.tones.model_dump()),
        Margins(**kept.room.model_dump()),
        kept.ground,
        Edge(**kept.edge.model_dump()),
        kept.scale,
    )
