"""What all that goes over the wire is built on."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from tijera.core.geometry import Rect

Id = Annotated[str, Field(max_length=64)]


class Wire(BaseModel):
    """Base of all: nothing unknown comes in."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class RectWire(Wire):
    """A rectangle in pixels."""

    x: Annotated[int, Field(ge=0, le=100_000)]
    y: Annotated[int, Field(ge=0, le=100_000)]
    width: Annotated[int, Field(ge=1, le=100_000)]
    height: Annotated[int, Field(ge=1, le=100_000)]

    @classmethod
    def of(cls, rect: Rect) -> RectWire:
        """From the core's rectangle."""
        return cls(x=rect.x, y=rect.y, width=rect.width, height=rect.height)

    def rect(self) -> Rect:
        """To the core's rectangle."""
        return Rect(self.x, self.y, self.width, self.height)
