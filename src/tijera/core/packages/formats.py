"""Every format of document: they stand side by side and don't know each other. A new one is a folder and a line here."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Protocol, cast

from tijera.core.errors import NotADocument, NotFound
from tijera.core.packages import docx, eml, ods, odt, xlsx
from tijera.core.packages.eml.compose import Letter, compose
from tijera.core.packages.grid import GridSheet
from tijera.core.packages.odf.package import refuse_other_kind
from tijera.core.packages.opc.package import main_part
from tijera.core.packages.placed import PlacedPicture, Written
from tijera.core.packages.reports import PictureReport
from tijera.core.packages.series import Numbered
from tijera.core.packages.spots import Outline, Spot
from tijera.core.packages.zipped import Guards, Package, open_package


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
    def outline(self) -> Outline:
        """Its text with its places."""


class SheetDocument(Document, Protocol):
    """One whose places are cells."""

    @property
    def grids(self) -> Sequence[GridSheet]:
        """What its sheets show."""


@dataclass(frozen=True)
class Format:
    """What is known of one format, and what can be done with its documents."""

    extension: str
    """For a copy whose original has none."""
    media_type: str
    view: View
    recognises: Callable[[Package], bool]
    """Whether a package is of this format; a format that is no package recognises none."""
    kind: type[Any]
    """Of its opened documents."""
    open: Callable[[Package], Document]
    """Raises subclasses of `InputRefused`."""
    write: Callable[[Any, Sequence[PlacedPicture]], Written]
    report: Callable[[Any], tuple[PictureReport, ...]]
    empty: Callable[[], bytes]
    """A new, empty one."""


FORMATS = (
    Format(
        "odt",
        odt.MEDIA_TYPE,
        View.GALLEY,
        odt.recognises,
        odt.OdtDocument,
        odt.open_package_as_odt,
        odt.write,
        odt.report_pictures,
        odt.empty,
    ),
    Format(
        "ods",
        ods.MEDIA_TYPE,
        View.GRID,
        ods.recognises,
        ods.OdsDocument,
        ods.open_package_as_ods,
        ods.write,
        ods.report_pictures,
        ods.empty,
    ),
    Format(
        "docx",
        docx.MEDIA_TYPE,
        View.GALLEY,
        docx.recognises,
        docx.DocxDocument,
        docx.open_package_as_docx,
        docx.write,
        docx.report_pictures,
        docx.empty,
    ),
    Format(
        "xlsx",
        xlsx.MEDIA_TYPE,
        View.GRID,
        xlsx.recognises,
        xlsx.XlsxDocument,
        xlsx.open_package_as_xlsx,
        xlsx.write,
        xlsx.report_pictures,
        xlsx.empty,
    ),
)


MESSAGE = Format(
    "eml",
    eml.MEDIA_TYPE,
    View.MESSAGE,
    lambda _: False,
    eml.EmlDocument,
    lambda package: eml.open_eml(package.data),
    eml.write,
    eml.report_pictures,
    lambda: compose(Letter()),
)
"""The one that is no package."""


def open_document(data: bytes, name: str = "document", guards: Guards | None = None) -> Document:
    """Open and check a document from outside, by its content, whatever it is called.

    Raises subclasses of `InputRefused`.
    """
    if eml.recognises(data):
        return eml.open_eml(data, name, guards)
    package = open_package(data, name, guards)
    for each in FORMATS:
        if each.recognises(package):
            return each.open(package)
    refuse_other_kind(package)
    _, found = main_part(package)
    raise NotADocument(why=f"its main part is of type {found}")


def new_document(extension: str) -> tuple[str, bytes]:
    """A name and the bytes of a new, empty file. Raises `NotFound`."""
    for each in (*FORMATS, MESSAGE):
        if each.extension == extension:
            words = {View.GALLEY: "document", View.GRID: "spreadsheet", View.MESSAGE: "message"}[each.view]
            return f"New {words}.{extension}", each.empty()
    raise NotFound(what="kind of new file", key=extension)


def format_of(document: Document) -> Format:
    """The format of an opened document."""
    return next(each for each in (*FORMATS, MESSAGE) if isinstance(document, each.kind))


def as_text(document: Document) -> TextDocument:
    """A document whose places lie in running text. Raises `NotADocument` for others."""
    if format_of(document).view is View.GRID:
        raise NotADocument(why="it has cells, not running text")
    return cast("TextDocument", document)


def as_message(document: Document) -> eml.EmlDocument:
    """A message. Raises `NotADocument` for others."""
    if not isinstance(document, eml.EmlDocument):
        raise NotADocument(why="it is no message")
    return document


def as_sheets(document: Document) -> SheetDocument:
    """A document whose places are cells. Raises `NotADocument` for others."""
    if format_of(document).view is not View.GRID:
        raise NotADocument(why="it has no cells")
    return cast("SheetDocument", document)


def write(document: Document, pictures: Sequence[PlacedPicture]) -> Written:
    """Write a copy with the pictures in their places; with none the original's bytes come back.

    A pure function. Raises `SpotUnknown`, or `StructureBroken` when the structural check fails.
    """
    return format_of(document).write(document, pictures)


def caption_words(document: Document, pictures: Sequence[PlacedPicture]) -> list[str]:
    """What stands before each picture's caption, such as "Figure 3:"; empty where nothing counts."""
    if isinstance(document, docx.DocxDocument):
        numbers: Sequence[Numbered | None] = docx.captions(document, pictures)
    elif isinstance(document, odt.OdtDocument):
        numbers = odt.captions(document, pictures)
    else:
        return [""] * len(pictures)
    return ["" if each is None else each.words for each in numbers]


def breaks_seal(document: Document) -> bool:
    """Whether a mail server signed what a change makes something else of."""
    return isinstance(document, eml.EmlDocument) and document.is_sealed


def report_pictures(document: Document) -> tuple[PictureReport, ...]:
    """Every embedded picture that the document shows, the heaviest first."""
    return format_of(document).report(document)
