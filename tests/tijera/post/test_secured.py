"""TLS and sign-in against a real server: aiosmtpd's, with a certificate of its own."""

import contextlib
import logging
import os
import socket
import ssl
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from unittest import mock

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, AuthResult, LoginPassword, Session
from aiosmtpd.smtp import Envelope as ServerEnvelope

from tijera.core.mail.post import Delivery, Envelope, Kind, MailServer
from tijera.post.smtp import SmtpPost

_TLS = Path(__file__).parents[2] / "data" / "tls"
_MESSAGE = b"From: watch@quillhaven.example\r\nSubject: Tide\r\n\r\nLow.\r\n..\r\n"
_ENVELOPE = Envelope("watch@quillhaven.example", ("help-desk@quillhaven.example",), len(_MESSAGE))


def _free_port() -> int:
    with socket.socket() as asked:
        asked.bind(("127.0.0.1", 0))
        return int(asked.getsockname()[1])


class _Kept:
    """Keeps what comes in, with how it came and what the sender announced (RFC 1870)."""

    def __init__(self) -> None:
        self.came: list[tuple[bytes, bool, list[str]]] = []

    async def handle_DATA(self, _server: SMTP, session: Session, envelope: ServerEnvelope) -> str:  # noqa: N802  (aiosmtpd's name)
        self.came.append(
            (bytes(envelope.original_content or b""), session.ssl is not None, list(envelope.mail_options))
        )
        return "250 Taken"


class Secured(unittest.TestCase):
    """By STARTTLS (RFC 3207), by TLS from the start (RFC 8314), signed in (RFC 4954)."""

    def setUp(self) -> None:
        """Nobody has signed in yet; what the server says of it to its own log is not looked at."""
        log = logging.getLogger("mail.log")
        self.addCleanup(log.setLevel, log.level)
        log.setLevel(logging.CRITICAL + 1)
        self.kept = _Kept()
        self.signed_in: list[tuple[str, str, bool]] = []

    def _authenticate(
        self, _server: SMTP, session: Session, _envelope: object, _how: str, data: LoginPassword
    ) -> AuthResult:
        user, password = data.login.decode(), data.password.decode()
        self.signed_in.append((user, password, session.ssl is not None))
        return AuthResult(success=(user, password) == ("watch", "low tide"), handled=False)

    @contextlib.contextmanager
    def server(self, *, starttls: bool = True, from_start: bool = False) -> Iterator[int]:
        """A server that takes nothing from who has not signed in; its port."""
        context = ssl.create_default_context(ssl.Purpose.CLIENT_AUTH)
        context.load_cert_chain(_TLS / "certificate.pem", _TLS / "key.pem")
        secured: dict[str, Any] = {}
        if from_start:
            secured = {"ssl_context": context, "auth_require_tls": False}
        elif starttls:
            secured = {"tls_context": context, "require_starttls": True}
        else:
            secured = {"auth_require_tls": False}
        controller = Controller(
            self.kept,
            "localhost",
            _free_port(),
            ready_timeout=60.0,
            authenticator=self._authenticate,
            auth_required=True,
            server_hostname="quay",
            **secured,
        )
        # It warns that a sign-in without TLS is unsafe, which is what is looked at here.
        with mock.patch("aiosmtpd.smtp.warn"):
            controller.start()
            try:
                yield controller.port
            finally:
                controller.stop()

    def give(self, port: int, security: str, password: str = "low tide", *, trusted: bool = True) -> Delivery:
        """Give the message in; the system trusts that certificate, or not."""
        post = SmtpPost(MailServer("localhost", port, security, "watch", password))
        with mock.patch.dict(os.environ, {"SSL_CERT_FILE": str(_TLS / "certificate.pem")} if trusted else {}):
            return post.deliver(_ENVELOPE, _MESSAGE, lambda: None)

    def test_it_goes_over_tls_and_signed_in_with_its_size(self) -> None:
        """The password is never said in the clear; what is announced is what comes, to the byte."""
        for security, kinds in (("starttls", {}), ("tls", {"from_start": True})):
            with self.subTest(security), self.server(**kinds) as port:
                delivery = self.give(port, security)
                self.assertEqual((delivery.kind, delivery.reply.words), (Kind.TAKEN, "Taken"))
                data, secured, options = self.kept.came.pop()
                self.assertEqual(
                    (data, secured or security == "tls", options), (_MESSAGE, True, [f"SIZE={len(_MESSAGE)}"])
                )
                self.assertTrue(all(over for _, _, over in self.signed_in) or security == "tls")

    def test_a_wrong_password_is_told_in_the_servers_words(self) -> None:
        """And nothing is given."""
        with self.server() as port:
            delivery = self.give(port, "starttls", "high tide")
        self.assertEqual((delivery.kind, delivery.reply.code, self.kept.came), (Kind.REFUSED, 535, []))
        self.assertIn("Authentication", delivery.reply.words)

    def test_a_certificate_that_nobody_vouches_for_gets_no_password(self) -> None:
        """It is said, and the message waits."""
        for security, kinds in (("starttls", {}), ("tls", {"from_start": True})):
            with self.subTest(security), self.server(**kinds) as port:
                delivery = self.give(port, security, trusted=False)
                self.assertIs(delivery.kind, Kind.AWAY)
                self.assertIn("certificate", delivery.reply.words.lower())
        self.assertEqual((self.signed_in, self.kept.came), ([], []))

    def test_a_server_without_tls_gets_nothing_in_the_clear(self) -> None:
        """Where TLS is asked for; somebody in between may have left it out."""
        with self.server(starttls=False) as port:
            delivery = self.give(port, "starttls")
        self.assertIsNot(delivery.kind, Kind.TAKEN)
        self.assertEqual((self.signed_in, self.kept.came), ([], []))


if __name__ == "__main__":
    unittest.main()
