"""Opening links, in process: what is shown to whom, how often, until when; and to nobody else anything."""

import re
import secrets
import string
import unittest
from collections.abc import MutableMapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import date, datetime, timedelta
from functools import partial
from typing import Any
from unittest import mock
from zoneinfo import ZoneInfo

import httpx
from starlette.types import ASGIApp

from tests.support.bench import BenchCase
from tests.support.loops import finished
from tests.support.passwords import cheap_passwords
from tests.support.rounds import rounds
from tests.support.sheets import mark
from tijera.core.clippings import edits
from tijera.core.errors import LinkEndsBefore, LinksOff
from tijera.links.app import LinkPages
from tijera.records import ClippingRecord, HandoverRecord, LinkRecord
from tijera.store.cleaning import clean
from tijera.usecases import linking, rack, trimming
from tijera.usecases.linking import Links, LinkSetup, LinkWish

_SETUP = LinkSetup("http://clips.quillhaven.example/see/", 7_480)
_GUESSES = 1_000_000
_HOST = "http://clips.quillhaven.example"


class Client:
    """Asks an application in this process, one request after the other, from any thread."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    def request(self, method: str, address: str, **what: object) -> httpx.Response:
        """One request; redirections are followed."""

        async def ask() -> httpx.Response:
            transport = httpx.ASGITransport(self._app)
            async with httpx.AsyncClient(transport=transport, base_url=_HOST, follow_redirects=True) as client:
                return await client.request(method, address, **what)  # type: ignore[arg-type]

        return finished(ask())

    def get(self, address: str) -> httpx.Response:
        """What is there."""
        return self.request("GET", address)


class LinkCase(BenchCase):
    """A clipping, links that are on, and clocks that the test moves."""

    def setUp(self) -> None:
        """It is noon."""
        self.enterContext(cheap_passwords())
        super().setUp()
        self.moment = datetime.fromisoformat("2026-03-12T12:00:00+00:00")
        self.workshop.now = lambda: self.moment.isoformat(timespec="microseconds")
        self.links = Links(self.workshop)
        self.links.set_up(_SETUP)
        self.seconds = 5_000.0
        self.pages = LinkPages(self.links, lambda: self.seconds)
        self.http = Client(self.pages)

    def later(self, **time: float) -> None:
        """Let time pass, on both clocks."""
        self.moment += timedelta(**time)
        self.seconds += timedelta(**time).total_seconds()

    def make(self, **wish: object) -> LinkRecord:
        """A link to a new clipping."""
        return self.links.make(self.take().id, LinkWish(**wish))  # type: ignore[arg-type]

    def get(self, link: LinkRecord) -> httpx.Response:
        """What somebody sees who opens the address."""
        return self.http.get(f"/{link.token}")

    def press(self, link: LinkRecord, password: str = "") -> httpx.Response:
        """What somebody sees who gives a password, or presses the button."""
        return self.http.request("POST", f"/{link.token}", data={"password": password})

    def picture(self, page: httpx.Response) -> bytes:
        """The picture on a page; nothing where there is none."""
        found = re.search(r'<img src="([^"]+)"', page.text)
        if found is None:
            return b""
        answer = self.http.get(str(page.url.join(found[1])))
        self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "image/png"))
        return answer.content

    def seen(self, link: LinkRecord) -> int:
        """How often it was opened."""
        return self.workshop.store.find(LinkRecord, link.id).views

    def left(self, link: LinkRecord) -> bytes:
        """What was written down that left."""
        return self.workshop.store.blobs.get(self.workshop.store.find(HandoverRecord, link.handover).blob)


class Opening(LinkCase):
    """With the address."""

    def test_the_page_shows_the_very_bytes_that_left(self) -> None:
        """Whatever becomes of the clipping; and each time counts."""
        link = self.make()
        self.assertEqual(self.links.address_of(link), f"http://clips.quillhaven.example/see/{link.token}")
        page = self.get(link)
        self.assertEqual((page.status_code, self.picture(page)), (200, self.left(link)))
        self.assertIn(link.name, page.text)
        marked = lambda sheet, crop: (edits.add(sheet, [mark("ring", (10, 10), (60, 50))]), crop)  # noqa: E731
        trimming.edit(self.workshop, link.clipping, None, "Mark", marked)
        self.assertEqual(self.picture(self.get(link)), self.left(link))
        rack.remove(self.workshop, [link.clipping])
        self.workshop.store.forget_changes()
        clean(self.workshop.store, datetime.now(ZoneInfo("UTC")) + timedelta(days=3))
        self.assertEqual((self.picture(self.get(link)), self.seen(link)), (self.left(link), 3))

    def test_words_of_a_title_that_is_held_back_do_not_leave(self) -> None:
        """Neither in the name nor as the file's."""
        clipping = self.take()
        self.workshop.store.set_aside(ClippingRecord, clipping.id, lambda one: _named(one, "Crew of M. Brandt"))
        hide = lambda sheet, crop: (edits.add(sheet, [mark("black-out", (10, 10), (60, 50))]), crop)  # noqa: E731
        trimming.edit(self.workshop, clipping.id, None, "Mark", hide)
        page = self.get(self.links.make(clipping.id, LinkWish()))
        self.assertNotIn("Brandt", page.text)
        self.assertEqual(page.status_code, 200)

    def test_every_answer_guards_itself(self) -> None:
        """No script, nothing from elsewhere, kept nowhere, told to nobody, in nobody's frame."""
        link, asking = self.make(), self.make(password="tide")
        for answer in (self.get(link), self.get(asking), self.press(asking, "tide"), self.http.get("/")):
            policy = answer.headers["content-security-policy"]
            self.assertIn("default-src 'none'", policy)
            self.assertIn("frame-ancestors 'none'", policy)
            self.assertNotIn("script", policy)
            self.assertNotIn("<script", answer.text)
            self.assertEqual(answer.headers["cache-control"], "no-store")
            self.assertEqual(answer.headers["referrer-policy"], "no-referrer")
            self.assertEqual(answer.headers["x-content-type-options"], "nosniff")

    def test_a_name_is_words_and_never_markup(self) -> None:
        """On the page, in the address, in the header."""
        clipping = self.take()
        name = "<img src=x onerror=alert(1)> \"quoted\" & 'so' %0d%0a é 深"
        rack.rename(self.workshop, clipping.id, name)
        page = self.get(self.links.make(clipping.id, LinkWish()))
        self.assertEqual(page.text.count("<img"), 1)
        self.assertNotIn("onerror=alert(1)>", page.text)
        self.assertTrue(self.picture(page))


