"""E-mail messages (RFC 5322 and MIME, RFC 2045 to 2049 and 2387). A message of others is edited in its bytes."""

from tijera.core.packages.formats.eml.compose import Letter, compose
from tijera.core.packages.formats.eml.document import MEDIA_TYPE, EmlDocument, open_eml, recognises
from tijera.core.packages.formats.eml.pictures import report_pictures, shows_pixels
from tijera.core.packages.formats.eml.replacing import attached, can_replace, with_pictures
from tijera.core.packages.formats.eml.transfer import base64_bytes
from tijera.core.packages.formats.eml.writer import write
from tijera.core.packages.places.format import Format, View

FORMAT = Format(
    extension="eml",
    media_type=MEDIA_TYPE,
    view=View.MESSAGE,
    kind=EmlDocument,
    recognises=lambda source: recognises(source.data),
    open=lambda source: open_eml(source.data, source.name, source.guards),
    write=write,
    report=report_pictures,
    empty=lambda: compose(Letter()),
    with_pictures=with_pictures,
    can_replace=can_replace,
    names_say_kinds=False,
    shows_pixels=shows_pixels,
    attached=attached,
    takes=lambda message, count: base64_bytes(count, message.newline),
    breaks_seal=lambda message: message.is_sealed,
)

__all__ = ["FORMAT", "MEDIA_TYPE", "EmlDocument", "open_eml", "report_pictures", "write"]
