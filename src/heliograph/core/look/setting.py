"""What is said of attributes as bytes of the fixtures that are chosen.

What was typed (`open`, `20°`, `10 % > 90 %`) is read anew for each fixture by its own profile, so that one word means
the right value of each.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

from heliograph.core.errors import InputError
from heliograph.core.hand.levels import parts_of
from heliograph.core.hand.typed import Place, typed_values
from heliograph.core.hand.values import ModeChannels, channels_of
from heliograph.core.look.attributes import Values
from heliograph.core.profiles.attributes import EMITTERS
from heliograph.core.profiles.profile import Mode


class Chosen(NamedTuple):
    """A fixture that is chosen: its id, its mode, and the channels (from 1) that what is chosen of it has."""

    id: str
    mode: Mode
    numbers: frozenset[int] | None = None


def chosen_among(modes: Mapping[str, Mode], members: Iterable[str], emitter: str = "") -> list[Chosen]:
    """Fixtures by what is chosen of them, in order: "<id>" whole, or "<id>:<cell>", 0 its shared part. `modes`: of
    those that can be chosen; `emitter`: the word of the one emitter that is meant, "" for all."""
    found: dict[str, set[int] | None] = {}
    for member in members:
        name, _, cell = member.partition(":")
        if name not in modes:
            continue
        if not cell:
            found[name] = None
            continue
        numbers = found.setdefault(name, set())
        if numbers is not None:
            numbers.update(numbers_of_cell(modes[name], int(cell)))
    if emitter:
        for name, numbers in found.items():
            own = _numbers_of_emitter(modes[name], emitter)
            found[name] = own if numbers is None else numbers & own
    return [
        Chosen(name, modes[name], None if numbers is None else frozenset(numbers))
        for name, numbers in found.items()
        if numbers is None or numbers
    ]


def _numbers_of_emitter(mode: Mode, emitter: str) -> set[int]:
    channels = channels_of(mode).channels
    return {number for number, one in enumerate(channels, start=1) if EMITTERS.get(one.attribute) == emitter}


def numbers_of_cell(mode: Mode, cell: int) -> set[int]:
    """Channels of a mode, from 1, that one of its cells has; 0: those its blocks share."""
    found: set[int] = set()
    number, cells = 1, 0
    for block in mode.blocks:
        if cell == 0:
            found.update(range(number, number + len(block.shared)))
        number += len(block.shared)
        for _ in range(block.cell_count):
            cells += 1
            if cells == cell:
                found.update(range(number, number + len(block.cell_channels)))
            number += len(block.cell_channels)
    return found


def numbers_of(mode: ModeChannels, attribute: str, among: frozenset[int] | None = None) -> Iterator[tuple[int, str]]:
    """(channel from 1, part) of a mode that has an attribute: channels that are named for it, `part` "", else those
    with a part of their values for it. What is left alone stays alone."""
    own = [
        number
        for number, channel in enumerate(mode.channels, start=1)
        if channel.attribute == attribute and not channel.fine and not channel.alone and (not among or number in among)
    ]
    if own:
        yield from ((number, "") for number in own)
        return
    for number, channel in enumerate(mode.channels, start=1):
        if channel.alone or channel.fine or (among and number not in among):
            continue
        if any(one.attribute == attribute for one in parts_of(channel)):
            yield number, attribute


def attributes_in(chosen: Sequence[Chosen]) -> list[str]:
    """Every attribute that can be set of what is chosen, in the order of their channels, each once."""
    found: dict[str, None] = {}
    for one in chosen:
        for number, channel in enumerate(channels_of(one.mode).channels, start=1):
            if channel.fine or channel.alone or (one.numbers and number not in one.numbers):
                continue
            for attribute in (channel.attribute, *(part.attribute for part in parts_of(channel))):
                if attribute not in ("NoFeature", "Dummy"):
                    found.setdefault(attribute)
    return list(found)


def typed_over(chosen: Sequence[Chosen], attribute: str, text: str) -> list[tuple[str, dict[int, int]]]:
    """What a typed word makes of every place of an attribute: (fixture's id, {channel: byte on the wire}). Fixtures
    that have no such attribute are left out, and so are those whose profile has no such word, as long as any has it;
    InputError where nothing takes it."""
    places: list[tuple[str, Place]] = []
    for one in chosen:
        mode = channels_of(one.mode)
        places += [(one.id, Place(mode, number, part)) for number, part in numbers_of(mode, attribute, one.numbers)]
    if not places:
        raise InputError(f"Nothing of what is chosen has {attribute}.", where=f"params.{attribute}")
    try:
        found = typed_values(text, [place for _, place in places])
    except InputError:
        fitting = _those_that_take(text, places)
        if not fitting:
            raise
        places, found = fitting, typed_values(text, [place for _, place in fitting])
    return [(name, values) for (name, _), values in zip(places, found, strict=True)]


def _those_that_take(text: str, places: Sequence[tuple[str, Place]]) -> list[tuple[str, Place]]:
    takes: dict[tuple[int, str], bool] = {}
    fitting = []
    for name, place in places:
        key = (id(place.channel), place.attribute)
        if key not in takes:
            try:
                typed_values(text, [place])
                takes[key] = True
            except InputError:
                takes[key] = False
        if takes[key]:
            fitting.append((name, place))
    return fitting


def set_of(chosen: Sequence[Chosen], values: Sequence[Values]) -> dict[tuple[str, int], int]:
    """(fixture's id, channel of its mode) -> byte on the wire: all that is set, later values over earlier ones. A word
    that nothing takes any more sets nothing."""
    found: dict[tuple[str, int], int] = {}
    modes = {one.id: one for one in chosen}
    for each in values:
        for fixture, kept in each.kept.items():
            there = modes.get(fixture)
            if there is not None and there.mode.name == kept.mode:
                most = len(channels_of(there.mode).channels)
                found.update(((fixture, number), value) for number, value in kept.values.items() if number <= most)
        for attribute, text in each.sets.items():
            try:
                typed = typed_over(chosen, attribute, text)
            except InputError:
                continue
            found.update(((fixture, number), byte) for fixture, part in typed for number, byte in part.items())
    return found
