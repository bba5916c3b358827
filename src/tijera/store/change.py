"""A change under way, and the journal in which each row that it touches stands as it was before and after."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from peewee import Model

from tijera.core.errors import NotFound, Superseded
from tijera.records import (
    ClippingRecord,
    DestinationRecord,
    DispatchRecord,
    FrameRecord,
    HandoverRecord,
    LinkRecord,
    PlacementRecord,
    RoundRecord,
)
from tijera.store import models
from tijera.store.rows import R, Record, Row, ranked, record_of, row_of


def _journal_name(model: type[Model]) -> str:
    """What a table is called in the journal, which outlives the names of classes."""
    return model.__name__.removesuffix("Row")


MODEL_OF: dict[type[Any], type[Model]] = {
    FrameRecord: models.FrameRow,
    ClippingRecord: models.ClippingRow,
    DestinationRecord: models.DestinationRow,
    PlacementRecord: models.PlacementRow,
    HandoverRecord: models.HandoverRow,
    DispatchRecord: models.DispatchRow,
    LinkRecord: models.LinkRow,
    RoundRecord: models.RoundRow,
}
WHAT = {
    FrameRecord: "frame",
    ClippingRecord: "clipping",
    DestinationRecord: "document",
    PlacementRecord: "placed picture",
    HandoverRecord: "handed-over file",
    DispatchRecord: "message",
    LinkRecord: "link",
    RoundRecord: "rounds",
}
_RANK = "last rank"
"""The setting that counts what came."""
MODEL_NAMED = {_journal_name(model): model for model in models.TABLES}


class Change:
    """A change under way: what it saves and removes goes into the journal together."""

    def __init__(self, label: str) -> None:
        self.label = label
        """What undo is offered as; may still be set while the change is made."""
        self.rows: list[dict[str, Any]] = []

    def save(self, record: R) -> R:
        """Insert a record, or replace the one with its id; a clipping or placement that is new comes last in its order."""
        model = MODEL_OF[type(record)]
        before = read_row(model, record.id)
        if before is None:
            if getattr(record, "rank", None) == 0:
                record = ranked(record, self.next_rank())
            after = row_of(record)
            model.insert(after).execute()
        else:
            after = row_of(record)
            put_back(model, record.id, after, _differing(before, after))
        self._note(model, record.id, before, after)
        return record

    def update(self, before: R, after: R, also: Collection[str] = ()) -> R:
        """Bring a record from what it was, as it was read, to what it becomes: only the fields that change are written.

        Where one of them, or one of `also`, is not any more what was read, somebody else was quicker. Raises `NotFound`,
        `Superseded`. Returns the record as it stands then, with what others changed in other fields.
        """
        kind, model = type(before), MODEL_OF[type(before)]
        now = read_row(model, before.id)
        if now is None:
            raise NotFound(what=WHAT[kind], key=before.id)
        was, becomes = row_of(before), row_of(after)
        changed = _differing(was, becomes)
        if any(now[name] != was[name] for name in changed | set(also)):
            raise Superseded(what=WHAT[kind])
        merged = now | {name: becomes[name] for name in changed}
        put_back(model, before.id, merged, changed)
        self._note(model, before.id, now, merged)
        return record_of(kind, merged)

    def next_rank(self) -> int:
        """A number above all that were given before: the order in which things came, whatever the clock says."""
        row = models.SettingRow.get_or_none(models.SettingRow.name == _RANK)
        rank = 1 if row is None else int(row.value) + 1
        models.SettingRow.insert({"name": _RANK, "value": str(rank)}).on_conflict_replace().execute()
        return rank

    def _note(self, model: type[Model], record_id: str, before: Row | None, after: Row) -> None:
        if before != after:
            self.rows.append({"table": _journal_name(model), "id": record_id, "before": before, "after": after})

    def remove(self, record: Record) -> None:
        """Remove a record."""
        model = MODEL_OF[type(record)]
        before = read_row(model, record.id)
        if before is not None:
            model.delete().where(model._meta.primary_key == record.id).execute()
            self.rows.append({"table": _journal_name(model), "id": record.id, "before": before, "after": None})


def read_row(model: type[Model], record_id: str) -> Row | None:
    """A row as it stands; None where there is none."""
    key = model._meta.primary_key
    row = model.select().where(key == record_id).dicts().first()
    return None if row is None else dict(row)


def changed_columns(entry: dict[str, Any]) -> set[str]:
    """The columns that a journal entry changed; all of them where a row came or went."""
    return _differing(entry["before"] or {}, entry["after"] or {})


def _differing(before: Row, after: Row) -> set[str]:
    """The columns in which two rows differ."""
    return {name for name in before.keys() | after.keys() if before.get(name) != after.get(name)}


def put_back(model: type[Model], record_id: str, row: Row | None, columns: set[str]) -> None:
    """Bring a row to what it was. What an entry did not change stays: it may have been set since, outside of undo."""
    key = model._meta.primary_key
    if row is None:
        model.delete().where(key == record_id).execute()
    elif read_row(model, record_id) is None:
        model.insert(row).execute()
    elif columns:
        model.update({name: row[name] for name in columns}).where(key == record_id).execute()
