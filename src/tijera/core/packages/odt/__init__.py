"""Text documents of OpenDocument (ISO/IEC 26300, ODF 1.2)."""

from tijera.core.packages.odt.document import MEDIA_TYPE, OdtDocument, open_package_as_odt, recognises
from tijera.core.packages.odt.empty import empty
from tijera.core.packages.odt.pictures import report_pictures
from tijera.core.packages.odt.place import captions, write

__all__ = [
    "MEDIA_TYPE",
    "OdtDocument",
    "captions",
    "empty",
    "open_package_as_odt",
    "recognises",
    "report_pictures",
    "write",
]
