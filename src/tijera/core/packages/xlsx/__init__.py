"""Spreadsheets of ECMA-376 (SpreadsheetML), transitional and strict."""

from tijera.core.packages.xlsx.document import XlsxDocument, open_package_as_xlsx, recognises
from tijera.core.packages.xlsx.empty import empty
from tijera.core.packages.xlsx.pictures import report_pictures
from tijera.core.packages.xlsx.place import write

MEDIA_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"

__all__ = ["MEDIA_TYPE", "XlsxDocument", "empty", "open_package_as_xlsx", "recognises", "report_pictures", "write"]
