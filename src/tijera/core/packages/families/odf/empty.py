"""What every new package of OpenDocument begins with."""

from __future__ import annotations

from tijera.core.packages.containers.zipped import new_package
from tijera.core.packages.families.odf import manifest
from tijera.core.packages.families.odf.names import declared
from tijera.core.packages.families.odf.package import CONTENT, MIMETYPE, STYLES

_HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'
_ALL = declared("office", "style", "text", "table", "draw", "fo", "svg", "xlink")


def empty_package(media_type: str, body: str, styles: str, automatic: str = "", masters: str = "") -> bytes:
    """A package with this body, these common styles, page layouts and master pages; the same every time."""
    content = (
        f'{_HEAD}<office:document-content{_ALL} office:version="1.2"><office:automatic-styles/>'
        f"<office:body>{body}</office:body></office:document-content>"
    )
    common = (
        f'{_HEAD}<office:document-styles{_ALL} office:version="1.2"><office:styles>{styles}</office:styles>'
        f"<office:automatic-styles>{automatic}</office:automatic-styles>"
        f"<office:master-styles>{masters}</office:master-styles></office:document-styles>"
    )
    entries = {"/": media_type, CONTENT: "text/xml", STYLES: "text/xml"}
    listed = "".join(
        f'<manifest:file-entry manifest:full-path="{path}" manifest:media-type="{type_}"/>'
        for path, type_ in entries.items()
    )
    own = f'{_HEAD}<manifest:manifest{declared("manifest")} manifest:version="1.2">{listed}</manifest:manifest>'
    members = {MIMETYPE: media_type, CONTENT: content, STYLES: common, manifest.NAME: own}
    return new_package({name: text.encode() for name, text in members.items()}, stored=(MIMETYPE,))
