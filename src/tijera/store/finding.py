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
    + ", (SELECT count(*) FROM placement p WHERE p.clipping = c.id), c.parts, c.rank, c.pinned"
)
"""Those of `records.Slip`, its version put together as in `ClippingRecord.version`."""


def slips_query(terms: Sequence[str]) -> tuple[str, list[str]]:
    """The statement and its values: those that are pinned first, then the newest, every term somewhere in a clipping's words, cases alike."""
    rest, values = _having(terms)
    return f"SELECT {_COLUMNS} FROM clipping c{rest} ORDER BY c.pinned DESC, c.rank DESC, c.id", values


def count_query(terms: Sequence[str]) -> tuple[str, list[str]]:
    """The statement that counts them, and its values."""
    rest, values = _having(terms)
    return f"SELECT count(*) FROM clipping c{rest}", values


def _having(terms: Sequence[str]) -> tuple[str, list[str]]:
    long = [term for term in terms if len(term) >= _LEAST_INDEXED]
    short = [term for term in terms if len(term) < _LEAST_INDEXED]
    values, where = [], []
    sql = " JOIN clipping_words w ON w.rowid = c.rowid" if terms else ""
    if long:
        where.append("w.words MATCH ?")
        values.append(" AND ".join('"' + term.replace('"', '""') + '"' for term in long))
    for term in short:
        where.append("w.words LIKE ? ESCAPE '!'")
        escaped = "".join(f"!{sign}" if sign in "!%_" else sign for sign in term)
        values.append(f"%{escaped}%")
    if where:
        sql += " WHERE " + " AND ".join(where)
    return sql, values
