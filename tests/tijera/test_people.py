"""Several people on one server: who gets in, and that nobody ever reaches what is another's."""

from __future__ import annotations

import contextlib
import io
import os
import random
import tempfile
import threading
import time
import unittest
from pathlib import Path
from typing import ClassVar
from unittest import mock

import httpx
import uvicorn

from tests.support.passwords import cheap_passwords
from tests.support.pictures import encoded, text_like
from tests.support.rounds import rounds
from tijera.cli import main
from tijera.core.errors import PersonThere, PersonUnknown, PersonUnreadable, SignInPaused, SignInWrong
from tijera.people.accounts import Accounts
from tijera.people.server import PeopleServer, people_app
from tijera.serving import build_app, listen

_MARIT, _ODA = "seven gulls on a mast", "low water at noon"
_RAW = {"Content-Type": "application/octet-stream"}


class Clock:
    """Goes when it is told to."""

    def __init__(self) -> None:
        self.now_s = 1_700_000_000.0

    def __call__(self) -> float:
        return self.now_s


class AccountsCase(unittest.TestCase):
    """Accounts in a folder."""

    def setUp(self) -> None:
        """Marit has one."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.clock = Clock()
        self.accounts = Accounts(self.folder, self.clock)
        self.addCleanup(self.accounts.close)
        self.marit = self.accounts.add("Marit  Holm", _MARIT)


class Kept(AccountsCase):
    """What lies in the folder."""

    def test_what_is_kept_is_neither_password_nor_token(self) -> None:
        """Argon2id with RFC 9106's second recommended option, and digests."""
        token = self.accounts.sign_in("Marit Holm", _MARIT)
        self.accounts.close()
        kept = b"".join(path.read_bytes() for path in self.folder.iterdir() if path.is_file())
        self.assertIn(b"$argon2id$v=19$m=65536,t=3,p=4$", kept)
        for secret in (_MARIT, token):
            self.assertNotIn(secret.encode(), kept)


class SigningIn(AccountsCase):
    """Names, passwords, sessions."""

    def setUp(self) -> None:
        """Many are made here."""
        self.enterContext(cheap_passwords())
        super().setUp()

    def test_name_and_password_make_a_session_and_nothing_else_does(self) -> None:
        """Case, width and spaces of the name don't count; of the password all does."""
        for name in ("Marit Holm", "marit holm", " ＭＡＲＩＴ   Holm "):
            person = self.accounts.person_of(self.accounts.sign_in(name, _MARIT))
            self.assertEqual(person, self.marit)
        for name, password in (("Marit Holm", _MARIT + " "), ("Marit Holm", ""), ("Oda", _MARIT), ("", "")):
            with self.assertRaises(SignInWrong):
                self.accounts.sign_in(name, password)
        for token in ("", "x" * 43, "\ud800"):
            self.assertIsNone(self.accounts.person_of(token))

    def test_pauses_grow_and_a_thousand_at_once_are_five(self) -> None:
        """For names that nobody has just as well; the right password waits, too."""
        for name in ("Marit Holm", "Nobody"):
            refusals: list[type[Exception]] = []

            def guess(name: str = name, refusals: list[type[Exception]] = refusals) -> None:
                try:
                    self.accounts.sign_in(name, "wrong")
                except (SignInWrong, SignInPaused) as error:
                    refusals.append(type(error))

            with mock.patch("tijera.people.accounts.is_right", return_value=False):
                threads = [threading.Thread(target=guess) for _ in range(60)]
                for each in threads:
                    each.start()
                for each in threads:
                    each.join()
            self.assertEqual((refusals.count(SignInWrong), refusals.count(SignInPaused)), (5, 55), name)
        with self.assertRaises(SignInPaused):
            self.accounts.sign_in("Marit Holm", _MARIT)
        self.clock.now_s += 61
        self.accounts.sign_in("Marit Holm", _MARIT)

    def test_sessions_end(self) -> None:
        """After half a day unused, after a week in any case, by signing out, here or everywhere, by another password, with the account."""
        token = self.accounts.sign_in("Marit Holm", _MARIT)
        for _ in range(15):
            self.clock.now_s += 11 * 3_600
            self.assertEqual(self.accounts.person_of(token), self.marit)
        self.clock.now_s += 11 * 3_600
        self.assertIsNone(self.accounts.person_of(token))
        idle, here, other = (self.accounts.sign_in("Marit Holm", _MARIT) for _ in range(3))
        self.accounts.sign_out(here)
        self.assertIsNone(self.accounts.person_of(here))
        self.assertEqual(self.accounts.person_of(other), self.marit)
        self.assertEqual(self.accounts.sign_out_everywhere(self.marit), 2)
        self.assertIsNone(self.accounts.person_of(other))
        self.assertIsNone(self.accounts.person_of(idle))
        token = self.accounts.sign_in("Marit Holm", _MARIT)
        self.clock.now_s += 13 * 3_600
        self.assertIsNone(self.accounts.person_of(token))
        token = self.accounts.sign_in("Marit Holm", _MARIT)
        self.accounts.set_password("Marit Holm", _ODA)
        self.assertIsNone(self.accounts.person_of(token))
        token = self.accounts.sign_in("Marit Holm", _ODA)
        self.accounts.remove("marit holm")
        self.assertIsNone(self.accounts.person_of(token))

    def test_names_and_passwords_that_can_not_be_taken_are_refused(self) -> None:
        """In words."""
        with self.assertRaises(PersonThere):
            self.accounts.add("MARIT HOLM", _ODA)
        with self.assertRaises(PersonUnknown):
            self.accounts.named("Oda")
        for name, password in (("", _ODA), ("../x", _ODA), ("a/b", _ODA), ("x" * 61, _ODA), ("Oda", "short")):
            with self.assertRaises(PersonUnreadable):
                self.accounts.add(name, password)

    def test_the_command_line_makes_lists_and_removes_them(self) -> None:
        """The password comes by standard input or is asked for; never as an argument."""
        folder = str(self.folder / "office")
        # The command keeps what it writes to itself, for good; here other tests come after it.
        self.addCleanup(os.umask, os.umask(0o022))

        def say(*words: str, typed: str = "") -> tuple[int, str]:
            out = io.StringIO()
            with (
                contextlib.redirect_stdout(out),
                contextlib.redirect_stderr(out),
                mock.patch("sys.stdin", io.StringIO(typed)),
            ):
                status = main(["people", *words, "--data", folder])
            return status, out.getvalue()

        self.assertEqual(say("add", "Oda", "--password-stdin", typed=f"{_ODA}\n"), (0, "Oda can sign in.\n"))
        self.assertEqual(say("list"), (0, "Oda\n"))
        self.assertEqual(say("add", "oda", "--password-stdin", typed=f"{_ODA}\n")[0], 2)
        with mock.patch("getpass.getpass", side_effect=[_MARIT, _MARIT]):
            self.assertEqual(say("password", "Oda")[0], 0)
        with mock.patch("getpass.getpass", side_effect=[_MARIT, EOFError]):
            status, said = say("password", "Oda")
        self.assertEqual((status, "--password-stdin" in said), (2, True), said)
        with mock.patch("getpass.getpass", side_effect=KeyboardInterrupt):
            self.assertEqual(say("password", "Oda"), (130, ""))
        self.assertIn("What they had stays in", say("remove", "Oda")[1])
        self.assertEqual(say("list"), (0, ""))
        errors = io.StringIO()
        with contextlib.redirect_stderr(errors):
            self.assertEqual(main(["serve", "--people", "--host", "0.0.0.0", "--data", folder]), 2)
            self.assertEqual(main(["serve", "--host", "0.0.0.0", "--data", folder]), 2)
        self.assertIn("go through TLS", errors.getvalue())


