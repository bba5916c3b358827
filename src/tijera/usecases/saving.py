"""A clipping saved as a file of its own: name, kind, size, density, limit; what was chosen last is proposed again."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Collection, Sequence
from dataclasses import asdict, dataclass, fields

from tijera.core.budget.saving import SavedFile, proposed_kind, save_as
from tijera.core.errors import FormatUnknown, PictureTooLarge
from tijera.core.geometry import Size
from tijera.core.imaging.decode import MAX_PIXELS
from tijera.core.imaging.kinds import JPEG, PNG, PictureKind, by_ending
from tijera.core.imaging.picture import Picture
from tijera.core.imaging.resize import resize
from tijera.core.imaging.writing import WRITTEN
from tijera.core.naming import clean_name, file_stem
from tijera.core.units import PIXELS_PER_INCH
from tijera.records import ClippingRecord, HandoverRecord
from tijera.usecases.consent import leaving
from tijera.usecases.handing_over import note_left
from tijera.usecases.recent import Recent
from tijera.usecases.workshop import Workshop

_SETTING = "saving"
_FILES: Recent[SavedFile] = Recent(8)
"""What was encoded last: a proposal is made of the very files that are saved then."""


@dataclass(frozen=True)
class SaveWish:
    """How a clipping is saved; what is None is as it comes: its own size and density, no limit."""

    share: float = 1.0
    """Of the clipping's width and height in pixels."""
    density_ppi: float | None = None
    limit_bytes: int | None = None


@dataclass(frozen=True)
class SavedPicture:
    """A clipping as a file."""

    data: bytes
    name: str
    media_type: str
    note: str = ""
    """What it gave up for its limit; empty for nothing."""
    clipping: str | None = None


@dataclass(frozen=True)
class SaveProposal:
    """What saving would give."""

    name: str
    """Without ending."""
    kind: PictureKind
    size: Size
    density_ppi: float
    wish: SaveWish
    """What was chosen the last time."""
    png: SavedFile
    jpeg: SavedFile


def save(
    workshop: Workshop, clipping_id: str, ending: str, wish: SaveWish | None = None, name: str | None = None
) -> SavedPicture:
    """A clipping as a file: what is visible and nothing else, with its density; a wish is remembered.

    An ending of the `name` decides the kind. Raises `NotFound`, `FormatUnknown`, `PictureTooLarge`, `LimitNotMet`.
    """
    record = workshop.store.find(ClippingRecord, clipping_id)
    stem, dot, own = (name or "").rpartition(".")
    named = by_ending(own) if dot else None
    kind = named or by_ending(ending)
    if kind not in WRITTEN or kind is None:
        raise FormatUnknown(format=own if dot and named is None else ending)
    file = _file(workshop, record, kind, wish or SaveWish())
    if wish is not None:
        workshop.store.remember(_SETTING, json.dumps(asdict(wish)))
    called = (stem if named else name) or leaving(workshop, record, record.name)
    ending = own.lower() if named and dot else kind.ending
    return SavedPicture(file.data, f"{file_stem(clean_name(called))}.{ending}", kind.media_type, file.note, record.id)


def propose(workshop: Workshop, clipping_id: str, wish: SaveWish | None = None) -> SaveProposal:
    """What PNG and JPEG would weigh, and which of them suits, without any limit. Raises `NotFound`, `PictureTooLarge`."""
    record = workshop.store.find(ClippingRecord, clipping_id)
    wish = wish or remembered(workshop)
    free = SaveWish(wish.share, wish.density_ppi)
    png, jpeg = (_file(workshop, record, kind, free) for kind in (PNG, JPEG))
    size = workshop.pictures.finished(record).size.scaled(wish.share)
    stem = file_stem(leaving(workshop, record, record.name))
    return SaveProposal(stem, proposed_kind(png, jpeg), size, _density(record, wish), wish, png, jpeg)


def remembered(workshop: Workshop) -> SaveWish:
    """What was chosen the last time."""
    kept = workshop.store.setting(_SETTING)
    known = {each.name for each in fields(SaveWish)}
    return SaveWish() if kept is None else SaveWish(**{k: v for k, v in json.loads(kept).items() if k in known})


def _density(record: ClippingRecord, wish: SaveWish) -> float:
    """The one that is wished for, else the screen's: the clipping keeps its natural size on paper."""
    return wish.density_ppi or record.scale_factor * PIXELS_PER_INCH * wish.share


def _file(workshop: Workshop, record: ClippingRecord, kind: PictureKind, wish: SaveWish) -> SavedFile:
    density = _density(record, wish)
    key = (workshop.pictures.shown_part(record), record.outline, kind.name, wish)
    return _FILES.get(key, lambda: save_as(_sized(workshop, record, wish.share), kind, density, wish.limit_bytes))


def _sized(workshop: Workshop, record: ClippingRecord, share: float) -> Picture:
    picture = workshop.pictures.finished(record)
    size = picture.size.scaled(share)
    if size.pixels > MAX_PIXELS:
        raise PictureTooLarge(name=record.name, width=size.width, height=size.height, most=MAX_PIXELS)
    return resize(picture, size)


def save_many(workshop: Workshop, clipping_ids: Sequence[str], ending: str) -> HandoverRecord:
    """Save clippings as one .zip, each under its own name, and keep the very bytes. Raises as `save` does."""
    out = io.BytesIO()
    names: set[str] = set()
    # Pictures are compressed already; the same ones give the same bytes.
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as archive:
        for clipping_id in clipping_ids:
            saved = save(workshop, clipping_id, ending)
            name = _free(saved.name, names)
            names.add(name.casefold())
            archive.writestr(zipfile.ZipInfo(name), saved.data)
    count = f"{len(clipping_ids)} clippings"
    return note_left(workshop, out.getvalue(), f"{count}.zip", "application/zip", count)


def _free(name: str, taken: Collection[str]) -> str:
    """A name that none has in the same folder, on systems that hold cases alike too."""
    stem, _, ending = name.rpartition(".")
    names = (name, *(f"{stem} {number}.{ending}" for number in range(2, len(taken) + 3)))
    return next(each for each in names if each.casefold() not in taken)


def note_saved(workshop: Workshop, saved: SavedPicture) -> HandoverRecord:
    """Write down that a picture left, and keep the very bytes."""
    what = f"clipping, {saved.note}" if saved.note else "clipping"
    return note_left(workshop, saved.data, saved.name, saved.media_type, what, clipping=saved.clipping)
