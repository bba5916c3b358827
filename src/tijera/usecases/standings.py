"""What stands in a destination: each placement with all that is worked out from it."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from tijera.core.clippings.legend import LegendLine, legend_of
from tijera.core.clippings.measures import PlacedAs, placed_as
from tijera.core.clippings.sheet import Turn
from tijera.core.errors import NotFound
from tijera.core.fit import Measures, WidthRule, natural_width
from tijera.core.geometry import Size
from tijera.core.packages.placed import room_for_words
from tijera.core.packages.spots import Spot
from tijera.core.units import Length
from tijera.store.records import ClippingRecord, DestinationRecord, PlacementRecord
from tijera.usecases.consent import leaving
from tijera.usecases.destinations import document_of
from tijera.usecases.workshop import Workshop


@dataclass(frozen=True)
class Standing:
    """A placement with all that is worked out from it."""

    record: PlacementRecord
    clipping: ClippingRecord
    spot: Spot
    measures: Measures
    outer: Size
    """The pixels of the finished picture, edge and margins counted in."""
    px_per_pt: float
    """Its pixels per point in this place."""
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
    destination = workshop.store.find(DestinationRecord, record.destination)
    clipping = workshop.store.find(ClippingRecord, record.clipping)
    spot = document_of(workshop, destination).spot(record.spot)
    rule = _alike(workshop, record, spot) if record.alike else None
    found = _placed(workshop, record, clipping, spot, rule or _own_rule(record))
    shown = workshop.pictures.shown_part(clipping, found.px_per_pt)
    sheet = workshop.pictures.sheet(clipping)
    legend = tuple(legend_of(sheet))
    return Standing(
        record,
        clipping,
        spot,
        found.measures,
        found.outer,
        found.px_per_pt,
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


def _own_rule(record: PlacementRecord) -> Length | WidthRule:
    if record.width_rule == "given" and record.width_emu:
        return Length(record.width_emu)
    return WidthRule.FIT if record.width_rule == KEEPS_SCALE else WidthRule(record.width_rule)


def _placed(
    workshop: Workshop, record: PlacementRecord, clipping: ClippingRecord, spot: Spot, rule: Length | WidthRule
) -> PlacedAs:
    place_width = Length(record.place_width_emu)
    if place_width not in spot.widths:
        raise NotFound(what="column width", key=f"{place_width.mm:.1f} mm")
    made = workshop.pictures.clipping(clipping)
    height = spot.height
    if record.layout.grows_row and spot.grows_to is not None:
        height = spot.grows_to
    lines = legend_of(workshop.pictures.sheet(clipping)) if record.layout.legend else ()
    words = room_for_words(record.layout, lines, place_width)
    # One that has no room for its words beside its place is told so by the page, not by vanishing.
    height = max(height - words, Length(height.emu // 4))
    bound = spot.most_width if spot.free_width is not None and rule is not WidthRule.FILL else place_width
    found = placed_as(made, bound, height, rule)
    scale = record.layout.scale
    if record.width_rule == KEEPS_SCALE and scale is not None and not isinstance(rule, Length):
        wanted = Length.exactly(natural_width(found.outer.width, made.scale_factor) * Fraction(str(scale)))
        found = placed_as(made, bound, height, min(wanted, bound))
    return found


def _alike(workshop: Workshop, record: PlacementRecord, spot: Spot) -> Length | None:
    """The width at which a clipping has the scale of its group: the smallest that any of them needs."""
    group = [each for each in workshop.store.placements(record.destination) if each.alike == record.alike]
    if not any(each.id == record.id for each in group):
        group.append(record)
    destination = workshop.store.find(DestinationRecord, record.destination)
    document = document_of(workshop, destination)
    scales: dict[str, Fraction] = {}
    natural: dict[str, Fraction] = {}
    for each in group:
        clipping = workshop.store.find(ClippingRecord, each.clipping)
        at = spot if each.spot == record.spot else document.spot(each.spot)
        own = record if each.id == record.id else each
        found = _placed(workshop, own, clipping, at, _own_rule(own))
        natural[each.id] = natural_width(found.outer.width, workshop.pictures.clipping(clipping).scale_factor)
        scales[each.id] = found.measures.width.emu / natural[each.id]
    return Length(max(1, int(natural[record.id] * min(scales.values()))))


def standings(workshop: Workshop, destination: DestinationRecord) -> list[Standing]:
    """Every placement of a destination."""
    return [standing(workshop, record) for record in workshop.store.placements(destination.id)]
