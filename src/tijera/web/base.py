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


class Problem(Wire):
    """Problem details (RFC 9457)."""

    type: str
    title: str
    status: int
    detail: str
    remedy: str
    code: str
    values: dict[str, object]


class BytesOut(Wire):
    """A number of bytes."""

    bytes: int


class JobOut(Wire):
    """Long work that has begun; its events are at `/jobs/{id}/events`."""

    id: str


class SaveIn(Wire):
    """The format to save a clipping in."""

    format: Annotated[str, Field(max_length=10)]


class SizeOut(Wire):
    """A size in pixels."""

    width: int
    height: int


class TakenOut(Wire):
    """What taking gave; `note` says what the user should know about it."""

    clipping: str
    name: str
    placement: str | None
    note: str | None = None
