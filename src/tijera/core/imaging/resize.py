"""Resampling."""

from __future__ import annotations

from tijera.core.geometry import Size
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.vips import to_picture, to_vips


def resize(picture: Picture, size: Size) -> Picture:
    """Resample to `size` with a Lanczos-3 filter; transparent pixels don't bleed into their neighbours."""
    if picture.size == size:
        return picture
    image = to_vips(picture.pixels)
    scales = size.width / picture.size.width, size.height / picture.size.height
    if picture.has_alpha:
        image = image.premultiply()
    image = image.resize(scales[0], vscale=scales[1], kernel="lanczos3")
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
