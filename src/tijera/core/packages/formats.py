"""Every format of document: they stand side by side and don't know each other. A new one is a folder and a line here."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from tijera.core.errors import NotADocument
from tijera.core.packages import docx, odt
from tijera.core.packages.placed import PlacedPicture, Written
from tijera.core.packages.reports import PictureReport
from tijera.core.packages.spots import Outline, Section, Spot
from tijera.core.packages.zipped import Guards, Package, open_package


class Document(Protocol):
    """An opened document of any format. Nothing of it ever changes; writing makes a new package."""

    @property
    def package(self) -> Package:
        """What came in."""

    @property
    def sections(self) -> Sequence[Section]:
        """What each section gives its text, by the number that spots and blocks name."""

    @property
    def outline(self) -> Outline:
        """Its text with its places."""

    def spot(self, spot_id: str) -> Spot:
        """Find a spot; raise `SpotUnknown`."""


@dataclass(frozen=True)
class Format:
    """What is known of one format, and what can be done with its documents."""

    extension: str
    """For a copy whose original has none."""
    media_type: str
    recognises: Callable[[Package], bool]
    kind: type[Any]
    """Of its opened documents."""
    open: Callable[[Package], Document]
    """Raises subclasses of `InputRefused`."""
    write: Callable[[Any, Sequence[PlacedPicture]], Written]
    report: Callable[[Any], tuple[PictureReport, ...]]


FORMATS = (
    Format(
        "odt",
        odt.MEDIA_TYPE,
        odt.recognises,
        odt.OdtDocument,
        odt.open_package_as_odt,
        odt.write,
        odt.report_pictures,
    ),
    Format(
        "docx",
        docx.MEDIA_TYPE,
        docx.recognises,
        docx.DocxDocument,
        docx.open_package_as_docx,
        docx.write,
        docx.report_pictures,
    ),
)


def open_document(data: bytes, name: str = "document", guards: Guards | None = None) -> Document:
    """Open and check a document from outside, by its content, whatever it is called.

    Raises subclasses of `InputRefused`.
    """
    package = open_package(data, name, guards)
    for each in FORMATS:
        if each.recognises(package):
            return each.open(package)
    raise NotADocument(why="it has neither a list of content types nor a media type")


def format_of(document: Document) -> Format:
    """The format of an opened document."""
    return next(each for each in FORMATS if isinstance(document, each.kind))


def write(document: Document, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy with the pictures in their places; with none the original's bytes come back.

    A pure function. Raises `SpotUnknown`, or `StructureBroken` when the structural check fails.
    """
    return format_of(document).write(document, pictures)


def report_pictures(document: Document) -> tuple[PictureReport, ...]:
    """Every embedded picture that the document shows, the heaviest first."""
    return format_of(document).report(document)
