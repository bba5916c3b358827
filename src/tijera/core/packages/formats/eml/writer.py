"""Placing pictures in a message: parts are added between its boundaries, one element is put into its one HTML part.

Nothing of the message is written anew. Sources: RFC 2387 (multipart/related), RFC 2392 (cid), RFC 2183 (disposition),
RFC 2231 (file names), RFC 2046 §5.1 (boundaries).
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from html import escape
from itertools import count
from urllib.parse import quote

from tijera.core.packages.formats.eml.document import EmlDocument
from tijera.core.packages.formats.eml.mime import Entity, parse, sorted_head
from tijera.core.packages.formats.eml.save_check import check_message
from tijera.core.packages.formats.eml.told import kept_true
from tijera.core.packages.formats.eml.transfer import base64_lines, spliced
from tijera.core.packages.places.placed import Align, PlacedPicture, Written
from tijera.core.packages.places.spots import Stand
from tijera.core.units import EMU_PER_PIXEL, round_half_up

_ID_DIGITS, _BOUNDARY_DIGITS = 20, 24
_MOST_NAME = 80
_UNSAFE = '/\\:*?"<>|\r\n\t'
_MARGIN_PX = 12


@dataclass(frozen=True)
class _Part:
    """A part that is added, without its boundary."""

    head: bytes
    body: bytes

    def bytes(self, newline: bytes) -> bytes:
        return self.head + newline + self.body


def write(document: EmlDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the message with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Raises `SpotUnknown`, or `StructureBroken` when the
    structural check fails.
    """
    if not pictures:
        return Written(document.data, ())
    newline = document.newline
    stands = [picture.stand_at(document.spot(picture.spot)) for picture in pictures]
    names, in_text = _file_names(document, pictures, stands)
    there = _there_already(document)
    ids = [_content_id(document, picture, there) for picture in pictures]
    shown = [n for n, stand in enumerate(stands) if stand in (Stand.IN_BODY, Stand.BOTH)]
    handed = [n for n, stand in enumerate(stands) if stand in (Stand.ATTACHED, Stand.BOTH)]
    data = document.data
    seal = _boundary(document, pictures)
    elements: list[tuple[int, str]] = []
    if shown:
        puts = sorted(((document.put_at(pictures[n].spot), n) for n in shown), key=lambda put: put[0])
        elements = [(at, element(pictures[n], ids[n])) for at, n in puts]
        once = [n for n in list({ids[n]: n for n in reversed(shown)}.values())[::-1] if ids[n] not in there]
        parts = [_inline(pictures[n], ids[n], in_text[n], newline) for n in once]
        data = _in_body(document, elements, parts, seal + "r", newline)
    if handed:
        parts = [_attached(pictures[n], names[n], newline) for n in handed]
        data = _attach(data, parts, seal + "m", newline)
    data = kept_true(document.root, document.html if shown else None, data)
    check_message(
        document,
        data,
        list({ids[n]: pictures[n].data for n in shown if ids[n] not in there}.values()),
        [pictures[n].data for n in handed],
        elements,
    )
    kept = {ids[n]: there.get(ids[n], in_text[n]) for n in reversed(shown)}
    members = tuple(kept[ids[n]] if n in shown else names[n] for n in range(len(pictures)))
    copies = tuple((names[n], members[n]) for n in handed if n in shown)
    return Written(data, members, copies)


def element(picture: PlacedPicture, content_id: str) -> str:
    """The one element that stands in the body: the picture with its words, in ASCII."""
    layout = picture.layout
    width, height = (
        max(round_half_up(Fraction(each.emu, EMU_PER_PIXEL)), 1) for each in (picture.width, picture.height)
    )
    align = {Align.LEFT: "left", Align.CENTRE: "center", Align.RIGHT: "right"}[layout.align]
    margin = _MARGIN_PX if layout.margin is None else layout.margin.pixels
    image = (
        f'<img src="cid:{content_id}" alt="{escape(picture.description)}" width="{width}" height="{height}"'
        f' style="width:{width}px;max-width:100%;height:auto;border:0">'
    )
    words = f'<p style="margin:4px 0;font-style:italic">{escape(layout.caption)}</p>' if layout.caption else ""
    if picture.legend:
        lines = "".join(f"<li{_value(line.label)}>{escape(line.text)}</li>" for line in picture.legend)
        kind = "" if picture.legend[0].label.isdigit() else ' type="A"'
        words += f'<ol{kind} style="text-align:left">{lines}</ol>'
    if layout.beside:
        image = (
            '<table role="presentation" cellspacing="0" cellpadding="0" style="border:0"><tr>'
            f'<td style="vertical-align:top">{image}</td>'
            f'<td style="vertical-align:top;text-align:left;padding-left:12px">{escape(layout.beside)}</td></tr></table>'
        )
    above, below = (words, "") if layout.caption_above else ("", words)
    text = f'<div style="margin:{margin}px 0;text-align:{align}">{above}{image}{below}</div>'
    return text.encode("ascii", "xmlcharrefreplace").decode("ascii")


