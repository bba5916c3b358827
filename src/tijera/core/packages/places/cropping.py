"""Crops of pictures that a document has of its own, made real: where the document says them, and how it says what is left."""

from __future__ import annotations

import copy
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from tijera.core.errors import StructureBroken
from tijera.core.packages.containers.tree_comparison import same_tree
from tijera.core.packages.containers.xmlspan import Element, Splice, XmlPart, parse_safely
from tijera.core.packages.places.spots import Crop


@dataclass(frozen=True)
class Said:
    """Where a part says how a picture is cropped."""

    part: XmlPart
    node: Element
    """The element that says it."""
    attributes: tuple[str, ...]
    """In which of its attributes."""
    start: int
    end: int
    """The characters that say it."""
    write: Callable[[Crop], str]
    """What stands there for another crop."""


@dataclass(frozen=True)
class Croppings:
    """The pictures that a document shows cropped, in the same way wherever they stand, and nowhere otherwise."""

    crops: Mapping[str, Crop]
    said: Mapping[str, tuple[Said, ...]]
    held_by_size: frozenset[str] = frozenset()
    """Other pictures that would be shown cropped in another way if they had fewer pixels."""
    _made: dict[frozenset[tuple[str, Crop]], dict[str, bytes]] = field(default_factory=dict)

    def parts(self, rests: Mapping[str, Crop]) -> dict[str, bytes]:
        """The parts that say it, where pictures have only the pixels left that are shown: with what is still to be hidden.

        Raises `StructureBroken` where anything else would change.
        """
        key = frozenset(rests.items())
        if key not in self._made:
            self._made[key] = self._written(rests)
        return self._made[key]

    def _written(self, rests: Mapping[str, Crop]) -> dict[str, bytes]:
        by_part: dict[str, list[tuple[Said, str]]] = {}
        for member, rest in rests.items():
            for each in self.said[member]:
                by_part.setdefault(each.part.name, []).append((each, each.write(rest)))
        return {name: _spliced(said) for name, said in by_part.items()}


def _spliced(said: list[tuple[Said, str]]) -> bytes:
    part = said[0][0].part
    # A style that several frames share says it once.
    once = {each.start: Splice(each.start, each.end, text) for each, text in said}
    data = part.spliced(once.values())
    before, after = copy.deepcopy(part.root), parse_safely(part.name, data)
    for root in (before, after):
        nodes = list(root.iter("*"))
        for each, _ in said:
            for name in each.attributes:
                nodes[part.order[each.node]].set(name, "")
    if not same_tree(before, after):
        raise StructureBroken(part=part.name, why="more than a crop would change")
    return data
