"""What a paragraph shows: its text as it is read, and its pictures."""

from __future__ import annotations

import posixpath
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from lxml import etree

from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf.names import length_of, q
from tijera.core.packages.places.spots import Crop, ShownPicture
from tijera.core.units import Length

_SIGNS = {q("text:tab"): "\t", q("text:line-break"): "\n"}
_APART = {
    q(name) for name in ("text:note", "office:annotation", "draw:frame", "text:tracked-changes", "text:ruby-text")
}
"""What hangs on a paragraph without being its text."""
_PLAIN = {q(f"text:{name}") for name in ("p", "h", "span", "a", "bookmark", "bookmark-start", "bookmark-end")}
"""What has no meaning for a paragraph's text but what it holds."""
_MOST_SPACES = 1_000


@dataclass(frozen=True)
class FrameUse:
    """A picture in a frame: its member and the size that it is shown at, zero where none is given."""

    member: str
    width: Length
    height: Length
    description: str
    frame: Element


def text_of(paragraph: Element) -> str:
    """The text of a paragraph, without notes, comments and what stands in frames (ODF 1.2 Part 1 §6.1)."""
    if _PLAIN.issuperset(node.tag for node in paragraph.iter()):
        # Most hold nothing else, and then their text is all there is.
        return str(etree.tostring(paragraph, method="text", encoding="unicode", with_tail=False)).strip()
    return "".join(_pieces(paragraph)).strip()


def _pieces(node: Element) -> Iterator[str]:
    yield node.text or ""
    for child in node:
        if isinstance(child.tag, str):
            if child.tag in _SIGNS:
                yield _SIGNS[child.tag]
            elif child.tag == q("text:s"):
                yield " " * whole_number(child.get(q("text:c")), 1, 1, _MOST_SPACES)
            elif child.tag not in _APART:
                yield from _pieces(child)
        yield child.tail or ""


def frames(root: Element) -> Iterator[FrameUse]:
    """Every picture in a frame below a node; pictures that only stand in for an object are none of them."""
    for frame in root.iter(q("draw:frame")):
        if frame.find(q("draw:object")) is not None or frame.find(q("draw:object-ole")) is not None:
            continue
        members = [member_of(image) for image in frame.findall(q("draw:image"))]
        # Several are the same picture in other encodings, the best one first.
        member = next((each for each in members if each), None)
        if member is None:
            continue
        width, height = (length_of(frame, name) or 0 for name in ("svg:width", "svg:height"))
        words = frame.findtext(q("svg:desc")) or frame.findtext(q("svg:title")) or ""
        yield FrameUse(member, Length.exactly(width), Length.exactly(height), words, frame)


def member_of(image: Element) -> str | None:
    """The member that an image refers to; None for one that lies elsewhere, which is never fetched."""
    target = image.get(q("xlink:href"), "")
    if not target or ":" in target or target.startswith(("/", "#", "../")):
        return None
    return str(posixpath.normpath(target))


def shown_pictures(
    paragraph: Element, package: Package, crop: Callable[[Element, str], Crop]
) -> Iterator[ShownPicture]:
    """The embedded pictures of a paragraph with the size and the crop that they are shown with."""
    for use in frames(paragraph):
        if use.member in package and use.width.emu > 0 and use.height.emu > 0:
            yield ShownPicture(use.member, use.width, use.height, crop(use.frame, use.member))