class Views(LinkCase):
    """A link that is opened so often and no more."""

    def test_only_a_press_counts(self) -> None:
        """What looks at addresses before people do uses nothing up; showing the page again neither."""
        link = self.make(most_views=2)
        for _ in range(5):
            page = self.get(link)
            self.assertEqual((self.picture(page), "Show the picture" in page.text), (b"", True))
            self.assertEqual(self.http.request("HEAD", f"/{link.token}").status_code, 200)
        shown = self.press(link)
        for _ in range(5):
            self.assertEqual(self.picture(self.http.get(str(shown.url))), self.left(link))
        self.assertEqual(self.seen(link), 1)
        self.assertTrue(self.picture(self.press(link)))
        gone = self.press(link)
        self.assertEqual((gone.status_code, self.picture(gone)), (410, b""))
        self.assertIn("as often as it may", gone.text)
        # Who was let in can still look for a while; then not even that.
        self.assertTrue(self.picture(self.http.get(str(shown.url))))
        self.later(minutes=6)
        self.assertEqual(self.http.get(str(shown.url)).status_code, 410)

    def test_a_head_counts_nothing_and_shows_nothing(self) -> None:
        """Of a link that is open to all too."""
        link = self.make()
        self.assertEqual((self.http.request("HEAD", f"/{link.token}").content, self.seen(link)), (b"", 0))

    def test_presses_at_once_are_counted_one_by_one(self) -> None:
        """Of 40 at once, three are let in."""
        link = self.make(most_views=3)
        with ThreadPoolExecutor(40) as people:
            answers = list(people.map(lambda _: self.press(link).status_code, range(40)))
        self.assertEqual((answers.count(200), answers.count(410), self.seen(link)), (3, 37, 3))

    def test_a_pass_holds_for_its_link_and_a_while(self) -> None:
        """Not for another one, not changed, not later; a withdrawn link ends it at once."""
        link, other = self.make(password="tide"), self.make(password="ebb")
        shown = str(self.press(link, "tide").url)
        passed = shown.rpartition("/")[2]

        def ask(token: str, each: str) -> httpx.Response:
            return self.http.get(f"/{token}/{each}")

        self.assertTrue(self.picture(ask(link.token, passed)))
        longer, changed = f"f{passed}", passed[:-1] + ("1" if passed.endswith("0") else "0")
        for token, each in ((other.token, passed), (link.token, longer), (link.token, changed)):
            self.assertIn("<form", ask(token, each).text, each)
        self.later(seconds=301)
        self.assertIn("<form", ask(link.token, passed).text)
        again = str(self.press(link, "tide").url)
        self.links.withdraw(link.id)
        self.assertEqual(self.http.get(again).status_code, 410)


