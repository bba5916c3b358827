"""Spreadsheets of OpenDocument (ISO/IEC 26300, ODF 1.2)."""

from tijera.core.packages.ods.document import MEDIA_TYPE, OdsDocument, open_package_as_ods, recognises
from tijera.core.packages.ods.empty import empty
from tijera.core.packages.ods.pictures import report_pictures
from tijera.core.packages.ods.place import write

__all__ = ["MEDIA_TYPE", "OdsDocument", "empty", "open_package_as_ods", "recognises", "report_pictures", "write"]
