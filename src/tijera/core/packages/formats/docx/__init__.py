"""Text documents of ECMA-376 (WordprocessingML), transitional and strict."""

from tijera.core.packages.families.opc.tidying import tidied
from tijera.core.packages.formats.docx.document import DocxDocument, open_package_as_docx, recognises
from tijera.core.packages.formats.docx.empty import empty
from tijera.core.packages.formats.docx.pictures import report_pictures
from tijera.core.packages.formats.docx.writer import captions, write
from tijera.core.packages.places.format import Format, View

MEDIA_TYPE = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"

FORMAT = Format(
    extension="docx",
    media_type=MEDIA_TYPE,
    view=View.GALLEY,
    kind=DocxDocument,
    recognises=lambda source: recognises(source.package),
    open=lambda source: open_package_as_docx(source.package),
    write=write,
    tidy=lambda document: tidied(document.package),
    with_pictures=DocxDocument.with_pictures,
    can_rename=DocxDocument.can_rename,
    croppings=lambda document: document.croppings,
    report=report_pictures,
    empty=empty,
    captions=captions,
)

__all__ = ["FORMAT", "MEDIA_TYPE", "DocxDocument", "empty", "report_pictures", "write"]
