"""Slimming: a file's own pictures as light as their places let them be, everything else as it was, to the byte."""

import base64
import email
import email.policy
import hashlib
import io
import logging
import os
import shutil
import signal
import tempfile
import unittest
import zipfile
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Executor, ProcessPoolExecutor, ThreadPoolExecutor
from contextlib import AbstractContextManager
from email.message import EmailMessage
from functools import partial
from pathlib import Path
from typing import cast

import numpy as np
from distributed import LocalCluster
from PIL import Image

from tests.support.docx import members
from tests.support.pictured import pictured
from tests.support.pictures import encoded, photograph_like, text_like
from tests.support.slimmed_checker import changed_pictures
from tijera.core.errors import ClusterUnreachable, LimitNotMet, NotAPackage
from tijera.core.packages.registry import open_document, report_pictures
from tijera.core.units import Length
from tijera.remote_shelf import RemoteShelf, is_address, shelf_of
from tijera.usecases.batches import RECORD, Outcome, State, Workers, fit_files
from tijera.usecases.shelves import LocalShelf
from tijera.usecases.slimming import Slimmed, slim
from tijera.usecases.sources import why_left_alone
from tijera.workers import cluster, processes

_WIDTH, _HEIGHT = Length.from_mm(60), Length.from_mm(34)


def _slimmed(data: bytes, limit: int, name: str = "Rules.docx") -> Slimmed:
    *_, last = slim(data, name, limit)
    assert isinstance(last, Slimmed)
    return last


_SCREEN = encoded(text_like(500, 300))
_PHOTOGRAPH = encoded(photograph_like(600, 340), "JPEG", quality=95)


