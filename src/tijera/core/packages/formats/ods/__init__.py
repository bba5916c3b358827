"""Spreadsheets of OpenDocument (ISO/IEC 26300, ODF 1.2)."""

from tijera.core.packages.families.odf.tidying import tidied
from tijera.core.packages.formats.ods.document import MEDIA_TYPE, OdsDocument, open_package_as_ods, recognises
from tijera.core.packages.formats.ods.empty import empty
from tijera.core.packages.formats.ods.pictures import report_pictures
from tijera.core.packages.formats.ods.writer import write
from tijera.core.packages.places.format import Format, View

FORMAT = Format(
    extension="ods",
    media_type=MEDIA_TYPE,
    view=View.GRID,
    kind=OdsDocument,
    recognises=lambda source: recognises(source.package),
    open=lambda source: open_package_as_ods(source.package),
    write=write,
    tidy=lambda document: tidied(document.package),
    with_pictures=OdsDocument.with_pictures,
    can_rename=OdsDocument.can_rename,
    croppings=lambda document: document.croppings,
    report=report_pictures,
    empty=empty,
)

__all__ = ["FORMAT", "MEDIA_TYPE", "OdsDocument", "empty", "report_pictures", "write"]