class Passwords(LinkCase):
    """A link with a password."""

    def test_the_picture_is_shown_for_the_password_alone(self) -> None:
        """And its name too."""
        link = self.make(password="low tide, 9.15 – ébb")
        for page in (self.get(link), self.press(link), self.press(link, "Low tide, 9.15 – ébb")):
            self.assertNotIn(link.name, page.text)
            self.assertEqual(self.picture(page), b"")
        shown = self.press(link, "low tide, 9.15 – ébb")
        self.assertEqual((self.picture(shown), self.seen(link)), (self.left(link), 1))
        (row,) = self.workshop.store.links()
        self.assertNotIn("tide", row.password)

    def test_five_wrong_ones_close_it_for_growing_pauses(self) -> None:
        """Meanwhile the right one is refused too; after it, the count begins anew."""
        link = self.make(password="tide")
        self.assertEqual([self.press(link, "x").status_code for _ in range(5)], [403] * 4 + [429])
        for pause in (60, 120, 240, 480):
            refused = self.press(link, "tide")
            self.assertEqual(refused.status_code, 429)
            self.assertIn(f"opens again in {pause // 60} min", refused.text)
            self.later(seconds=pause - 1)
            self.assertEqual(self.press(link, "tide").status_code, 429)
            self.later(seconds=1)
            self.assertEqual(self.press(link, "x").status_code, 429)
        self.later(hours=2)
        self.assertTrue(self.picture(self.press(link, "tide")))
        self.assertEqual(self.press(link, "x").status_code, 403)

    def test_a_thousand_wrong_ones_at_once_are_five(self) -> None:
        """Nothing is worked out for the rest: what costs 64 MiB is done five times, one at a time."""
        link = self.make(password="tide")
        checked = mock.Mock(side_effect=lambda _kept, _given: False)
        with mock.patch.object(linking, "is_right", checked), ThreadPoolExecutor(16) as guessers:
            answers = list(guessers.map(lambda _: self.press(link, "x").status_code, range(rounds(1_000))))
        self.assertEqual(checked.call_count, 5)
        self.assertNotIn(200, answers)
        self.assertGreater(self.links.closed_s(self.links.every()[0]), 0)

    def test_its_maker_opens_it_again(self) -> None:
        """Without waiting."""
        link = self.make(password="tide")
        for _ in range(5):
            self.press(link, "x")
        self.links.reopen(link.id)
        self.assertTrue(self.picture(self.press(link, "tide")))


