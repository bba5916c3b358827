"""A message, opened: its header fields, its body with places, what hangs on it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from urllib.parse import unquote

from tijera.core.errors import (
    InputEmpty,
    InputTooHeavy,
    NotADocument,
    PackageEncrypted,
    PackageSigned,
    PartMissing,
)
from tijera.core.packages.containers.zipped import Guards
from tijera.core.packages.formats.eml.blocks import BodyImage, HtmlBlock, read_blocks
from tijera.core.packages.formats.eml.mime import Entity, decoded, looks_like_message, newline_of, parse
from tijera.core.packages.formats.eml.told import is_sealed
from tijera.core.packages.formats.eml.transfer import decode, text_of
from tijera.core.packages.places.grid import FREE
from tijera.core.packages.places.reports import pixel_size
from tijera.core.packages.places.spots import (
    Block,
    Container,
    Follows,
    Outlined,
    Section,
    ShownPicture,
    Side,
    Spot,
    SpotKind,
    Stand,
    TextOutline,
)
from tijera.core.units import EMU_PER_PIXEL, Length, round_half_up

MEDIA_TYPE = "message/rfc822"
BODY_WIDTH = Length.from_pixels(600)
"""Of a message's body (common practice)."""
ATTACHMENTS = "attached"
"""The id of the place among the attachments."""
_SIGNED = ("multipart/signed",)
_MIME_SECURE = ("application/pkcs7-mime", "application/x-pkcs7-mime")
_SHOWN_FIELDS = ("From", "To", "Cc", "Bcc", "Date", "Subject")


@dataclass(frozen=True)
class Attachment:
    """Something that hangs on a message."""

    member: str
    name: str
    type: str
    bytes: int
    """As it is written, encoded."""


@dataclass(frozen=True, eq=False)
class EmlDocument(Outlined):
    """An opened message. Nothing of it ever changes; `place.write` makes new bytes."""

    data: bytes
    root: Entity

    @property
    def newline(self) -> bytes:
        """The line end that it uses."""
        return newline_of(self.data)

    @cached_property
    def members(self) -> dict[str, Entity]:
        """Its parts by names that do not change when something is put in: file names, content-ids, numbers."""
        named: dict[str, Entity] = {}
        number = 0
        for leaf in self.root.leaves():
            name = leaf.file_name or (f"cid {leaf.content_id}" if leaf.content_id else "")
            if not name:
                number += 1
                name = f"part {number}"
            free, again = name, 2
            while free in named:
                free, again = f"{name} ({again})", again + 1
            named[free] = leaf
        return named

    @cached_property
    def shown_as(self) -> dict[str, str]:
        """The member that each content-id means."""
        return {leaf.content_id: member for member, leaf in self.members.items() if leaf.content_id}

    def member_of(self, source: str) -> str | None:
        """The member that the source of an `img` means (RFC 2392); None for one that lies elsewhere."""
        return self.shown_as.get(unquote(source[4:])) if source.lower().startswith("cid:") else None

    def read(self, member: str) -> bytes:
        """A part's content, decoded; raise `PartMissing`."""
        if member not in self.members:
            raise PartMissing(part=member)
        return decode(self.members[member])

    @property
    def member_names(self) -> frozenset[str]:
        """What is in it already."""
        return frozenset(self.members)

    @cached_property
    def html(self) -> Entity | None:
        """The part with the HTML that readers show; None for plain text."""
        return self._shown("text/html")

    @cached_property
    def plain(self) -> Entity | None:
        """The part with the plain text that readers show."""
        return self._shown("text/plain")

    def _shown(self, wanted: str) -> Entity | None:
        leaves = (each for each in self.root.leaves() if each.type == wanted and not each.is_attachment)
        return next((each for each in leaves if not each.file_name), None)

    @cached_property
    def html_text(self) -> tuple[str, str | None]:
        """The HTML, and the charset by which it can be written back."""
        return ("", None) if self.html is None else text_of(self.html)

    @property
    def fields(self) -> tuple[tuple[str, str], ...]:
        """The header fields that a reader shows, in their usual order."""
        # Raw: what stands there in UTF-8 would come as unknown.
        raw = [(name.lower(), str(value)) for name, value in self.root.fields.raw_items()]
        found = ((shown, [value for name, value in raw if name == shown.lower()]) for shown in _SHOWN_FIELDS)
        return tuple((name, decoded(", ".join(values))) for name, values in found if values)

    @property
    def attachments(self) -> tuple[Attachment, ...]:
        """What hangs on it: all that is neither its text nor shown in it."""
        body = {id(each) for each in (self.html, self.plain) if each is not None}
        return tuple(
            Attachment(member, leaf.file_name or member, leaf.type, leaf.end - leaf.start)
            for member, leaf in self.members.items()
            if id(leaf) not in body
            and (leaf.is_attachment or not leaf.content_id)
            and not leaf.type.startswith("text/html")
        )

    @cached_property
    def _blocks(self) -> tuple[int, list[HtmlBlock]]:
        text, charset = self.html_text
        if charset is not None:
            return read_blocks(text)
        words = "" if self.plain is None else text_of(self.plain)[0]
        paragraphs = [part.strip() for part in words.replace("\r\n", "\n").split("\n\n")]
        return 0, [HtmlBlock("paragraph", 0, part) for part in paragraphs if part]

    @property
    def starts_at(self) -> int:
        """Where the body of its HTML begins, in characters."""
        return self._blocks[0]

    @property
    def takes_pictures(self) -> bool:
        """Whether its body can show pictures: it has HTML that can be written back as it came."""
        return self.html is not None and self.html_text[1] is not None

    @property
    def is_sealed(self) -> bool:
        """Whether a mail server signed its body (DKIM): a changed copy no longer carries that seal."""
        return is_sealed(self.root)

    @property
    def sections(self) -> tuple[Section, ...]:
        """One lane of the usual width."""
        width, height = Fraction(BODY_WIDTH.emu), Fraction(FREE.emu)
        return (Section((width,), height, width, height),)

    @cached_property
    def outline(self) -> TextOutline:
        """Its text with its places."""
        spots: dict[str, Spot] = {}
        start: tuple[str, ...] = ()
        if self.takes_pictures:
            spots["h.0"] = _spot("h.0", Follows.START, "")
            start = ("h.0",)
        blocks, last = [], -1
        for number, each in enumerate(self._blocks[1], 1):
            own: tuple[str, ...] = ()
            if self.takes_pictures and each.ends_at is not None and each.ends_at != last:
                last = each.ends_at
                follows = Follows.TABLE if each.kind == "table" else Follows.PARAGRAPH
                spots[f"h.{number}"] = _spot(f"h.{number}", follows, each.text)
                own = (f"h.{number}",)
            pictures = tuple(shown for picture in each.pictures if (shown := self._picture(picture)) is not None)
            kind = "paragraph" if each.kind == "table" else each.kind
            blocks.append(Block(f"h.{number}", kind, each.level, each.text, 0, pictures=pictures, spots=own))
        attached = Block(ATTACHMENTS, "other", 0, "", 0, spots=(ATTACHMENTS,))
        spots[ATTACHMENTS] = _spot(ATTACHMENTS, Follows.ATTACHMENTS, "", (Stand.ATTACHED,))
        return TextOutline(Container(start, (*blocks, attached)), spots, self.sections)

    def _picture(self, picture: BodyImage) -> ShownPicture | None:
        """A picture of the body; None for one that lies elsewhere, which is never fetched."""
        member = self.member_of(picture.source)
        if member is None:
            return None
        pixels = pixel_size(self.read(member))
        wide = picture.width or (pixels.width if pixels else None)
        if wide is None or pixels is None:
            return None
        high = picture.height or max(round_half_up(Fraction(wide * pixels.height, pixels.width)), 1)
        return ShownPicture(member, Length.from_pixels(wide), Length.from_pixels(high))

    def put_at(self, spot_id: str) -> int:
        """Where in the text of the HTML a spot lies, in characters. Raises `SpotUnknown`."""
        self.spot(spot_id)
        number = int(spot_id.removeprefix("h."))
        if number == 0:
            return self.starts_at
        at = self._blocks[1][number - 1].ends_at
        return self.starts_at if at is None else at

    @property
    def ending(self) -> str:
        """The ending of its file's name."""
        return "eml"


