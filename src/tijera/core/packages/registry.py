"""Every format of document: they stand side by side and don't know each other. A new one is a folder and a line here."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

from tijera.core.errors import NotADocument, NotFound
from tijera.core.packages.containers.zipped import Guards
from tijera.core.packages.families.odf.package import refuse_other_kind
from tijera.core.packages.families.opc.package import main_part
from tijera.core.packages.formats import docx, eml, ods, odt, xlsx
from tijera.core.packages.places.format import Document, Format, SheetDocument, Source, TextDocument, View
from tijera.core.packages.places.placed import PlacedPicture, Written
from tijera.core.packages.places.reports import PictureReport

FORMATS: tuple[Format, ...] = (
    eml.FORMAT,
    odt.FORMAT,
    ods.FORMAT,
    docx.FORMAT,
    xlsx.FORMAT,
)
_CALLED = {View.GALLEY: "document", View.GRID: "spreadsheet", View.MESSAGE: "message"}


def open_document(data: bytes, name: str = "document", guards: Guards | None = None) -> Document:
    """Open and check a document from outside, by its content, whatever it is called.

    Raises subclasses of `InputRefused`.
    """
    source = Source(data, name, guards or Guards())
    for each in FORMATS:
        if each.recognises(source):
            return each.open(source)
    refuse_other_kind(source.package)
    _, found = main_part(source.package)
    raise NotADocument(why=f"its main part is of type {found}")


def new_document(extension: str) -> tuple[str, bytes]:
    """A name and the bytes of a new, empty file. Raises `NotFound`."""
    for each in FORMATS:
        if each.extension == extension:
            return _new_name(each), each.empty()
    raise NotFound(what="kind of new file", key=extension)


def is_new_name(name: str) -> bool:
    """Whether a file still has the name that every new one of its format has."""
    return any(name == _new_name(each) for each in FORMATS)


def _new_name(form: Format) -> str:
    return f"New {_CALLED[form.view]}.{form.extension}"


def format_of(document: Document) -> Format:
    """The format of an opened document."""
    return next(each for each in FORMATS if isinstance(document, each.kind))


def as_text(document: Document) -> TextDocument:
    """A document whose places lie in running text. Raises `NotADocument` for others."""
    if format_of(document).view is View.GRID:
        raise NotADocument(why="it has cells, not running text")
    return cast("TextDocument", document)


def as_message(document: Document) -> eml.EmlDocument:
    """A message. Raises `NotADocument` for others."""
    if format_of(document).view is not View.MESSAGE:
        raise NotADocument(why="it is no message")
    return cast("eml.EmlDocument", document)


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
    numbers = format_of(document).captions(document, pictures)
    return ["" if each is None else each.words for each in numbers]


def takes(document: Document, picture_bytes: int) -> int:
    """What so many bytes of a picture take in a document, each time that the picture is in it."""
    return format_of(document).takes(document, picture_bytes)


def copies_of(document: Document, written: Written, placed: Sequence[int]) -> int:
    """How often what was placed by these numbers came into a written copy; 0 where the document had it already."""
    members = {written.members[number] for number in placed} - document.member_names
    return len(members) + sum(original in members for _, original in written.copies)


def breaks_seal(document: Document) -> bool:
    """Whether somebody signed what a change makes something else of, and nothing can keep it true."""
    return format_of(document).breaks_seal(document)


def report_pictures(document: Document) -> tuple[PictureReport, ...]:
    """Every embedded picture that the document shows, the heaviest first."""
    return format_of(document).report(document)
