"""What the C library keeps of memory that is no longer in use, in a process of its own."""

import platform
import subprocess
import sys
import unittest

_WORK = """
import sys, threading
import numpy as np
from tijera.core.imaging.allocator import keep_small

def resident_mb():
    with open("/proc/self/status", encoding="ascii") as status:
        return next(int(line.split()[1]) for line in status if line.startswith("VmRSS")) / 1_000

if sys.argv[1] == "small":
    keep_small()
kept = []

def rounds():
    for number in range(12):
        # As pictures come and go, with what stays in between.
        pieces = [np.ones(1_200_000 * (1 + each % 5), dtype=np.uint8) for each in range(8)]
        kept.append(np.ones(40_000, dtype=np.uint8))
        del pieces[::2]
        kept.append(np.ones(40_000, dtype=np.uint8))

before = resident_mb()
for _ in range(3):
    threads = [threading.Thread(target=rounds) for _ in range(8)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
print(resident_mb() - before - sum(each.nbytes for each in kept) / 1_000_000)
"""


@unittest.skipUnless(platform.libc_ver()[0] == "glibc" and sys.platform == "linux", "its allocator is another one")
class Kept(unittest.TestCase):
    """Threads that work on pictures, and end."""

    def test_next_to_nothing_is_kept_of_what_was_freed(self) -> None:
        """Eight threads with up to 25 MB each: afterwards what lives is there, and less than 12 MB beside it."""
        self.assertLess(self.grown_mb("small"), 12)

    def grown_mb(self, how: str) -> float:
        """What the process has beyond what lives in it."""
        done = subprocess.run([sys.executable, "-c", _WORK, how], capture_output=True, text=True, check=True)
        return float(done.stdout)
