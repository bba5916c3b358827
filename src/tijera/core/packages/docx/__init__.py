"""Text documents of ECMA-376 (WordprocessingML), transitional and strict."""

from tijera.core.packages.docx.document import DocxDocument, open_package_as_docx, recognises
from tijera.core.packages.docx.empty import empty
from tijera.core.packages.docx.pictures import report_pictures
from tijera.core.packages.docx.place import captions, write

MEDIA_TYPE = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"

__all__ = [
    "MEDIA_TYPE",
    "DocxDocument",
    "captions",
    "empty",
    "open_package_as_docx",
    "recognises",
    "report_pictures",
    "write",
]
