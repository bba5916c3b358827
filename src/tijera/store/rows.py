"""From records to rows and back: what is a tuple or a value of its own in a record is JSON in its column."""

from __future__ import annotations

import json
from dataclasses import asdict, replace
from typing import Any, TypeVar, cast

from tijera.core.frames.frame import Monitor, WindowBox
from tijera.core.geometry import Rect
from tijera.records import (
    ClippingRecord,
    DestinationRecord,
    DispatchRecord,
    FrameRecord,
    Gap,
    HandoverRecord,
    KeptPointer,
    LinkRecord,
    PlacementRecord,
    RoundRecord,
    Try,
)
from tijera.store.layouts import layout_as_json, layout_from_json

Row = dict[str, Any]
Record = (
    FrameRecord
    | ClippingRecord
    | DestinationRecord
    | PlacementRecord
    | HandoverRecord
    | DispatchRecord
    | LinkRecord
    | RoundRecord
)
R = TypeVar(
    "R",
    FrameRecord,
    ClippingRecord,
    DestinationRecord,
    PlacementRecord,
    HandoverRecord,
    DispatchRecord,
    LinkRecord,
    RoundRecord,
)

_ROUND_LISTS = ("at", "gaps")
_LISTS = ("recipients", "reached", "refused", "tries")


def ranked(record: R, rank: int) -> R:
    """A record of a kind that has an order, with another place in it."""
    return cast("R", replace(cast("Any", record), rank=rank))


def row_of(record: Record) -> Row:
    """A record as a row."""
    row = asdict(record)
    if isinstance(record, FrameRecord):
        row["windows"] = json.dumps(row["windows"])
        row["monitors"] = json.dumps(row["monitors"])
        row["pointer"] = None if record.pointer is None else json.dumps(row["pointer"])
    if isinstance(record, ClippingRecord):
        row["outline"] = None if record.outline is None else json.dumps(record.outline)
        row["parts"] = json.dumps(record.parts)
    if isinstance(record, PlacementRecord):
        row["layout"] = layout_as_json(record.layout)
    if isinstance(record, RoundRecord):
        row |= {name: json.dumps(row[name]) for name in _ROUND_LISTS}
    if isinstance(record, DispatchRecord):
        row |= {name: json.dumps(row[name]) for name in _LISTS}
    return row


def record_of(kind: type[R], row: Any) -> R:  # noqa: ANN401  (a mapping, whatever peewee calls it)
    """A row as a record."""
    values = dict(row)
    if kind is FrameRecord:
        values["windows"] = tuple(_window(each) for each in json.loads(row["windows"]))
        values["monitors"] = tuple(
            Monitor(**{**each, "box": Rect(**each["box"])}) for each in json.loads(row["monitors"])
        )
        values["pointer"] = None if row["pointer"] is None else KeptPointer(**json.loads(row["pointer"]))
    if kind is ClippingRecord:
        values["outline"] = None if row["outline"] is None else tuple((x, y) for x, y in json.loads(row["outline"]))
        values["parts"] = tuple(json.loads(row["parts"]))
    if kind is PlacementRecord:
        values["layout"] = layout_from_json(row["layout"])
    if kind is RoundRecord:
        values["at"] = tuple(json.loads(row["at"]))
        values["gaps"] = tuple(Gap(**each) for each in json.loads(row["gaps"]))
    if kind is DispatchRecord:
        values["recipients"], values["reached"] = (tuple(json.loads(row[name])) for name in ("recipients", "reached"))
        values["refused"] = tuple((address, words) for address, words in json.loads(row["refused"]))
        values["tries"] = tuple(Try(**each) for each in json.loads(row["tries"]))
    return kind(**values)


def _window(each: dict[str, Any]) -> WindowBox:
    content = each.get("content")
    return WindowBox(
        each["id"],
        each["title"],
        Rect(**each["box"]),
        each["depth"],
        None if content is None else Rect(**content),
        each.get("is_whole", False),
    )
