"""Placing pictures: one paragraph of its own per picture, spliced into the content, with the styles that it needs.

Sources: ODF 1.2 Part 1 §10.4.2 (frame), §10.4.4 (image), §16.2 (automatic styles); Part 3 §3.3 (mimetype). Clause
numbers from memory.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import count
from xml.sax.saxutils import escape

from tijera.core.packages.odf import manifest
from tijera.core.packages.odf.media import media_members, media_types
from tijera.core.packages.odf.names import declared, q, written
from tijera.core.packages.odf.package import CONTENT, MIMETYPE
from tijera.core.packages.odt.document import OdtDocument
from tijera.core.packages.odt.structure import Inserted, check_content
from tijera.core.packages.placed import PlacedPicture, Written, clear_of
from tijera.core.packages.spots import Side, Spot
from tijera.core.packages.xmlspan import Splice, attributes, printable
from tijera.core.packages.zipped import write_package


def write(document: OdtDocument, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy of the document with the pictures in their places.

    A pure function; with no picture the original's bytes come back. Pictures at one spot stand in the order given.
    Raises `SpotUnknown`, or `StructureBroken` when the structural check fails.
    """
    if not pictures:
        return Written(document.package.data, ())
    spots = [document.spot(picture.spot) for picture in pictures]
    members, added = media_members(document.package, document.manifest, pictures)
    styles = _Styles(document)
    names = _free_names(document)
    frames = [next(names) for _ in pictures]
    paragraphs = [
        _paragraph(styles, spot, picture, member, frame)
        for spot, picture, member, frame in zip(spots, pictures, members, frames, strict=True)
    ]
    splices = [_splice(document, spot, xml) for spot, xml in zip(spots, paragraphs, strict=True)]
    content = document.content.spliced([styles.splice(), *splices])
    changed = {CONTENT: content}
    listed = document.manifest.with_members(media_types(members, pictures))
    if listed is not None:
        changed[manifest.NAME] = listed
    inserted = Inserted(frozenset(frames), frozenset(styles.made), frozenset(added))
    check_content(document, content, inserted)
    first = (MIMETYPE, document.media_type.encode("ascii"))
    return Written(write_package(document.package, changed, added, first=first), tuple(members))


def _free_names(document: OdtDocument) -> Iterator[str]:
    """Names for frames that the document does not use yet."""
    taken = {node.get(q("draw:name")) for node in document.content.root.iter(q("draw:frame"))}
    return (name for number in count(1) if (name := f"Picture {number}") not in taken)


@dataclass
class _Styles:
    """The automatic styles that the new paragraphs and frames need."""

    document: OdtDocument

    def __post_init__(self) -> None:
        self._by_margins: dict[tuple[int, int, int], str] = {}
        self._xml: list[str] = []
        taken = self.document.styles.names
        self._free = (name for number in count(1) if (name := f"Placed{number}") not in taken)
        self.frame = next(self._free)
        parent = self._parent("graphic", "Graphics")
        zero = "".join(f' fo:margin-{side}="0cm"' for side in ("left", "right", "top", "bottom"))
        self._xml.append(
            f'<style:style style:name="{self.frame}" style:family="graphic"{parent}><style:graphic-properties'
            f'{zero} fo:padding="0cm" fo:border="none" style:shadow="none" style:vertical-pos="top"'
            ' style:vertical-rel="baseline" style:mirror="none"/></style:style>'
        )

    @property
    def made(self) -> list[str]:
        """The names of the new styles."""
        return [self.frame, *self._by_margins.values()]

    def _parent(self, family: str, name: str) -> str:
        return f' style:parent-style-name="{name}"' if self.document.styles.has(family, name) else ""

    def paragraph(self, left: int, right: int, clear: int) -> str:
        """The name of a centred paragraph style with these margins, in EMU."""
        key = (left, right, clear)
        if key not in self._by_margins:
            name = self._by_margins[key] = next(self._free)
            sides = (("left", left), ("right", right), ("top", clear), ("bottom", clear))
            margins = "".join(f' fo:margin-{side}="{written(value)}"' for side, value in sides)
            self._xml.append(
                f'<style:style style:name="{name}" style:family="paragraph"{self._parent("paragraph", "Standard")}>'
                f'<style:paragraph-properties fo:text-align="center"{margins} fo:text-indent="0cm"'
                ' style:auto-text-indent="false" fo:line-height="100%" fo:break-before="auto"/></style:style>'
            )
        return self._by_margins[key]

    def splice(self) -> Splice:
        """All of them, at the end of the automatic styles, which are made where there are none."""
        part = self.document.content
        xml = f"<style:style{declared('style', 'fo')}".join("".join(self._xml).split("<style:style"))
        holder = part.root.find(q("office:automatic-styles"))
        if holder is not None:
            return part.append_to(holder, xml)
        at = part.span(part.root.find(q("office:body"))).start
        return Splice(at, at, f"<office:automatic-styles{declared('office')}>{xml}</office:automatic-styles>")


def _splice(document: OdtDocument, spot: Spot, xml: str) -> Splice:
    span = document.content.span(document.content.elements[spot.element])
    at = span.start if spot.side is Side.BEFORE else span.end
    return Splice(at, at, xml)


def _paragraph(styles: _Styles, spot: Spot, picture: PlacedPicture, member: str, frame: str) -> str:
    """The paragraph that holds one picture. It declares its own prefixes, whatever the document calls them."""
    style = styles.paragraph(spot.indent_left.emu, spot.indent_right.emu, clear_of(spot, picture.height).emu)
    words = f"<svg:desc>{escape(printable(picture.description))}</svg:desc>" if picture.description else ""
    named = attributes(**{"draw:name": frame})
    return (
        f'<text:p{declared("text", "draw", "svg", "xlink")} text:style-name="{style}">'
        f'<draw:frame draw:style-name="{styles.frame}"{named} text:anchor-type="as-char"'
        f' svg:width="{written(picture.width.emu)}" svg:height="{written(picture.height.emu)}">'
        f'<draw:image{attributes(**{"xlink:href": member})} xlink:type="simple" xlink:show="embed"'
        f' xlink:actuate="onLoad"/>{words}</draw:frame></text:p>'
    )
