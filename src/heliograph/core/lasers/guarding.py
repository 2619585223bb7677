"""The guard's rules: what may be armed, what ends being armed, and which addresses stay safe after a laser left them.

Guarded fixtures (lasers) are held at their safe values, above everything, unless they are armed.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.lasers.hanging import LeftGuard, Outputs, channels_of, guarded_fixtures, hangings_of
from heliograph.core.patch.dmx import SLOTS, address_at, spell_number
from heliograph.core.patch.places import all_positions
from heliograph.core.patch.wire import Carriers
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import Rig, RigFixture


def mode_channels(mode: Mode) -> list[Channel]:
    """Every channel of a mode in order, its cells written out."""
    return [channel for block in mode.blocks for channel in (*block.shared, *(block.cell_channels * block.cell_count))]


def unsafe_channels(mode: Mode) -> list[str]:
    """What its channels without a safe value are called, each name once, in order."""
    channels = [channel for block in mode.blocks for channel in (*block.shared, *block.cell_channels)]
    return list(dict.fromkeys(channel.label for channel in channels if channel.safe is None))


def guarded_positions(rig: Rig) -> dict[str, dict[int, int]]:
    """Of each guarded fixture that is placed: absolute position -> safe value."""
    return {one.id: {at: safe for at, _, safe in channels_of(one)} for one in guarded_fixtures(rig)}


def universes_of(fixture: RigFixture) -> set[int]:
    return {int(position) // SLOTS + 1 for position in all_positions(fixture.placed).tolist()}


def universes_sent(outputs: Iterable[Mapping[str, Any]]) -> set[int]:
    """Show universes that leave by an output that is on and not muted."""
    sent: set[int] = set()
    for output in outputs:
        if output["on"] and not output.get("mute"):
            sent.update(range(output["first_universe"], output["first_universe"] + output["count"]))
    return sent


def arming_fault(fixture: RigFixture | None, outputs: Outputs, left: Iterable[LeftGuard]) -> str:
    """Why a fixture cannot be armed, in a sentence with what would be right; "" where it can. `left`: places that stay
    safe."""
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
    missing = sorted(universes_of(fixture) - universes_sent(outputs))
    if missing:
        return f"{said} is not sent: U{missing[0]} leaves by no output that is on. Switch one on at Patch."
    return _under_another(fixture, said, left) or _sent_twice(fixture, said, outputs)


def _under_another(fixture: RigFixture, said: str, left: Iterable[LeftGuard]) -> str:
    own = {position for position, _, _ in channels_of(fixture)}
    for one in left:
        under = sorted(own.intersection(position for position, _ in one.values))
        if under:
            who = "it" if one.fixture == fixture.id else f"laser {one.number} {one.name}"
            where = address_at(under[0])
            return f"{said} lies where {who} lay before ({where}). Say at Check that the laser is gone from there."
    return ""


def _sent_twice(fixture: RigFixture, said: str, outputs: Outputs) -> str:
    carriers = Carriers(outputs)
    own = universes_of(fixture)
    for wire in hangings_of(fixture, [one for one in outputs if one["on"]]):
        others = sorted(carriers.of(wire) - own)
        if others:
            return f"{said} would get two universes: U{others[0]} goes to {wire} too. Give one of them another number."
    return ""


def check_armable(rig: Rig, outputs: Outputs, fixtures: Iterable[str], left: Iterable[LeftGuard]) -> None:
    """Raises InputError for the first fixture that cannot be armed."""
    for name in fixtures:
        fault = arming_fault(rig.fixtures.get(name), outputs, left)
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
    before: tuple[Rig, Outputs],
    after: tuple[Rig, Outputs],
    left: Iterable[LeftGuard],
) -> frozenset[str]:
    """Those whose profile, mode, blocks, addresses, outputs and network cards are what they were, (rig, outputs), and
    that do not lie where another was left."""
    if not armed or (before[0] is after[0] and before[1] is after[1]):
        return armed
    kept = set()
    for name in armed:
        old, new = before[0].fixtures.get(name), after[0].fixtures.get(name)
        if old is None or new is None or arming_fault(new, after[1], left):
            continue
        same = old.mode == new.mode and all_positions(old.placed).tolist() == all_positions(new.placed).tolist()
        if same and _routing(old, before[1]) == _routing(new, after[1]):
            kept.add(name)
    return frozenset(kept) if kept != armed else armed


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
    """Guarded fixtures that lie on one another's channels, each with all that hang together with it through any
    chain."""
    chain: dict[str, set[str]] = {}
    owners: dict[int, str] = {}
    for name, values in guarded_positions(rig).items():
        chain[name] = {name}
        for position in values:
            other = owners.setdefault(position, name)
            if chain[other] is not chain[name]:
                chain[other] |= chain[name]
                for one in chain[name]:
                    chain[one] = chain[other]
    return {name: frozenset(together - {name}) for name, together in chain.items() if len(together) > 1}
