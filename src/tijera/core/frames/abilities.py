"""What each source of pictures can do, and what the user reads where it can't. The table in the README is this one."""

from __future__ import annotations

from dataclasses import dataclass, fields


@dataclass(frozen=True)
class Abilities:
    """Each ability of a source: None where it has it, else the words for where it hasn't."""

    window_list: str | None
    """It knows which windows are open and where they stand."""
    covered_windows: str | None
    """A partly covered window can be taken whole."""
    pointer_layer: str | None
    """The pointer comes as a layer of its own."""
    scrolls_itself: str | None
    """A long page scrolls by itself."""
    exact_colours: str | None
    """Every pixel is as it was."""
    unattended: str | None
    """It can be taken with nobody there."""

    def can(self, ability: str) -> bool:
        """Whether it has an ability, by its name. Raises `AttributeError` for a name that is none."""
        return getattr(self, ability) is None


ABILITY_NAMES = {
    "window_list": "window list",
    "covered_windows": "covered windows",
    "pointer_layer": "pointer layer",
    "scrolls_itself": "scrolls by itself",
    "exact_colours": "exact colours",
    "unattended": "unattended",
}
"""Each ability in words, in the order of the table."""

_SHARED_WINDOWS = "A shared screen comes as one picture: draw a region, or point at a pane."
_SHARED_POINTER = "A shared screen comes without the pointer."
_FILE = "A picture that was made elsewhere is taken as it is."

SOURCE_NAMES = {
    "desk": "Practice desk",
    "screen": "This computer's screen",
    "share": "A shared screen",
    "picture": "Paste, drop or file",
}
"""Every kind of source by its id."""

SOURCES: dict[str, Abilities] = {
    "desk": Abilities(None, None, None, None, None, None),
    "screen": Abilities(
        window_list=None,
        covered_windows="Bring the window to the top first: this screen shows only what is not covered.",
        pointer_layer=None,
        scrolls_itself="Scroll the page yourself: draw a region on it, and the strips join while you do.",
        exact_colours=None,
        unattended=None,
    ),
    "share": Abilities(
        window_list=_SHARED_WINDOWS,
        covered_windows="Share that window itself: then it comes whole.",
        pointer_layer=_SHARED_POINTER,
        scrolls_itself="Scroll the page yourself: the strips join while you do.",
        exact_colours="Shared video is not exact in its colours; a pasted picture is.",
        unattended="Sharing needs somebody who allows it.",
    ),
    "picture": Abilities(
        window_list=_FILE,
        covered_windows=_FILE,
        pointer_layer="The pointer is in the picture or not, as it was made.",
        scrolls_itself="Join strips while taking, or paste one tall picture.",
        exact_colours=None,
        unattended="A picture comes in when somebody brings it.",
    ),
}
"""Every source's abilities by its id."""


def table() -> str:
    """The table in Markdown, as it stands in the README: yes, or the words for where not."""
    names = [field.name for field in fields(Abilities)]
    lines = ["| source | " + " | ".join(ABILITY_NAMES[name] for name in names) + " |"]
    lines.append("|---" * (len(names) + 1) + "|")
    for source, abilities in SOURCES.items():
        cells = [getattr(abilities, name) or "yes" for name in names]
        lines.append(f"| {SOURCE_NAMES[source]} | " + " | ".join(cells) + " |")
    return "\n".join(lines)
