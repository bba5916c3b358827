"""Foreign pictures are decoded in processes of their own, kept warm, which can open nothing, send nothing and take only so much.

A picture that breaks its decoder, or has it run for ever, breaks nothing else: the process is ended, a new one is begun, and the picture
is refused in words. Large ones are decoded one after the other.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import queue
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from multiprocessing.connection import Connection
from pathlib import Path
from typing import TYPE_CHECKING, Any

from tijera.core.errors import InputRefused, PictureDamaged
from tijera.core.imaging.allocator import give_back, keep_small
from tijera.core.imaging.decode import MAX_PIXELS, decode
from tijera.core.packages.places.reports import pixel_size

if TYPE_CHECKING:
    from tijera.core.imaging.picture import Picture

_WORKERS = 2
_LARGE_PIXELS = 10_000_000
"""Larger ones go one at a time."""
_SECONDS = 30.0
"""A picture of 80 megapixels takes about three; what takes ten times that is not meant to end (set by hand)."""
_MEMORY_BYTES = 200_000_000 + 3 * 4 * MAX_PIXELS
"""On top of what the process has when it begins: room for the samples, what they are made of, and one copy."""


class Decoders:
    """A pool of them; begun when it is first needed, or ahead by `warm`."""

    def __init__(self, workers: int = _WORKERS, seconds: float = _SECONDS, memory_bytes: int = _MEMORY_BYTES) -> None:
        self._seconds, self._memory = seconds, memory_bytes
        self._free: queue.Queue[_Worker | None] = queue.Queue()
        for _ in range(workers):
            self._free.put(None)
        self._large = threading.Lock()

    def warm(self) -> None:
        """Begin one process ahead, so that the first picture does not wait for it."""
        with self._worker():
            pass

    def decode(self, data: bytes, name: str) -> Picture:
        """As `tijera.core.imaging.decode.decode`, elsewhere. Raises its errors."""
        size = pixel_size(data)
        is_large = size is not None and size.width * size.height >= _LARGE_PIXELS
        with self._large if is_large else contextlib.nullcontext(), self._worker() as worker:
            kind, *answer = worker.ask(data, name, self._seconds)
            if kind == "refused":
                raise _as_error(*answer)
            shape, density = answer
            return worker.take(shape, density, self._seconds)

    @contextmanager
    def _worker(self) -> Iterator[_Worker]:
        worker = self._free.get()
        try:
            if worker is None or not worker.is_alive():
                worker = _Worker(self._memory)
            yield worker
        except _Broken as error:
            if worker is not None:
                worker.close()
            worker = None
            raise PictureDamaged(name=error.name, why=error.why) from error
        finally:
            self._free.put(worker)

    def close(self) -> None:
        """End all processes."""
        for _ in range(self._free.qsize()):
            with contextlib.suppress(queue.Empty):
                worker = self._free.get_nowait()
                if worker is not None:
                    worker.close()


class _Broken(Exception):
    """The process ended, or did not answer in time."""

    def __init__(self, name: str, why: str) -> None:
        super().__init__(why)
        self.name, self.why = name, why


class _Worker:
    """One process, and the line to it."""

    def __init__(self, memory_bytes: int) -> None:
        # Begun afresh: a process that is forked beside the threads of a server may hang.
        context = multiprocessing.get_context("spawn")
        self._line, theirs = context.Pipe()
        self._process = context.Process(target=_serve, args=(theirs, memory_bytes), daemon=True, name="decoder")
        self._process.start()
        theirs.close()
        self._name = "picture"

    def is_alive(self) -> bool:
        return self._process.is_alive()

    def ask(self, data: bytes, name: str, seconds: float) -> tuple[Any, ...]:
        """What it says of a picture: that it is decoded, with shape and density, or why not."""
        self._name = name
        try:
            self._line.send(name)
            self._line.send_bytes(data)
            answer: tuple[Any, ...] = self._within(seconds)
        except (OSError, EOFError) as error:
            raise _Broken(name, "it breaks the program that reads it") from error
        return answer

    def take(self, shape: tuple[int, int, int], density: float | None, seconds: float) -> Picture:
        """The pixels of what it has decoded, straight into their place."""
        import numpy as np

        from tijera.core.imaging.picture import Picture

        pixels = np.empty(shape, dtype=np.uint8)
        rows = pixels.data.cast("B")
        try:
            self._line.send("pixels")
            at = 0
            while at < len(rows):
                if not self._line.poll(seconds):
                    raise _Broken(self._name, "it takes too long to read")
                at += self._line.recv_bytes_into(rows[at:])
        except (OSError, EOFError) as error:
            raise _Broken(self._name, "it breaks the program that reads it") from error
        return Picture(pixels, density)

    def _within(self, seconds: float) -> tuple[Any, ...]:
        if not self._line.poll(seconds):
            raise _Broken(self._name, "it takes too long to read")
        answer: tuple[Any, ...] = self._line.recv()
        return answer

    def close(self) -> None:
        self._process.kill()
        self._process.join()
        self._process.close()
        self._line.close()


def _as_error(code: str, values: dict[str, Any]) -> InputRefused:
    """The error that was raised there."""
    kinds: list[type[InputRefused]] = [InputRefused]
    while kinds:
        kind = kinds.pop()
        if kind.code == code and kind is not InputRefused:
            return kind(**values)
        kinds += kind.__subclasses__()
    return PictureDamaged(name=str(values.get("name", "picture")), why="it can't be read")


# In the process itself

_CHUNK = 1 << 20


def _serve(line: Connection, memory_bytes: int) -> None:
    import signal

    from PIL import Image, ImageCms

    keep_small()
    # Who stops the server with Ctrl + C means this one too, by way of the server.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    # All that is read from files is read now.
    Image.init()
    ImageCms.createProfile("sRGB")
    _confine(memory_bytes)
    while True:
        try:
            name = str(line.recv())
            data = line.recv_bytes()
        except (EOFError, OSError):
            return
        _answer(line, data, name)
        # It waits for the next one with as little as it began with.
        del data
        give_back()


def _answer(line: Connection, data: bytes, name: str) -> None:
    picture = _decoded(line, data, name)
    if picture is None:
        return
    with contextlib.suppress(EOFError, OSError):
        line.send(("decoded", picture.pixels.shape, picture.density_ppi))
        line.recv()
        rows = picture.pixels.data.cast("B")
        for at in range(0, len(rows), _CHUNK):
            line.send_bytes(rows[at : at + _CHUNK])


def _decoded(line: Connection, data: bytes, name: str) -> Picture | None:
    try:
        return decode(data, name)
    except InputRefused as error:
        line.send(("refused", error.code, {each: value if isinstance(value, str | int) else str(value) for each, value in error.values.items()}))  # fmt: skip
    except MemoryError:
        line.send(("refused", PictureDamaged.code, {"name": name, "why": "it needs more memory than a picture may"}))
    return None


def _confine(memory_bytes: int) -> None:
    """From now on: no more files and no sockets, no writing, so much memory, no children, no core. As far as the system lets us."""
    try:
        import resource
    except ImportError:
        return
    import os

    pages = 0
    with contextlib.suppress(OSError):
        pages = int(Path("/proc/self/statm").read_text(encoding="ascii").split()[0])
    limits = [(resource.RLIMIT_FSIZE, 0), (resource.RLIMIT_CORE, 0)]
    if pages:
        limits.append((resource.RLIMIT_AS, pages * resource.getpagesize() + memory_bytes))
    if hasattr(resource, "RLIMIT_NPROC") and os.geteuid() != 0:
        limits.append((resource.RLIMIT_NPROC, 0))
    # The least that is free is above all that are open: nothing more can be opened, a socket neither.
    limits.append((resource.RLIMIT_NOFILE, 0))
    for which, most in limits:
        with contextlib.suppress(ValueError, OSError):
            resource.setrlimit(which, (most, most))
