"""Who is let in, from the view of browsers, pages and programs of the same machine."""

import socket
import unittest
from http.cookies import SimpleCookie
from typing import ClassVar
from unittest import mock

import httpx

from tests.support.server import Server
from tijera.web.entry import Entry, own_path
from tijera.web.guard import Guard

_PAGE = {"Accept": "text/html,application/xhtml+xml", "Sec-Fetch-Dest": "document", "Sec-Fetch-Mode": "navigate"}


class Door(unittest.TestCase):
    """The application with its door closed."""

    server: ClassVar[Server]
    entry: ClassVar[Entry]
    http: ClassVar[httpx.Client]

    @classmethod
    def setUpClass(cls) -> None:
        """One server for all: nothing is changed there."""
        cls.entry = Entry(b"s" * 32)
        cls.server = cls.enterClassContext(Server(with_demo_data=True, entry=cls.entry))
        cls.http = cls.enterClassContext(httpx.Client(base_url=cls.server.address, timeout=120))

    def setUp(self) -> None:
        """Nothing is known of the test before."""
        self.http.cookies.clear()

    def get(self, path: str, cookie: str | None = None, **headers: str) -> httpx.Response:
        """Without following anything."""
        given = {name.replace("_", "-"): value for name, value in headers.items()}
        if cookie is not None:
            given["Cookie"] = cookie
        return self.http.get(path, headers=given)

    @property
    def cookie(self) -> str:
        """As a browser shows it that was let in."""
        return f"{self.entry.cookie}={self.entry.cookie_value}"

    def test_without_the_cookie_nothing_is_answered(self) -> None:
        """Every path of the interface by every method: 401; pages say how to get in; what browsers fetch bare is there."""
        for path, methods in self.server.app.openapi()["paths"].items():
            for method in methods:
                answer = self.http.request(method, path.replace("{", "").replace("}", ""))
                self.assertEqual((answer.status_code, answer.json()["code"]), (401, "not-let-in"), path)
        page = self.get("/", **_PAGE)
        self.assertEqual(page.status_code, 401)
        self.assertIn("tijera address", page.text)
        self.assertEqual(self.get("/assets/none.js").status_code, 401)
        self.assertEqual(self.get("/manifest.webmanifest").status_code, 200)

    def test_the_printed_address_lets_a_browser_in_for_good(self) -> None:
        """The cookie is for no script and no page of another site; the key is gone from the address."""
        answer = self.get(f"/enter?key={self.entry.key}&to=/take%3Fframe%3D1", **_PAGE)
        self.assertEqual((answer.status_code, answer.headers["location"]), (303, "/take?frame=1"))
        kept = SimpleCookie(answer.headers["set-cookie"])[self.entry.cookie]
        self.assertEqual((kept["samesite"], kept["httponly"], kept["path"]), ("Strict", True, "/"))
        for page in ("/", "/api/v1/bench"):
            let_in = self.get(page, f"{self.entry.cookie}={kept.value}")
            self.assertEqual(let_in.status_code, 200)
            for secret in (self.entry.key, self.entry.cookie_value, self.entry.command):
                self.assertNotIn(secret, let_in.text)
        self.assertEqual(self.get("/api/v1/bench", Authorization=f"Bearer {self.entry.command}").status_code, 200)

    def test_another_key_cookie_or_installation_is_none(self) -> None:
        """Also where only a little of it differs, or what is shown is of another kind."""
        for key in ("", "x", self.entry.key[:-1], self.entry.command):
            self.assertEqual(self.get(f"/enter?key={key}").status_code, 401)
        other = Entry(b"t" * 32)
        wrong = (
            f"{self.entry.cookie}={self.entry.cookie_value[:-1]}",
            f"{other.cookie}={other.cookie_value}",
            f"{self.entry.cookie}={other.cookie_value}",
            f"{self.entry.cookie}={self.entry.key}",
            "=;;;=, [",
        )
        for cookie in wrong:
            self.assertEqual(self.get("/api/v1/bench", cookie).status_code, 401, cookie)
        for token in (self.entry.cookie_value, self.entry.key, "x"):
            self.assertEqual(self.get("/api/v1/bench", Authorization=f"Bearer {token}").status_code, 401)

    def test_pages_of_other_ports_get_nothing_though_the_browser_sends_its_cookie(self) -> None:
        """To a browser another port is the same site (HTML Standard, "same site"); a link from there may lead here."""
        asked = self.get("/api/v1/bench", self.cookie, Sec_Fetch_Site="same-site", Sec_Fetch_Mode="no-cors")
        self.assertEqual(asked.status_code, 403)
        sent = self.get("/api/v1/bench", self.cookie, Origin="http://127.0.0.1:9", Sec_Fetch_Site="same-site")
        self.assertEqual(sent.status_code, 403)
        link = self.get("/", self.cookie, Sec_Fetch_Site="same-site", Sec_Fetch_Mode="navigate")
        self.assertEqual(link.status_code, 200)

    def test_the_door_leads_to_our_own_pages_only(self) -> None:
        """No address of somebody else's, however it is written (CWE-601)."""
        for wanted in (
            "//evil.example",
            "https://evil.example",
            "/\\evil.example",
            "\\\\evil",
            "evil",
            "",
            "/a\r\nX: y",
        ):
            self.assertEqual(own_path(wanted), "/", wanted)
        self.assertEqual(own_path("/place?file=7"), "/place?file=7")

    def test_an_upload_that_stalls_is_ended_in_words(self) -> None:
        """Whoever holds a connection half open holds it for a while only; others are answered meanwhile."""
        head = (
            f"POST /api/v1/clippings?name=x.png HTTP/1.1\r\nHost: 127.0.0.1:{self.server.port}\r\nCookie: {self.cookie}\r\n"
            "Content-Type: application/octet-stream\r\nContent-Length: 1000\r\n\r\nhalf"
        )
        with (
            mock.patch.object(Guard, "body_within_s", 0.5),
            socket.create_connection(("127.0.0.1", self.server.port), 60) as line,
        ):
            line.sendall(head.encode())
            self.assertEqual(self.get("/api/v1/bench", self.cookie).status_code, 200)
            answer = ""
            while "upload-stalled" not in answer and (more := line.recv(65_536)):
                answer += more.decode()
        self.assertTrue(answer.startswith("HTTP/1.1 408"), answer)
        self.assertIn("upload-stalled", answer)

    def test_every_answer_has_its_headers(self) -> None:
        """Answers, pages, files, refusals of every kind, and faults."""

        def fails() -> None:
            raise RuntimeError

        self.server.app.add_api_route("/api/v1/fails", fails)
        with self.assertLogs("tijera", "ERROR"):
            fault = self.get("/api/v1/fails", self.cookie)
        answers = [
            self.get("/", self.cookie),
            self.get("/api/v1/bench", self.cookie),
            self.get("/api/v1/nothing", self.cookie),
            self.get("/api/v1/clippings/none", self.cookie),
            fault,
            self.get("/api/v1/bench"),
            self.get("/", **_PAGE),
            self.get("/enter?key=x"),
            self.get("/", Host="evil.example"),
        ]
        self.assertEqual([each.status_code for each in answers], [200, 200, 404, 404, 500, 401, 401, 401, 403])
        for each in answers:
            self.assertIn("default-src 'none'", each.headers["content-security-policy"])
            self.assertEqual(each.headers["x-content-type-options"], "nosniff")
            self.assertEqual(each.headers["referrer-policy"], "no-referrer")
            self.assertIn("camera=()", each.headers["permissions-policy"])
            self.assertEqual(each.headers["cache-control"], "no-store")
