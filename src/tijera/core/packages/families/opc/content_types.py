"""The content types of a package (ECMA-376 Part 2): defaults by extension, overrides by part."""

from __future__ import annotations

from tijera.core.packages.containers.xmlspan import XmlPart, attributes
from tijera.core.packages.containers.zipped import PartSource

NAME = "[Content_Types].xml"
RELATIONSHIPS_TYPE = "application/vnd.openxmlformats-package.relationships+xml"
NAMESPACE = "http://schemas.openxmlformats.org/package/2006/content-types"


class ContentTypes:
    """Which type each part has; extensions match without regard to case."""

    def __init__(self, package: PartSource) -> None:
        self._xml = XmlPart(NAME, package.read(NAME))
        root = self._xml.root
        self.defaults = {
            node.get("Extension", "").lower(): node.get("ContentType", "")
            for node in root.iter(f"{{{NAMESPACE}}}Default")
        }
        self.overrides = {
            node.get("PartName", "").lower(): node.get("ContentType", "")
            for node in root.iter(f"{{{NAMESPACE}}}Override")
        }

    def of(self, member: str) -> str | None:
        """The content type of a member; None when the package declares none."""
        return self.overrides.get(f"/{member}".lower()) or self.defaults.get(_extension(member))

    def with_parts(self, parts: dict[str, str]) -> bytes | None:
        """The part with what is missing for some members (name to type); None when nothing is."""
        defaults, xml = dict(self.defaults), ""
        for member, content_type in parts.items():
            extension = _extension(member)
            if self.of(member) == content_type or defaults.get(extension) == content_type:
                continue
            if not extension or extension in defaults:
                xml += (
                    f'<Override xmlns="{NAMESPACE}"'
                    + attributes(PartName=f"/{member}", ContentType=content_type)
                    + "/>"
                )
            else:
                defaults[extension] = content_type
                xml += (
                    f'<Default xmlns="{NAMESPACE}"' + attributes(Extension=extension, ContentType=content_type) + "/>"
                )
        return self._xml.spliced([self._xml.append_to_root(xml)]) if xml else None


def _extension(member: str) -> str:
    """What stands behind the last full stop of a part's last segment, in small letters; empty where none does."""
    last = member.rsplit("/", 1)[-1]
    return last.rsplit(".", 1)[-1].lower() if "." in last else ""
