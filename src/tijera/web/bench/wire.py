"""From the core's values to what goes over the wire: what lies on it, options, keys."""

from __future__ import annotations

from collections.abc import Iterable

from tijera.core.keys import ACTIONS, FIXED
from tijera.core.packages.registry import format_of
from tijera.usecases import destinations, looking, placing, standings
from tijera.usecases.letters import called
from tijera.usecases.options import Options
from tijera.usecases.workshop import Workshop
from tijera.web.bench import schemas as bench_schemas
from tijera.web.place import schemas as place_schemas
from tijera.web.place import wire as place_wire
from tijera.web.rack import wire as rack_wire


def bench(workshop: Workshop, examples: Iterable[str], destination_id: str | None) -> bench_schemas.BenchOut:
    """All that lies on the bench, with the file that one window shows."""
    destination = destinations.shown(workshop, destination_id)
    shown, placed = None, []
    if destination is not None:
        document = destinations.document_of(workshop, destination)
        standing = standings.standings(workshop, destination)
        numbers = placing.caption_numbers(workshop, destination, standing)
        placed = list({each.clipping.id: each.clipping for each in standing}.values())
        shown = place_schemas.DestinationOut(
            id=destination.id,
            name=called(destination),
            limit_bytes=destination.limit_bytes,
            keeps_fitting=destination.keeps_fitting,
            is_letter=destination.letter is not None,
            view=format_of(document).view.value,
            follows=destination.path,
            version=destination.blob[:12],
            spot=place_wire.spot(document.spot(destination.spot)) if destination.spot else None,
            placements=[place_wire.placement(each, number) for each, number in zip(standing, numbers, strict=True)],
        )
    history, newest = looking.history(workshop), looking.newest(workshop)
    return bench_schemas.BenchOut(
        newest=None if newest is None else rack_wire.clipping(workshop, newest),
        placed=[rack_wire.clipping(workshop, each) for each in placed],
        count=looking.count(workshop),
        destination=shown,
        undo=history.undo,
        redo=history.redo,
        examples=list(examples),
    )


def options(each: Options) -> bench_schemas.OptionsOut:
    """All options and all keys."""
    return bench_schemas.OptionsOut(
        keep_at_once=each.keep_at_once,
        to_clipboard=each.to_clipboard,
        pointer=each.pointer,
        single_letters=each.single_letters,
        name_pattern=each.name_pattern,
        delay_seconds=each.delay_seconds,
        by_day=each.by_day,
        actions=[
            bench_schemas.ActionOut(
                id=action.id,
                where=action.where,
                does=action.does,
                key=each.keys.get(action.id, action.key),
                default=action.key,
            )
            for action in ACTIONS
        ],
        fixed=[bench_schemas.FixedKeyOut(where=where, key=key, does=does) for where, key, does in FIXED],
    )
