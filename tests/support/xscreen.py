"""A virtual screen with real windows: Xvfb, openbox where asked, and windows of one colour."""

from __future__ import annotations

import os
import select
import subprocess
import time
from pathlib import Path
from types import TracebackType
from typing import Any

from Xlib import X, Xatom
from Xlib.display import Display

XVFB, OPENBOX = Path("/usr/bin/Xvfb"), Path("/usr/bin/openbox")
_WAIT_SECONDS = 90


class VirtualScreen:
    """An X server of 1280 × 800 pixels, at 144 dots an inch where asked: a scale factor of 1.5."""

    def __init__(self, *, managed: bool, dpi: int | None = None, name: str | None = None) -> None:
        self._managed, self._name = managed, name
        self._dpi = dpi
        self._processes: list[subprocess.Popen[bytes]] = []

    def __enter__(self) -> VirtualScreen:
        """Start it on the display that is asked for, or on the first free one."""
        reading, writing = os.pipe()
        asked = [self._name] if self._name else []
        command = [str(XVFB), *asked, "-displayfd", str(writing), "-screen", "0", "1280x800x24", "-nolisten", "tcp"]
        self._start(command, pass_fds=(writing,))
        os.close(writing)
        with os.fdopen(reading) as pipe:
            self.name = f":{pipe.readline().strip()}"
        self.display: Any = Display(self.name)
        self.root = self.display.screen().root
        if self._dpi:
            self.root.change_property(Xatom.RESOURCE_MANAGER, Xatom.STRING, 8, f"Xft.dpi:\t{self._dpi}\n".encode())
            self.display.sync()
        if self._managed:
            self._start([str(OPENBOX)], env={**os.environ, "DISPLAY": self.name})
            check = self.display.intern_atom("_NET_WORKAREA")
            self.wait(lambda: self.root.get_full_property(check, X.AnyPropertyType) is not None)
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        """Stop all of it."""
        self.display.close()
        for process in reversed(self._processes):
            process.terminate()
            process.wait(_WAIT_SECONDS)

    def _start(self, command: list[str], **more: Any) -> None:  # noqa: ANN401
        process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, **more)
        self._processes.append(process)

    def wait(self, until: Any) -> None:  # noqa: ANN401
        """Wait for a state of the server, looking again whenever something changes on it."""
        self.root.change_attributes(event_mask=X.PropertyChangeMask | X.SubstructureNotifyMask)
        self.display.sync()
        end = time.monotonic() + _WAIT_SECONDS
        while not until():
            left = end - time.monotonic()
            if left <= 0:
                msg = "the screen did not come to that state"
                raise TimeoutError(msg)
            # What changes without a word is looked for anew after a moment.
            select.select([self.display.fileno()], [], [], min(left, 0.2))
            for _ in range(self.display.pending_events()):
                self.display.next_event()

    def window(self, title: str, x: int, y: int, width: int, height: int, colour: int) -> Any:  # noqa: ANN401
        """Open a window and wait until it is drawn."""
        screen = self.display.screen()
        window = self.root.create_window(x, y, width, height, 0, screen.root_depth, background_pixel=colour)
        window.set_wm_name(title)
        window.set_wm_normal_hints(flags=1)  # the user has said where it stands (ICCCM, USPosition)
        window.map()
        self.display.sync()
        self.wait(lambda: window.get_attributes().map_state == X.IsViewable)
        window.clear_area(0, 0, 0, 0)
        self.display.sync()
        return window
