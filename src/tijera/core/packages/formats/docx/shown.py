"""What a paragraph shows: its text and its pictures, each counted once."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass, replace

from tijera.core.packages.containers.elements import parent, parent_tag
from tijera.core.packages.containers.xmlspan import Element, whole_number
from tijera.core.packages.families.opc.drawingml import crop_of
from tijera.core.packages.families.opc.relationships import Relationships
from tijera.core.packages.formats.docx.names import DocxNames
from tijera.core.packages.places.spots import WHOLE, Crop, ShownPicture
from tijera.core.units import Length

_MOST_EXTENT = 10**12
_IMAGE_DATA = "{urn:schemas-microsoft-com:vml}imagedata"


@dataclass(frozen=True)
class PictureUse:
    """One use of a picture in a part: the relationship it goes by, the size it is shown at, how much is visible."""

    relationship_id: str
    width: Length
    height: Length
    crop: Crop
    description: str = ""
    """Its alternative text."""


@dataclass(frozen=True)
class ShownReading:
    """What a paragraph shows, read in one walk."""

    text: str
    field_balance: int
    """How many more complex fields begin in it than end in it."""
    has_pictures: bool


def visible_nodes(node: Element, names: DocxNames, *, into_boxes: bool = False) -> Iterator[Element]:
    """Go through what a reader shows: not the fallback copies, not what was deleted, not text boxes unless asked."""
    hidden = names.hidden if into_boxes else names.hidden_with_boxes
    stack = [node]
    while stack:
        current = stack.pop()
        yield current
        if len(current):
            stack.extend(child for child in reversed(current) if isinstance(child.tag, str) and child.tag not in hidden)


def read_paragraph(paragraph: Element, names: DocxNames) -> ShownReading:
    """The text of a paragraph as it is read, and what else the outline needs of it."""
    kinds = names.met
    # Most paragraphs hold nothing that is not shown: then one fast walk through all of it will do.
    nodes = [(kind, node) for node in paragraph.iter("*") if (kind := kinds.get(node.tag)) is not None]
    if any(kind == "hidden" for kind, _ in nodes):
        nodes = [(kind, node) for node in visible_nodes(paragraph, names) if (kind := kinds.get(node.tag)) is not None]
    out, balance, has_pictures = [], 0, False
    for kind, node in nodes:
        if kind == "text":
            out.append(node.text or "")
        elif kind == "field":
            balance += {"begin": 1, "end": -1}.get(node.get(names.q("fldCharType"), ""), 0)
        elif kind == "drawing":
            has_pictures = True
        elif kind != "\t" or parent_tag(node) == names.q("r"):
            out.append(kind)
    return ShownReading("".join(out).strip(), balance, has_pictures)


def picture_uses(root: Element, names: DocxNames, *, into_boxes: bool = False) -> Iterator[PictureUse]:
    """Every picture that is shown below a node, by DrawingML or by VML."""
    hidden = names.hidden if into_boxes else names.hidden_with_boxes
    drawings = (f"{{{names.wp}}}inline", f"{{{names.wp}}}anchor")
    for node in root.iter(*drawings, _IMAGE_DATA):
        if _is_below_hidden(node, root, hidden):
            continue
        if node.tag in drawings:
            extent = node.find(f"{{{names.wp}}}extent")
            for inner in visible_nodes(node, names):
                if inner.tag == f"{{{names.a}}}blip":
                    properties = node.find(f"{{{names.wp}}}docPr")
                    words = "" if properties is None else properties.get("descr", "")
                    yield replace(_use(inner, extent, names), description=words)
        elif node.get(f"{{{names.r}}}id"):
            yield PictureUse(node.get(f"{{{names.r}}}id") or "", Length(0), Length(0), WHOLE)


def _is_below_hidden(node: Element, root: Element, hidden: Collection[str]) -> bool:
    """Whether something that a reader does not show stands between a node and the one that it is looked for below."""
    outer: Element | None = node
    while outer is not root and outer is not None:
        if outer.tag in hidden:
            return True
        outer = outer.getparent()
    return False


def _use(blip: Element, extent: Element | None, names: DocxNames) -> PictureUse:
    """Read the size from the picture's own shape where it stands in a group, from the drawing's extent elsewhere."""
    relationship_id = blip.get(f"{{{names.r}}}embed") or blip.get(f"{{{names.r}}}link") or ""
    fill = parent(blip)
    crop = fill.find(f"{{{names.a}}}srcRect")
    sizes = [extent]
    picture = parent(fill)
    if any(
        True for _ in picture.iterancestors("{http://schemas.microsoft.com/office/word/2010/wordprocessingGroup}wgp")
    ):
        sizes.insert(0, picture.find(f".//{{{names.a}}}xfrm/{{{names.a}}}ext"))
    size = next((each for each in sizes if each is not None), None)
    width, height = (
        (0, 0)
        if size is None
        else (whole_number(size.get("cx"), 0, most=_MOST_EXTENT), whole_number(size.get("cy"), 0, most=_MOST_EXTENT))
    )
    return PictureUse(relationship_id, Length(width), Length(height), crop_of(crop))


def shown_pictures(paragraph: Element, names: DocxNames, relationships: Relationships) -> Iterator[ShownPicture]:
    """The embedded pictures of a paragraph with the size they are shown at."""
    for use in picture_uses(paragraph, names):
        relationship = relationships.get(use.relationship_id)
        if relationship is not None and not relationship.external and use.width.emu > 0 and use.height.emu > 0:
            yield ShownPicture(relationship.target, use.width, use.height, use.crop)
