"""`tijera take`: the screen is frozen before anything of Tijera is shown."""

import contextlib
import io
import unittest
from unittest import mock

from tests.support.server import Server
from tests.support.xscreen import OPENBOX, XVFB, VirtualScreen
from tijera.cli import main
from tijera.ownership import SECRET, Ownership, Running, write_secretly
from tijera.records import FrameRecord
from tijera.web.entry import Entry

_SECRET = bytes(range(32))


class Take(unittest.TestCase):
    """For a key of the system."""

    def run_take(self, server: Server, *arguments: str) -> tuple[int, str, str]:
        """Run it against a running application."""
        entry = server.app.state.entry
        write_secretly(server.folder / SECRET, _SECRET.hex().encode())
        owner = Ownership(server.folder)
        self.addCleanup(owner.release)
        owner.tell(Running(server.address, entry.key))
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main(["take", "--data", str(server.folder), *arguments])
        return status, out.getvalue().strip(), err.getvalue()

    def test_the_running_application_freezes_and_its_address_opens(self) -> None:
        """With the frame in it."""
        with Server(with_demo_data=False, entry=Entry(_SECRET)) as server, mock.patch("webbrowser.open") as opened:
            status, address, _ = self.run_take(server, "--source", "desk")
            self.assertEqual(status, 0)
            frame = address.split("frame=")[1]
            kept = server.app.state.services.workshop.store.find(FrameRecord, frame)
            self.assertEqual((kept.source, kept.width), ("desk", 4_480))
            way = f"{server.address}/enter?key={server.app.state.entry.key}&to=%2Ftake%3Fframe%3D{frame}"
            opened.assert_called_once_with(way)

    def test_without_a_screen_it_says_so(self) -> None:
        """And opens nothing."""
        with Server(with_demo_data=False, entry=Entry(_SECRET)) as server, mock.patch("webbrowser.open") as opened:
            if "screen" in server.app.state.services.workshop.sources:
                self.skipTest("this session has a screen")
            status, out, err = self.run_take(server)
            self.assertEqual((status, out), (2, ""))
            self.assertIn("The screen can't be taken", err)
            opened.assert_not_called()

    @unittest.skipUnless(XVFB.exists() and OPENBOX.exists(), "Xvfb is not installed: `make test` installs it")
    def test_of_this_computers_screen(self) -> None:
        """As it was at that moment."""
        with VirtualScreen(managed=False) as virtual, mock.patch.dict("os.environ", {"DISPLAY": virtual.name}):
            virtual.window("Fares", 40, 30, 300, 200, 0x2F7F74)
            with Server(with_demo_data=False, entry=Entry(_SECRET)) as server:
                workshop = server.app.state.services.workshop
                self.addCleanup(workshop.sources["screen"]._x.close)
                status, address, _ = self.run_take(server, "--no-browser")
                kept = workshop.store.find(FrameRecord, address.split("frame=")[1])
                self.assertEqual((status, [each.title for each in kept.windows]), (0, ["Fares"]))
