"""Zip packages, edited directly: untouched members are copied raw, in order, byte for byte.

Source: PKWARE APPNOTE 6.3 §4.3 (records), §4.5.3 (zip64 extra field). The guards keep a hostile package from
unpacking more than an honest one ever would; they were chosen on real files (docs/formats/package-guards.md).
"""

from __future__ import annotations

import struct
import zlib
from abc import ABC, abstractmethod
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace
from typing import Protocol

from tijera.core.errors import (
    InputEmpty,
    InputTooHeavy,
    LegacyDocument,
    MemberDamaged,
    MemberMethod,
    MemberNameUnsafe,
    NotAPackage,
    PackageEncrypted,
    PackageTruncated,
    PartMissing,
    TooManyMembers,
    UnpacksTooLarge,
)

_LOCAL, _CENTRAL, _END = b"PK\x03\x04", b"PK\x01\x02", b"PK\x05\x06"
_ZIP64_END, _ZIP64_LOCATOR, _LOCATOR_SIZE = b"PK\x06\x06", b"PK\x06\x07", 20
_LOCAL_HEAD, _CENTRAL_HEAD, _END_HEAD = 30, 46, 22
_STORED, _DEFLATED = 0, 8
_FLAG_ENCRYPTED, _FLAG_UTF8 = 0x1, 0x800
_UNSET32 = 0xFFFFFFFF
_OLE = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"
_MOST_KEPT_BYTES = 16_000_000
"""Of a package, what was unpacked to be checked is kept up to this until it is read."""
_EPOCH_DATE = (1 << 5) | 1
"""1 January 1980 in DOS form: new members carry no clock, so that writing twice gives the same bytes."""


@dataclass(frozen=True)
class Guards:
    """What a package may hold at the most; every refusal happens before more than this is unpacked."""

    file_bytes: int = 200 * 10**6
    members: int = 5_000
    total_bytes: int = 2**30
    part_bytes: int = 256 * 10**6
    xml_bytes: int = 64 * 10**6
    name_chars: int = 255
    ratio: int = 200
    ratio_from_bytes: int = 32 * 10**6
    refuse_signed: bool = True
    """Whether what is signed is refused; not where the user accepts that the signature will no longer hold."""
    is_own: bool = False
    """Whether it was written here a moment ago from what was checked: then its sums are not reckoned once more."""


@dataclass(frozen=True)
class Member:
    """One member: its directory entry and where its raw record lies in the package."""

    name: str
    method: int
    crc: int
    packed_bytes: int
    size_bytes: int
    start: int
    data_start: int
    end: int
    central: bytes
    stored_flags: int


class PartSource(Protocol):
    """What parts are read from: a package, or one that is about to be written."""

    def __contains__(self, name: str) -> bool: ...

    def read(self, name: str) -> bytes:
        """A member's content."""
        ...


