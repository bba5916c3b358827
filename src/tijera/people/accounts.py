"""Who may sign in, and who has: names, passwords as Argon2id (RFC 9106), sessions by the digest of their token.

A database of its own beside the people's folders; it knows nothing of anybody's pictures or files.
"""

from __future__ import annotations

import hashlib
import re
import secrets
import threading
import unicodedata
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from peewee import FloatField, IntegerField, Model, SqliteDatabase, TextField

from tijera.core.errors import PersonThere, PersonUnknown, PersonUnreadable, SignInPaused, SignInWrong
from tijera.core.links.guarding import closed_s, hashed, is_right

DATABASE, FOLDERS = "people.sqlite", "people"
LEAST_PASSWORD = 10
"""Letters and other signs; what is said of it is its length alone (NIST SP 800-63B §5.1.1.2 asks for 8 and no rules)."""
_IDLE_S, _LONGEST_S = 12 * 3_600.0, 7 * 24 * 3_600.0
_NOTED_S = 300.0
"""A session's use is written down no more often than this."""
_FORGET_ATTEMPTS_S = 2 * 24 * 3_600.0
_NAME = re.compile(r"^[\w][\w .'-]{0,59}$")


class PersonRow(Model):
    """Somebody."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "person"

    id = TextField(primary_key=True)
    name = TextField()
    called = TextField(unique=True)
    """The name as it is compared."""
    password = TextField()


class SessionRow(Model):
    """A browser that somebody signed in with."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "session"

    digest = TextField(primary_key=True)
    person = TextField(index=True)
    begun_s = FloatField()
    used_s = FloatField()


