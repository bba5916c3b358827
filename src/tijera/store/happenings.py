"""What happened, the last first: taken, changed, handed over, sent; one statement over the tables that know of it.

Each part is sorted and cut by an index of its own before they are put together, so a page costs the same however much there is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

_PARTS = {
    "taken": "SELECT taken_at AS at, 'taken' AS kind, name AS words, '' AS detail, id AS clipping, NULL AS destination, "
    "NULL AS handover, NULL AS bytes, coalesce(round, '') AS said FROM clipping",
    "rounds": "SELECT begun_at AS at, 'rounds' AS kind, name AS words, '' AS detail, model AS clipping, NULL AS destination, "
    "NULL AS handover, NULL AS bytes, id AS said FROM round",
    "changed": "SELECT made_at AS at, 'changed' AS kind, label AS words, '' AS detail, clipping, NULL AS destination, "
    "NULL AS handover, NULL AS bytes, rows AS said FROM change WHERE NOT undone "
    "AND (label NOT LIKE 'Take %' OR label LIKE '% out')",
    "left": "SELECT made_at AS at, 'left' AS kind, name AS words, what AS detail, clipping, destination, id AS handover, "
    "bytes, '' AS said FROM handover",
    "open": "SELECT made_at AS at, state AS kind, name AS words, recipients AS detail, NULL AS clipping, destination, "
    "NULL AS handover, bytes, '' AS said FROM dispatch WHERE state != 'sent'",
    "withdrawn": "SELECT withdrawn_at AS at, 'withdrawn' AS kind, name AS words, 'link' AS detail, clipping, "
    "NULL AS destination, NULL AS handover, NULL AS bytes, '' AS said FROM link WHERE withdrawn_at IS NOT NULL",
}
"""What was sent is a hand-over too, and listed as that; taking a clipping is listed as its coming, what rounds took as theirs."""
_OF_CLIPPING = {
    "taken": "clipping = ?",
    "rounds": "clipping = ?",
    "changed": "(clipping = ? OR said LIKE ?)",
    "left": "clipping = ?",
    "open": None,
    "withdrawn": "clipping = ?",
}
_OF_DESTINATION = {
    "taken": None,
    "rounds": None,
    "changed": "said LIKE ?",
    "left": "destination = ?",
    "open": "destination = ?",
    "withdrawn": None,
}


@dataclass(frozen=True)
class Wanted:
    """Which happenings: before a moment, of a clipping, of a file, with every term in their words."""

    before: str = ""
    clipping: str | None = None
    destination: str | None = None
    terms: tuple[str, ...] = ()


def happenings_query(wanted: Wanted, most: int) -> tuple[str, list[object]]:
    """The statement and its values; columns as in `tijera.records.Happening`."""
    parts, values = [], []
    for name, select in _PARTS.items():
        where, own = _where(name, wanted)
        if where is None:
            continue
        parts.append(f"SELECT * FROM (SELECT * FROM ({select}){where} ORDER BY at DESC LIMIT {most})")
        values += own
    union = " UNION ALL ".join(parts)
    columns = "at, kind, words, detail, clipping, destination, handover, bytes"
    return f"SELECT {columns} FROM ({union}) ORDER BY at DESC LIMIT {most}", values


def _where(name: str, wanted: Wanted) -> tuple[str | None, list[object]]:
    """The condition of one part; None where it has nothing of what is wanted."""
    tests: list[str] = []
    values: list[object] = []
    if name == "taken" and wanted.clipping is None:
        tests.append("said = ''")
    if wanted.before:
        tests.append("at < ?")
        values.append(wanted.before)
    for key, column_of in ((wanted.clipping, _OF_CLIPPING), (wanted.destination, _OF_DESTINATION)):
        if key is None:
            continue
        test = column_of[name]
        if test is None:
            return None, []
        tests.append(test)
        # In the journal a record is named as JSON has it.
        values += [f'%"{key}"%' if part == "said LIKE ?" else key for part in _asked(test)]
    for term in wanted.terms:
        tests.append("(words || ' ' || detail || ' ' || at) LIKE ? ESCAPE '!'")
        values.append(f"%{_escaped(term)}%")
    return (f" WHERE {' AND '.join(tests)}" if tests else ""), values


def _asked(test: str) -> Sequence[str]:
    return [part.strip("() ") for part in test.split(" OR ")]


def _escaped(term: str) -> str:
    return "".join(f"!{sign}" if sign in "!%_" else sign for sign in term)
