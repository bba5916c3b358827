"""The postbox's SMTP server: announces what it takes, enforces it by mailbox, and can be told to behave badly."""

from __future__ import annotations

import asyncio
import contextlib
import socket
import threading
import warnings
from collections.abc import Callable
from enum import Enum
from pathlib import Path
from typing import Any

from aiosmtpd.smtp import SMTP, Envelope, Session, syntax

from tijera.postbox.mailboxes import LARGEST_BYTES, Mailboxes

_SLOW_S = 4.0
_SOME_BYTES = 4_096


class Conduct(Enum):
    """How it behaves."""

    USUAL = "usual"
    SLOW = "slow"
    """It takes its time with each reply to a message."""
    AWAY = "away"
    REFUSING = "refusing"
    """It refuses every sender for good."""
    BUSY = "busy"
    """It says to come back later."""
    BREAKING_OFF = "breaking-off"
    """In the middle of a message."""
    SILENT = "silent"
    """It keeps the message and goes away without a reply."""


class Postbox:
    """Mailboxes behind an SMTP server of their own, which starts when its address is asked for."""

    def __init__(self, folder: Path, now: Callable[[], str]) -> None:
        self.mailboxes = Mailboxes(folder, now)
        self.conduct = Conduct.USUAL
        self.slow_s = _SLOW_S
        self._lock = threading.Lock()
        self._port: int | None = None
        self._loop: asyncio.AbstractEventLoop | None = None
        self._thread: threading.Thread | None = None

    def address(self) -> tuple[str, int]:
        """Host and port; from now on it listens."""
        with self._lock:
            if self._port is None:
                listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
                listener.bind(("127.0.0.1", 0))
                self._port = int(listener.getsockname()[1])
                ready = threading.Event()
                self._thread = threading.Thread(target=self._run, args=(listener, ready), name="postbox", daemon=True)
                self._thread.start()
                ready.wait(30)
            return "127.0.0.1", self._port

    def close(self) -> None:
        """Stop listening."""
        with self._lock:
            if self._loop is not None and self._thread is not None:
                self._loop.call_soon_threadsafe(self._loop.stop)
                self._thread.join(10)
            self._loop = self._thread = self._port = None

    def _run(self, listener: socket.socket, ready: threading.Event) -> None:
        loop = asyncio.new_event_loop()
        asyncio.set_event_loop(loop)
        server = loop.run_until_complete(loop.create_server(self._connection, sock=listener))
        self._loop = loop
        ready.set()
        try:
            loop.run_forever()
        finally:
            server.close()
            for task in asyncio.all_tasks(loop):
                task.cancel()
            loop.run_until_complete(asyncio.sleep(0))
            loop.close()

    def _connection(self) -> SMTP:
        # The library warns of sign-in without TLS, which nobody asks for here.
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return _Conversation(self)


class _Conversation(SMTP):
    """One connection; what it says to a sender, a recipient and a message is said here."""

    def __init__(self, postbox: Postbox) -> None:
        self._postbox = postbox
        super().__init__(
            _Answers(postbox),
            data_size_limit=LARGEST_BYTES,
            enable_SMTPUTF8=True,
            hostname="postbox.quillhaven.example",
            ident="Quillhaven postbox",
        )

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        """Somebody who is away answers nobody."""
        if self._postbox.conduct is Conduct.AWAY:
            _hang_up(transport)
            return
        super().connection_made(transport)

    def connection_lost(self, error: Exception | None) -> None:
        """Also one that was never taken up."""
        if self._postbox.conduct is not Conduct.AWAY or self.transport is not None:
            super().connection_lost(error)

    @syntax("DATA")
    async def smtp_DATA(self, arg: str) -> None:  # noqa: N802  (the library's name)
        """Read a message, or break off in the middle of it."""
        if self._postbox.conduct is Conduct.BREAKING_OFF:
            await self.push("354 End data with <CR><LF>.<CR><LF>")
            with contextlib.suppress(ConnectionError):
                await self._reader.read(_SOME_BYTES)
            _hang_up(self.transport)
            # The library ends a conversation so.
            raise asyncio.CancelledError
        await super().smtp_DATA(arg)


class _Answers:
    def __init__(self, postbox: Postbox) -> None:
        self._postbox = postbox

    async def handle_MAIL(  # noqa: N802  (the library's name)
        self, _server: SMTP, _session: Session, envelope: Envelope, address: str, options: list[str]
    ) -> str:
        if self._postbox.conduct is Conduct.REFUSING:
            return "550 5.7.1 This office takes no mail from you today"
        if self._postbox.conduct is Conduct.BUSY:
            return "451 4.3.2 The office is busy, come back later"
        envelope.mail_from = address
        envelope.mail_options.extend(options)
        return "250 2.1.0 Sender taken"

    async def handle_RCPT(  # noqa: N802  (as above)
        self, _server: SMTP, _session: Session, envelope: Envelope, address: str, options: list[str]
    ) -> str:
        mailbox = self._postbox.mailboxes.of(address)
        if mailbox is None:
            return "550 5.1.1 There is no such mailbox here"
        declared = _declared(envelope)
        if declared is not None and declared > mailbox.limit_bytes:
            return f"552 5.2.3 {mailbox.words} takes {mailbox.limit_bytes} bytes, this message has {declared}"
        envelope.rcpt_tos.append(address)
        envelope.rcpt_options.extend(options)
        return "250 2.1.5 Recipient taken"

    async def handle_DATA(self, server: SMTP, _session: Session, envelope: Envelope) -> str:  # noqa: N802  (as above)
        postbox = self._postbox
        data: Any = envelope.original_content or b""
        boxes = [postbox.mailboxes.of(each) for each in envelope.rcpt_tos]
        over = next((box for box in boxes if box is not None and len(data) > box.limit_bytes), None)
        if over is not None:
            return f"552 5.3.4 {over.words} takes {over.limit_bytes} bytes, this message has {len(data)}"
        if postbox.conduct is Conduct.SLOW:
            await asyncio.sleep(postbox.slow_s)
        for address in envelope.rcpt_tos:
            postbox.mailboxes.put(address, data)
        if postbox.conduct is Conduct.SILENT:
            _hang_up(server.transport)
        return "250 2.0.0 Message taken"


def _hang_up(transport: asyncio.BaseTransport | None) -> None:
    if isinstance(transport, asyncio.Transport):
        transport.abort()


def _declared(envelope: Envelope) -> int | None:
    """The size that was declared with the sender (RFC 1870 §4)."""
    for option in envelope.mail_options:
        name, _, value = option.partition("=")
        if name.upper() == "SIZE" and value.isdigit():
            return int(value)
    return None