class Slimming(unittest.TestCase):
    """One file."""

    def _only_pictures_differ(self, before: bytes, after: bytes) -> None:
        """Members in their order, every other one's record raw as it was (read by the standard library)."""
        with zipfile.ZipFile(io.BytesIO(before)) as one, zipfile.ZipFile(io.BytesIO(after)) as other:
            self.assertEqual(one.namelist(), other.namelist())
            self.assertIsNone(other.testzip())
            for was, now in zip(one.infolist(), other.infolist(), strict=True):
                if "media/" in was.filename.lower() or "pictures/" in was.filename.lower():
                    self.assertEqual(
                        Image.open(io.BytesIO(one.read(was))).format, Image.open(io.BytesIO(other.read(now))).format
                    )
                    continue
                raw = [
                    data[info.header_offset :][: 30 + len(info.filename) + info.compress_size]
                    for data, info in ((before, was), (after, now))
                ]
                self.assertEqual(raw[0], raw[1], was.filename)

    def test_in_every_format_that_is_a_package(self) -> None:
        """Under the limit, near to it, nothing else touched; the kinds of files stay."""
        for extension in ("docx", "odt", "xlsx", "ods"):
            data = pictured([(_SCREEN, "png"), (_PHOTOGRAPH, "jpeg")], extension)
            limit = len(data) * 6 // 10
            with self.subTest(extension):
                slimmed = _slimmed(data, limit, f"Rules.{extension}")
                self.assertLessEqual(len(slimmed.data), limit)
                self.assertGreater(len(slimmed.data), limit * 0.9)
                self._only_pictures_differ(data, slimmed.data)
                self.assertEqual(slimmed.before_bytes, len(data))
                told = {each.member: each.after_bytes for each in slimmed.pictures}
                found = {each.member: each.bytes for each in report_pictures(open_document(slimmed.data))}
                self.assertEqual(told, found)

    def test_what_is_under_its_limit_comes_back(self) -> None:
        """Byte for byte."""
        data = pictured([(_SCREEN, "png")])
        self.assertEqual(_slimmed(data, len(data)).data, data)

    def test_pictures_that_were_deflated_are_weighed_as_they_were(self) -> None:
        """Others' packages pack their pictures once more; what is not touched stays so, what changes is stored."""
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
            for name, content in members(
                pictured([(_SCREEN, "png"), (_PHOTOGRAPH, "jpeg"), (encoded(text_like(300, 200)), "png")])
            ).items():
                package.writestr(name, content)
        data = out.getvalue()
        for share in (0.95, 0.7, 0.4):
            limit = int(len(data) * share)
            with self.subTest(share):
                slimmed = _slimmed(data, limit)
                self.assertLessEqual(len(slimmed.data), limit)
                self._only_pictures_differ(data, slimmed.data)

    def test_a_limit_that_can_not_be_met_names_what_stands_in_the_way(self) -> None:
        """What it would weigh at least, and the heaviest pictures at that."""
        data = pictured([(_SCREEN, "png"), (_PHOTOGRAPH, "jpeg")])
        with self.assertRaises(LimitNotMet) as caught:
            _slimmed(data, 6_000)
        self.assertLess(int(str(caught.exception.values["least_bytes"])), len(data) // 3)
        self.assertIn("word/media/image2.jpeg", str(caught.exception.values["in_the_way"]))

    def test_what_is_not_understood_is_left_alone_and_named(self) -> None:
        """Damaged, moving, 16 bits, colours of print, turned, of another kind than its name says; the rest is slimmed."""
        turned = Image.Exif()
        turned[0x0112] = 6
        deep = io.BytesIO()
        Image.fromarray((np.arange(40_000).reshape(200, 200)).astype(np.uint16)).save(deep, "PNG")
        moving = io.BytesIO()
        frames = [Image.fromarray(text_like(60, 40, seed=seed).pixels) for seed in (1, 2)]
        frames[0].save(moving, "PNG", save_all=True, append_images=frames[1:])
        print_ = io.BytesIO()
        Image.fromarray(photograph_like(80, 60).pixels).convert("CMYK").save(print_, "JPEG")
        odd = {
            "it is damaged": (_SCREEN[: len(_SCREEN) // 2], "png"),
            "it moves": (moving.getvalue(), "png"),
            "it has 16 bits a channel": (deep.getvalue(), "png"),
            "it has the colours of print": (print_.getvalue(), "jpeg"),
            "its camera says that it is turned": (encoded(photograph_like(80, 60), "JPEG", exif=turned), "jpeg"),
            "its name says another kind, it is JPEG": (encoded(photograph_like(90, 60), "JPEG"), "png"),
            "GIF is left as it is": (encoded(text_like(50, 40), "GIF"), "png"),
            "no kind of picture that is slimmed": (b"<svg/>" * 9, "png"),
        }
        for why, (held, ending) in odd.items():
            self.assertEqual(why_left_alone(held, f"x.{ending}"), why)
        data = pictured([*odd.values(), (_PHOTOGRAPH, "jpeg")])
        slimmed = _slimmed(data, len(data) - len(_PHOTOGRAPH) // 2)
        before, after = members(data), members(slimmed.data)
        self.assertEqual([name for name in before if before[name] != after[name]], ["word/media/image9.jpeg"])
        self.assertEqual(
            {each.note for each in slimmed.pictures} - set(odd),
            {each.note for each in slimmed.pictures if "image9" in each.member},
        )

    def test_pictures_of_a_message_in_its_body_and_attached(self) -> None:
        """Read back by the standard library: every other part to the byte, every field; what heads tell is true; to the byte.

        The digest by RFC 1864, the size by RFC 2183; lines of base64 of any length come in, of 76 go out.
        """
        screen = encoded(text_like(420, 260))
        data = _message([(_PHOTOGRAPH, "image/jpeg", "inline"), (screen, "image/png", "attachment")])
        before = email.message_from_bytes(data, policy=email.policy.default)
        for share in (0.7, 0.4, 0.15):
            slimmed = _slimmed(data, int(len(data) * share), "Note.eml")
            self.assertLessEqual(len(slimmed.data), len(data) * share)
            self.assertGreater(len(slimmed.data), len(data) * share * 0.75)
            changed = {each.member for each in slimmed.pictures if each.note}
            self.assertTrue(changed)
            after = email.message_from_bytes(slimmed.data, policy=email.policy.default)
            self.assertEqual(before.items(), after.items())
            for old, new in zip(before.walk(), after.walk(), strict=True):
                if old.get_filename() not in changed:
                    self.assertEqual(old.items(), new.items())
                    if not old.is_multipart():
                        self.assertEqual(old.get_payload(), new.get_payload())
                    continue
                content = new.get_payload(decode=True)
                assert isinstance(content, bytes)
                self.assertLess(len(content), len(old.get_payload(decode=True)))
                with Image.open(io.BytesIO(content)) as image:
                    self.assertEqual(image.get_format_mimetype(), old.get_content_type())
                digest = base64.b64encode(hashlib.md5(content, usedforsecurity=False).digest()).decode()
                self.assertEqual(new["Content-MD5"], digest)
                self.assertEqual(int(new["Content-Disposition"].params["size"]), len(content))
                self.assertEqual(new["Content-ID"], old["Content-ID"])
        self.assertEqual(_slimmed(data, len(data), "Note.eml").data, data)

    def test_a_document_that_is_attached_is_slimmed_in_the_same_way(self) -> None:
        """Read back by the standard library: all but its pictures as it was; a table and a locked one stay, to the byte."""
        book = pictured([(_SCREEN, "png"), (_PHOTOGRAPH, "jpeg")])
        mail = EmailMessage()
        mail["From"], mail["Subject"] = "harbour@quillhaven.example", "The rules, once more"
        mail.set_content("As attached.")
        for name, held in (("Rules.docx", book), ("Odd.docx", b"PK\x03\x04 not one"), ("log.bin", _PHOTOGRAPH[9:])):
            mail.add_attachment(held, "application", "octet-stream", filename=name)
        data = mail.as_bytes()
        limit = len(data) - len(book) // 2
        slimmed = _slimmed(data, limit, "Note.eml")
        self.assertLessEqual(len(slimmed.data), limit)
        self.assertEqual(
            {each.member.split(" \u203a ")[0] for each in slimmed.pictures if each.after_bytes < each.before_bytes},
            {"Rules.docx"},
        )
        before, after = (
            {
                str(part.get_filename()): cast("bytes", part.get_payload(decode=True))
                for part in email.message_from_bytes(each, policy=email.policy.default).iter_attachments()
            }
            for each in (data, slimmed.data)
        )
        self.assertTrue(all(before[name] == after[name] for name in ("Odd.docx", "log.bin")))
        self.assertGreater(changed_pictures(before["Rules.docx"], after["Rules.docx"]), 0)
        self.assertLess(len(after["Rules.docx"]), len(book) * 0.7)

    def test_what_travels_in_another_encoding_is_left_alone(self) -> None:
        """And what is no picture, though it hangs on the message."""
        data = _message([(_PHOTOGRAPH, "image/jpeg", "attachment")]).replace(b"base64", b"binary", 1)
        with self.assertRaises(LimitNotMet):
            _slimmed(data, len(data) // 2, "Note.eml")


def _message(pictures: Sequence[tuple[bytes, str, str]]) -> bytes:
    """A message as another program writes it: text, a table attached, pictures in lines of 60 with digest and size."""
    parts = [
        b"Content-Type: text/plain; charset=utf-8\r\n\r\nThe tide log.\r\nHarbour office",
        b"Content-Type: text/csv\r\nContent-Disposition: attachment; filename=log.csv\r\n\r\nQ4;4.1\r\nQ5;3.9\r\n",
    ]
    for number, (content, kind, disposition) in enumerate(pictures):
        digest = base64.b64encode(hashlib.md5(content, usedforsecurity=False).digest())
        lines = base64.b64encode(content)
        body = b"\r\n".join(lines[at : at + 60] for at in range(0, len(lines), 60))
        parts.append(
            f"Content-Type: {kind}\r\nContent-ID: <p{number}@quillhaven.example>\r\nContent-Transfer-Encoding: base64\r\n"
            f"Content-Disposition: {disposition}; filename=log{number}; size={len(content)}\r\n".encode()
            + b"Content-MD5: "
            + digest
            + b"\r\n\r\n"
            + body
            + b"\r\n"
        )
    head = b"From: Pier <pier@quillhaven.example>\r\nSubject: Tides\r\nMIME-Version: 1.0\r\n"
    head += b"Content-Type: multipart/mixed; boundary=tide\r\n\r\n"
    return head + b"".join(b"--tide\r\n" + part + b"\r\n" for part in parts) + b"--tide--\r\n"


class Batches(unittest.TestCase):
    """Many files, in processes of their own."""

    def setUp(self) -> None:
        """Six files, one that is none, a folder for the copies."""
        place = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.source, self.out = place / "in", place / "out"
        (self.source / "deeper").mkdir(parents=True)
        self.out.mkdir()
        for number in range(6):
            picture = encoded(photograph_like(300 + number, 180), "JPEG", quality=95)
            (self.source / ("deeper" if number % 2 else "") / f"Log {number}.docx").write_bytes(
                pictured([(picture, "jpeg")])
            )
        (self.source / "odd.docx").write_bytes(b"Dear crew,")
        (self.source / "~$Log 0.docx").write_bytes(b"lock")
        self.limit = min(path.stat().st_size for path in self.source.rglob("Log*")) * 7 // 10
        self.pools: list[ProcessPoolExecutor] = []

    def _pool(self) -> ProcessPoolExecutor:
        pool = processes(2).new_pool()
        assert isinstance(pool, ProcessPoolExecutor)
        self.pools.append(pool)
        return pool

    def _fitting(self, new_pool: Callable[[], AbstractContextManager[Executor]]) -> Iterator[Outcome]:
        return fit_files(LocalShelf(self.source), LocalShelf(self.out), self.limit, Workers(new_pool))

    def _run(self) -> dict[str, Outcome]:
        return {each.name: each for each in self._fitting(self._pool)}

    def _states(self, outcomes: dict[str, Outcome]) -> list[State]:
        return [outcomes[name].state for name in sorted(outcomes)]

    def test_each_file_is_done_once_and_a_second_run_skips_it(self) -> None:
        """Until it or its copy changes; what is refused is told each time."""
        first = self._run()
        self.assertEqual(
            sorted(first),
            [*(f"Log {n}.docx" for n in (0, 2, 4)), *(f"deeper/Log {n}.docx" for n in (1, 3, 5)), "odd.docx"],
        )
        self.assertEqual(self._states(first), [State.WRITTEN] * 6 + [State.REFUSED])
        for name, each in first.items():
            if each.state is State.WRITTEN:
                self.assertEqual((self.out / name).stat().st_size, each.after_bytes)
                self.assertLessEqual(each.after_bytes, self.limit)
        shutil.copy(self.source / "Log 2.docx", self.source / "Log 0.docx")
        (self.out / "Log 4.docx").write_bytes(b"somebody was here")
        (self.out / "deeper/Log 5.docx").unlink()
        second = self._run()
        again = {name for name, each in second.items() if each.state is State.WRITTEN}
        self.assertEqual(again, {"Log 0.docx", "Log 4.docx", "deeper/Log 5.docx"})
        third = {each.name: each for each in self._fitting(lambda: ThreadPoolExecutor(1))}
        self.assertEqual(self._states(third), [State.DONE_BEFORE] * 6 + [State.REFUSED])
        self.assertEqual([path.name for path in self.out.rglob("*.part")], [])

    def test_a_worker_that_dies_loses_no_file(self) -> None:
        """Killed in the middle: all that was under way is done again, in a new pool."""
        killed: list[int] = []
        outcomes: dict[str, Outcome] = {}
        for each in self._fitting(self._pool):
            outcomes[each.name] = each
            if not killed:
                killed.append(next(iter(self.pools[0]._processes)))
                os.kill(killed[0], signal.SIGKILL)
        self.assertEqual(self._states(outcomes), [State.WRITTEN] * 6 + [State.REFUSED])
        self.assertGreater(len(self.pools), 1)
        for name in outcomes:
            if name != "odd.docx":
                open_document((self.out / name).read_bytes())

    def test_a_file_that_kills_each_worker_is_told_and_the_others_are_done(self) -> None:
        """After three tries."""
        new_pool = cast("Callable[[], Executor]", partial(_Dying, self._pool))
        outcomes = list(self._fitting(new_pool))
        self.assertEqual(
            {each.why for each in outcomes if each.name != "odd.docx"},
            {"Its worker died each time. Fit it by itself to see why."},
        )
        self.assertEqual(len(self.pools), 3)
        self.assertFalse((self.out / RECORD).exists())

    def test_a_cluster_does_it_though_a_worker_dies(self) -> None:
        """Two workers of a scheduler here, one killed in the middle: every file is done, once, and a second run skips all."""
        with LocalCluster(
            n_workers=2, threads_per_worker=1, dashboard_address=None, silence_logs=logging.CRITICAL
        ) as here:
            outcomes: dict[str, Outcome] = {}
            workers = cluster(here.scheduler_address)
            for each in fit_files(LocalShelf(self.source), LocalShelf(self.out), self.limit, workers):
                if not outcomes:
                    os.kill(next(iter(here.workers.values())).pid, signal.SIGKILL)
                outcomes[each.name] = each
            self.assertEqual(self._states(outcomes), [State.WRITTEN] * 6 + [State.REFUSED])
            again = fit_files(LocalShelf(self.source), LocalShelf(self.out), self.limit, workers)
            states = {each.name: each.state for each in again}
        self.assertEqual(set(states.values()), {State.DONE_BEFORE, State.REFUSED})

    def test_files_may_lie_where_an_address_leads(self) -> None:
        """By fsspec, here into its memory: the same bytes as on this computer, and skipped the second time."""
        there = shelf_of(f"memory://tijera-{self.id()}")
        self.assertIsInstance(there, RemoteShelf)
        for name in ("Log 0.docx", "deeper/Log 1.docx"):
            there.write(f"in/{name}", (self.source / name).read_bytes())
        source, out = (shelf_of(f"memory://tijera-{self.id()}/{folder}") for folder in ("in", "out"))
        states = [
            [each.state for each in fit_files(source, out, self.limit, Workers(lambda: ThreadPoolExecutor(1)))]
            for _ in range(2)
        ]
        self.assertEqual(states, [[State.WRITTEN] * 2, [State.DONE_BEFORE] * 2])
        here = fit_files(
            LocalShelf(self.source), LocalShelf(self.out), self.limit, Workers(lambda: ThreadPoolExecutor(1))
        )
        self.assertEqual(sum(each.state is State.WRITTEN for each in here), 6)
        for name in ("Log 0.docx", "deeper/Log 1.docx"):
            self.assertEqual(out.read(name), (self.out / name).read_bytes())
        self.assertEqual([name for name in out.names() if name.endswith(".part")], [])
        self.assertIsNone(out.size("gone.docx"))

    def test_storage_that_can_not_be_reached_is_said_with_its_address(self) -> None:
        """A package that its kind needs is not there, no such kind, an address that its kind can't read, nothing there."""
        for address in (
            "nowhere://scans/in",
            "dir://file:///scans",
            "memory://tijera-nothing/here",
            f"zip://a::{self.out}/gone.zip",
        ):
            with self.subTest(address), self.assertRaises(OSError) as caught:
                shelf_of(address).read("Log.docx")
            self.assertEqual(caught.exception.filename, address)
            self.assertTrue(caught.exception.strerror)
        with self.assertRaises(FileNotFoundError):
            list(shelf_of(f"file://{self.out}/nothing").names())

    def test_an_address_is_told_from_a_path(self) -> None:
        """A drive's letter is none."""
        self.assertTrue(all(map(is_address, ("s3://scans/in", "memory://x", "sftp://host/a"))))
        self.assertFalse(any(map(is_address, ("/home/a://b", "scans", "c:/scans", "C:\\scans", "./in"))))

    def test_a_cluster_that_is_not_there_is_said_in_words(self) -> None:
        with self.assertRaises(ClusterUnreachable), cluster("not an address").new_pool():
            self.fail("nothing can be there")


class _Dying:
    """A pool in which a worker dies at once."""

    def __init__(self, new_pool: object) -> None:
        self._pool = new_pool()  # type: ignore[operator]

    def __enter__(self) -> Executor:
        self._pool.__enter__()
        self._pool.submit(os._exit, 1)
        return self  # type: ignore[return-value]

    def __exit__(self, *_: object) -> None:
        self._pool.__exit__(None, None, None)

    def submit(self, *given: object) -> object:
        """Whatever is asked for."""
        return self._pool.submit(os._exit, 1)

    def shutdown(self, **options: object) -> None:
        """End it."""
        self._pool.shutdown(**options)


class Refused(unittest.TestCase):
    """What is no file."""

    def test_it_is_told_before_any_work(self) -> None:
        with self.assertRaises(NotAPackage):
            _slimmed(b"Dear crew,", 100)