class AttemptRow(Model):
    """Wrong passwords in a row for a name, whether anybody has it or not."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "attempt"

    called = TextField(primary_key=True)
    wrong = IntegerField()
    wrong_at_s = FloatField()


_TABLES = (PersonRow, SessionRow, AttemptRow)


@dataclass(frozen=True)
class Person:
    """Somebody who can sign in."""

    id: str
    name: str


class Accounts:
    """The accounts of one data folder. `now_s` is the time in seconds since 1970."""

    def __init__(self, folder: Path, now_s: Callable[[], float]) -> None:
        self._folder, self._now_s = folder, now_s
        self._lock = threading.RLock()
        self._database = SqliteDatabase(
            str(folder / DATABASE),
            pragmas={"journal_mode": "wal", "synchronous": "full", "busy_timeout": 5_000, "secure_delete": 1},
            check_same_thread=False,
            thread_safe=False,
        )
        # Against which a password is tried where nobody has the name: it takes as long.
        self._nobody = hashed(secrets.token_urlsafe())
        with self._open():
            self._database.create_tables(_TABLES)

    @contextmanager
    def _open(self) -> Iterator[None]:
        with self._lock, self._database.bind_ctx(_TABLES):
            self._database.connect(reuse_if_open=True)
            with self._database.atomic():
                yield

    def close(self) -> None:
        """Close the file."""
        with self._lock:
            self._database.close()

    def folder_of(self, person: Person) -> Path:
        """Where all that is somebody's lies; nothing of it is anywhere else."""
        return self._folder / FOLDERS / person.id

    # Who there is

    def add(self, name: str, password: str) -> Person:
        """Let somebody in from now on. Raises `PersonUnreadable`, `PersonThere`."""
        shown = " ".join(unicodedata.normalize("NFC", name).split())
        if not _NAME.match(shown):
            raise PersonUnreadable(name=name, why="a name has 1 to 60 letters, digits, spaces, points, hyphens")
        kept = hashed(_checked(password))
        with self._open():
            if PersonRow.select().where(PersonRow.called == _called(shown)).exists():
                raise PersonThere(name=shown)
            person = Person(secrets.token_hex(8), shown)
            PersonRow.create(id=person.id, name=shown, called=_called(shown), password=kept)
        return person

    def everybody(self) -> list[Person]:
        """All, by name."""
        with self._open():
            return [Person(row.id, row.name) for row in PersonRow.select().order_by(PersonRow.called)]

    def named(self, name: str) -> Person:
        """Somebody by name. Raises `PersonUnknown`."""
        with self._open():
            row = PersonRow.get_or_none(PersonRow.called == _called(name))
        if row is None:
            raise PersonUnknown(name=name)
        return Person(row.id, row.name)

    def remove(self, name: str) -> Person:
        """Let somebody in no more; their folder stays where it is. Raises `PersonUnknown`."""
        person = self.named(name)
        with self._open():
            PersonRow.delete().where(PersonRow.id == person.id).execute()
            SessionRow.delete().where(SessionRow.person == person.id).execute()
        return person

    def set_password(self, name: str, password: str) -> Person:
        """Give somebody another password, and sign them out everywhere. Raises `PersonUnknown`, `PersonUnreadable`."""
        person, kept = self.named(name), hashed(_checked(password))
        with self._open():
            PersonRow.update(password=kept).where(PersonRow.id == person.id).execute()
            SessionRow.delete().where(SessionRow.person == person.id).execute()
        return person

    # Who has signed in

    def sign_in(self, name: str, password: str) -> str:
        """A token for a browser. Raises `SignInPaused`, `SignInWrong`; neither says whether anybody has the name."""
        called = _called(name)
        with self._open():
            before = AttemptRow.get_or_none(AttemptRow.called == called)
            wrong = before.wrong if before else 0
            waits = closed_s(wrong, before.wrong_at_s, self._now_s()) if before else 0.0
            if waits > 0:
                raise SignInPaused(seconds=int(waits) + 1)
            # Counted before it is tried: a thousand at once are so many tries.
            AttemptRow.insert(called=called, wrong=wrong + 1, wrong_at_s=self._now_s()).on_conflict_replace().execute()
            AttemptRow.delete().where(AttemptRow.wrong_at_s < self._now_s() - _FORGET_ATTEMPTS_S).execute()
            row = PersonRow.get_or_none(PersonRow.called == called)
        if not is_right(self._nobody if row is None else row.password, password) or row is None:
            raise SignInWrong
        token = secrets.token_urlsafe(32)
        with self._open():
            AttemptRow.delete().where(AttemptRow.called == called).execute()
            SessionRow.delete().where(SessionRow.begun_s < self._now_s() - _LONGEST_S).execute()
            SessionRow.create(digest=_digest(token), person=row.id, begun_s=self._now_s(), used_s=self._now_s())
        return token

    def person_of(self, token: str) -> Person | None:
        """Whose token it is; None where it is nobody's, or has ended."""
        now = self._now_s()
        with self._open():
            session = SessionRow.get_or_none(SessionRow.digest == _digest(token))
            if session is None:
                return None
            # A clock that was set back ends nothing early, and makes nothing last for ever.
            if now - session.used_s > _IDLE_S or now - session.begun_s > _LONGEST_S:
                session.delete_instance()
                return None
            if now - session.used_s > _NOTED_S:
                SessionRow.update(used_s=now).where(SessionRow.digest == session.digest).execute()
            row = PersonRow.get_or_none(PersonRow.id == session.person)
        return None if row is None else Person(row.id, row.name)

    def sign_out(self, token: str) -> None:
        """End a session."""
        with self._open():
            SessionRow.delete().where(SessionRow.digest == _digest(token)).execute()

    def sign_out_everywhere(self, person: Person) -> int:
        """End all sessions of somebody; how many those were."""
        with self._open():
            return int(SessionRow.delete().where(SessionRow.person == person.id).execute())


def _called(name: str) -> str:
    """A name as it is compared: case, width and spaces don't count (Unicode Standard Annex 15, NFKC)."""
    return " ".join(unicodedata.normalize("NFKC", name).casefold().split())


def _checked(password: str) -> str:
    if len(password) < LEAST_PASSWORD:
        raise PersonUnreadable(
            name="password", why=f"a password has at least {LEAST_PASSWORD} signs; the longer the better"
        )
    return password


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "surrogatepass")).hexdigest()
