"""What stands in a destination: each placement with all that is worked out from it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from tijera.core.clippings.cutting import Clipping
from tijera.core.clippings.legend import LegendLine, legend_of
from tijera.core.clippings.measures import PlacedAs
from tijera.core.clippings.sheet import Turn
from tijera.core.fit import Measures, WidthRule
from tijera.core.geometry import Size
from tijera.core.packages.places.spots import Spot
from tijera.core.placing.stands import Rule, Wish, stand_alike, stand_in
from tijera.core.units import Length
from tijera.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases.consent import leaving
from tijera.usecases.destinations import document_of
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Standing:
    """A placement with all that is worked out from it."""

    record: PlacementRecord
    clipping: ClippingRecord
    spot: Spot
    placed: PlacedAs
    """How the clipping stands there."""
    shown: str
    """What of its frame the clipping shows here, and how."""
    described: str
    """The alternative text that leaves: not words from a title that is held back."""
    captioned: str
    """The caption that leaves, as much held back."""
    legend: tuple[LegendLine, ...]
    """What its pennants say, where that follows as a list."""
    has_legend: bool
    """Whether its pennants say something."""
    called: str
    """Its name that leaves, for where pictures go as files."""
    turned: bool
    """Whether the picture is turned or mirrored."""

    @property
    def measures(self) -> Measures:
        """What it measures."""
        return self.placed.measures

    @property
    def outer(self) -> Size:
        """The pixels of the finished picture, edge and margins counted in."""
        return self.placed.outer

    @property
    def px_per_pt(self) -> float:
        """Its pixels per point in this place."""
        return self.placed.px_per_pt

    @property
    def outline(self) -> tuple[tuple[float, float], ...] | None:
        """A freehand outline as shares of the finished picture; None where something stands round it or it is turned."""
        own, crop = self.clipping, self.clipping.crop
        if own.outline is None or self.outer != crop.size or self.turned:
            return None
        return tuple(((x - crop.x) / crop.width, (y - crop.y) / crop.height) for x, y in own.outline)

    @property
    def has_rendition(self) -> bool:
        """Whether *Make it fit* chose a rendition that still shows what is visible."""
        return self.record.rendition_blob is not None and self.record.rendition_of == self.shown

    @property
    def ppi(self) -> float:
        """Pixels per placed inch of what is written: those of the rendition, where there is one."""
        width_px = self.record.rendition_width_px if self.has_rendition else None
        return (width_px or self.outer.width) / self.measures.width.inches


def standing(workshop: Workshop, record: PlacementRecord) -> Standing:
    """Work out a placement's measures. Raises `NotFound`, `SpotUnknown`, `WidthTooLarge`."""
    made, spot, wish = wish_of(workshop, record)
    clipping = workshop.store.find(ClippingRecord, record.clipping)
    found = stand_alike(made, spot, wish, _group(workshop, record)) if record.alike else stand_in(made, spot, wish)
    shown = workshop.pictures.shown_part(clipping, found.px_per_pt)
    sheet = workshop.pictures.sheet(clipping)
    legend = tuple(legend_of(sheet))
    return Standing(
        record,
        clipping,
        spot,
        found,
        shown,
        described=leaving(workshop, clipping, record.description),
        captioned=leaving(workshop, clipping, record.layout.caption),
        legend=legend if record.layout.legend else (),
        has_legend=bool(legend),
        called=leaving(workshop, clipping, clipping.name),
        turned=sheet.turn != Turn(),
    )


KEEPS_SCALE = "scale"
"""The width rule of a placement that keeps its scale, whatever is cropped: its width follows its pixels."""


def wish_of(workshop: Workshop, record: PlacementRecord) -> tuple[Clipping, Spot, Wish]:
    """A placement as the core's rule takes it: the clipping, its spot, what is asked of it. Raises `NotFound`, `SpotUnknown`."""
    clipping = workshop.store.find(ClippingRecord, record.clipping)
    destination = workshop.store.find(DestinationRecord, record.destination)
    spot = document_of(workshop, destination).spot(record.spot)
    legend = tuple(legend_of(workshop.pictures.sheet(clipping)))
    wish = Wish(Length(record.place_width_emu), _rule_of(record), record.layout, legend)
    return workshop.pictures.clipping(clipping), spot, wish


def _rule_of(record: PlacementRecord) -> Rule:
    if record.width_rule == "given" and record.width_emu:
        return Length(record.width_emu)
    if record.width_rule == KEEPS_SCALE:
        scale = record.layout.scale
        return WidthRule.FIT if scale is None else Fraction(str(scale))
    return WidthRule(record.width_rule)


def _group(workshop: Workshop, record: PlacementRecord) -> list[tuple[Clipping, Spot, Wish]]:
    """All that have the scale of a placement's group, the placement as it is given here among them."""
    kept = workshop.store.placements(record.destination)
    others = [each for each in kept if each.alike == record.alike and each.id != record.id]
    return [wish_of(workshop, each) for each in (*others, record)]


def standings(workshop: Workshop, destination: DestinationRecord) -> list[Standing]:
    """Every placement of a destination."""
    return [standing(workshop, record) for record in workshop.store.placements(destination.id)]
