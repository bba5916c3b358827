"""Text documents of OpenDocument (ISO/IEC 26300, ODF 1.2)."""

from tijera.core.packages.families.odf.tidying import tidied
from tijera.core.packages.formats.odt.document import MEDIA_TYPE, OdtDocument, open_package_as_odt, recognises
from tijera.core.packages.formats.odt.empty import empty
from tijera.core.packages.formats.odt.pictures import report_pictures
from tijera.core.packages.formats.odt.writer import captions, write
from tijera.core.packages.places.format import Format, View

FORMAT = Format(
    extension="odt",
    media_type=MEDIA_TYPE,
    view=View.GALLEY,
    kind=OdtDocument,
    recognises=lambda source: recognises(source.package),
    open=lambda source: open_package_as_odt(source.package),
    write=write,
    tidy=lambda document: tidied(document.package),
    with_pictures=OdtDocument.with_pictures,
    can_rename=OdtDocument.can_rename,
    croppings=lambda document: document.croppings,
    report=report_pictures,
    empty=empty,
    captions=captions,
)

__all__ = ["FORMAT", "MEDIA_TYPE", "OdtDocument", "empty", "report_pictures", "write"]
