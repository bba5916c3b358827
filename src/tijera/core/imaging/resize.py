"""Resampling."""

from __future__ import annotations

from tijera.core.geometry import Size
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.vips import enlarged, to_picture, to_vips


def resize(picture: Picture, size: Size) -> Picture:
    """Resample to `size`: down with a Lanczos-3 filter, up with cubic splines; transparent pixels don't bleed.

    Up, libvips' own `resize` lands half a pixel off; here the middles of pixels are mapped, as they are on the way down.
    """
    if picture.size == size:
        return picture
    image = to_vips(picture.pixels)
    scales = size.width / picture.size.width, size.height / picture.size.height
    if picture.has_alpha:
        image = image.premultiply()
    down = [min(scale, 1.0) for scale in scales]
    if min(down) < 1:
        image = image.resize(down[0], vscale=down[1], kernel="lanczos3")
    up = size.width / image.width, size.height / image.height
    if max(scales) > 1:
        image = enlarged(image, up, size)
    if picture.has_alpha:
        image = image.unpremultiply()
    image = (image + 0.5).floor().cast("uchar") if image.format != "uchar" else image
    if (image.width, image.height) != (size.width, size.height):
        image = image.gravity("north-west", size.width, size.height, extend="copy")
    return to_picture(image, picture.density_ppi)


def shrink_to_fit(picture: Picture, most: Size) -> Picture:
    """Scale down, ratio kept, so that it fits into `most`; never up."""
    factor = min(most.width / picture.size.width, most.height / picture.size.height, 1.0)
    if factor == 1.0:
        return picture
    return resize(picture, picture.size.scaled(factor))
