"""The guard's rules: what may be armed, what ends being armed, and which addresses stay safe after a laser left them.

Guarded fixtures (lasers) are held at their safe values, above everything, unless they are armed.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import SLOTS, Address, address_at, spell_number
from heliograph.core.patch.places import all_positions
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import Rig, RigFixture


@dataclass(frozen=True, slots=True)
class LeftGuard:
    """Addresses that carried a guarded fixture and do no more, because it was moved, deleted or changed: the real one
    may still listen there. `values`: (absolute position, safe value), each position once."""

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


def mode_channels(mode: Mode) -> list[Channel]:
    """Every channel of a mode in order, its cells written out."""
    return [channel for block in mode.blocks for channel in (*block.shared, *(block.cell_channels * block.cell_count))]


def unsafe_channels(mode: Mode) -> list[str]:
    """What its channels without a safe value are called, each name once, in order."""
    channels = [channel for block in mode.blocks for channel in (*block.shared, *block.cell_channels)]
    return list(dict.fromkeys(channel.label for channel in channels if channel.safe is None))


def safe_values(fixture: RigFixture) -> dict[int, int]:
    """Absolute position -> safe value of a placed fixture. 0 where its mode names none: it cannot be armed then."""
    found: dict[int, int] = {}
    for placed in fixture.placed:
        if placed.is_placed:
            channels = (*placed.block.shared, *(placed.block.cell_channels * placed.block.cell_count))
            for position, channel in zip(placed.positions.tolist(), channels, strict=True):
                found[position] = channel.safe or 0
    return found


def guarded_positions(rig: Rig) -> dict[str, dict[int, int]]:
    """Of each guarded fixture that is placed: its safe values."""
    return {one.id: safe_values(one) for one in rig.fixtures.values() if one.guarded and one.placed}


def universes_of(fixture: RigFixture) -> set[int]:
    return {int(position) // SLOTS + 1 for position in all_positions(fixture.placed).tolist()}


def universes_sent(outputs: Iterable[Mapping[str, Any]]) -> set[int]:
    """Show universes that leave by an output that is on and not muted."""
    sent: set[int] = set()
    for output in outputs:
        if output["on"] and not output.get("mute"):
            sent.update(range(output["first_universe"], output["first_universe"] + output["count"]))
    return sent


def arming_fault(fixture: RigFixture | None, sent: set[int]) -> str:
    """Why a fixture cannot be armed, in a sentence with what would be right; "" where it can."""
    if fixture is None:
        return "That fixture is not in the running show."
    said = f"{fixture.number} {fixture.name}"
    if not fixture.guarded:
        return f"{said} is not guarded: there is nothing to arm."
    if not fixture.placed:
        return f"{said} has no address. Give it one at Patch."
    unsafe = unsafe_channels(fixture.mode)
    if unsafe:
        named = ", ".join(unsafe[:4]) + (" ..." if len(unsafe) > 4 else "")
        return f"{said}: {named} of mode {fixture.mode.name} have no safe value. Give them one in its profile."
    missing = sorted(universes_of(fixture) - sent)
    if missing:
        return f"{said} is not sent: U{missing[0]} leaves by no output that is on. Switch one on at Patch."
    return ""


def check_armable(rig: Rig, outputs: Sequence[Mapping[str, Any]], fixtures: Iterable[str]) -> None:
    """Raises InputError for the first fixture that cannot be armed."""
    sent = universes_sent(outputs)
    for name in fixtures:
        fault = arming_fault(rig.fixtures.get(name), sent)
        if fault:
            raise InputError(fault, where="fixtures")


_ROUTING = ("id", "protocol", "mode", "address", "card", "card_broadcast", "first_universe", "first_number", "mute")


def _routing(fixture: RigFixture, outputs: Iterable[Mapping[str, Any]]) -> list[tuple[Any, ...]]:
    """How a fixture is reached: whatever of this changes, somebody else may stand at the other end."""
    universes = universes_of(fixture)
    return [
        tuple(output.get(name) for name in _ROUTING)
        for output in outputs
        if output["on"]
        and any(output["first_universe"] <= one < output["first_universe"] + output["count"] for one in universes)
    ]


def still_armed(
    armed: frozenset[str],
    before: tuple[Rig, Sequence[Mapping[str, Any]]],
    after: tuple[Rig, Sequence[Mapping[str, Any]]],
) -> frozenset[str]:
    """Those whose profile, mode, blocks, addresses, outputs and network cards are what they were: (rig, outputs)."""
    if not armed or (before[0] is after[0] and before[1] is after[1]):
        return armed
    sent = universes_sent(after[1])
    kept = set()
    for name in armed:
        old, new = before[0].fixtures.get(name), after[0].fixtures.get(name)
        if old is None or new is None or arming_fault(new, sent):
            continue
        same = old.mode == new.mode and all_positions(old.placed).tolist() == all_positions(new.placed).tolist()
        if same and _routing(old, before[1]) == _routing(new, after[1]):
            kept.add(name)
    return frozenset(kept) if kept != armed else armed


def left_behind(
    left: tuple[LeftGuard, ...], before: Rig, outputs: Iterable[Mapping[str, Any]], after: Rig
) -> tuple[LeftGuard, ...]:
    """Guarded by address from now on: what `left` says, and what guarded fixtures of `before` leave.

    Only addresses that were sent count, for only there a lamp of ours can be; what a guarded fixture of `after` covers
    is guarded by that. `outputs`: those of `before`.
    """
    if before is after:
        return left
    covered = {position for values in guarded_positions(after).values() for position in values}
    sent = universes_sent(outputs)
    gone = []
    for name, values in guarded_positions(before).items():
        stays = tuple(
            (position, value)
            for position, value in sorted(values.items())
            if position not in covered and position // SLOTS + 1 in sent
        )
        if stays:
            fixture = before.fixtures[name]
            gone.append(LeftGuard(name, fixture.number, fixture.name, stays))
    return merged([*left, *gone], covered)


def merged(left: Sequence[LeftGuard], without: Iterable[int] = ()) -> tuple[LeftGuard, ...]:
    """Each position once, of the last that names it; `without` those of some positions."""
    seen = set(without)
    found: list[LeftGuard] = []
    for one in reversed(left):
        values = tuple(pair for pair in one.values if pair[0] not in seen)
        seen.update(position for position, _ in values)
        if values:
            found.append(LeftGuard(one.fixture, one.number, one.name, values))
    return tuple(reversed(found))


def arming_warnings(fixture: RigFixture, outputs: Iterable[Mapping[str, Any]], network: Mapping[str, Any]) -> list[str]:
    """What a person should know before arming: others who send where it listens, nodes that answer twice. `network`:
    {"streams", "nodes"} as the receiver tells them."""
    universes = universes_of(fixture)
    found: list[str] = []
    for output in outputs:
        if not output["on"]:
            continue
        numbers = {
            output["first_number"] + one - output["first_universe"]
            for one in universes
            if output["first_universe"] <= one < output["first_universe"] + output["count"]
        }
        for stream in network.get("streams", ()):
            if stream["protocol"] == output["protocol"] and stream["number"] in numbers:
                who = f"{stream['name']} ({stream['ip']})" if stream["name"] else stream["ip"]
                found.append(f"{who} sends {spell_number(output['protocol'], stream['number'])} too.")
        if output["protocol"] != "artnet":
            continue
        for number in sorted(numbers):
            answering = sorted(
                {
                    node["ip"]
                    for node in network.get("nodes", ())
                    if not node["silent"] and not node["by_sacn"] and number in node["outputs"]
                }
            )
            if len(answering) > 1:
                said = spell_number("artnet", number)
                found.append(f"{' and '.join(answering)} both answer for {said}: either may hold the laser.")
    return list(dict.fromkeys(found))


def without_shared(armed: frozenset[str], shared: Mapping[str, frozenset[str]]) -> frozenset[str]:
    """The armed fixtures that may emit: one that shares a channel with a guarded fixture that is not armed stays safe
    as a whole. `shared`: guarded fixture -> the guarded ones on its channels."""
    return frozenset(name for name in armed if shared.get(name, frozenset()) <= armed)


def sharing(rig: Rig) -> dict[str, frozenset[str]]:
    """Guarded fixtures that lie on one another's channels."""
    owners: dict[int, set[str]] = {}
    for name, values in guarded_positions(rig).items():
        for position in values:
            owners.setdefault(position, set()).add(name)
    found: dict[str, set[str]] = {}
    for names in owners.values():
        if len(names) > 1:
            for name in names:
                found.setdefault(name, set()).update(names - {name})
    return {name: frozenset(others) for name, others in found.items()}
