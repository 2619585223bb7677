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

from heliograph.core.playing.cues import BY_HAND
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
    deleted_at = DateTimeField(null=True)


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
    number = IntegerField(default=0)
    kind = TextField(default="video")
    content = TextField()
    suffix = TextField()
    width = IntegerField()
    height = IntegerField()
    frames = IntegerField()
    duration_ns = BigIntegerField()
    bytes = BigIntegerField()


class Chase(ShowRow):
    """Drawn frames: `frames` are {fade, hold, picture}; see `core/look/drawn`. `origin`: what it was unrolled from."""

    place = IntegerField()
    name = TextField()
    matrix = TextField(default="")
    group = TextField(default="", column_name="over_group")
    selection = TextField(default="")
    columns = IntegerField()
    rows = IntegerField()
    unit = TextField(default="s")
    frames = BinaryJSONField()
    origin = TextField(default="")


class Preset(ShowRow):
    """A named value for part of a fixture: what is typed for attributes, and bytes kept of fixtures; see
    `core/look/attributes`."""

    place = IntegerField()
    name = TextField()
    folder = TextField(default="")
    kind = TextField()
    sets = BinaryJSONField(default=dict)
    kept = BinaryJSONField(default=dict)


class Ramp(ShowRow):
    place = IntegerField()
    name = TextField()
    stops = BinaryJSONField()


class Look(ShowRow):
    place = IntegerField()
    name = TextField()
    lines = BinaryJSONField()
    folder = TextField(default="")
    note = TextField(default="")
    fade_in = DoubleField(default=0.0)
    fade_out = DoubleField(default=0.0)


class StoredCueList(ShowRow):
    """A cue list; its cues in the order of their numbers."""

    class Meta:
        table_name = "cue_list"

    place = IntegerField()
    name = TextField()
    cues = BinaryJSONField()
    priority = IntegerField(default=BY_HAND)
    order = TextField(default="along", column_name="order")
    rounds = IntegerField(default=1)
    letting_go = TextField(default="fade")
    release_s = DoubleField(default=2.0)
    main = BooleanField(default=False)
    seed = IntegerField(default=0)


class StoredScore(ShowRow):
    """A score: staves, entries and positions by their ids; see `core/playing/score`. `notes`: words over bars."""

    class Meta:
        table_name = "score"

    place = IntegerField()
    name = TextField()
    bars = IntegerField(default=32)
    rounds = IntegerField(default=1)
    priority = IntegerField(default=BY_HAND)
    release_s = DoubleField(default=2.0)
    staves = BinaryJSONField()
    entries = BinaryJSONField()
    positions = BinaryJSONField()
    notes = BinaryJSONField()


class StoredClock(ShowRow):
    """Where a show is, and the rules of its clock; a show has one at most."""

    class Meta:
        table_name = "clock"

    place = IntegerField()
    latitude = DoubleField(null=True)
    longitude = DoubleField(null=True)
    zone = TextField()
    rules = BinaryJSONField()


class StoredPage(ShowRow):
    """A page of pads and faders; see `core/pages`."""

    class Meta:
        table_name = "page"

    place = IntegerField()
    name = TextField()
    slug = TextField()
    items = BinaryJSONField()


class StoredFavourite(ShowRow):
    """Kept values of handles; see `core/playing/favourites`."""

    class Meta:
        table_name = "favourite"

    place = IntegerField()
    name = TextField()
    values = BinaryJSONField(column_name="values")


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
    "chase": Chase,
    "ramp": Ramp,
    "preset": Preset,
    "look": Look,
    "cue_list": StoredCueList,
    "score": StoredScore,
    "clock": StoredClock,
    "page": StoredPage,
    "favourite": StoredFavourite,
    "output": Output,
    "mark": Mark,
    "parked": Parked,
}
"""The kinds of object an edit can change, in the order in which they may be inserted."""
