"""The check that runs on every save: every part of the message is what it was, and what was added decodes to what it is."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from tijera.core.errors import StructureBroken
from tijera.core.packages.formats.eml.mime import Entity, parse
from tijera.core.packages.formats.eml.transfer import decode, text_of

if TYPE_CHECKING:
    from tijera.core.packages.formats.eml.document import EmlDocument

_NAME = "message"


def check_message(
    document: EmlDocument,
    data: bytes,
    shown: Sequence[bytes],
    handed: Sequence[bytes],
    elements: Sequence[tuple[int, str]],
) -> None:
    """Check a changed message, given the pictures that came in, those attached, and the elements with the places
    of its HTML that they went to (in characters, rising). Raises `StructureBroken`.
    """
    root = parse(data)
    before, after = list(document.root.leaves()), list(root.leaves())
    wanted = [*shown, *handed]
    fresh: list[bytes] = []
    at = 0
    for leaf in after:
        if at < len(before) and _same(document, before[at], leaf, elements):
            at += 1
        else:
            fresh.append(decode(leaf))
    if at != len(before):
        raise StructureBroken(part=_NAME, why="a part of it changed")
    if sorted(fresh) != sorted(wanted):
        raise StructureBroken(part=_NAME, why="a picture did not arrive, or something else did")
    if _other_fields(document.root) != _other_fields(root):
        raise StructureBroken(part=_NAME, why="a header field changed")


def _same(document: EmlDocument, before: Entity, after: Entity, elements: Sequence[tuple[int, str]]) -> bool:
    """Whether a part is what it was; the HTML, but for the elements at their places."""
    if before is document.html and elements:
        if after.type != before.type:
            return False
        original, wanted, at = document.html_text[0], "", 0
        for place, each in elements:
            wanted += original[at:place] + each
            at = place
        return _flat(text_of(after)[0]) == _flat(wanted + original[at:])
    return before.body == after.body and _own(before) == _own(after)


def _flat(text: str) -> str:
    """Text without white space: line ends come in round an element and in it."""
    return "".join(text.split())


def _own(entity: Entity) -> list[tuple[str, str]]:
    """The fields about a part's content."""
    fields = [(name.lower(), str(value)) for name, value in entity.fields.items()]
    return [field for field in fields if field[0].startswith("content-") and field[0] != "content-length"]


def _other_fields(entity: Entity) -> list[tuple[str, str]]:
    """The fields that are not about a part's content, but for the version of MIME."""
    fields = [(name.lower(), str(value)) for name, value in entity.fields.items()]
    return [field for field in fields if not field[0].startswith("content-") and field[0] != "mime-version"]
