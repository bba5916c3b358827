"""E-mail messages (RFC 5322 and MIME, RFC 2045 to 2049 and 2387). A message of others is edited in its bytes."""

from tijera.core.packages.eml.document import MEDIA_TYPE, EmlDocument, open_eml, recognises
from tijera.core.packages.eml.pictures import report_pictures
from tijera.core.packages.eml.place import write

__all__ = ["MEDIA_TYPE", "EmlDocument", "open_eml", "recognises", "report_pictures", "write"]