class Office(unittest.TestCase):
    """A server for Marit and Oda."""

    folder: ClassVar[Path]
    address: ClassVar[str]
    app: ClassVar[PeopleServer]
    marit: ClassVar[httpx.Client]
    oda: ClassVar[httpx.Client]

    @classmethod
    def setUpClass(cls) -> None:
        """Both are signed in."""
        cls.enterClassContext(cheap_passwords())
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        accounts = Accounts(cls.folder, time.time)
        for name, password in (("Marit", _MARIT), ("Oda", _ODA)):
            accounts.add(name, password)
        hosts = frozenset({"127.0.0.1"})
        cls.app = people_app(
            accounts,
            lambda person: build_app(accounts.folder_of(person), with_demo_data=False, hosts=hosts),
            hosts,
            secure=False,
        )
        listener = listen(0)
        assert listener
        cls.address = f"http://127.0.0.1:{listener.getsockname()[1]}"
        server = uvicorn.Server(uvicorn.Config(cls.app, log_level="error", access_log=False, lifespan="off"))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
        thread.start()

        def end() -> None:
            server.should_exit = True
            thread.join(30)
            listener.close()
            cls.app.close()

        cls.addClassCleanup(end)
        cls.marit, cls.oda = (cls.signed_in(name, password) for name, password in (("Marit", _MARIT), ("Oda", _ODA)))

    @classmethod
    def signed_in(cls, name: str, password: str) -> httpx.Client:
        """A browser of somebody's."""
        http = cls.enterClassContext(httpx.Client(base_url=cls.address, timeout=120))
        answer = http.post("/sign-in?to=/take", data={"name": name, "password": password})
        assert (answer.status_code, answer.headers["location"]) == (303, "/take"), answer.text
        assert "HttpOnly; SameSite=Strict" in answer.headers["set-cookie"]
        return http

    def test_without_a_session_there_is_the_page_to_sign_in_and_nothing_else(self) -> None:
        """Pages lead there, the interface says 401; a wrong password is said in words, with the name kept."""
        page = {"Accept": "text/html", "Sec-Fetch-Dest": "document"}
        led = httpx.get(f"{self.address}/place?file=1", headers=page)
        self.assertEqual((led.status_code, led.headers["location"]), (303, "/sign-in?to=/place%3Ffile%3D1"))
        self.assertEqual(httpx.get(f"{self.address}/api/v1/bench").json()["code"], "not-signed-in")
        shown = httpx.get(f"{self.address}/sign-in?to=//evil.example")
        self.assertIn('action="/sign-in?to=/"', shown.text)
        self.assertIn("form-action 'self'", shown.headers["content-security-policy"])
        wrong = httpx.post(f"{self.address}/sign-in", data={"name": '"><b>Ann', "password": "wrong"}, timeout=60)
        self.assertEqual(wrong.status_code, 401)
        self.assertIn("Name and password don&#x27;t belong together.", wrong.text)
        self.assertIn('value="&quot;&gt;&lt;b&gt;Ann"', wrong.text)
        foreign = httpx.post(
            f"{self.address}/sign-in", data={"name": "Oda", "password": _ODA}, headers={"Origin": "http://evil.example"}
        )
        self.assertEqual(foreign.status_code, 403)
        self.assertEqual(httpx.post(f"{self.address}/sign-in", content=b"x" * 9_000).status_code, 413)

    def test_each_has_a_folder_and_a_database_of_their_own(self) -> None:
        """Nothing of one is in the folder of the other."""
        taken = self.marit.post(
            "/api/v1/clippings", params={"name": "Only Marit.png"}, content=encoded(text_like(60, 40)), headers=_RAW
        )
        self.assertEqual(taken.status_code, 201)
        self.assertEqual(self.oda.get("/api/v1/clippings").json()["slips"], [])
        self.assertEqual(self.oda.get("/api/v1/session").json(), {"person": "Oda"})
        with_it = {
            path.parent.name
            for path in (self.folder / "people").rglob("tijera.sqlite*")
            if b"Only Marit" in path.read_bytes()
        }
        self.assertEqual(len(with_it), 1)
        self.assertEqual(len(list((self.folder / "people").iterdir())), 2)

    def test_requests_for_the_others_ids_find_nothing_and_tell_nothing(self) -> None:
        """404 each, with the words that an id of nobody's has; `make faults` sends 2,000 and looks at the time."""
        ids = {}
        taken = self.marit.post(
            "/api/v1/clippings", params={"name": "Mine.png"}, content=encoded(text_like(60, 40)), headers=_RAW
        )
        ids["clipping"] = taken.json()["clipping"]
        ids["frame"] = self.marit.post("/api/v1/sources/desk/frames").json()["id"]
        paths = [
            (method, path)
            for path, methods in build_description()["paths"].items()
            for method in methods
            if method == "get" and path.count("{") == 1 and ("{clipping}" in path or "{frame}" in path)
        ]
        self.assertGreater(len(paths), 8)
        chance = random.Random(18)
        for _ in range(rounds(150)):
            method, path = chance.choice(paths)
            kind = "clipping" if "{clipping}" in path else "frame"
            said = []
            for real in (True, False):
                key = ids[kind] if real else f"{chance.getrandbits(48):012x}"
                answer = self.oda.request(method, path.replace(f"{{{kind}}}", key), params={"words": "x"})
                said.append((answer.status_code, answer.text.replace(key, "…")))
            self.assertEqual(said[0], said[1], path)
            self.assertEqual(said[0][0], 404, path)

    def test_things_of_the_machine_are_off(self) -> None:
        """Files by path, its screen, a listener for links."""
        self.assertEqual(
            self.oda.post("/api/v1/destinations/at", json={"path": "/etc/hostname"}).json()["code"], "not-shared"
        )
        sources = {each["id"]: each for each in self.oda.get("/api/v1/sources").json()}
        self.assertFalse(sources.get("screen", {"available": False})["available"])
        body = {"address": "http://127.0.0.1:7480", "port": 7_480, "only_here": True}
        self.assertEqual(self.oda.put("/api/v1/link-setup", json=body).json()["code"], "not-shared")

    def test_signing_out_ends_it(self) -> None:
        """Here, and everywhere."""
        one, other = self.signed_in("Oda", _ODA), self.signed_in("Oda", _ODA)
        self.assertEqual(one.delete("/api/v1/session").status_code, 204)
        self.assertEqual(one.get("/api/v1/bench").status_code, 401)
        self.assertEqual(other.get("/api/v1/bench").status_code, 200)
        third = self.signed_in("Oda", _ODA)
        self.assertEqual(third.delete("/api/v1/sessions").status_code, 204)
        self.assertEqual(other.get("/api/v1/bench").status_code, 401)
        type(self).oda = self.signed_in("Oda", _ODA)


def build_description() -> dict[str, dict[str, dict[str, object]]]:
    """The interface as it is described."""
    with tempfile.TemporaryDirectory() as folder:
        app = build_app(Path(folder), with_demo_data=False)
        described: dict[str, dict[str, dict[str, object]]] = app.openapi()
        app.state.services.close()
    return described
