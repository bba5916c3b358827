"""From a clipping to the picture that leaves: cut, toned, scaled, given room, marked, edged, shadowed.

Every step sees only what the one before let through, so nothing hidden can reach the result. Sizes of type and strokes
follow `px_per_pt`, the pixels of the finished picture per point at which it stands in its place.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from tijera.core.clippings.cutting import Clipping, blacked_out, filled_in, laid_over, visible_pixels
from tijera.core.clippings.sheet import Edge, Sheet
from tijera.core.errors import RoomTooLarge
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.decode import MAX_PIXELS
from tijera.core.imaging.picture import Picture, Pixels, whole_values
from tijera.core.imaging.printfriendly import print_friendly
from tijera.core.imaging.resize import resize
from tijera.core.imaging.tone import toned
from tijera.core.imaging.vips import blurred, draw_svg
from tijera.core.marks.colours import hex_of
from tijera.core.marks.ground import Ground
from tijera.core.marks.kinds import Drawn, draw_all
from tijera.core.marks.line import broken
from tijera.core.marks.operations import Blend, Box, Operation, Shape, joined
from tijera.core.marks.ring import corners
from tijera.core.marks.svg import document, element
from tijera.core.units import PIXELS_PER_INCH, POINTS_PER_INCH, round_half_up

_SHADOW = np.array([20, 34, 36], dtype=np.uint8)
_SHADOW_STRENGTH = 0.45


class Sources(Protocol):
    """Where the pixels come from."""

    def frame(self) -> Picture:
        """The clipping's frame."""

    def pointer(self) -> Picture | None:
        """The picture of its pointer layer, where it has one."""

    def part(self, clipping_id: str, size: Size, px_per_pt: float) -> Picture:
        """A clipping that is laid on, as a picture of a size."""


@dataclass(frozen=True)
class Composition:
    """Where things lie on the finished picture, in its own pixels."""

    outer: Size
    canvas: Rect
    """The picture with its margins, inside edge and shadow."""
    crop: Rect
    """The crop itself."""
    edge_px: int


def natural_px_per_pt(scale_factor: float) -> float:
    """Pixels per point at natural size: a screen of scale factor s has s × 96 pixels per inch."""
    return scale_factor * PIXELS_PER_INCH / POINTS_PER_INCH


def layout_of(crop: Size, sheet: Sheet, px_per_pt: float) -> Composition:
    """How large the finished picture is, and where its parts lie. Raises `RoomTooLarge`."""
    scale, room, edge = sheet.scale, sheet.room, sheet.edge
    inner = crop.scaled(scale)
    left, top, right, bottom = (round_half_up(side * scale) for side in (room.left, room.top, room.right, room.bottom))
    edge_px = max(1, round_half_up(edge.weight_pt * px_per_pt)) if edge.weight_pt else 0
    before, after = _shadow_reach(edge, px_per_pt)
    canvas = Rect(before + edge_px, before + edge_px, inner.width + left + right, inner.height + top + bottom)
    outer_width, outer_height = canvas.right + edge_px + after, canvas.bottom + edge_px + after
    if outer_width * outer_height > MAX_PIXELS:
        raise RoomTooLarge(width=outer_width, height=outer_height, most=MAX_PIXELS)
    inside = Rect(canvas.x + left, canvas.y + top, inner.width, inner.height)
    return Composition(Size(outer_width, outer_height), canvas, inside, edge_px)


def _shadow_reach(edge: Edge, px_per_pt: float) -> tuple[int, int]:
    """How far a shadow reaches to the left and above, and to the right and below: it falls a little to the right."""
    size = edge.shadow_pt * px_per_pt
    return (math.ceil(size * 0.5), math.ceil(size * 1.2)) if size else (0, 0)


def base_picture(clipping: Clipping, sources: Sources, px_per_pt: float) -> Picture:
    """The crop at its scale, toned, with what is blacked out gone; without marks."""
    sheet, crop = clipping.sheet, clipping.crop
    corner = (crop.x, crop.y)
    picture = _toned(visible_pixels(clipping, sources.frame(), sources.pointer()), sheet)
    inner = layout_of(crop.size, sheet, px_per_pt).crop.size
    if inner == picture.size:
        # Tones have made something else of black.
        return blacked_out(picture, sheet.black_outs, corner)
    # Scaled, black would run into what stands beside it; it is painted afterwards, with the other marks.
    return resize(filled_in(picture, sheet.black_outs, corner), inner)


