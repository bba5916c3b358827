"""Layouts of placements as JSON: only what differs from the usual, so that what comes later has its usual value."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from tijera.core.packages.places.placed import Align, Layout
from tijera.core.packages.places.spots import Stand
from tijera.core.units import Length


class _Layout(BaseModel):
    model_config = ConfigDict(extra="forbid")

    stand: Stand | None = None
    align: Align = Align.CENTRE
    margin_emu: int | None = None
    caption: str = ""
    caption_above: bool = False
    legend: bool = False
    beside: str = ""
    along_outline: bool = False
    grows_row: bool = False
    scale: float | None = None


def layout_as_json(layout: Layout) -> str:
    """Write a layout."""
    values = {name: getattr(layout, name) for name in _Layout.model_fields if name != "margin_emu"}
    margin = None if layout.margin is None else layout.margin.emu
    return _Layout(**values, margin_emu=margin).model_dump_json(exclude_defaults=True)


def layout_from_json(text: str) -> Layout:
    """Read a layout."""
    kept = _Layout.model_validate_json(text).model_dump()
    margin = kept.pop("margin_emu")
    return Layout(**kept, margin=None if margin is None else Length(margin))
