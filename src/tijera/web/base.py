"""What all that goes over the wire is built on."""

from __future__ import annotations

from typing import Annotated, Literal

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
    """How a clipping is saved. With no more than a format: as it is, and nothing is remembered."""

    format: Annotated[str, Field(max_length=10)]
    name: Annotated[str, Field(max_length=300)] | None = None
    """What the file is called; an ending of it decides the format."""
    share: Annotated[float, Field(ge=0.01, le=8)] | None = None
    """Of its width and height in pixels."""
    density_ppi: Annotated[float, Field(ge=20, le=2400)] | None = None
    limit: Annotated[str, Field(max_length=40)] | None = None


class SaveProposalOut(Wire):
    """What saving a clipping would give: the weight of both usual formats, and the one that suits."""

    name: str
    """Without an ending."""
    format: Literal["png", "jpg"]
    width_px: int
    height_px: int
    density_ppi: float
    density_chosen: bool
    share: float
    limit_bytes: int | None
    png_bytes: int
    jpeg_bytes: int
    jpeg_smears: bool
    """Whether words would be harder to read on the JPEG."""


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