class Ends(LinkCase):
    """A link that can be opened until a day is over."""

    def test_the_last_day_counts_whole(self) -> None:
        """By the clock of the user."""
        link = self.make(ends_on=date(2026, 3, 13))
        self.later(hours=35, minutes=59)
        self.assertEqual(self.get(link).status_code, 200)
        self.later(minutes=1)
        self.assertEqual(self.get(link).status_code, 410)

    def test_what_has_ended_stays_so_when_the_clock_is_set_back(self) -> None:
        """It was seen to have ended."""
        link = self.make(ends_on=date(2026, 3, 12))
        self.later(hours=13)
        self.assertEqual(self.get(link).status_code, 410)
        self.later(hours=-13)
        self.assertEqual(self.get(link).status_code, 410)

    def test_a_day_is_as_long_as_it_is(self) -> None:
        """By the tz database: a day of 23 hours, one of 25, and clocks ahead of and behind UTC."""
        cases = (
            ("Europe/London", date(2026, 3, 28), "2026-03-29T00:00:00.000000+00:00"),
            ("Europe/London", date(2026, 3, 29), "2026-03-29T23:00:00.000000+00:00"),
            ("Europe/London", date(2026, 10, 25), "2026-10-26T00:00:00.000000+00:00"),
            ("America/St_Johns", date(2026, 3, 12), "2026-03-13T02:30:00.000000+00:00"),
            ("Pacific/Kiritimati", date(2026, 3, 12), "2026-03-12T10:00:00.000000+00:00"),
        )
        for zone, day, moment in cases:
            self.workshop.local_time = partial(_in_zone, ZoneInfo(zone))
            self.moment = datetime.fromisoformat("2026-01-01T12:00:00+00:00")
            self.assertEqual(self.make(ends_on=day).ends_at, moment, zone)

    def test_a_day_that_is_over_is_refused(self) -> None:
        """And so is any link where nobody could reach it."""
        with self.assertRaises(LinkEndsBefore):
            self.make(ends_on=date(2026, 3, 11))
        self.links.set_up(None)
        with self.assertRaises(LinksOff):
            self.make()
        self.assertEqual(self.links.every(), [])

    def test_withdrawn_is_for_good(self) -> None:
        """Also after a new start."""
        link = self.make()
        self.links.withdraw(link.id)
        self.assertEqual(self.get(link).status_code, 410)
        again = Client(LinkPages(Links(self.workshop)))
        self.assertEqual(again.get(f"/{link.token}").status_code, 410)
        self.assertIn("withdrawn", again.get(f"/{link.token}").text)


class Guessing(LinkCase):
    """Without the address."""

    def test_a_million_guesses_find_nothing(self) -> None:
        """Made as tokens are, near a real one, and of other shapes; each gets the answer that any address gets."""
        real = [self.make() for _ in range(3)]
        alphabet = string.ascii_letters + string.digits + "-_"
        answers: dict[int, int] = {}

        async def guess() -> None:
            status = 0

            async def receive() -> MutableMapping[str, Any]:
                return {"type": "http.request", "body": b""}

            async def send(message: MutableMapping[str, Any]) -> None:
                nonlocal status
                status = message.get("status", status)

            for number in range(rounds(_GUESSES)):
                token = secrets.token_urlsafe(24)
                if number % 3 == 0:
                    near = real[number % len(real)].token
                    at = number // 3 % len(near)
                    token = near[:at] + alphabet[(alphabet.index(near[at]) + 1 + number % 62) % 64] + near[at + 1 :]
                await self.pages({"type": "http", "method": "GET", "path": f"/{token}", "headers": []}, receive, send)
                answers[status] = answers.get(status, 0) + 1

        finished(guess())
        self.assertEqual(answers, {404: rounds(_GUESSES)})
        self.assertEqual([self.seen(each) for each in real], [0, 0, 0])

    def test_no_other_address_answers_anything_else(self) -> None:
        """A guess can't be told from what was never there."""
        link = self.make()
        nothing = self.http.get(f"/{secrets.token_urlsafe(24)}")
        for path in ("/", "/api/v1/bench", "/docs", "/assets/x.js", f"/{link.token}x", f"/{link.token[:-1]}",
                     f"/{link.id}", f"/{link.token}/", f"/{link.token}/0-0/x.png", "/../../etc/passwd", "/%00", "/" + "a" * 9_000):  # fmt: skip
            answer = self.http.get(path)
            self.assertEqual((answer.status_code, answer.content), (404, nothing.content), path)
        for method in ("PUT", "DELETE", "PATCH", "OPTIONS", "TRACE"):
            self.assertEqual(self.http.request(method, f"/{link.token}").status_code, 404, method)

    def test_a_form_that_is_no_form_is_a_wrong_password(self) -> None:
        """Ten megabytes, bytes that are no text, fields without end."""
        link = self.make(password="tide")
        for body in (b"x" * 10_000_000, b"\xff\xfe\x00", b"password=&" * 400, b"password=" + b"%f" * 900):
            self.links.reopen(link.id)
            answer = self.http.request("POST", f"/{link.token}", content=body)
            self.assertEqual((answer.status_code, self.picture(answer)), (403, b""))


def _in_zone(zone: ZoneInfo, at: str) -> datetime:
    return datetime.fromisoformat(at).astimezone(zone)


def _named(one: ClippingRecord, title: str) -> ClippingRecord:
    return replace(one, name=title, window=title)


if __name__ == "__main__":
    unittest.main()
