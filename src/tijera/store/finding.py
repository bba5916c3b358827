"""Finding clippings while somebody types: by an index of three-letter groups (SQLite FTS5, tokenizer trigram)."""

from __future__ import annotations

from collections.abc import Sequence

from tijera.records import SHEET_DIGITS

_LEAST_INDEXED = 3
"""Shorter terms have no group in the index and are looked for in the words themselves."""

_VERSION_OF_SHEET = f"CASE WHEN c.sheet IS NULL THEN '' ELSE '.s' || substr(c.sheet, 1, {SHEET_DIGITS}) END"
_COLUMNS = (
    "c.id, c.name, c.window, c.taken_at, c.kind, c.crop_width, c.crop_height, "
    "c.crop_x || '.' || c.crop_y || '.' || c.crop_width || '.' || c.crop_height || "
    "CASE WHEN c.pointer_x IS NULL THEN '' ELSE '.p' || c.pointer_x || '.' || c.pointer_y END || "
    + _VERSION_OF_SHEET
    + ", (SELECT count(*) FROM placement p WHERE p.clipping = c.id), c.parts, c.rank, c.pinned, c.round"
)
"""Those of `records.Slip`, its version put together as in `ClippingRecord.version`."""


_LAST_OF_ROUND = "c.rank = (SELECT max(x.rank) FROM clipping x WHERE x.round = c.round)"
"""Rounds hang on the rack as one slip, the last that they took."""


def slips_query(terms: Sequence[str], round_id: str | None = None) -> tuple[str, list[str]]:
    """The statement and its values: those that are pinned first, then the newest, every term somewhere, cases alike.

    Without terms rounds are one slip; with `round_id` what some rounds have taken, one by one.
    """
    rest, values = _having(terms, round_id)
    return f"SELECT {_COLUMNS} FROM clipping c{rest} ORDER BY c.pinned DESC, c.rank DESC, c.id", values


def count_query(terms: Sequence[str], round_id: str | None = None) -> tuple[str, list[str]]:
    """The statement that counts them, and its values."""
    rest, values = _having(terms, round_id)
    return f"SELECT count(*) FROM clipping c{rest}", values


def _having(terms: Sequence[str], round_id: str | None) -> tuple[str, list[str]]:
    """Every term somewhere: in a clipping's own words, on its picture, or in what is said of a file in which it stands."""
    long = [term for term in terms if len(term) >= _LEAST_INDEXED]
    short = [term for term in terms if len(term) < _LEAST_INDEXED]
    values, where = [], []
    sql = " JOIN findable f ON f.rowid = c.rowid" if terms else ""
    if long:
        where.append("findable MATCH ?")
        values.append(" AND ".join('"' + term.replace('"', '""') + '"' for term in long))
    for term in short:
        where.append("(f.own || char(10) || f.shown || char(10) || f.places) LIKE ? ESCAPE '!'")
        escaped = "".join(f"!{sign}" if sign in "!%_" else sign for sign in term)
        values.append(f"%{escaped}%")
    if round_id is not None:
        where.append("c.round = ?")
        values.append(round_id)
    elif not terms:
        where.append(f"(c.round IS NULL OR {_LAST_OF_ROUND})")
    if where:
        sql += " WHERE " + " AND ".join(where)
    return sql, values
