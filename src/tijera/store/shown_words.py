"""Words that clippings show: kept by clipping, searched by an index of three-letter groups, dropped when it looks otherwise.

Triggers drop them, so that nothing that was hidden since can be found, whoever changes a row and however: undo too. What has no
words yet stands in `unread`.
"""

from __future__ import annotations

import json

from tijera.core.geometry import Rect, Size
from tijera.core.recognition.words import Shown, Word


def as_json(shown: Shown) -> str:
    """Words as they are kept."""
    words = [[each.text, each.box.x, each.box.y, each.box.width, each.box.height] for each in shown.words]
    return json.dumps({"width": shown.size.width, "height": shown.size.height, "words": words}, ensure_ascii=False)


def from_json(kept: str) -> Shown:
    """Words as they were read."""
    values = json.loads(kept)
    words = tuple(Word(text, Rect(*box)) for text, *box in values["words"])
    return Shown(Size(values["width"], values["height"]), words)
