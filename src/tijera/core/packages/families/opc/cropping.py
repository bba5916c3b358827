"""Which pictures a package of Office Open XML shows cropped, and where it says so (ECMA-376 Part 1, `a:srcRect`)."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Collection, Iterator

from lxml import etree

from tijera.core.errors import DoctypeRefused, PartMalformed
from tijera.core.packages.containers.elements import attributes_of
from tijera.core.packages.containers.xmlspan import Element, XmlPart, attributes
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.opc.drawingml import crop_of, is_outset, written_sides
from tijera.core.packages.families.opc.relationships import Relationships, belongs_to, is_rels_name
from tijera.core.packages.places.cropping import Croppings, Said
from tijera.core.packages.places.spots import WHOLE, Crop

_SIDES = ("l", "t", "r", "b")
_NAME = re.compile(r"<([^\s/>]+)")


def croppings(package: Package) -> Croppings:
    """Those that every part refers to as a cropped picture, with the same crop each time, and in no other way."""
    found: dict[str, list[tuple[Crop, Said] | None]] = {}
    for name in (each.name for each in package.members if is_rels_name(each.name)):
        for member, use in _uses(package, Relationships(package, belongs_to(name))):
            found.setdefault(member, []).append(use)
    crops, said = {}, {}
    for member, uses in found.items():
        known = [use for use in uses if use is not None]
        if len(known) == len(uses) and len({crop for crop, _ in known}) == 1 and known[0][0] != WHOLE:
            crops[member], said[member] = known[0][0], tuple(each for _, each in known)
    return Croppings(crops, said)


def _uses(package: Package, relationships: Relationships) -> Iterator[tuple[str, tuple[Crop, Said] | None]]:
    """Every picture that a part refers to, and how: None where that is no plain crop."""
    inside = {each.id: each for each in relationships.all if not each.external}
    images = {key: each.target for key, each in inside.items() if each.is_kind("image")}
    # A layer of an effect, a preview of a part: not known here.
    yield from ((each.target, None) for key, each in inside.items() if key not in images)
    if not images:
        return
    data = package.read(relationships.part) if relationships.part in package else b""
    if b"srcRect" in data:
        with contextlib.suppress(PartMalformed, DoctypeRefused):
            part = XmlPart(relationships.part, data)
            yield from [
                (images[value], _use(part, node, name, inside.keys()))
                for node in part.root.iter("*")
                for name, value in attributes_of(node)
                if name.startswith("{") and value in images
            ]
            return
    yield from ((target, None) for target in images.values())


def _use(part: XmlPart, blip: Element, attribute: str, ids: Collection[str]) -> tuple[Crop, Said] | None:
    """How one element shows a picture; None for anything but a `blip` in a `blipFill` with a `srcRect`."""
    fill = blip.getparent()
    if fill is None or [etree.QName(each).localname for each in (blip, fill)] != ["blip", "blipFill"]:
        return None
    if not attribute.endswith("}embed") or _refers_further(blip, attribute, ids):
        return None
    parts = {etree.QName(child).localname: child for child in fill.iterchildren("*")}
    rectangle = parts.get("srcRect")
    if rectangle is None or "tile" in parts or not set(rectangle.attrib) <= set(_SIDES) or is_outset(rectangle):
        return None
    crop, span = crop_of(rectangle), part.span(rectangle)
    tag = part.text[span.start : span.open_end]
    name = _NAME.match(tag)
    if name is None or "xmlns" in tag or crop.visible_width <= 0 or crop.visible_height <= 0:
        return None

    def write(rest: Crop) -> str:
        sides = written_sides(rest, in_percent="%" in tag)
        return f"<{name[1]}{attributes(**sides)}/>"

    return crop, Said(part, rectangle, _SIDES, span.start, span.end, write)


def _refers_further(blip: Element, attribute: str, ids: Collection[str]) -> bool:
    """Whether something else is shown or worked with, too: a drawing in its place, the layer of an effect."""
    return any(
        name.startswith("{") and value in ids and (node is not blip or name != attribute)
        for node in blip.iter("*")
        for name, value in attributes_of(node)
    )