def _value(label: str) -> str:
    """The number that an item of a list shows; letters count by themselves."""
    return f' value="{label}"' if label.isdigit() else ""


def _there_already(document: EmlDocument) -> dict[str, str]:
    """The content-ids of pictures that the HTML can refer to as they are, and the members that they mean."""
    related = None if document.html is None else _related_round(document.root, document.html)
    if related is None:
        return {}
    beside = {id(leaf) for child in related.children[1:] for leaf in child.leaves()}
    return {
        leaf.content_id: member for member, leaf in document.members.items() if leaf.content_id and id(leaf) in beside
    }


def _content_id(document: EmlDocument, picture: PlacedPicture, there: Mapping[str, str]) -> str:
    """An id that means these bytes and nothing else in the message (RFC 2045 §7: it is unique).

    The same picture beside the HTML already is referred to by the id that it has.
    """
    digest = hashlib.sha256(picture.data).hexdigest()[:_ID_DIGITS]
    for number in count():
        content_id = f"{digest}{f'.{number}' if number else ''}@clippings.tijera"
        member = document.shown_as.get(content_id)
        if member is None or (content_id in there and document.read(member) == picture.data):
            return content_id
    raise AssertionError


def _file_names(
    document: EmlDocument, pictures: Sequence[PlacedPicture], stands: Sequence[Stand]
) -> tuple[list[str], list[str]]:
    """What each picture is called as an attachment and in the text; none twice, none that the message has already."""
    taken = {name.casefold() for name in document.member_names}

    def free(stem: str, ending: str) -> str:
        name, number = f"{stem}.{ending}", 2
        while name.casefold() in taken:
            name, number = f"{stem} {number}.{ending}", number + 1
        taken.add(name.casefold())
        return name

    handed, in_text = [], []
    for picture, stand in zip(pictures, stands, strict=True):
        plain = "".join(" " if sign in _UNSAFE or ord(sign) < 32 else sign for sign in picture.name)
        stem = " ".join(plain.split())[:_MOST_NAME].strip(". ") or "Clipping"
        ending = "jpg" if picture.extension == "jpeg" else picture.extension
        handed.append(free(stem, ending))
        in_text.append(free(f"{stem} (in the text)", ending) if stand is Stand.BOTH else handed[-1])
    return handed, in_text


def _boundary(document: EmlDocument, pictures: Iterable[PlacedPicture]) -> str:
    """A boundary that stands nowhere in the message; the same for the same message and pictures (RFC 2046 §5.1.1)."""
    digest = hashlib.sha256(document.data)
    for picture in pictures:
        digest.update(picture.data + picture.spot.encode("utf-8", "replace"))
    number = 0
    while True:
        seal = "=_" + hashlib.sha256(digest.digest() + bytes((number,))).hexdigest()[:_BOUNDARY_DIGITS]
        if seal.encode("ascii") not in document.data:
            return seal
        number += 1


def _type_fields(picture: PlacedPicture, name: str, newline: bytes) -> bytes:
    lines = [f"Content-Type: {picture.media_type};", f" {_parameter('name', name)}"]
    return newline.join([line.encode("ascii") for line in [*lines, "Content-Transfer-Encoding: base64"]]) + newline


def _parameter(name: str, value: str) -> str:
    """A parameter of a field: plain where it can be, else as RFC 2231 says."""
    if value.isascii():
        return f'{name}="{value}"'
    return f"{name}*=UTF-8''{quote(value, safe='')}"


