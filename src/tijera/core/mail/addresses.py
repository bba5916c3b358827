"""Addresses as people write them, checked before anything leaves: nothing in one may end a line or begin a command.

RFC 5321 §4.1.2 and §4.5.3.1 give what an address may hold and how long it may be, RFC 6531 §3.3 lets its letters be other
than ASCII; a host's name goes by its encoding (RFC 5890).
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from email.utils import formataddr, parseaddr

from tijera.core.errors import AddressUnreadable, NoAddress, TooManyAddresses

MOST_ADDRESSES = 1_000
_MOST_LOCAL, _MOST_WHOLE = 64, 254
_CONTROL = re.compile(r"[\x00-\x1f\x7f\x85\u2028\u2029]")
_QUOTED = re.compile(r'"(?:[^"\\]|\\.)*"')
_PIECE = re.compile(r'(?:"(?:[^"\\]|\\.)*"|[^,"]|")+')
"""What stands between commas that no quotation marks hold."""
_LOCAL = re.compile(r"[^\s()<>\[\]:;@\\,\"]+")
_HOST = re.compile(r"(?=.{1,253}\Z)[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?(?:\.[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?)*\Z")


@dataclass(frozen=True)
class Address:
    """Where a message goes, and who that is."""

    address: str
    """Its host in ASCII, in lower case."""
    name: str = ""

    @property
    def needs_utf8(self) -> bool:
        """Whether only a server that knows SMTPUTF8 (RFC 6531) can take it."""
        return not self.address.isascii()

    def __str__(self) -> str:
        return formataddr((self.name, self.address)) if self.name and self.name.isascii() else self.address


def read_addresses(*fields: str) -> tuple[Address, ...]:
    """The addresses in some fields, each once, in order; parted by commas, semicolons or lines.

    Raises `AddressUnreadable` for the first that can't be one, `TooManyAddresses`.
    """
    found: dict[str, Address] = {}
    for field in fields:
        for address in _read(field):
            found.setdefault(address.address.casefold(), address)
    if len(found) > MOST_ADDRESSES:
        raise TooManyAddresses(found=len(found), most=MOST_ADDRESSES)
    return tuple(found.values())


def one_address(field: str) -> Address:
    """The one address of a field, such as the sender's. Raises `NoAddress`, `AddressUnreadable`."""
    found = read_addresses(field)
    if not found:
        raise NoAddress(what="your own address")
    if len(found) > 1:
        raise AddressUnreadable(address=field, why="only one can stand here")
    return found[0]


def _read(field: str) -> Iterable[Address]:
    lines = field.replace(";", ",").replace("\r", "").replace("\n", ",")
    if _CONTROL.search(lines):
        raise AddressUnreadable(address=_CONTROL.sub("\ufffd", lines)[:80], why="it holds a sign that can't be seen")
    for piece in _PIECE.findall(lines):
        if not piece.strip():
            continue
        # Each is read by itself: what one lacks must not swallow the next.
        if ":" in _QUOTED.sub("", piece):
            raise AddressUnreadable(address=piece.strip(), why="a colon can't stand in it")
        name, written = parseaddr(piece)
        yield Address(_checked(written or piece), " ".join(name.split()) if written else "")


def _checked(written: str) -> str:
    local, at, host = written.strip().rpartition("@")
    if not at or not local:
        raise AddressUnreadable(address=written, why="it has no @ with something on both sides")
    if not _LOCAL.fullmatch(local) or local.startswith(".") or local.endswith(".") or ".." in local:
        raise AddressUnreadable(address=written, why="what stands before the @ can't be part of an address")
    if len(local.encode()) > _MOST_LOCAL:
        raise AddressUnreadable(
            address=written, why=f"what stands before the @ is longer than {_MOST_LOCAL} characters"
        )
    try:
        ascii_host = host.encode("idna").decode("ascii").lower()
    except UnicodeError:
        ascii_host = ""
    if not _HOST.match(ascii_host):
        raise AddressUnreadable(address=written, why="what stands behind the @ is no name of a host")
    if len(f"{local}@{ascii_host}".encode()) > _MOST_WHOLE:
        raise AddressUnreadable(address=written, why=f"it is longer than {_MOST_WHOLE} characters")
    return f"{local}@{ascii_host}"
