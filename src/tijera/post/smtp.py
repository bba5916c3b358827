"""A mail server by SMTP (RFC 5321), with TLS (RFC 3207, RFC 8314) and sign-in (RFC 4954) where they are set up."""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import Awaitable, Callable, Coroutine
from concurrent.futures import ThreadPoolExecutor

import aiosmtplib

from tijera.core.mail.post import Delivery, Envelope, Kind, MailServer, Reply

_TOO_HEAVY = 552
_LINE_S, _MESSAGE_S = 60.0, 600.0
"""How long a line and the reply to a message are waited for: RFC 5321 §4.5.3.2 asks for ten minutes after the final dot."""
_LOOK_S = 0.005


def _alone(conversation: Coroutine[None, None, Delivery]) -> Delivery:
    """Hold a conversation in a thread of its own: whoever asks may have a loop that runs already."""
    with ThreadPoolExecutor(1, thread_name_prefix="smtp") as thread:
        return thread.submit(asyncio.run, conversation).result()


class _Said(Exception):
    def __init__(self, delivery: Delivery) -> None:
        self.delivery = delivery


class SmtpPost:
    """One conversation with the server for each question and each message."""

    def __init__(self, server: MailServer) -> None:
        self._server = server

    def ask(self, envelope: Envelope) -> Delivery:
        """See `tijera.core.mail.post.Post`."""
        return _alone(self._talk(lambda client: _ask(client, envelope)))

    def deliver(self, envelope: Envelope, message: bytes, going: Callable[[], None]) -> Delivery:
        """See `tijera.core.mail.post.Post`."""

        async def give(client: aiosmtplib.SMTP) -> Delivery:
            asked = await _ask(client, envelope)
            taken = len(envelope.recipients) - len(asked.refused) - len(asked.later)
            if asked.kind is not Kind.TAKEN or not taken:
                return asked
            return await self._give(client, message, going, asked)

        return _alone(self._talk(give))

    async def _talk(self, what: Callable[[aiosmtplib.SMTP], Awaitable[Delivery]]) -> Delivery:
        server = self._server
        client = aiosmtplib.SMTP(
            hostname=server.host,
            port=server.port,
            use_tls=server.security == "tls",
            start_tls=server.security == "starttls",
            timeout=_LINE_S,
            local_hostname="localhost",
        )
        try:
            await client.connect()
            if server.user:
                await client.login(server.user, server.password)
            delivery = await what(client)
            # What was said before counts, whatever becomes of the farewell.
            with contextlib.suppress(aiosmtplib.SMTPException, OSError):
                await client.quit()
        except _Said as said:
            return said.delivery
        except aiosmtplib.SMTPResponseException as error:
            reply = Reply(error.code, error.message)
            return Delivery(Kind.REFUSED if reply.is_no else Kind.LATER, reply)
        except (aiosmtplib.SMTPException, OSError, TimeoutError) as error:
            return Delivery(Kind.AWAY, Reply(0, _words(error)))
        finally:
            client.close()
        return delivery

    async def _give(
        self, client: aiosmtplib.SMTP, message: bytes, going: Callable[[], None], asked: Delivery
    ) -> Delivery:
        going()
        watch = _Watch(client)
        watching = asyncio.create_task(watch.keep_looking())
        try:
            response = await client.data(message, timeout=_MESSAGE_S)
        except aiosmtplib.SMTPResponseException as error:
            reply = Reply(error.code, error.message)
            kind = Kind.REFUSED if reply.is_no else Kind.LATER
            raise _Said(
                Delivery(kind, reply, takes_bytes=asked.takes_bytes, is_too_heavy=reply.code == _TOO_HEAVY)
            ) from error
        except (aiosmtplib.SMTPException, OSError, TimeoutError) as error:
            # Some of it had not left when the line broke: then the final dot had not either.
            kind = Kind.AWAY if watch.waits else Kind.UNCLEAR
            raise _Said(Delivery(kind, Reply(0, _words(error)))) from error
        finally:
            watching.cancel()
        return Delivery(
            Kind.TAKEN, Reply(response.code, response.message), asked.refused, asked.later, asked.takes_bytes
        )


class _Watch:
    """Whether, when last looked, some of the message still waited to leave."""

    def __init__(self, client: aiosmtplib.SMTP) -> None:
        self._transport = client.transport
        self.waits = False
        protocol = client.protocol
        if protocol is None:
            return
        write = protocol.write

        def write_and_look(data: bytes) -> None:
            write(data)
            self._look()

        # The line may break before the next look; so one is taken as soon as something was written.
        protocol.write = write_and_look  # type: ignore[method-assign]

    def _look(self) -> None:
        if self._transport is not None and not self._transport.is_closing():
            self.waits = getattr(self._transport, "get_write_buffer_size", lambda: 0)() > 0

    async def keep_looking(self) -> None:
        while self._transport is not None and not self._transport.is_closing():
            self._look()
            await asyncio.sleep(_LOOK_S)


async def _ask(client: aiosmtplib.SMTP, envelope: Envelope) -> Delivery:
    """Sender with the size, then each recipient; ended as soon as the server can't take it."""
    await client.ehlo()
    takes = _announced(client)
    if envelope.needs_utf8 and not client.supports_extension("smtputf8"):
        words = "The server takes addresses in ASCII letters only (it does not announce SMTPUTF8)."
        raise _Said(Delivery(Kind.REFUSED, Reply(0, words), takes_bytes=takes))
    if takes is not None and envelope.bytes > takes:
        raise _Said(
            Delivery(
                Kind.REFUSED, Reply(0, f"The server announces SIZE {takes}."), takes_bytes=takes, is_too_heavy=True
            )
        )
    options = [f"SIZE={envelope.bytes}"] if client.supports_extension("size") else []
    if envelope.needs_utf8:
        options.append("SMTPUTF8")
    encoding = "utf-8" if envelope.needs_utf8 else "ascii"
    try:
        first = await client.mail(envelope.sender, options=options, encoding=encoding)
    except aiosmtplib.SMTPResponseException as error:
        reply = Reply(error.code, error.message)
        kind = Kind.REFUSED if reply.is_no else Kind.LATER
        raise _Said(Delivery(kind, reply, takes_bytes=takes, is_too_heavy=reply.code == _TOO_HEAVY)) from error
    said = [(each, await _recipient(client, each, encoding)) for each in envelope.recipients]
    refused = tuple((each, reply) for each, reply in said if reply.is_no)
    later = tuple((each, reply) for each, reply in said if not reply.is_no and not reply.is_yes)
    kind, reply = Kind.TAKEN, Reply(first.code, first.message)
    if len(refused) + len(later) == len(said):
        kind, reply = (Kind.LATER, later[0][1]) if later else (Kind.REFUSED, refused[0][1])
    too_heavy = any(reply.code == _TOO_HEAVY for _, reply in refused)
    return Delivery(kind, reply, refused, later, takes, too_heavy)


async def _recipient(client: aiosmtplib.SMTP, address: str, encoding: str) -> Reply:
    try:
        response = await client.rcpt(address, encoding=encoding)
    except aiosmtplib.SMTPResponseException as error:
        return Reply(error.code, error.message)
    return Reply(response.code, response.message)


def _announced(client: aiosmtplib.SMTP) -> int | None:
    """What the server says that it takes (RFC 1870 §3): nothing, or 0, means no fixed limit."""
    written = client.esmtp_extensions.get("size", "") if client.supports_extension("size") else ""
    size = written.strip()
    return int(size) or None if size.isascii() and size.isdigit() else None


def _words(error: BaseException) -> str:
    return str(error) or type(error).__name__
