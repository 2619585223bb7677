"""Commands of hands on single channels and on colours: moved, typed, released. See `commands`."""

from __future__ import annotations

import colorsys
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from heliograph.core.colour.typed import typed_colours
from heliograph.core.errors import InputError
from heliograph.core.hand.colouring import Rgb, coloured
from heliograph.core.hand.levels import level_bytes, level_of
from heliograph.core.hand.turning import turned
from heliograph.core.hand.typed import Place, typed_values
from heliograph.core.hand.values import channels_of
from heliograph.core.patch.dmx import parse_address
from heliograph.core.rig.arrays import RigFixture
from heliograph.engine.loop import Engine
from heliograph.ipc.messages import engine as told

Values = dict[str, int | None]
"""Bytes on the wire by "<fixture id>/<channel of its mode>"."""

Parts = tuple[float, ...]

DRAGS_KEPT = 32
"""Movements of hands whose beginning is remembered."""

BY_HAND_MAX = 20_000
"""Channels held by hand: all of them are written into the spool when one changes."""


def as_values(engine: Engine, asked: Any) -> Any:
    """Levels, colours, heads that are turned, and what was typed, as the bytes they stand for in the show there is; any
    other command as it is. Called before the frame loop is asked, from any thread: twenty thousand of them take longer
    than ten frames."""
    match asked:
        case told.SetManual():
            return _checked(engine, asked.values, _of_levels(engine, asked.levels))
        case told.SetRaw():
            return told.SetRaw(_bytes({str(parse_address(key))[1:]: one for key, one in asked.values.items()}))
        case told.TypeValues():
            return told.SetManual(_of_typed(engine, asked))
        case told.TypeColours():
            colours = typed_colours(asked.text, len(asked.cells), asked.kelvin)
            return told.SetManual(_of_colours(engine, asked.cells, colours))
        case told.HoldColours():
            return told.SetManual(_of_held_colours(engine, asked))
        case told.TurnHeads():
            return told.SetManual(_of_turned(engine, asked))
    return asked


def _checked(engine: Engine, values: Values, worked_out: Values) -> told.SetManual:
    for key in values:
        _channel_of(engine.show.rig.fixtures, key)
    return told.SetManual({**_bytes(values), **worked_out})


def _bytes(values: Values) -> Values:
    for value in values.values():
        if value is not None and not 0 <= value <= 255:
            raise InputError(f"A channel takes 0 to 255, not {value}.", where="values")
    return values


def set_manual(engine: Engine, asked: told.SetManual) -> None:
    """Holds channels by hand, None releases one. Keys as in `PlaybackState.manual`; what is held of fixtures that are
    gone is forgotten."""
    fixtures, held = engine.show.rig.fixtures, engine.state.manual
    if engine.held_of is not engine.show.rig:
        held = {key: value for key, value in held.items() if key.partition("/")[0] in fixtures}
        engine.held_of = engine.show.rig
    engine.state = replace(engine.state, manual=_changed(held, asked.values))


def _of_levels(engine: Engine, levels: Mapping[str, float]) -> Values:
    values: Values = {}
    for key, level in levels.items():
        fixture, number, attribute = _channel_of(engine.show.rig.fixtures, key)
        found = level_bytes(channels_of(fixture.mode), number, level, attribute)
        values.update((f"{fixture.id}/{channel}", byte) for channel, byte in found.items())
    return values


def _channel_of(fixtures: Mapping[str, RigFixture], key: str) -> tuple[RigFixture, int, str]:
    """Fixture, channel of its mode and attribute that a key names; InputError where there is no such channel."""
    name, _, rest = key.partition("/")
    channel, _, attribute = rest.partition("/")
    known = fixtures.get(name)
    if known is None or not channel.isdigit() or not 1 <= int(channel) <= known.mode.footprint:
        raise InputError("That channel is of no fixture of the running show.", where="values")
    return known, int(channel), attribute