def _inline(picture: PlacedPicture, content_id: str, name: str, newline: bytes) -> _Part:
    fields = newline.join(
        (
            f"Content-ID: <{content_id}>".encode("ascii"),
            b"Content-Disposition: inline;",
            f" {_parameter('filename', name)}".encode("ascii"),
        )
    )
    return _Part(_type_fields(picture, name, newline) + fields + newline, base64_lines(picture.data, newline))


def _attached(picture: PlacedPicture, name: str, newline: bytes) -> _Part:
    fields = newline.join((b"Content-Disposition: attachment;", f" {_parameter('filename', name)}".encode("ascii")))
    return _Part(_type_fields(picture, name, newline) + fields + newline, base64_lines(picture.data, newline))


def _in_body(
    document: EmlDocument, elements: Sequence[tuple[int, str]], parts: Sequence[_Part], boundary: str, newline: bytes
) -> bytes:
    """The message with elements in its HTML and the pictures that they show beside it."""
    shown = document.html
    text, charset = document.html_text
    if shown is None or charset is None:
        return document.data
    body = spliced(shown, text, charset, elements, newline)
    related = _related_round(document.root, shown)
    if related is not None:
        data = document.data
        at = related.children[-1].end
        added = _added(parts, related.boundary or b"", newline, data[at - 1 : at])
        closing = b"" if related.is_closed else newline + b"--" + (related.boundary or b"") + b"--" + newline
        return data[: shown.body_start] + body + data[shown.end : at] + added + closing + data[at:]
    return _wrapped(shown, body, parts, boundary, 'multipart/related; type="text/html"', newline)


def _related_round(root: Entity, shown: Entity) -> Entity | None:
    """The multipart/related whose root holds the HTML; None where there is none."""
    found = None
    for each in root.walk():
        if (
            each.type == "multipart/related"
            and each.children
            and any(part is shown for part in each.children[0].walk())
        ):
            found = each
    return found


def _attach(data: bytes, parts: Sequence[_Part], boundary: str, newline: bytes) -> bytes:
    """The message with parts that hang on it."""
    root = parse(data)
    if root.type == "multipart/mixed" and root.children and root.boundary:
        at = root.children[-1].end
        closing = b"" if root.is_closed else newline + b"--" + root.boundary + b"--" + newline
        return data[:at] + _added(parts, root.boundary, newline, data[at - 1 : at]) + closing + data[at:]
    return _wrapped(root, root.body, parts, boundary, "multipart/mixed", newline)


def _added(parts: Iterable[_Part], boundary: bytes, newline: bytes, before: bytes) -> bytes:
    """Parts behind another one, each with its delimiter before it; `before` is what that one ends in."""
    added = b"".join(newline + b"--" + boundary + newline + part.bytes(newline) for part in parts)
    # A carriage return at its end would be taken for half of the delimiter's line end.
    return b"\r" + added if before.endswith(b"\r") and newline == b"\n" else added


def _wrapped(entity: Entity, body: bytes, parts: Sequence[_Part], boundary: str, kind: str, newline: bytes) -> bytes:
    """The message with an entity made the first part of a new multipart; fields about its content go in with it."""
    data, seal = entity.data, boundary.encode("ascii")
    kept, moved, loose = map(_ended_by(newline), sorted_head(entity.head))
    is_message = entity.start == 0
    version = (
        b""
        if not is_message or "mime-version" in {name.lower() for name in entity.fields}
        else b"MIME-Version: 1.0" + newline
    )
    content = f"Content-Type: {kind};".encode("ascii") + newline + b' boundary="' + seal + b'"' + newline
    head = kept + version + content + loose
    inner = moved + newline + body
    whole = (
        head
        + newline
        + b"--"
        + seal
        + newline
        + inner
        + _added(parts, seal, newline, inner)
        + newline
        + b"--"
        + seal
        + b"--"
    )
    ending = newline if entity.end == len(data) else b""
    return data[: entity.start] + whole + ending + data[entity.end :]


def _ended_by(newline: bytes) -> Callable[[bytes], bytes]:
    """Lines, of which the last one ends with a line end too."""
    return lambda lines: lines + newline if lines and not lines.endswith(b"\n") else lines
