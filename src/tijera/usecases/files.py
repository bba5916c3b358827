"""The use cases of the command line: one document, one picture, no store."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from tijera.core.budget.ladder import Ladder
from tijera.core.budget.rendition import Rendition, first_rendition
from tijera.core.budget.search import Verdict, Wanted, find_fit
from tijera.core.budget.unmet import limit_not_met
from tijera.core.clippings.cutting import Clipping
from tijera.core.errors import SpotUnknown
from tijera.core.fit import Measures, WidthRule
from tijera.core.geometry import Rect
from tijera.core.imaging.decode import decode_foreign
from tijera.core.packages.attached import attached_documents, report_all
from tijera.core.packages.containers.zipped import Guards
from tijera.core.packages.places.format import Document
from tijera.core.packages.places.grid import CellRange, columns_of
from tijera.core.packages.places.placed import PLAIN, Layout, PlacedPicture, Written
from tijera.core.packages.places.reports import PictureReport
from tijera.core.packages.places.spots import Spot
from tijera.core.packages.places.taking_out import PictureFile, pictures_of
from tijera.core.packages.registry import breaks_seal, copies_of, open_document, report_pictures, takes, write
from tijera.core.placing.possible import check_possible
from tijera.core.placing.stands import Wish, stand_in
from tijera.core.units import PIXELS_PER_INCH, Length


@dataclass(frozen=True)
class PlacedFile:
    """A document with one picture placed in it."""

    data: bytes
    spot: Spot
    measures: Measures
    ppi: float
    picture_bytes: int
    breaks_seal: bool = False
    """A mail server signed the body, which no longer holds."""


def spanned(anchor: str, span: str | None) -> str:
    """The spot of a cell and the columns that are filled from there: "Tides!B3" and "B:F" are "Tides!B3:F3".

    Raises `SpotUnknown` where either can't be read, or the cell is in none of the columns.
    """
    if span is None:
        return anchor
    sheet, _, cell = anchor.rpartition("!")
    at, columns = CellRange.parse(cell), columns_of(span)
    if at is None or columns is None or not columns[0] <= at.left <= columns[1]:
        raise SpotUnknown(spot=f"{anchor}, {span}")
    cells = CellRange(at.top, columns[0], at.bottom, columns[1])
    return f"{sheet}!{cells}" if sheet else str(cells)


def list_spots(data: bytes, name: str) -> list[Spot]:
    """Every spot of a document. Raises `InputRefused`."""
    return list(open_document(data, name).spots())


def weigh_file(data: bytes, name: str) -> tuple[PictureReport, ...]:
    """Every picture of a document, and of the documents that are attached to a message. Raises `InputRefused`."""
    document = open_document(data, name)
    return report_all(document, dict(attached_documents(document)))


def take_pictures(data: bytes, name: str, *, as_shown: bool) -> list[PictureFile]:
    """Every picture of a document as a file, as shown (cropped) or as stored. Raises `InputRefused`."""
    document = open_document(data, name)
    return list(pictures_of(document.read, report_pictures(document), as_shown=as_shown))


def _column(spot: Spot, width: Length | WidthRule) -> Length:
    """The narrowest of the place's columns that has a typed width; else the narrowest of all."""
    wide = [each for each in spot.widths if isinstance(width, Length) and each >= width]
    return min(wide, default=max(spot.widths) if isinstance(width, Length) else spot.width)


@dataclass
class _OnePicture:
    """A document with one picture in it, as what a rendition is sent in."""

    document: Document
    place: Callable[[Rendition], Written]
    copies: int = 0

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Its length in bytes."""
        written = self.place(renditions[0])
        self.copies = self.copies or copies_of(self.document, written, (0,))
        return len(written.data)

    def takes(self, _index: int, picture_bytes: int) -> int:
        """What so many bytes of the picture take in it."""
        return self.copies * takes(self.document, picture_bytes)


def place_file(
    data: bytes,
    name: str,
    *,
    spot_id: str,
    picture: bytes,
    picture_name: str,
    scale_factor: float | None = None,
    width: Length | WidthRule = WidthRule.FIT,
    description: str = "",
    layout: Layout = PLAIN,
    limit_bytes: int | None = None,
    signed: bool = False,
) -> PlacedFile:
    """Place a picture and, where there is a limit, find a rendition that meets it.

    Raises `InputRefused`, `SpotUnknown`, `WidthTooLarge` or `LimitNotMet`.
    """
    document = open_document(data, name, Guards(refuse_signed=not signed))
    spot = document.spot(spot_id)
    pixels = decode_foreign(picture, picture_name)
    factor = scale_factor or (pixels.density_ppi or PIXELS_PER_INCH) / PIXELS_PER_INCH
    check_possible(spot, layout)
    clipping = Clipping.uncropped(pixels.size, Rect.whole(pixels.size), factor)
    measures = stand_in(clipping, spot, Wish(_column(spot, width), width, layout)).measures
    first = first_rendition(pixels, picture)

    def placed(rendition: Rendition) -> Written:
        one = PlacedPicture(
            spot.id,
            rendition.data,
            rendition.extension,
            measures.width,
            measures.height,
            description,
            layout,
            name=picture_name.rsplit(".", 1)[0],
        )
        return write(document, [one])

    if limit_bytes is None:
        return PlacedFile(placed(first).data, spot, measures, measures.ppi, first.bytes, breaks_seal(document))
    goods = _OnePicture(document, placed)
    search = find_fit([Wanted(Ladder(lambda: pixels, first, measures.width))], limit_bytes, goods)
    verdict = next(step for step in search if isinstance(step, Verdict))
    chosen = verdict.renditions[0]
    if not verdict.fits:
        weights = [(report.member, report.bytes) for report in report_pictures(document)]
        raise limit_not_met(verdict, limit_bytes, [*weights, (picture_name, chosen.bytes)])
    ppi = chosen.size.width / measures.width.inches
    return PlacedFile(placed(chosen).data, spot, measures, ppi, chosen.bytes, breaks_seal(document))
