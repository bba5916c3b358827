"""Pictures that a package of OpenDocument keeps twice or for nothing (ODF 1.2 Part 3: members are what the manifest lists)."""

from __future__ import annotations

import posixpath
from collections.abc import Mapping
from urllib.parse import unquote

from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.xmlspan import Splice, XmlPart
from tijera.core.packages.containers.zipped import Package, open_package, write_package
from tijera.core.packages.families.odf import manifest
from tijera.core.packages.families.odf.manifest import Manifest
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.families.odf.package import CONTENT, STYLES
from tijera.core.packages.places.reports import Tidied, twins_of

_PARTS = (CONTENT, STYLES)
_PREVIEWS = "Thumbnails/"
"""What a file manager shows of the document (ODF 1.2 Part 3 §3.7): nothing in it refers to that."""
_HREF, _PATH = q("xlink:href"), q("manifest:full-path")


def tidied(package: Package) -> Tidied:
    """Each picture once, none that nothing refers to; all else is copied raw. Raises `StructureBroken` if the check fails."""
    parts = [XmlPart(name, package.read(name)) for name in _PARTS if name in package]
    used = {target for part in parts for target in targets(part)}
    listed, elsewhere = Manifest(package).types, other_words(package)
    # What an object or the settings may mean stays: nobody knows how they mean it.
    pictures = [
        each.name
        for each in package.members
        if listed.get(each.name, "").startswith("image/")
        and not each.name.startswith(_PREVIEWS)
        and posixpath.basename(each.name).encode() not in elsewhere
    ]
    unused = tuple(name for name in pictures if name not in used)
    merged = twins_of(package, (name for name in pictures if name in used))
    if not merged and not unused:
        return Tidied(package.data, {}, ())
    gone = frozenset((*merged, *unused))
    changed = {part.name: part.spliced(splices) for part in parts if (splices := led(part, merged))}
    data = write_package(package, {**changed, manifest.NAME: _without(package, gone)}, {}, removed=gone)
    _check(package, data, parts, merged, gone)
    return Tidied(data, merged, unused)


def targets(part: XmlPart) -> list[str]:
    """The members that a part's links lead to, in order; links that lead out of the package are what they say."""
    return [_member(href) for node in part.root.iter() if (href := node.get(_HREF))]


def _member(href: str) -> str:
    return href if ":" in href.split("/", maxsplit=1)[0] else posixpath.normpath(unquote(href))


def other_words(package: Package) -> bytes:
    """All that the parts say that are not read here."""
    others = (each.name for each in package.members if each.name.lower().endswith((".xml", ".rdf")))
    return b"\0".join(package.read(other) for other in others if other not in (*_PARTS, manifest.NAME))


def led(part: XmlPart, merged: Mapping[str, str]) -> list[Splice]:
    """What leads a part's links to some members to others instead. Raises `StructureBroken` where one is written oddly."""
    splices = []
    for node in part.root.iter():
        href = node.get(_HREF)
        wanted = merged.get(_member(href)) if href else None
        if not href or wanted is None:
            continue
        span = part.span(node)
        tag = part.text[span.start : span.open_end]
        if tag.count(href) != 1:
            raise StructureBroken(part=part.name, why="a link is written in an unusual way")
        start = span.start + tag.index(href)
        splices.append(Splice(start, start + len(href), wanted))
    return splices


def _without(package: Package, gone: frozenset[str]) -> bytes:
    """The manifest without the members that are gone."""
    part = XmlPart(manifest.NAME, package.read(manifest.NAME))
    entries = (node for node in part.root.iter(q("manifest:file-entry")) if node.get(_PATH) in gone)
    return part.spliced([Splice(span.start, span.end, "") for span in map(part.span, entries)])


def _check(
    package: Package, data: bytes, parts: list[XmlPart], merged: Mapping[str, str], gone: frozenset[str]
) -> None:
    """Whether every link leads to the bytes that it led to, and the manifest lists what is there and nothing else new."""
    after = open_package(data, "tidied", package.guards)
    for part in parts:
        wanted = [merged.get(target, target) for target in targets(part)]
        if targets(XmlPart(part.name, after.read(part.name))) != wanted:
            raise StructureBroken(part=part.name, why="a link leads elsewhere")
    before, now = Manifest(package).types, Manifest(after).types
    if now != {name: kind for name, kind in before.items() if name not in gone}:
        raise StructureBroken(part=manifest.NAME, why="it lists other members")
    if not all(package.read(old) == after.read(new) for old, new in merged.items()):
        raise StructureBroken(part="tidied", why="a picture is another one")
