"""Tables. Names and columns are those of the records in `records.py`; JSON stands in text columns."""

from __future__ import annotations

from peewee import AutoField, BooleanField, FloatField, ForeignKeyField, IntegerField, Model, TextField


class FrameRow(Model):
    """Kept frames."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "frame"

    id = TextField(primary_key=True)
    source = TextField()
    blob = TextField()
    original = TextField(null=True)
    width = IntegerField()
    height = IntegerField()
    scale_factor = FloatField()
    windows = TextField()
    taken_at = TextField()
    monitors = TextField()
    pointer = TextField(null=True)


class ClippingRow(Model):
    """The rack."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "clipping"

    id = TextField(primary_key=True)
    frame = ForeignKeyField(FrameRow, column_name="frame", object_id_name="frame_id")
    name = TextField()
    area_x = IntegerField()
    area_y = IntegerField()
    area_width = IntegerField()
    area_height = IntegerField()
    crop_x = IntegerField()
    crop_y = IntegerField()
    crop_width = IntegerField()
    crop_height = IntegerField()
    taken_at = TextField()
    kind = TextField()
    window = TextField(null=True)
    scale_factor = FloatField()
    outline = TextField(null=True)
    pointer_x = IntegerField(null=True)
    pointer_y = IntegerField(null=True)
    found_as = TextField()
    sheet = TextField(null=True)
    parts = TextField()
    consent = BooleanField(default=False)
    rank = IntegerField(default=0)
    pinned = BooleanField(default=False)
    round = TextField(null=True)


class DestinationRow(Model):
    """Opened files."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "destination"

    id = TextField(primary_key=True)
    name = TextField()
    blob = TextField()
    limit_bytes = IntegerField(null=True)
    spot = TextField(null=True)
    opened_at = TextField()
    path = TextField(null=True)
    letter = TextField(null=True)
    unsigned = BooleanField(default=False)
    first_blob = TextField(null=True)
    keeps_fitting = BooleanField(default=False)
    worked_at = TextField(default="")


class PlacementRow(Model):
    """Clippings in their places."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "placement"

    id = TextField(primary_key=True)
    destination = ForeignKeyField(DestinationRow, column_name="destination", object_id_name="destination_id")
    clipping = ForeignKeyField(ClippingRow, column_name="clipping", object_id_name="clipping_id")
    spot = TextField()
    rank = IntegerField()
    width_rule = TextField()
    width_emu = IntegerField(null=True)
    place_width_emu = IntegerField()
    description = TextField()
    rendition_blob = TextField(null=True)
    rendition_extension = TextField(null=True)
    rendition_width_px = IntegerField(null=True)
    rendition_of = TextField(null=True)
    rendition_note = TextField(null=True)
    layout = TextField(default="{}")
    alike = TextField(null=True)
    say = TextField(default="usual")


class ChangeRow(Model):
    """The journal for undo and redo: rows before and after, as JSON."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "change"

    id = AutoField()
    label = TextField()
    rows = TextField()
    undone = BooleanField(default=False)
    clipping = TextField(null=True)
    made_at = TextField()


class HandoverRow(Model):
    """What left."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "handover"

    id = TextField(primary_key=True)
    name = TextField()
    media_type = TextField()
    blob = TextField()
    bytes = IntegerField()
    what = TextField()
    made_at = TextField()
    destination = TextField(null=True)
    clipping = TextField(null=True)


class DispatchRow(Model):
    """Messages on their way, and gone."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "dispatch"

    id = TextField(primary_key=True)
    destination = TextField()
    name = TextField()
    sender = TextField()
    recipients = TextField()
    blob = TextField()
    bytes = IntegerField()
    message_id = TextField()
    made_at = TextField()
    state = TextField()
    reached = TextField()
    refused = TextField()
    tries = TextField()
    tried = IntegerField()
    next_at = TextField(null=True)
    needs_utf8 = BooleanField()


class RoundRow(Model):
    """Areas that are taken at set times."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "round"

    id = TextField(primary_key=True)
    name = TextField()
    model = TextField()
    every_min = IntegerField(null=True)
    at = TextField()
    begun_at = TextField()
    until = TextField()
    only_changed = BooleanField()
    next_at = TextField(null=True)
    stopped = BooleanField()
    taken = IntegerField()
    same = IntegerField()
    gaps = TextField()


class LinkRow(Model):
    """Pictures that others open at an address."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "link"

    id = TextField(primary_key=True)
    token = TextField()
    clipping = TextField()
    handover = TextField()
    name = TextField()
    file = TextField()
    media_type = TextField()
    blob = TextField()
    bytes = IntegerField()
    width = IntegerField()
    height = IntegerField()
    made_at = TextField()
    password = TextField()
    ends_at = TextField(null=True)
    ended = BooleanField()
    most_views = IntegerField(null=True)
    views = IntegerField()
    seen_at = TextField(null=True)
    withdrawn_at = TextField(null=True)
    wrong = IntegerField()
    wrong_at = TextField(null=True)


class SettingRow(Model):
    """Small things to remember, by name."""

    class Meta:
        """The table keeps its plain name."""

        table_name = "setting"

    name = TextField(primary_key=True)
    value = TextField()


TABLES: tuple[type[Model], ...] = (
    FrameRow,
    ClippingRow,
    DestinationRow,
    PlacementRow,
    ChangeRow,
    HandoverRow,
    DispatchRow,
    LinkRow,
    RoundRow,
    SettingRow,
)