def _toned(picture: Picture, sheet: Sheet) -> Picture:
    tones = sheet.tones
    if tones.print_friendly:
        picture = print_friendly(picture)
    if tones.brightness or tones.contrast or tones.paler or tones.grey:
        picture = toned(
            picture, brightness=tones.brightness, contrast=tones.contrast, paler=tones.paler, grey=tones.grey
        )
    return picture


def under_marks(clipping: Clipping, sources: Sources, px_per_pt: float) -> Picture:
    """The picture with its margins, ground and what is laid on it: all that lies beneath the marks."""
    sheet = clipping.sheet
    picture = base_picture(clipping, sources, px_per_pt)
    layout = layout_of(clipping.crop.size, sheet, px_per_pt)
    if layout.canvas.size != picture.size:
        at = (layout.crop.x - layout.canvas.x, layout.crop.y - layout.canvas.y)
        picture = _in_room(picture, layout.canvas.size, at)
    if picture.has_alpha and sheet.ground is not None:
        picture = _on_ground(picture, "#ffffff" if sheet.ground == "white" else hex_of(sheet.ground))
    corner = _corner(clipping)
    for inset in sheet.insets:
        left, top, right, bottom = (
            (value - corner[i % 2]) * sheet.scale for i, value in enumerate(corners(inset.points))
        )
        size = Size(max(1, round_half_up(right - left)), max(1, round_half_up(bottom - top)))
        part = sources.part(str(inset.options["clipping"]), size, px_per_pt)
        picture = laid_over(picture, part, (round_half_up(left), round_half_up(top)))
    # What a part has under a black-out must not even tinge a pixel at its side.
    return blacked_out(picture, sheet.black_outs, corner, sheet.scale) if sheet.insets else picture


def _corner(clipping: Clipping) -> tuple[float, float]:
    """Where the canvas begins, in clipping pixels."""
    return (clipping.crop.x - clipping.sheet.room.left, clipping.crop.y - clipping.sheet.room.top)


def _in_room(picture: Picture, size: Size, at: tuple[int, int]) -> Picture:
    out: Pixels = np.zeros((size.height, size.width, 4), dtype=np.uint8)
    part = out[at[1] : at[1] + picture.size.height, at[0] : at[0] + picture.size.width]
    part[:, :, :3] = picture.pixels[:, :, :3]
    part[:, :, 3] = picture.pixels[:, :, 3] if picture.has_alpha else 255
    return Picture(out, picture.density_ppi)


def _on_ground(picture: Picture, colour: str) -> Picture:
    ground = np.array([int(colour[at : at + 2], 16) for at in (1, 3, 5)], dtype=np.float32)
    cover = picture.pixels[:, :, 3:4].astype(np.float32) / 255
    mixed = picture.pixels[:, :, :3] * cover + ground * (1 - cover)
    return Picture(whole_values(mixed), picture.density_ppi)


def ground_of(clipping: Clipping, beneath: Picture) -> Ground:
    """What a clipping's marks lie on, from `under_marks`."""
    return Ground(beneath, _corner(clipping), clipping.sheet.scale)


def drawn_marks(clipping: Clipping, ground: Ground, px_per_pt: float) -> list[Drawn]:
    """The clipping's marks as they are drawn over what lies beneath them."""
    return draw_all(clipping.sheet.marks, px_per_pt / clipping.sheet.scale, ground)


def compose(clipping: Clipping, sources: Sources, px_per_pt: float) -> Picture:
    """The finished picture. Raises `RoomTooLarge`."""
    sheet = clipping.sheet
    if sheet.is_plain:
        return visible_pixels(clipping, sources.frame(), sources.pointer())
    picture = under_marks(clipping, sources, px_per_pt)
    if sheet.marks:
        drawn = drawn_marks(clipping, ground_of(clipping, picture), px_per_pt)
        operations = [operation for each in drawn for operation in each.operations]
        picture = paint(picture, operations, _corner(clipping), sheet.scale)
    return _edged(picture, sheet.edge, layout_of(clipping.crop.size, sheet, px_per_pt), px_per_pt).as_seen()


def paint(picture: Picture, operations: Sequence[Operation], corner: tuple[float, float], scale: float) -> Picture:
    """Operations painted over a picture, run by run of the same blending, each in its own box only."""
    at = 0
    while at < len(operations):
        blend = _blend_of(operations[at])
        end = at
        while end < len(operations) and _blend_of(operations[end]) is blend and (blend is Blend.NORMAL or end == at):
            end += 1
        picture = _painted(picture, operations[at:end], blend, corner, scale)
        at = end
    return picture


