"""The actions that have keys: where each works, what it does, and the key that it has until the user changes it.

A combination is written as in "Ctrl+Shift+Z": modifiers in this order, then the key as the browser names it
(UI Events KeyboardEvent key values).
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from tijera.core.errors import KeyTaken, OptionUnreadable

EVERYWHERE = "everywhere"


@dataclass(frozen=True)
class Action:
    """Something that a key does. `where` is a room, or everywhere."""

    id: str
    where: str
    does: str
    key: str


def _actions(where: str, *lines: tuple[str, str, str]) -> tuple[Action, ...]:
    return tuple(Action(id_, where, does, key) for id_, key, does in lines)


ACTIONS: tuple[Action, ...] = (
    *_actions(
        EVERYWHERE,
        ("go-take", "T", "to Take"),
        ("go-trim", "R", "to Trim"),
        ("go-place", "P", "to Place"),
        ("go-hand-over", "H", "to Hand over"),
        ("undo", "Ctrl+Z", "undo"),
        ("redo", "Ctrl+Shift+Z", "redo"),
        ("copy", "Ctrl+C", "copy the clipping in hand as a picture"),
        ("save", "Ctrl+S", "save: the clipping in Take and Trim, the document in Place and Hand over"),
        ("find", "/", "find"),
        ("keys", "?", "the sheet of keys"),
        ("options", "O", "the options"),
        ("leave", "Escape", "leave or let go"),
    ),
    *_actions(
        "take",
        ("kind-region", "1", "region"),
        ("kind-window", "2", "window"),
        ("kind-pane", "3", "pane"),
        ("kind-freehand", "4", "freehand"),
        ("kind-screen", "5", "screen"),
        ("kind-long-page", "6", "long page"),
        ("freeze", "F", "freeze the screen"),
        ("count-down", "D", "freeze after the delay"),
        ("last-area", "A", "last area again"),
        ("smaller", "[", "the next smaller pane or window"),
        ("larger", "]", "the next larger pane or window"),
        ("part", "C", "window with its frame, or its content only"),
        ("look-closer", "+", "the frozen screen larger"),
        ("look-wider", "-", "the frozen screen smaller"),
        ("look-whole", "0", "the whole frozen screen"),
        ("pointer", "M", "pointer shown or hidden"),
        ("keep", "Enter", "the most wanted: place it where a place is chosen, else keep it on the rack"),
        ("place", "Ctrl+Enter", "the other of the two"),
    ),
    *_actions(
        "trim",
        ("confirm-crop", "Enter", "confirm the crop"),
        ("place-it", "Ctrl+Enter", "put the clipping into the chosen place"),
        ("zoom-in", "+", "larger"),
        ("zoom-out", "-", "smaller"),
        ("fit", "0", "fit"),
        ("screen-pixels", "Shift+0", "screen pixels"),
        ("trim-pointer", "M", "pointer shown or hidden"),
        ("as-sent", "V", "the picture as it is sent, or as it is worked on"),
        ("tool-select", "Shift+S", "tool: choose and move marks"),
        ("tool-crop", "Shift+C", "tool: crop"),
        ("tool-part", "Shift+K", "tool: part to new clippings"),
        ("tool-arrow", "Shift+A", "tool: arrow"),
        ("tool-line", "Shift+L", "tool: line"),
        ("tool-text", "Shift+T", "tool: text"),
        ("tool-callout", "Shift+O", "tool: callout"),
        ("tool-pennant", "Shift+N", "tool: pennant"),
        ("tool-ring", "Shift+R", "tool: ring"),
        ("tool-pen", "Shift+P", "tool: pen"),
        ("tool-tint", "Shift+I", "tool: tint"),
        ("tool-black-out", "Shift+B", "tool: black out"),
        ("tool-turn", "Shift+U", "turn and straighten"),
        ("tool-tones", "Shift+E", "tones"),
        ("tool-edge", "Shift+G", "edge and shadow"),
        ("tool-room", "Shift+M", "room at the sides, ground, clippings laid on"),
        ("tool-scale", "Shift+X", "scale"),
        ("delete-marks", "Delete", "delete the chosen marks"),
        ("choose-all", "Ctrl+A", "choose all marks"),
        ("copy-marks", "Shift+Y", "copy the chosen marks, for this clipping or another"),
        ("put-marks", "Shift+V", "put the copied marks here"),
        ("order-up", "]", "the chosen marks one step up; a pennant one number on"),
        ("order-down", "[", "the chosen marks one step down; a pennant one number back"),
    ),
    *_actions(
        "place",
        ("take-out", "Delete", "take the chosen picture out"),
    ),
)
FIXED = (
    ("take", "Arrows", "move the area by a pixel, with Shift by ten; with Alt change its size"),
    ("take", "Space", "in Freehand: set a corner of the outline"),
    ("take", "Alt held", "while drawing: don't snap to edges"),
    ("take", "Wheel", "the frozen screen larger or smaller; while drawing, it scrolls, and zooms with Ctrl"),
    ("trim", "Arrows", "move the crop, the chosen mark or the aim, with Shift by ten; with Alt change the size"),
    ("trim", "Tab", "from mark to mark, and to their anchors"),
    ("trim", "Space", "with a tool in hand: set a point where the aim is"),
    ("trim", "C held", "the picture as it was taken"),
    ("trim", "Alt held", "while drawing a line: don't snap to angles and edges"),
    ("place", "Arrows", "to the next and the previous place"),
    ("place", "Enter", "choose the place; once more: put the clipping there"),
    ("hand over", "C held", "comparing: the whole picture as it was taken"),
    ("hand over", "Arrows", "comparing: move the patch that shows the original, with Shift by ten"),
    (EVERYWHERE, "Ctrl+V", "paste a picture onto the rack"),
)
"""Keys that always mean the same: where, what, what it does."""

_BY_ID = {action.id: action for action in ACTIONS}
_COMBINATION = re.compile(r"(Ctrl\+)?(Alt\+)?(Shift\+)?([^\s+]|\+|[A-Z][A-Za-z0-9]{1,12}| )")


def check_keys(keys: Mapping[str, str]) -> dict[str, str]:
    """The changed keys, checked: known actions, readable combinations, no two that could be meant at once.

    Raises `OptionUnreadable`, `KeyTaken`.
    """
    for id_, key in keys.items():
        if id_ not in _BY_ID:
            raise OptionUnreadable(option="a key", value=id_, why="there is no such action")
        if not _COMBINATION.fullmatch(key):
            raise OptionUnreadable(option=f"the key for “{_BY_ID[id_].does}”", value=key, why="it is no key")
    changed = {id_: key for id_, key in keys.items() if key != _BY_ID[id_].key}
    now = [(action, changed.get(action.id, action.key)) for action in ACTIONS]
    for action, key in now:
        for other, taken in now:
            if key == taken and action.id in changed and action is not other and _could_meet(action, other):
                raise KeyTaken(keys=key, other=other.does, action=action.id)
    return changed


def _could_meet(one: Action, other: Action) -> bool:
    return one.where == other.where or EVERYWHERE in (one.where, other.where)
