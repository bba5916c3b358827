"""What renditions are sent in, as plain as can be."""

from __future__ import annotations

from collections.abc import Sequence

from tijera.core.budget.rendition import Rendition


class Sack:
    """A file that takes pictures as they are, each once, beside bytes of its own."""

    def __init__(self, own: int = 0, another_way: int = 0, copies: int = 1) -> None:
        self._own, self._another_way, self._copies = own, another_way, copies
        self.writes = 0

    def written(self, renditions: Sequence[Rendition]) -> int:
        """Each JPEG costs bytes of its own, where it is said so."""
        self.writes += 1
        own = self._own + self._another_way * sum(each.extension == "jpeg" for each in renditions)
        return own + sum(self.takes(at, each.bytes) for at, each in enumerate(renditions))

    def takes(self, _index: int, picture_bytes: int) -> int:
        """In base64 where there are several copies."""
        return picture_bytes if self._copies == 1 else self._copies * -(-picture_bytes // 3) * 4