def _blend_of(operation: Operation) -> Blend:
    return operation.blend if isinstance(operation, Shape) else Blend.NORMAL


def _painted(
    picture: Picture, operations: Sequence[Operation], blend: Blend, corner: tuple[float, float], scale: float
) -> Picture:
    box = joined(each.box for each in operations)
    region = None if box is None else _pixels_of(box, corner, scale, picture.size)
    if region is None:
        return picture
    shown: Box = (
        corner[0] + region.x / scale,
        corner[1] + region.y / scale,
        corner[0] + region.right / scale,
        corner[1] + region.bottom / scale,
    )
    # Blending is done here, with the very pixels beneath; the mat's style sheet does it by the element's class.
    body = "".join(element(each) for each in operations)
    layer = draw_svg(document(body, shown, region.size), 1)
    if blend is not Blend.NORMAL:
        layer = _blended(picture.cut(region), layer, blend)
    return laid_over(picture, layer, (region.x, region.y))


def _pixels_of(box: Box, corner: tuple[float, float], scale: float, size: Size) -> Rect | None:
    left, top = math.floor((box[0] - corner[0]) * scale) - 1, math.floor((box[1] - corner[1]) * scale) - 1
    right, bottom = math.ceil((box[2] - corner[0]) * scale) + 1, math.ceil((box[3] - corner[1]) * scale) + 1
    return Rect(left, top, max(right - left, 1), max(bottom - top, 1)).within(size)


def _blended(under: Picture, layer: Picture, blend: Blend) -> Picture:
    """The layer's colours mixed with those beneath, for laying it over them (CSS Compositing 1, 9.1)."""
    one = under.pixels[:, :, :3].astype(np.float32) / 255
    other = layer.pixels[:, :, :3].astype(np.float32) / 255
    mixed = one * other if blend is Blend.MULTIPLY else one + other - one * other
    if under.has_alpha:
        cover = under.pixels[:, :, 3:4].astype(np.float32) / 255
        mixed = mixed * cover + other * (1 - cover)
    return Picture(np.dstack((whole_values(mixed * 255), layer.pixels[:, :, 3])))


def _edged(picture: Picture, edge: Edge, layout: Composition, px_per_pt: float) -> Picture:
    """The picture inside its edge, over its shadow."""
    if layout.edge_px:
        picture = _with_line(picture, edge, layout)
    if not edge.shadow_pt:
        return picture
    size = edge.shadow_pt * px_per_pt
    before, _ = _shadow_reach(edge, px_per_pt)
    fallen: Pixels = np.zeros((layout.outer.height, layout.outer.width), dtype=np.uint8)
    shift = round_half_up(size * 0.35)
    cover = picture.pixels[:, :, 3] if picture.has_alpha else np.full(picture.pixels.shape[:2], 255, np.uint8)
    rows = slice(before + shift, before + shift + picture.size.height)
    columns = slice(before + shift, before + shift + picture.size.width)
    fallen[rows, columns] = (cover * _SHADOW_STRENGTH).astype(np.uint8)
    alpha = blurred(fallen, max(size * 0.3, 0.5))
    colour = np.broadcast_to(_SHADOW, (*alpha.shape, 3))
    shadow = np.dstack((colour, alpha))
    shadow[alpha == 0] = 0
    return laid_over(Picture(shadow, picture.density_ppi), picture, (before, before))


def _with_line(picture: Picture, edge: Edge, layout: Composition) -> Picture:
    """The picture with a line round it; under the gaps of a dashed one lies what lies beneath the picture."""
    px = layout.edge_px
    size = Size(picture.size.width + 2 * px, picture.size.height + 2 * px)
    wider = _in_room(picture, size, (px, px))
    box = (px / 2, px / 2, size.width - px / 2, size.height - px / 2)
    frame = [(box[0], box[1]), (box[2], box[1]), (box[2], box[3]), (box[0], box[3])]
    if edge.dash == "solid":
        pixels = wider.pixels.copy()
        colour = hex_of(edge.colour)
        line = [int(colour[at : at + 2], 16) for at in (1, 3, 5)] + [255]
        for part in (np.s_[:px], np.s_[-px:], np.s_[:, :px], np.s_[:, -px:]):
            pixels[part] = line
        out = pixels if picture.has_alpha else np.ascontiguousarray(pixels[:, :, :3])
        return Picture(out, picture.density_ppi)
    path = broken(frame, edge.dash, px, closed=True)
    shape = Shape(path, box, stroke=hex_of(edge.colour), width=px)
    return paint(wider, [shape], (0.0, 0.0), 1.0)
