"""Which pictures a package of OpenDocument shows cropped, and where it says so (ODF 1.2 Part 1 §20.167 fo:clip; number from memory)."""

from __future__ import annotations

import posixpath
import re
from collections import Counter
from collections.abc import Callable
from fractions import Fraction
from functools import cached_property

from tijera.core.packages.containers.xmlspan import Element, XmlPart
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf.clips import Clips
from tijera.core.packages.families.odf.names import q, written
from tijera.core.packages.families.odf.shown import FrameUse, frames
from tijera.core.packages.families.odf.styles import OdfStyles
from tijera.core.packages.families.odf.tidying import other_words, targets
from tijera.core.packages.places.cropping import Croppings, Said
from tijera.core.packages.places.reports import natural_size
from tijera.core.packages.places.spots import WHOLE, Crop
from tijera.core.units import Length

_CLIP, _STYLE = q("fo:clip"), q("draw:style-name")
_WRITTEN = re.compile(r"""\s[\w.-]+:clip\s*=\s*(["'])(rect\([^"'-]*\))\1""")


def croppings(package: Package, content: XmlPart, common: XmlPart | None, styles: OdfStyles) -> Croppings:
    """Those that are shown in frames only whose own styles hide the same of them, and of nothing else."""
    found = _Frames(package, content, common, styles)
    crops, said = {}, {}
    for member in found.cropped:
        crop, places = found.crop(member), found.said(member)
        if crop is not None and places is not None:
            crops[member], said[member] = crop, places
    return Croppings(crops, said, frozenset(found.cropped) - crops.keys())


class _Frames:
    """The frames of a document's text, by the pictures in them and by the styles that they wear."""

    def __init__(self, package: Package, content: XmlPart, common: XmlPart | None, styles: OdfStyles) -> None:
        self._package, self._content, self._styles = package, content, styles
        self._crop = Clips(styles, package.read).of
        self._named = Counter(targets(content)) + Counter(targets(common) if common is not None else ())
        self._wearing = Counter(node.get(_STYLE) for node in content.root.iter("*"))
        self._uses: dict[str, list[FrameUse]] = {}
        self._of_style: dict[str | None, list[FrameUse]] = {}
        for use in frames(content.root):
            if use.member in package:
                self._uses.setdefault(use.member, []).append(use)
                self._of_style.setdefault(use.frame.get(_STYLE), []).append(use)

    @cached_property
    def cropped(self) -> list[str]:
        """The pictures of which some is hidden somewhere."""
        return [
            member for member, uses in self._uses.items() if any(self._crop(use.frame, member) != WHOLE for use in uses)
        ]

    @cached_property
    def _elsewhere(self) -> bytes:
        return other_words(self._package)

    def crop(self, member: str) -> Crop | None:
        """How a picture is cropped everywhere; None where that differs, or where it is shown in other ways, too."""
        crops = {self._crop(use.frame, member) for use in self._uses[member]}
        crop = crops.pop()
        if crops or self._named[member] != len(self._uses[member]):
            return None
        if posixpath.basename(member).encode() in self._elsewhere:
            return None
        return crop if crop.visible_width > 0 and crop.visible_height > 0 else None

    def said(self, member: str) -> tuple[Said, ...] | None:
        """Where styles say it that nothing else wears; None where one of them can't be changed."""
        names = dict.fromkeys(use.frame.get(_STYLE) for use in self._uses[member])
        if not all(self._is_its_own(name, member) for name in names):
            return None
        size, crop = natural_size(self._package.read(member)), self.crop(member)
        if size is None or crop is None:
            return None
        said = [_said(self._content, self._styles, name, _writing(size, crop)) for name in names]
        return tuple(each for each in said if each is not None) if None not in said else None

    def _is_its_own(self, style: str | None, member: str) -> bool:
        uses = self._of_style[style]
        # A frame with several pictures shows whichever can be shown.
        are_single = all(len(use.frame.findall(q("draw:image"))) == 1 for use in uses)
        return are_single and {use.member for use in uses} == {member} and len(uses) == self._wearing[style]


def _writing(size: tuple[Length, Length], crop: Crop) -> Callable[[Crop], str]:
    """How a crop is written: lengths of a picture at its natural size, here of the pixels that are kept of it."""

    def write(rest: Crop) -> str:
        # The same is shown as before, so the shares say how large they are.
        width = Fraction(size[0].emu) * Fraction(crop.visible_width) / Fraction(rest.visible_width)
        height = Fraction(size[1].emu) * Fraction(crop.visible_height) / Fraction(rest.visible_height)
        sides = (rest.top * height, rest.right * width, rest.bottom * height, rest.left * width)
        return f"rect({', '.join(written(int(side)) for side in sides)})"

    return write


def _said(content: XmlPart, styles: OdfStyles, name: str | None, write: Callable[[Crop], str]) -> Said | None:
    """Where a frame's own style says it, in a way that can be changed; None where another one does."""
    style = next(styles.chain("graphic", name), None)
    properties = None if style is None else style.find(q("style:graphic-properties"))
    if style is None or properties is None or properties.get(_CLIP) is None or not _is_automatic(content, style):
        return None
    span = content.span(properties)
    match = _WRITTEN.search(content.text, span.start, span.open_end)
    return None if match is None else Said(content, properties, (_CLIP,), match.start(2), match.end(2), write)


def _is_automatic(content: XmlPart, style: Element) -> bool:
    holder = style.getparent()
    return holder is not None and holder.tag == q("office:automatic-styles") and holder.getparent() is content.root
