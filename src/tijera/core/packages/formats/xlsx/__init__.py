"""Spreadsheets of ECMA-376 (SpreadsheetML), transitional and strict."""

from tijera.core.packages.families.opc.tidying import tidied
from tijera.core.packages.formats.xlsx.document import XlsxDocument, open_package_as_xlsx, recognises
from tijera.core.packages.formats.xlsx.empty import empty
from tijera.core.packages.formats.xlsx.pictures import report_pictures
from tijera.core.packages.formats.xlsx.writer import write
from tijera.core.packages.places.format import Format, View

MEDIA_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

FORMAT = Format(
    extension="xlsx",
    media_type=MEDIA_TYPE,
    view=View.GRID,
    kind=XlsxDocument,
    recognises=lambda source: recognises(source.package),
    open=lambda source: open_package_as_xlsx(source.package),
    write=write,
    tidy=lambda document: tidied(document.package),
    with_pictures=XlsxDocument.with_pictures,
    can_rename=XlsxDocument.can_rename,
    croppings=lambda document: document.croppings,
    report=report_pictures,
    empty=empty,
)

__all__ = ["FORMAT", "MEDIA_TYPE", "XlsxDocument", "empty", "report_pictures", "write"]