def _spot(
    id_: str, follows: Follows, text: str, stands: tuple[Stand, ...] = (Stand.IN_BODY, Stand.ATTACHED, Stand.BOTH)
) -> Spot:
    attached = stands == (Stand.ATTACHED,)
    return Spot(
        id=id_,
        kind=SpotKind.MESSAGE,
        follows=follows,
        after_text=text,
        widths=(BODY_WIDTH,),
        height=FREE,
        section=0,
        side=Side.AFTER,
        indent_left=Length(0),
        indent_right=Length(0),
        stands=stands,
        free_width=Length(20_000 * EMU_PER_PIXEL) if attached else None,
    )


def recognises(data: bytes) -> bool:
    """Whether bytes are a message."""
    return looks_like_message(data)


def open_eml(data: bytes, name: str = "message", guards: Guards | None = None) -> EmlDocument:
    """Open and check a message from outside. Raises subclasses of `InputRefused`."""
    guards = guards or Guards()
    if not data:
        raise InputEmpty(name=name)
    if len(data) > guards.file_bytes:
        raise InputTooHeavy(name=name, most_bytes=guards.file_bytes)
    if not looks_like_message(data):
        raise NotADocument(why="it does not begin with the header fields of a message")
    root = parse(data)
    for each in root.walk():
        secure = each.type in _MIME_SECURE
        kind = str(each.fields.get_param("smime-type", "")).lower()
        if each.type == "multipart/encrypted" or (secure and kind not in ("signed-data", "certs-only")):
            raise PackageEncrypted
        if (each.type in _SIGNED or secure) and guards.refuse_signed:
            raise PackageSigned
    document = EmlDocument(data, root)
    # Read once here, so that what can't be read is refused at the door.
    _ = document.outline
    return document
