"""The manifest of an OpenDocument package (ODF 1.2 Part 3 §4)."""

from __future__ import annotations

from collections.abc import Mapping

from tijera.core.packages.containers.xmlspan import XmlPart, attributes
from tijera.core.packages.containers.zipped import Package
from tijera.core.packages.families.odf.names import declared, q

NAME = "META-INF/manifest.xml"


class Manifest:
    """Which members a package lists. Entries that name absent members stay as they are."""

    def __init__(self, package: Package) -> None:
        self._xml = XmlPart(NAME, package.read(NAME))
        self.types = {
            node.get(q("manifest:full-path"), ""): node.get(q("manifest:media-type"), "")
            for node in self._xml.root.iter(q("manifest:file-entry"))
        }
        self.is_encrypted = next(self._xml.root.iter(q("manifest:encryption-data")), None) is not None

    def with_members(self, members: Mapping[str, str]) -> bytes | None:
        """The manifest with entries for members (name to type) that it does not list yet; None when it lists all."""
        xml = "".join(
            f"<manifest:file-entry{declared('manifest')}"
            f' manifest:full-path{attributes(x=name)[2:]} manifest:media-type="{media_type}"/>'
            for name, media_type in members.items()
            if name not in self.types
        )
        return self._xml.spliced([self._xml.append_to_root(xml)]) if xml else None
