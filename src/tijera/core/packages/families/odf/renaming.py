"""Pictures that become another kind get another name: whatever links to them, and the manifest, follow (ODF 1.2 Part 3 §4)."""

from __future__ import annotations

import posixpath
from collections.abc import Mapping

from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.xmlspan import Splice, XmlPart
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf import manifest
from tijera.core.packages.families.odf.names import q
from tijera.core.packages.families.odf.package import CONTENT, STYLES
from tijera.core.packages.families.odf.tidying import led, other_words
from tijera.core.packages.places.renaming import media_type_of

_PATH, _TYPE = q("manifest:full-path"), q("manifest:media-type")


def can_rename(package: Package, member: str, name: str) -> bool:
    """Whether a picture may get another name: it is listed, known to the text alone, and named in a usual way."""
    if name in package or posixpath.basename(member).encode() in other_words(package):
        return False
    try:
        parts_naming(package, {member: name}, {})
    except StructureBroken:
        return False
    return True


def parts_naming(package: Package, renamed: Mapping[str, str], parts: Mapping[str, bytes]) -> dict[str, bytes]:
    """The parts that link to renamed pictures, and the manifest. Raises `StructureBroken` where one is not understood."""
    changed = {}
    for name in (CONTENT, STYLES):
        if name in package:
            part = XmlPart(name, parts.get(name) or package.read(name))
            splices = led(part, renamed)
            if splices:
                changed[name] = part.spliced(splices)
    return {**changed, manifest.NAME: _listing(package, renamed)}


def _listing(package: Package, renamed: Mapping[str, str]) -> bytes:
    part = XmlPart(manifest.NAME, package.read(manifest.NAME))
    splices, missing = [], set(renamed)
    for node in part.root.iter(q("manifest:file-entry")):
        path = node.get(_PATH, "")
        if path not in renamed:
            continue
        missing.discard(path)
        span = part.span(node)
        tag = part.text[span.start : span.open_end]
        for old, new in ((path, renamed[path]), (node.get(_TYPE, ""), media_type_of(renamed[path]))):
            if tag.count(f'"{old}"') != 1:
                raise StructureBroken(part=manifest.NAME, why="an entry is written in an unusual way")
            start = span.start + tag.index(f'"{old}"') + 1
            splices.append(Splice(start, start + len(old), new))
    if missing:
        raise StructureBroken(part=manifest.NAME, why="it does not list a picture")
    return part.spliced(splices)