def _of_held_colours(engine: Engine, asked: told.HoldColours) -> Values:
    """Colours of cells, moved from what they were when the movement began."""
    fixtures = engine.show.rig.fixtures
    cells = [[_channel_of(fixtures, key)[:2] if key else None for key in one.keys] for one in asked.cells]
    base = _base(
        engine,
        asked.drag,
        len(cells),
        lambda: [_colour_of(engine, places, one.by_hue) for places, one in zip(cells, asked.cells, strict=True)],
    )
    colours = [(red, green, blue) for red, green, blue in base]
    return _of_colours(engine, asked.cells, coloured(colours, asked.what, asked.to))


def _of_turned(engine: Engine, asked: told.TurnHeads) -> Values:
    """Heads, turned from where they stood when the movement began."""
    fixtures = engine.show.rig.fixtures
    heads = [tuple(_channel_of(fixtures, key)[:2] for key in keys) for keys in asked.heads]
    base = _base(
        engine,
        asked.drag,
        len(heads),
        lambda: [tuple(_level_now(engine, *place) for place in places) for places in heads],
    )
    stands = [(across, up) for across, up in base]
    levels: dict[str, float] = {}
    turned_to = turned(stands, (asked.across, asked.up), asked.way)
    for keys, (across, up) in zip(asked.heads, turned_to, strict=True):
        levels |= {keys[0]: across, keys[1]: up}
    return _of_levels(engine, levels)


def _base(engine: Engine, drag: str, count: int, now: Callable[[], Sequence[Parts]]) -> Sequence[Parts]:
    """What a movement of a hand begins from, remembered as long as it may go on."""
    with engine.dragging:
        base = engine.drags.get(drag)
        if base is None or len(base) != count:
            base = engine.drags[drag] = now()
            while len(engine.drags) > DRAGS_KEPT:
                del engine.drags[next(iter(engine.drags))]
        return base


def _of_colours(engine: Engine, cells: Sequence[told.ColourKeys], colours: Sequence[Rgb]) -> Values:
    values: Values = {}
    for one, colour in zip(cells, colours, strict=True):
        parts = colorsys.rgb_to_hsv(*colour) if one.by_hue else colour
        for key, level in zip(one.keys, parts, strict=True):
            if key:
                fixture, number, _ = _channel_of(engine.show.rig.fixtures, key)
                found = level_bytes(channels_of(fixture.mode), number, min(max(level, 0.0), 1.0))
                values.update((f"{fixture.id}/{channel}", byte) for channel, byte in found.items())
    return values


def _of_typed(engine: Engine, asked: told.TypeValues) -> Values:
    named = [_channel_of(engine.show.rig.fixtures, key) for key in asked.keys]
    places = [Place(channels_of(fixture.mode), number, attribute) for fixture, number, attribute in named]
    values: Values = {}
    for (fixture, _, _), found in zip(named, typed_values(asked.text, places), strict=True):
        values.update((f"{fixture.id}/{channel}", byte) for channel, byte in found.items())
    return values


def _colour_of(engine: Engine, places: Sequence[tuple[RigFixture, int] | None], by_hue: bool) -> Rgb:
    """The colour of a cell as it is held or, where it is not, as it is sent."""
    parts = [0.0 if place is None else _level_now(engine, *place) for place in places]
    red, green, blue = colorsys.hsv_to_rgb(*parts) if by_hue else parts
    return red, green, blue


def _level_now(engine: Engine, fixture: RigFixture, number: int) -> float:
    mode = channels_of(fixture.mode)
    values = {}
    for channel in (number, mode.fine_of.get(number, number)):
        held = engine.state.manual.get(f"{fixture.id}/{channel}")
        values[channel] = engine.sent_value(fixture, channel) if held is None else held
    return level_of(mode, number, values)


def set_raw(engine: Engine, asked: told.SetRaw) -> None:
    """Sets channels of universes by hand; None releases one. Keys as in `PlaybackState.raw`."""
    engine.state = replace(engine.state, raw=_changed(engine.state.raw, asked.values))


def _changed(before: Mapping[str, int], values: Values) -> dict[str, int]:
    after = dict(before)
    after.update(values)  # type: ignore[arg-type]  # those that are None go below
    for key, value in values.items():
        if value is None:
            del after[key]
    if len(after) > BY_HAND_MAX:
        raise InputError(f"{BY_HAND_MAX} channels by hand are the most.", where="values", repair="Release some first.")
    return after
