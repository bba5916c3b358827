"""A clipping: a frame's area and a crop on it. Pure data; pixels are cut only when it leaves.

What is hidden can't come out: `visible_pixels` copies the visible rectangle and never looks at another pixel.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from tijera.core.errors import AreaOutside, CropOutside
from tijera.core.geometry import Rect, Size
from tijera.core.imaging.picture import Picture


@dataclass(frozen=True)
class Clipping:
    """An area of a frame, in frame pixels, and a crop, in the area's own pixels."""

    frame_size: Size
    area: Rect
    crop: Rect
    scale_factor: float

    def __post_init__(self) -> None:
        if not self.area.lies_within(self.frame_size):
            raise AreaOutside(area=str(self.area), size=str(self.frame_size))
        if not self.crop.lies_within(self.area.size):
            raise CropOutside(crop=str(self.crop), size=str(self.area.size))

    @classmethod
    def uncropped(cls, frame_size: Size, area: Rect, scale_factor: float) -> Clipping:
        """A fresh clipping that shows its whole area. Raises `AreaOutside`."""
        if not area.lies_within(frame_size):
            raise AreaOutside(area=str(area), size=str(frame_size))
        return cls(frame_size, area, Rect.whole(area.size), scale_factor)

    def cropped(self, crop: Rect) -> Clipping:
        """The same clipping with another crop. Raises `CropOutside`."""
        return replace(self, crop=crop)

    @property
    def visible(self) -> Rect:
        """The visible rectangle in frame pixels."""
        return self.crop.shifted(self.area.x, self.area.y)

    @property
    def is_whole_frame(self) -> bool:
        """Whether nothing of the frame is hidden."""
        return self.visible == Rect.whole(self.frame_size)


def visible_pixels(clipping: Clipping, frame: Picture) -> Picture:
    """Cut what is visible out of the frame's pixels."""
    return frame.cut(clipping.visible)
