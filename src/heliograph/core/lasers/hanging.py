"""Where guarded fixtures hang on the wire, and where one still may hang although the show says otherwise.

A laser listens to slots of a number, whatever a show calls them. So what is remembered are places on the wire at which
a guarded fixture was ever sent, in any show: where the show does not put that fixture any more, its safe values stay,
until somebody says in words that it is gone from there. Laying something else over such a place changes nothing.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import groupby
from typing import Any

from heliograph.core.patch.dmx import SLOTS, Address, address_at
from heliograph.core.patch.wire import Carriers, WireUniverse, carried, wire_universes
from heliograph.core.rig.arrays import Rig, RigFixture

Slots = dict[tuple[int, int], int]
"""(slot, channel of the mode), both from 0 -> safe value."""

Outputs = Sequence[Mapping[str, Any]]

OF_AN_OLDER_STATE = 1 << 16
"""The channel of slots of which only the safe value is known: no mode has it."""


@dataclass(frozen=True, slots=True)
class Hanging:
    """A run of slots at which a guarded fixture was sent: `slot` and `channel` (from 0) of the first, and the `safe`
    value of each."""

    fixture: str
    number: int
    name: str
    wire: WireUniverse
    slot: int
    channel: int
    safe: tuple[int, ...]

    def slots(self) -> Iterator[tuple[int, int, int]]:
        """(slot, channel, safe value) of each."""
        for step, value in enumerate(self.safe):
            yield self.slot + step, self.channel + step, value


@dataclass(frozen=True, slots=True)
class LeftGuard:
    """Places that carried a guarded fixture and do no more, because it was moved, deleted or changed: the real one may
    still listen there. `values`: (absolute position, safe value) of the running show, each position once."""

    fixture: str
    number: int
    name: str
    values: tuple[tuple[int, int], ...]

    @property
    def runs(self) -> list[tuple[Address, int]]:
        """The addresses as runs: (first, how many)."""
        found: list[tuple[int, int]] = []
        for position, _ in sorted(self.values):
            if found and sum(found[-1]) == position and position % SLOTS:
                found[-1] = (found[-1][0], found[-1][1] + 1)
            else:
                found.append((position, 1))
        return [(address_at(first), count) for first, count in found]

    @property
    def said(self) -> list[str]:
        """Where it lay, in words."""
        return [f"{first} to {first.channel + count - 1}" for first, count in self.runs]


def channels_of(fixture: RigFixture) -> Iterator[tuple[int, int, int]]:
    """(absolute position, channel of the mode from 0, safe value) of every channel that is placed. The value is 0 where
    the mode names none: such a fixture cannot be armed."""
    at = 0
    for placed in fixture.placed:
        channels = (*placed.block.shared, *(placed.block.cell_channels * placed.block.cell_count))
        if placed.is_placed:
            for step, (position, channel) in enumerate(zip(placed.positions.tolist(), channels, strict=True)):
                yield position, at + step, channel.safe or 0
        at += len(channels)


def guarded_fixtures(rig: Rig) -> list[RigFixture]:
    """Those that are guarded and have an address."""
    return [one for one in rig.fixtures.values() if one.guarded and one.placed]


def hangings_of(fixture: RigFixture, outputs: Iterable[Mapping[str, Any]]) -> dict[WireUniverse, Slots]:
    """Where these outputs carry it."""
    by_universe: dict[int, Slots] = {}
    for position, channel, safe in channels_of(fixture):
        by_universe.setdefault(position // SLOTS + 1, {})[position % SLOTS, channel] = safe
    found: dict[WireUniverse, Slots] = {}
    for output in outputs:
        for universe, slots in by_universe.items():
            for wire in wire_universes(output, universe):
                found.setdefault(wire, {}).update(slots)
    return found


def remembered(hung: tuple[Hanging, ...], rig: Rig, outputs: Outputs) -> tuple[Hanging, ...]:
    """What was known, and where guarded fixtures are sent now."""
    sending = [one for one in outputs if one["on"] and not one.get("mute")]
    known: dict[tuple[str, WireUniverse], Slots] = {}
    names = {one.fixture: (one.number, one.name) for one in hung}
    for one in hung:
        slots = known.setdefault((one.fixture, one.wire), {})
        slots.update({(slot, channel): safe for slot, channel, safe in one.slots()})
    for fixture in guarded_fixtures(rig):
        for wire, slots in hangings_of(fixture, sending).items():
            known.setdefault((fixture.id, wire), {}).update(slots)
            names[fixture.id] = (fixture.number, fixture.name)
    return tuple(
        Hanging(fixture, *names[fixture], wire, slot, channel, safe)
        for (fixture, wire), slots in sorted(known.items())
        for slot, channel, safe in _runs(slots)
    )


def of_older_state(hung: tuple[Hanging, ...], left: Iterable[LeftGuard], outputs: Outputs) -> tuple[Hanging, ...]:
    """A state that knew only positions of its show: what they are on the wire by the outputs of that show."""
    known = {one.fixture for one in hung}
    found = list(hung)
    for one in left:
        if one.fixture in known:
            continue
        for output in outputs:
            for position, value in one.values:
                for wire in wire_universes(output, position // SLOTS + 1) if output["on"] else ():
                    name = (one.fixture, one.number, one.name)
                    found.append(Hanging(*name, wire, position % SLOTS, OF_AN_OLDER_STATE, (value,)))
    return tuple(found)


def without(hung: tuple[Hanging, ...], fixture: str) -> tuple[Hanging, ...]:
    return tuple(one for one in hung if one.fixture != fixture)


def stale_of(hung: Iterable[Hanging], rig: Rig, outputs: Outputs) -> Iterator[tuple[Hanging, list[tuple[int, int]]]]:
    """(slot, safe value) of everything remembered at which the show does not put the same channel of the same fixture.
    Outputs that are off or muted count for where it is put. A fixture of another show is the same one where number and
    name are."""
    now: dict[str | tuple[int, str], list[tuple[WireUniverse, Slots]]] = {}
    for fixture in guarded_fixtures(rig):
        places = list(hangings_of(fixture, outputs).items())
        now[fixture.id] = places
        now.setdefault((fixture.number, fixture.name), []).extend(places)
    for one in hung:
        key: str | tuple[int, str] = one.fixture if one.fixture in rig.fixtures else (one.number, one.name)
        here = [slots for wire, slots in now.get(key, ()) if wire.meets(one.wire)]
        stale = [(slot, safe) for slot, channel, safe in one.slots() if all((slot, channel) not in at for at in here)]
        if stale:
            yield one, stale


def left_of(hung: Iterable[Hanging], rig: Rig, outputs: Outputs) -> tuple[LeftGuard, ...]:
    """What stays safe by its place in the running show: what is stale, and comes to somebody all the same."""
    carriers = Carriers(outputs)
    found: dict[str, tuple[Hanging, dict[int, int]]] = {}
    for one, stale in stale_of(hung, rig, outputs):
        for universe in carriers.of(one.wire):
            _, values = found.setdefault(one.fixture, (one, {}))
            values.update({(universe - 1) * SLOTS + slot: safe for slot, safe in stale})
    return tuple(
        LeftGuard(one.fixture, one.number, one.name, tuple(sorted(values.items()))) for one, values in found.values()
    )


def sent_twice(rig: Rig, outputs: Outputs) -> dict[int, tuple[str, int]]:
    """Absolute positions of *other* universes that come to the slots of guarded fixtures -> (fixture, safe value): two
    outputs may send to one place. They stay safe always, for nobody arms them."""
    lasers = guarded_fixtures(rig)
    if not lasers:
        return {}
    carriers = Carriers(outputs)
    found: dict[int, tuple[str, int]] = {}
    for fixture in lasers:
        own = [(position // SLOTS + 1, position % SLOTS, safe) for position, _, safe in channels_of(fixture)]
        for output in outputs:  # also of one that is off: there it hangs all the same
            for universe, wire in carried(output):
                others = carriers.of(wire) - {universe}
                for slot, safe in ((slot, safe) for at, slot, safe in own if at == universe) if others else ():
                    found.update({(other - 1) * SLOTS + slot: (fixture.id, safe) for other in others})
    return found


def _runs(slots: Slots) -> Iterator[tuple[int, int, tuple[int, ...]]]:
    """(first slot, first channel, safe values) of slots whose channels follow one another as they do."""
    ordered = sorted(slots.items(), key=lambda one: (one[0][1] - one[0][0], one[0][0]))
    numbered = enumerate(ordered)
    for _, group in groupby(numbered, key=lambda one: (one[1][0][1] - one[1][0][0], one[1][0][0] - one[0])):
        run = [one for _, one in group]
        (slot, channel), _ = run[0]
        yield slot, channel, tuple(value for _, value in run)
