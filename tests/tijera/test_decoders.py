"""Foreign pictures in processes of their own: the same pixels, and nothing that a picture does reaches further than its process."""

import os
import signal
import socket
import threading
import unittest
from multiprocessing.connection import Connection
from unittest import mock

import numpy as np

from tests.support.pictures import encoded, photograph_like, text_like
from tests.tijera.core.imaging.test_decode import png_of_size
from tijera import decoders as decoders_module
from tijera.core.errors import NotAPicture, PictureDamaged, PictureTooLarge
from tijera.core.imaging.decode import decode, decode_foreign, decoded_elsewhere
from tijera.core.imaging.picture import Picture
from tijera.decoders import Decoders


def _tries_to_reach_out(line: Connection, memory_bytes: int) -> None:
    """What a decoder that was taken over would try, from inside of its process."""
    decoders_module._confine(memory_bytes)
    said = []
    for attempt in (
        socket.socket,
        lambda: open("/etc/passwd", "rb"),  # noqa: PTH123, SIM115
        os.pipe,
        lambda: bytearray(memory_bytes + 1_000_000),
    ):
        try:
            attempt()
            said.append("done")
        except (OSError, MemoryError) as error:
            said.append(type(error).__name__)
    line.send(said)


class Elsewhere(unittest.TestCase):
    """A pool."""

    def setUp(self) -> None:
        """As it is served with."""
        self.pool = Decoders()
        self.addCleanup(self.pool.close)

    def test_pixels_density_and_refusals_are_the_same(self) -> None:
        """Of every kind and mode, large ones too."""
        good = [
            encoded(text_like(300, 200)),
            encoded(photograph_like(300, 200), file_format="JPEG"),
            encoded(Picture(np.dstack([text_like(90, 80).pixels[:, :, :3], np.full((80, 90), 90, np.uint8)]))),
            encoded(text_like(300, 200), dpi=(144, 144)),
            encoded(Picture(np.full((3_000, 4_000, 3), 77, np.uint8))),
        ]
        for data in good:
            here, there = decode(data), self.pool.decode(data, "x.png")
            self.assertTrue(np.array_equal(here.pixels, there.pixels))
            self.assertEqual(here.density_ppi, there.density_ppi)
        for data in (b"no picture", good[0][:200], png_of_size(20_000, 20_000)):
            errors = []
            for way in (decode, self.pool.decode):
                with self.assertRaises((NotAPicture, PictureDamaged, PictureTooLarge)) as caught:
                    way(data, "x.png")
                errors.append((type(caught.exception), caught.exception.detail))
            self.assertEqual(*errors)

    def test_a_process_that_dies_refuses_its_picture_and_no_other(self) -> None:
        """Killed in the middle, by the system or by what the picture did to it."""
        data = encoded(text_like(300, 200))
        self.pool.decode(data, "x.png")
        pools = Decoders(workers=1)
        self.addCleanup(pools.close)
        pools.warm()
        worker = pools._free.get()
        assert worker
        pools._free.put(worker)
        worker._process.kill()
        worker._process.join()
        self.assertTrue(np.array_equal(pools.decode(data, "x.png").pixels, decode(data).pixels))
        worker = pools._free.get()
        assert worker
        pools._free.put(worker)
        assert worker._process.pid
        os.kill(worker._process.pid, signal.SIGSTOP)
        threading.Timer(0.5, worker._process.kill).start()
        with self.assertRaisesRegex(PictureDamaged, "it breaks the program that reads it"):
            pools.decode(data, "bad.png")
        self.assertTrue(np.array_equal(pools.decode(data, "x.png").pixels, decode(data).pixels))

    def test_one_that_never_ends_is_ended(self) -> None:
        """In words, and the next one is read."""
        pool = Decoders(workers=1, seconds=0.5)
        self.addCleanup(pool.close)
        pool.warm()
        worker = pool._free.get()
        assert worker
        pool._free.put(worker)
        assert worker._process.pid
        os.kill(worker._process.pid, signal.SIGSTOP)
        data = encoded(text_like(30, 20))
        with self.assertRaisesRegex(PictureDamaged, "it takes too long to read"):
            pool.decode(data, "endless.png")
        pool._seconds = 60
        self.assertEqual(pool.decode(data, "x.png").size, decode(data).size)

    def test_more_memory_than_it_may_have_is_refused(self) -> None:
        """The process and the server live on."""
        pool = Decoders(workers=1, memory_bytes=30_000_000)
        self.addCleanup(pool.close)
        with self.assertRaises(PictureDamaged):
            pool.decode(encoded(Picture(np.full((5_000, 5_000, 3), 77, np.uint8))), "large.png")
        self.assertEqual(pool.decode(encoded(text_like(30, 20)), "x.png").size, text_like(30, 20).size)

    @unittest.skipUnless(os.path.exists("/proc/self/statm"), "limits of this kind are Linux's")  # noqa: PTH110
    def test_the_process_can_open_nothing_and_reach_nobody(self) -> None:
        """No socket, no file, no pipe, no memory beyond its own."""
        with mock.patch.object(decoders_module, "_serve", _tries_to_reach_out):
            worker = decoders_module._Worker(100_000_000)
        self.addCleanup(worker.close)
        self.assertEqual(worker._within(120), ["OSError", "OSError", "OSError", "MemoryError"])

    def test_foreign_pictures_go_there_while_it_is_said_so(self) -> None:
        """And are decoded here afterwards."""
        data = encoded(text_like(30, 20))
        with (
            decoded_elsewhere(self.pool.decode),
            mock.patch.object(self.pool, "_worker", side_effect=KeyError),
            self.assertRaises(KeyError),
        ):
            decode_foreign(data)
        self.assertEqual(decode_foreign(data).size, decode(data).size)
