"""What is known of a format and what can be done with its documents: each format's folder says it in one value."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property
from typing import Any, Protocol

from tijera.core.packages.containers.zipped import Guards, Package, open_package
from tijera.core.packages.places.caption_numbers import Numbered
from tijera.core.packages.places.cropping import Croppings
from tijera.core.packages.places.grid import GridSheet
from tijera.core.packages.places.placed import PlacedPicture, Written
from tijera.core.packages.places.reports import PictureReport, Tidied
from tijera.core.packages.places.spots import Spot, TextOutline


class View(StrEnum):
    """How a format shows its places."""

    GALLEY = "galley"
    """Text in lanes."""
    GRID = "grid"
    """Sheets of cells."""
    MESSAGE = "message"
    """Header fields, a body, attachments."""


class Document(Protocol):
    """An opened document of any format. Nothing of it ever changes; writing makes a new one."""

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""

    def spots(self) -> Iterable[Spot]:
        """The places worth listing."""

    def read(self, member: str) -> bytes:
        """A member's bytes; raise `PartMissing`."""

    @property
    def member_names(self) -> frozenset[str]:
        """What is in it already."""

    @property
    def ending(self) -> str:
        """The ending of its file's name, by what it is."""


class TextDocument(Document, Protocol):
    """One whose places lie in running text."""

    @property
    def outline(self) -> TextOutline:
        """Its text with its places."""


class SheetDocument(Document, Protocol):
    """One whose places are cells."""

    @property
    def grids(self) -> Sequence[GridSheet]:
        """What its sheets show."""


@dataclass(frozen=True, eq=False)
class Source:
    """Bytes from outside, about to be opened; as a package only where a format asks for one."""

    data: bytes
    name: str
    guards: Guards = field(default_factory=Guards)

    @cached_property
    def package(self) -> Package:
        """The bytes as a package that passed the guards. Raises subclasses of `PackageRefused`."""
        return open_package(self.data, self.name, self.guards)


def _no_numbers(_: Any, pictures: Sequence[PlacedPicture]) -> Sequence[Numbered | None]:  # noqa: ANN401  (as below)
    return [None] * len(pictures)


def _as_it_is(_: Any, picture_bytes: int) -> int:  # noqa: ANN401  (as below)
    return picture_bytes


def _any_picture(_document: Document, _member: str) -> bool:
    return True


def _no_croppings(_: Any) -> Croppings:  # noqa: ANN401  (as below)
    return Croppings({}, {})


def _never(_document: Document, _member: str, _name: str) -> bool:
    return False


def _no_picture(_document: Document, _member: str) -> bool:
    return False


def _nothing_attached(_: Any) -> Iterable[str]:  # noqa: ANN401  (as below)
    return ()


def _no_seal(_: Any) -> bool:  # noqa: ANN401  (a document of the format's own kind)
    return False


@dataclass(frozen=True)
class Format:
    """One format. Its functions take documents of its own kind only."""

    extension: str
    """Of its usual files; a document says its own ending."""
    media_type: str
    view: View
    kind: type[Any]
    """Of its opened documents."""
    recognises: Callable[[Source], bool]
    """Whether bytes are of this format, told by their content."""
    open: Callable[[Source], Document]
    """Raises subclasses of `InputRefused`."""
    write: Callable[[Any, Sequence[PlacedPicture]], Written]
    """A pure function. Raises `SpotUnknown`, `StructureBroken`."""
    report: Callable[[Any], tuple[PictureReport, ...]]
    empty: Callable[[], bytes]
    """A new, empty one."""
    captions: Callable[[Any, Sequence[PlacedPicture]], Sequence[Numbered | None]] = _no_numbers
    """The number of each picture's caption; None for one that does not count."""
    with_pictures: Callable[[Any, Mapping[str, bytes], Mapping[str, bytes], Mapping[str, str]], bytes] | None = None
    """A copy in which some of its own pictures have other bytes, and some parts what its croppings say; those that become
    another kind get the name that the last mapping gives."""
    can_rename: Callable[[Any, str, str], bool] = _never
    """Whether one of its own pictures may get a name, that of another kind."""
    croppings: Callable[[Any], Croppings] = _no_croppings
    """Its pictures whose crops can be made real."""
    tidy: Callable[[Any], Tidied] | None = None
    """A copy in which each picture is kept once, and none that is used nowhere; None where that is not done."""
    can_replace: Callable[[Any, str], bool] = _any_picture
    """Whether one of its own pictures may get other bytes."""
    names_say_kinds: bool = True
    """Whether a picture's name must have the ending of its kind; in a message the part's type says it."""
    shows_pixels: Callable[[Any, str], bool] = _no_picture
    """Whether one of its own pictures is shown as large as its pixels are, since nothing is said of its size."""
    attached: Callable[[Any], Iterable[str]] = _nothing_attached
    """Members that may be documents themselves."""
    takes: Callable[[Any, int], int] = _as_it_is
    """What so many bytes of a picture take in it each time that it is in it, its headers not counted; packages store."""
    breaks_seal: Callable[[Any], bool] = _no_seal
    """Whether somebody signed what a change makes something else of, and nothing can keep it true."""
