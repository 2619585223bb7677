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
    """Levels, and what was typed, as the bytes they stand for in the show there is; any other command as it is. Called
    before the frame loop is asked: twenty thousand of them take longer than ten frames."""
    match asked:
        case told.SetManual(levels=levels) if levels:
            return told.SetManual({**asked.values, **_of_levels(engine, levels)})
        case told.TypeValues():
            return told.SetManual(_of_typed(engine, asked))
        case told.TypeColours():
            colours = typed_colours(asked.text, len(asked.cells), asked.kelvin)
            return told.SetManual(_of_colours(engine, asked.cells, colours))
    return asked


def set_manual(engine: Engine, asked: told.SetManual) -> None:
    """Sets values by hand; None releases one. Keys as in `PlaybackState.manual`."""
    for key in asked.values:
        _channel_of(engine.show.rig.fixtures, key)
    _hold(engine, asked.values)


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


def hold_colours(engine: Engine, asked: told.HoldColours) -> None:
    """Moves colours of cells from what they were when the movement began."""
    fixtures = engine.show.rig.fixtures
    cells = [[_channel_of(fixtures, key)[:2] if key else None for key in one.keys] for one in asked.cells]
    base = _base(
        engine,
        asked.drag,
        len(cells),
        lambda: [_colour_of(engine, places, one.by_hue) for places, one in zip(cells, asked.cells, strict=True)],
    )
    colours = [(red, green, blue) for red, green, blue in base]
    _hold(engine, _of_colours(engine, asked.cells, coloured(colours, asked.what, asked.to)))


def turn_heads(engine: Engine, asked: told.TurnHeads) -> None:
    """Turns heads from where they stood when the movement began."""
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
    _hold(engine, _of_levels(engine, levels))


def _base(engine: Engine, drag: str, count: int, now: Callable[[], Sequence[Parts]]) -> Sequence[Parts]:
    """What a movement of a hand begins from, remembered as long as it may go on."""
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


def _hold(engine: Engine, values: Mapping[str, int | None]) -> None:
    """Holds channels by hand, None releases one; what is held of fixtures that are gone is forgotten."""
    fixtures = engine.show.rig.fixtures
    kept = {key: value for key, value in engine.state.manual.items() if key.partition("/")[0] in fixtures}
    engine.state = replace(engine.state, manual=_changed(kept, values))


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
    values = {str(parse_address(key))[1:]: value for key, value in asked.values.items()}
    engine.state = replace(engine.state, raw=_changed(engine.state.raw, values))


def _changed(before: Mapping[str, int], values: Mapping[str, int | None]) -> dict[str, int]:
    for value in values.values():
        if value is not None and not 0 <= int(value) <= 255:
            raise InputError(f"A channel takes 0 to 255, not {value}.", where="values")
    after = {key: value for key, value in before.items() if key not in values}
    after |= {str(key): int(value) for key, value in values.items() if value is not None}
    if len(after) > BY_HAND_MAX:
        raise InputError(f"{BY_HAND_MAX} channels by hand are the most.", where="values", repair="Release some first.")
    return after
