"""Rows of a show. Only `store` sees them; everybody else gets plain dictionaries from `rows.py`."""

from __future__ import annotations

from peewee import (
    BigAutoField,
    BigIntegerField,
    BooleanField,
    DateTimeField,
    DoubleField,
    ForeignKeyField,
    IntegerField,
    Model,
    TextField,
    UUIDField,
)
from playhouse.postgres_ext import BinaryJSONField

from heliograph.store.database import db


class Row(Model):
    class Meta:
        database = db
        legacy_table_names = False


class Show(Row):
    id = UUIDField(primary_key=True)
    name = TextField()
    revision = BigIntegerField(default=0)
    is_open = BooleanField(default=False)
    is_template = BooleanField(default=False)


class ShowRow(Row):
    """A row that belongs to a show; `rev` is the show's revision of its last change."""

    id = UUIDField(primary_key=True)
    show = ForeignKeyField(Show)
    rev = BigIntegerField()


class Profile(ShowRow):
    maker = TextField()
    name = TextField()
    kind = TextField()
    guarded = BooleanField(default=False)
    notes = TextField(default="")
    origin = TextField(default="")
    verified = BooleanField(default=False)
    manual = TextField(default="")
    manual_name = TextField(default="")
    modes = BinaryJSONField()


class KeptProfile(Row):
    """A profile kept for other shows; it belongs to none."""

    id = UUIDField(primary_key=True)
    maker = TextField()
    name = TextField()
    profile = BinaryJSONField()


class Fixture(ShowRow):
    number = IntegerField()
    name = TextField()
    profile = ForeignKeyField(Profile)
    mode = TextField()
    universe = IntegerField(null=True)
    channel = IntegerField(null=True)
    extra = TextField(default="replace")
    response = TextField(default="as is")
    blocks = BinaryJSONField(default=list)


class Group(ShowRow):
    class Meta:
        table_name = "fixture_group"

    place = IntegerField()
    name = TextField()
    fixtures = BinaryJSONField()
    folder = TextField(default="")
    rule = TextField(default="")
    cells = BinaryJSONField(default=list)
    emitter = TextField(default="")


class Plan(ShowRow):
    place = IntegerField()
    name = TextField()
    items = BinaryJSONField()
    picture = TextField(default="")
    picture_width_m = DoubleField(default=20.0)
    picture_height_m = DoubleField(default=10.0)
    picture_x = DoubleField(default=0.0)
    picture_y = DoubleField(default=0.0)


class Matrix(ShowRow):
    place = IntegerField()
    name = TextField()
    width = IntegerField()
    height = IntegerField()
    placements = BinaryJSONField()
    shares = TextField(default="")
    weave = BinaryJSONField(null=True)


class Clip(ShowRow):
    name = TextField()
    kind = TextField(default="video")
    content = TextField()
    suffix = TextField()
    width = IntegerField()
    height = IntegerField()
    frames = IntegerField()
    duration_ns = BigIntegerField()
    bytes = BigIntegerField()


class Ramp(ShowRow):
    place = IntegerField()
    name = TextField()
    stops = BinaryJSONField()


class Look(ShowRow):
    place = IntegerField()
    name = TextField()
    lines = BinaryJSONField()


class Output(ShowRow):
    place = IntegerField()
    name = TextField()
    protocol = TextField()
    mode = TextField()
    destination = TextField()
    address = TextField()
    card = TextField()
    first_universe = IntegerField()
    count = IntegerField()
    first_number = IntegerField()
    priority = IntegerField()
    sync = IntegerField()
    rate_hz = IntegerField()
    mute = BooleanField()
    when_ends = TextField(default="dark")
    card_broadcast = TextField()
    on = BooleanField(column_name="on")


class Mark(ShowRow):
    """What was seen of one cell (0: the whole fixture) on a test walk."""

    place = IntegerField()
    fixture = TextField()
    cell = IntegerField()
    kind = TextField()
    seen = BinaryJSONField(default=dict)


class Parked(ShowRow):
    """A channel that the show holds at a value."""

    place = IntegerField()
    universe = IntegerField()
    channel = IntegerField()
    value = IntegerField()


class Edit(Row):
    id = BigAutoField()
    show = ForeignKeyField(Show)
    revision = BigIntegerField()
    author = TextField()
    author_name = TextField()
    label = TextField()
    kind = TextField()
    state = TextField()
    changes = BinaryJSONField()
    at = DateTimeField()


TABLES: dict[str, type[ShowRow]] = {
    "profile": Profile,
    "fixture": Fixture,
    "group": Group,
    "plan": Plan,
    "matrix": Matrix,
    "clip": Clip,
    "ramp": Ramp,
    "look": Look,
    "output": Output,
    "mark": Mark,
    "parked": Parked,
}
"""The kinds of object an edit can change, in the order in which they may be inserted."""