@dataclass(frozen=True)
class Package:
    """A package that passed the guards. `data` is what came in and never changes."""

    data: bytes
    members: tuple[Member, ...]
    comment: bytes = b""
    guards: Guards = Guards()
    _by_name: dict[str, Member] = field(default_factory=dict, repr=False, compare=False)
    _checked: dict[str, bytes] = field(default_factory=dict, repr=False, compare=False)
    """What was unpacked to be checked, until somebody reads it."""

    def __post_init__(self) -> None:
        self._by_name.update({member.name: member for member in self.members})

    def __contains__(self, name: object) -> bool:
        """Tell whether there is a member of that name."""
        return name in self._by_name

    def member(self, name: str) -> Member:
        """Find a member; raise `PartMissing`."""
        try:
            return self._by_name[name]
        except KeyError:
            raise PartMissing(part=name) from None

    def read(self, name: str) -> bytes:
        """Unpack a member, stopping at its stated size; raise `PartMissing` or `MemberDamaged`."""
        checked = self._checked.pop(name, None)
        return _unpack(self.data, self.member(name)) if checked is None else checked

    def head(self, name: str, most: int) -> bytes:
        """The first bytes of a member, so many at the most, without a look at its sum; raise `PartMissing`."""
        member = self.member(name)
        packed = memoryview(self.data)[member.data_start : member.data_start + member.packed_bytes]
        if member.method == _STORED:
            return bytes(packed[:most])
        # What is not stored shorter takes a few bytes more (RFC 1951, 3.2.4); all the rest would be copied for nothing.
        return zlib.decompressobj(-zlib.MAX_WBITS).decompress(packed[: most + most // 8 + 64], most)


class Packaged(ABC):
    """What every document that is a package can tell of its members."""

    package: Package

    def read(self, member: str) -> bytes:
        """A member's bytes; raise `PartMissing` or `MemberDamaged`."""
        return self.package.read(member)

    def with_pictures(
        self, replaced: Mapping[str, bytes], parts: Mapping[str, bytes], renamed: Mapping[str, str]
    ) -> bytes:
        """The package with other bytes for some pictures, of which some have another kind and so another name.

        `parts` are to change as well; all else is copied raw.
        """
        changed = {**replaced, **parts, **(self._parts_naming(renamed, parts) if renamed else {})}
        return write_package(self.package, changed, {}, stored=frozenset(replaced), renamed=renamed)

    @abstractmethod
    def _parts_naming(self, renamed: Mapping[str, str], parts: Mapping[str, bytes]) -> dict[str, bytes]:
        """The parts that name pictures, with their new names; where `parts` has them already, those."""

    @property
    def member_names(self) -> frozenset[str]:
        """What is in it already."""
        return frozenset(member.name for member in self.package.members)


def open_package(data: bytes, name: str, guards: Guards | None = None) -> Package:
    """Check a package from outside against the guards and every member against its checksum.

    Raises a subclass of `InputRefused`; `name` is only used in messages.
    """
    guards = guards or Guards()
    if not data:
        raise InputEmpty(name=name)
    if len(data) > guards.file_bytes:
        raise InputTooHeavy(name=name, most_bytes=guards.file_bytes)
    if data.startswith(_OLE):
        encrypted = "EncryptedPackage".encode("utf-16-le") in data
        raise PackageEncrypted() if encrypted else LegacyDocument()
    package = _read_directory(data, guards)
    _check_names(package.members, guards)
    _check_sizes(package.members, guards)
    if not guards.is_own:
        spare = _MOST_KEPT_BYTES
        for member in package.members:
            content = _check_data(data, member)
            if content is not None and member.name.endswith(".xml") and len(content) <= spare:
                # Most of it is read at once: no need to unpack it twice.
                package._checked[member.name] = content
                spare -= len(content)
    return package


def _read_directory(data: bytes, guards: Guards) -> Package:
    """Read the central directory and check it against the local headers."""
    end = data.rfind(_END, max(0, len(data) - 65_557))
    if end < 0:
        raise PackageTruncated(why="the directory at its end is missing") if data[:4] == _LOCAL else NotAPackage()
    if end + _END_HEAD > len(data):
        raise PackageTruncated(why="the directory at its end is cut off")
    disk, start_disk, _, count, size, offset, comment_size = struct.unpack_from("<4H2IH", data, end + 4)
    if disk or start_disk:
        raise PackageTruncated(why="it is one of several volumes")
    locator = end - _LOCATOR_SIZE
    if locator >= 0 and data[locator : locator + 4] == _ZIP64_LOCATOR:
        wide_end: int = struct.unpack_from("<Q", data, locator + 8)[0]
        if data[wide_end : wide_end + 4] != _ZIP64_END or wide_end + 56 > locator:
            raise PackageTruncated(why="its 64-bit directory is missing")
        count, size, offset = struct.unpack_from("<3Q", data, wide_end + 32)
    if not count:
        raise PackageTruncated(why="there is nothing in it")
    if count > guards.members:
        raise TooManyMembers(count=count, most=guards.members)
    if offset + size > end:
        raise PackageTruncated(why="the directory does not stand where it should")
    entries, at = [], offset
    for _ in range(count):
        if data[at : at + 4] != _CENTRAL or at + _CENTRAL_HEAD > end:
            raise PackageTruncated(why="the directory breaks off")
        length = _CENTRAL_HEAD + sum(struct.unpack_from("<3H", data, at + 28))
        entries.append(_central_entry(data[at : at + length]))
        at += length
    if at > end:
        raise PackageTruncated(why="the directory breaks off")
    members = _locate(data, entries, offset)
    return Package(data, members, data[end + _END_HEAD : end + _END_HEAD + comment_size], guards)


def _central_entry(record: bytes) -> Member:
    """Read one directory record; positions are filled in by `_locate`."""
    flags, method = struct.unpack_from("<2H", record, 8)
    crc, packed, size = struct.unpack_from("<3I", record, 16)
    name_length, extra_length = struct.unpack_from("<2H", record, 28)
    offset: int = struct.unpack_from("<I", record, 42)[0]
    raw_name = record[_CENTRAL_HEAD : _CENTRAL_HEAD + name_length]
    try:
        name = raw_name.decode("utf-8" if flags & _FLAG_UTF8 else "cp437")
    except UnicodeDecodeError:
        raise MemberNameUnsafe(member=repr(raw_name), why="it can't be read") from None
    extra = record[_CENTRAL_HEAD + name_length : _CENTRAL_HEAD + name_length + extra_length]
    size, packed, offset = _zip64(extra, (size, packed, offset))
    if flags & _FLAG_ENCRYPTED:
        raise PackageEncrypted
    if method not in (_STORED, _DEFLATED):
        raise MemberMethod(member=name, method=method)
    return Member(name, method, crc, packed, size, offset, 0, 0, record, flags)


def _zip64(extra: bytes, values: tuple[int, int, int]) -> tuple[int, int, int]:
    """Take those of (size, packed size, offset) that don't fit 32 bits from the zip64 extra field."""
    if _UNSET32 not in values:
        return values
    at, field_data = 0, b""
    while at + 4 <= len(extra):
        kind, length = struct.unpack_from("<2H", extra, at)
        if kind == 1:
            field_data = extra[at + 4 : at + 4 + length]
        at += 4 + length
    wanted = values.count(_UNSET32)
    if len(field_data) < 8 * wanted:
        raise PackageTruncated(why="a 64-bit size is missing")
    wide = iter(struct.unpack_from(f"<{wanted}Q", field_data))
    size, packed, offset = (next(wide) if value == _UNSET32 else value for value in values)
    return size, packed, offset


def _locate(data: bytes, entries: list[Member], directory: int) -> tuple[Member, ...]:
    """Find each record's span: it ends where the next one, in order of position, or the directory begins."""
    in_order = sorted(entries, key=lambda member: member.start)
    ends = [member.start for member in in_order[1:]] + [directory]
    located = {}
    for member, end in zip(in_order, ends, strict=True):
        start = member.start
        if data[start : start + 4] != _LOCAL or start + _LOCAL_HEAD > end:
            raise PackageTruncated(why=f"“{member.name}” does not begin where the directory says")
        name_length, extra_length = struct.unpack_from("<2H", data, start + 26)
        data_start = start + _LOCAL_HEAD + name_length + extra_length
        local_name = data[start + _LOCAL_HEAD : start + _LOCAL_HEAD + name_length]
        central_name_length = struct.unpack_from("<H", member.central, 28)[0]
        if local_name != member.central[_CENTRAL_HEAD : _CENTRAL_HEAD + central_name_length]:
            raise MemberNameUnsafe(member=member.name, why="it goes by another name in the directory")
        if data_start + member.packed_bytes > end:
            raise PackageTruncated(why=f"“{member.name}” overlaps what follows it")
        located[start] = replace(member, data_start=data_start, end=end)
    if len(located) != len(entries):
        raise PackageTruncated(why="two members share one place")
    return tuple(located[member.start] for member in entries)


def _check_names(members: tuple[Member, ...], guards: Guards) -> None:
    """Refuse names that leave the package and names that stand twice, whatever their case."""
    seen = set()
    for member in members:
        name = member.name
        why = ""
        if len(name) > guards.name_chars:
            why = f"it is longer than {guards.name_chars} characters"
        elif name.startswith("/") or "\\" in name or ":" in name.split("/")[0] or "\0" in name:
            why = "it is absolute"
        elif ".." in name.split("/"):
            why = "it leaves the package"
        elif name.lower() in seen:
            why = "it stands there twice"
        if why:
            raise MemberNameUnsafe(member=name[:80], why=why)
        seen.add(name.lower())


def _check_sizes(members: tuple[Member, ...], guards: Guards) -> None:
    """Refuse by the stated sizes, before anything is unpacked."""
    for member in members:
        is_xml = member.name.lower().endswith((".xml", ".rels"))
        most = guards.xml_bytes if is_xml else guards.part_bytes
        bomb = member.size_bytes > guards.ratio_from_bytes and member.size_bytes > guards.ratio * member.packed_bytes
        if member.size_bytes > most or bomb:
            raise UnpacksTooLarge(member=member.name, size_bytes=member.size_bytes, most_bytes=most)
    total = sum(member.size_bytes for member in members)
    if total > guards.total_bytes:
        raise UnpacksTooLarge(member="all together", size_bytes=total, most_bytes=guards.total_bytes)


def _check_data(data: bytes, member: Member) -> bytes | None:
    """Check a member's checksum; a stored one without copying it. The content of one that had to be unpacked."""
    if member.method == _STORED:
        view = memoryview(data)[member.data_start : member.data_start + member.packed_bytes]
        if member.packed_bytes != member.size_bytes or zlib.crc32(view) != member.crc:
            raise MemberDamaged(member=member.name, why="its checksum does not match")
        return None
    return _unpack(data, member)


def _unpack(data: bytes, member: Member) -> bytes:
    """Unpack one member, never more than a byte beyond its stated size."""
    packed = memoryview(data)[member.data_start : member.data_start + member.packed_bytes]
    if member.method == _STORED:
        return bytes(packed)
    inflater = zlib.decompressobj(-zlib.MAX_WBITS)
    try:
        content = inflater.decompress(packed, member.size_bytes + 1)
    except zlib.error as error:
        raise MemberDamaged(member=member.name, why="its compressed data can't be read") from error
    if len(content) != member.size_bytes:
        raise MemberDamaged(member=member.name, why="its size differs from the stated one")
    if zlib.crc32(content) != member.crc:
        raise MemberDamaged(member=member.name, why="its checksum does not match")
    return content


def write_package(
    package: Package,
    changed: Mapping[str, bytes],
    added: Mapping[str, bytes],
    first: tuple[str, bytes] | None = None,
    stored: Collection[str] = (),
    removed: Collection[str] = (),
    renamed: Mapping[str, str] | None = None,
) -> bytes:
    """Write the package with some members replaced, some left out and some added behind the others.

    A pure function of its arguments. With nothing changed the input's own bytes come back. Added members are stored
    when they are pictures (compressed already) and deflated when they are XML. `first` is a member that must stand
    first, stored and without an extra field (as the media type of ODF 1.2 Part 3 §3.3); where the input has it so, it
    is copied like the others. Members that change and are named in `stored` are stored, however they were before; those
    that are `renamed` change, too, and stand where they stood.
    """
    if not changed and not added and not removed:
        return package.data
    for name in (*changed, *removed):
        package.member(name)
    source = memoryview(package.data)
    out: list[bytes | memoryview] = []
    directory: list[bytes] = []
    at = 0
    if first is not None and not _stands_first(package, *first):
        record, entry = _record(first[0], first[1], 0)
        out, directory, at = [record], [entry], len(record)
    else:
        first = None
    for member in package.members:
        if (first is not None and member.name == first[0]) or member.name in removed:
            continue
        if member.name in changed:
            deflate = False if member.name in stored else None
            name = (renamed or {}).get(member.name, member.name)
            record, entry = _record(name, changed[member.name], at, like=member, deflate=deflate)
            out.append(record)
        else:
            entry = _moved(member, at)
            out.append(source[member.start : member.end])
        directory.append(entry)
        at += len(out[-1])
    for name, content in added.items():
        record, entry = _record(name, content, at)
        out.append(record)
        directory.append(entry)
        at += len(record)
    size, count = sum(map(len, directory)), len(directory)
    end = _END + struct.pack("<4H2IH", 0, 0, count, count, size, at, len(package.comment)) + package.comment
    return b"".join([*out, *directory, end])


def new_package(members: Mapping[str, bytes], stored: Collection[str] = ()) -> bytes:
    """A package made anew, its members in the order given; the same members give the same bytes."""
    out: list[bytes] = []
    directory: list[bytes] = []
    at = 0
    for name, content in members.items():
        record, entry = _record(name, content, at, deflate=name not in stored)
        out.append(record)
        directory.append(entry)
        at += len(record)
    size, count = sum(map(len, directory)), len(directory)
    return b"".join([*out, *directory, _END + struct.pack("<4H2IH", 0, 0, count, count, size, at, 0)])


def _stands_first(package: Package, name: str, content: bytes) -> bool:
    """Whether the package begins with this very member, stored, without an extra field and with nothing before it."""
    member = min(package.members, key=lambda each: each.start)
    plain = member.method == _STORED and member.data_start == _LOCAL_HEAD + len(name)
    return member.name == name and member.start == 0 and plain and package.read(name) == content


def _moved(member: Member, offset: int) -> bytes:
    """The member's directory record with another offset.

    Where the offset stood in a zip64 field it fits 32 bits now (`Guards.file_bytes`), so the field is not consulted.
    """
    record = bytearray(member.central)
    struct.pack_into("<I", record, 42, offset)
    return bytes(record)


def _record(
    name: str, content: bytes, offset: int, like: Member | None = None, *, deflate: bool | None = None
) -> tuple[bytes, bytes]:
    """Local record and directory entry of a member that is written anew; date and attributes as they were."""
    is_xml = name.lower().endswith((".xml", ".rels"))
    wanted = (like.method == _DEFLATED if like else is_xml) if deflate is None else deflate
    method = _DEFLATED if wanted else _STORED
    packed = content
    if method == _DEFLATED:
        deflater = zlib.compressobj(6, zlib.DEFLATED, -zlib.MAX_WBITS)
        packed = deflater.compress(content) + deflater.flush()
    raw_name = name.encode()
    time, date, made_by, attributes = 0, _EPOCH_DATE, 20, (0, 0)
    flags = 0 if name.isascii() else _FLAG_UTF8
    if like:
        made_by = struct.unpack_from("<H", like.central, 4)[0]
        time, date = struct.unpack_from("<2H", like.central, 12)
        attributes = struct.unpack_from("<HI", like.central, 36)
        name_length = struct.unpack_from("<H", like.central, 28)[0]
        if name == like.name:
            raw_name = like.central[_CENTRAL_HEAD : _CENTRAL_HEAD + name_length]
            flags = like.stored_flags & _FLAG_UTF8
    facts = struct.pack("<4H3I", flags, method, time, date, zlib.crc32(content), len(packed), len(content))
    local = _LOCAL + struct.pack("<H", 20) + facts + struct.pack("<2H", len(raw_name), 0) + raw_name + packed
    central = (
        _CENTRAL
        + struct.pack("<2H", made_by, 20)
        + facts
        + struct.pack("<4H", len(raw_name), 0, 0, 0)
        + struct.pack("<HII", attributes[0], attributes[1], offset)
        + raw_name
    )
    return local, central
