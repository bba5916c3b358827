"""What would help where a limit can't be met: each way with the weight that it would give, as written."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from tijera.core.budget.rendition import Rendition
from tijera.core.budget.say import Say, strongest
from tijera.core.budget.search import Verdict
from tijera.core.packages.places.spots import Stand
from tijera.usecases.goods import DestinationGoods, PictureGroup
from tijera.usecases.standings import Standing

_MOST_OF_A_KIND = 3
_LINE_BYTES = 2_000
"""What a line with a name and an address takes at most, encoded, in both texts."""


class HelpKind(StrEnum):
    """A way out."""

    OWN_PICTURES = "own-pictures"
    """The file's own pictures are made lighter too."""
    LEAVE_OUT = "leave-out"
    """A clipping is taken out of it."""
    ATTACH = "attach"
    """Pictures go as attachments only, not in the body as well."""
    LINK = "link"
    """A picture leaves as a link, its address in the text."""
    SPLIT = "split"
    """Two messages instead of one."""
    BELOW_FLOOR = "below-floor"
    """A clipping gives up so much that not every word on it can be read any more."""


@dataclass(frozen=True)
class Help:
    """One way, and what the file would weigh at least; of two messages the heavier one."""

    kind: HelpKind
    bytes: int
    fits: bool
    name: str = ""
    """Of the clipping that it is about; empty where it is about all."""
    placements: tuple[str, ...] = ()
    """What would be taken out, said of, or moved to the second message."""


def what_helps(goods: DestinationGoods, verdict: Verdict, limit_bytes: int, *, with_links: bool = False) -> list[Help]:
    """Every way there is, those that are enough first, then the lightest; `with_links` where others could reach one."""
    lightest = verdict.renditions
    heaviest = sorted(
        range(len(goods.groups)), key=lambda at: -goods.takes(at, lightest[at].bytes) * len(goods.groups[at].numbers)
    )
    helps = [_without(goods, lightest, goods.groups[at]) for at in heaviest[:_MOST_OF_A_KIND]]
    helps += [each for at in heaviest[:_MOST_OF_A_KIND] if (each := _below_floor(goods, lightest, at))]
    if with_links and goods.is_letter and heaviest:
        helps.append(_linked(goods, lightest, goods.groups[heaviest[0]]))
    helps += [each for each in (_attached(goods, lightest), _split(goods, lightest)) if each]
    fitting = [replace(each, fits=each.bytes <= limit_bytes) for each in helps if each.bytes < verdict.written_bytes]
    return sorted(fitting, key=lambda each: (not each.fits, each.bytes))


def _ids(placed: Sequence[Standing]) -> tuple[str, ...]:
    return tuple(each.record.id for each in placed)


def _without(goods: DestinationGoods, lightest: Sequence[Rendition], group: PictureGroup) -> Help:
    left = set(_ids(group.placed))
    size = goods.written_otherwise(lightest, lambda each: None if each.record.id in left else each)
    return Help(HelpKind.LEAVE_OUT, size, fits=False, name=group.placed[0].clipping.name, placements=_ids(group.placed))


def _linked(goods: DestinationGoods, lightest: Sequence[Rendition], group: PictureGroup) -> Help:
    """The heaviest one as a link: without it, and with a line more, in the plain text and in the HTML."""
    without = _without(goods, lightest, group)
    return replace(without, kind=HelpKind.LINK, bytes=without.bytes + _LINE_BYTES)


def _below_floor(goods: DestinationGoods, lightest: Sequence[Rendition], at: int) -> Help | None:
    """The lightest of what was made and judged unreadable; nothing of what is to be kept as it is."""
    group = goods.groups[at]
    said = strongest(Say(each.record.say) for each in group.placed)
    group.ladder.fall()
    least = min(group.ladder.made.values(), key=lambda each: each.bytes)
    if said in (Say.KEEP, Say.FALL) or least.bytes >= lightest[at].bytes:
        return None
    size = goods.written([*lightest[:at], least, *lightest[at + 1 :]])
    name = group.placed[0].clipping.name
    return Help(HelpKind.BELOW_FLOOR, size, fits=False, name=name, placements=_ids(group.placed))


def _attached(goods: DestinationGoods, lightest: Sequence[Rendition]) -> Help | None:
    """For a message with pictures both in its body and attached."""
    both = [each for each in goods.placed if each.record.layout.stand is Stand.BOTH]
    if not both:
        return None

    def only_attached(each: Standing) -> Standing:
        if each.record.layout.stand is not Stand.BOTH:
            return each
        return replace(each, record=replace(each.record, layout=replace(each.record.layout, stand=Stand.ATTACHED)))

    size = goods.written_otherwise(lightest, only_attached)
    return Help(HelpKind.ATTACH, size, fits=False, placements=_ids(both))


def _split(goods: DestinationGoods, lightest: Sequence[Rendition]) -> Help | None:
    """For a message that is written here: the heaviest first, each into the message that is lighter so far."""
    if not goods.is_letter or len(goods.groups) < 2:
        return None
    weights = [goods.takes(at, rendition.bytes) for at, rendition in enumerate(lightest[: len(goods.groups)])]
    halves: tuple[list[int], list[int]] = ([], [])
    for at in sorted(range(len(weights)), key=lambda each: -weights[each]):
        min(halves, key=lambda half: sum(weights[each] for each in half)).append(at)
    moved = [each for at in halves[1] for each in goods.groups[at].placed]
    second = set(_ids(moved))
    sizes = (
        goods.written_otherwise(lightest, lambda each: None if each.record.id in second else each),
        goods.written_otherwise(lightest, lambda each: each if each.record.id in second else None),
    )
    return Help(HelpKind.SPLIT, max(sizes), fits=False, placements=_ids(moved))
