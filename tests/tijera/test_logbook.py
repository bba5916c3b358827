"""The log and the doctor: what they say, and what they must not."""

import contextlib
import io
import logging
import tempfile
import unittest
from pathlib import Path

import httpx

from tests.support.server import Server
from tijera.cli import main
from tijera.logbook import FILE, FOLDER, Discreet, open_log

_CONTENT = "the mate's wages are 41.5"


class Log(unittest.TestCase):
    """In the data folder."""

    def setUp(self) -> None:
        """Written there from now on."""
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        logger = logging.getLogger("tijera")
        before = (list(logger.handlers), logger.propagate, logging.raiseExceptions)
        self.said = io.StringIO()
        with contextlib.redirect_stderr(self.said):
            open_log(self.folder)

        def restore() -> None:
            for name in ("tijera", "uvicorn", "asyncio"):
                each = logging.getLogger(name)
                for handler in each.handlers:
                    if isinstance(handler.formatter, Discreet):
                        each.removeHandler(handler)
                        handler.close()
                each.propagate = True
            logger.handlers, logger.propagate, logging.raiseExceptions = before

        self.addCleanup(restore)

    def log(self) -> str:
        """What stands in it."""
        return (self.folder / FOLDER / FILE).read_text(encoding="utf-8")

    def test_a_fault_has_one_number_on_the_screen_and_in_the_log(self) -> None:
        """With the place in the code, and without the words of what failed: they may be somebody's."""
        with Server(with_demo_data=False) as server:

            def fails(name: str) -> None:
                try:
                    raise ValueError(_CONTENT)
                except ValueError as error:
                    raise KeyError(name) from error

            server.app.add_api_route("/api/v1/fails/{name}", fails)
            answer = httpx.get(f"{server.address}/api/v1/fails/secret-name", timeout=60)
        number = answer.json()["detail"].split("fault ")[1].split(")")[0]
        text = self.log()
        self.assertIn(f"fault {number} at GET /api/v1/fails/{{name}}", text)
        self.assertIn("builtins.KeyError\n", text)
        self.assertIn("builtins.ValueError\n", text)
        self.assertIn("test_logbook.py:", text)
        for words in (_CONTENT, "secret-name"):
            self.assertNotIn(words, text)
            self.assertNotIn(words, self.said.getvalue())
        self.assertEqual(text.count(" fault "), 1)

    def test_it_stays_small(self) -> None:
        """However much fails."""
        for _ in range(6_000):
            logging.getLogger("tijera").error("x" * 1_000)
        sizes = [path.stat().st_size for path in (self.folder / FOLDER).iterdir()]
        self.assertLessEqual(max(sizes), 1_000_000)
        self.assertLessEqual(len(sizes), 4)


class Doctor(unittest.TestCase):
    """`tijera doctor`."""

    def ask(self, folder: Path) -> tuple[int, str]:
        """Its exit status and what it says."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            status = main(["doctor", "--data", str(folder)])
        return status, out.getvalue()

    def test_a_sound_folder_is_well_and_a_damaged_one_is_not(self) -> None:
        """A picture that is gone, one that is not what was kept, a folder that others may read."""
        with Server(with_demo_data=True) as server:
            server.folder.chmod(0o700)
            status, said = self.ask(server.folder)
            self.assertEqual((status, "LOOK" in said), (0, False), said)
            self.assertIn("All is well.", said)
            one, other, *_ = sorted(path for path in (server.folder / "blobs").glob("??/*"))
            one.write_bytes(b"something else")
            server.folder.chmod(0o755)
            status, said = self.ask(server.folder)
            self.assertEqual(status, 1)
            self.assertIn("LOOK  Their content: 1 are not what was kept", said)
            self.assertIn("others may read it", said)
            other.unlink()
            one.unlink()
            self.assertRegex(self.ask(server.folder)[1], r"LOOK  Kept pictures and files: \d of \d+ are not there")

    def test_a_broken_database_is_found_and_nothing_else_is_left_out(self) -> None:
        """The checks after it still run."""
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        (folder / "tijera.sqlite").write_bytes(b"no database at all" * 100)
        status, said = self.ask(folder)
        self.assertEqual(status, 1)
        self.assertIn("LOOK  database: could not be checked (DatabaseError", said)
        self.assertIn("Room on the disk", said)
