"""The patch doctor: what will go wrong, each finding a sentence with its place and, where there is one, a repair.

Causes: trade practice, no published source.
"""

from __future__ import annotations

import ipaddress
import re
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from heliograph.core.patch.dmx import spell_number
from heliograph.core.patch.reaching import Network, goes_to, not_heard, numbers
from heliograph.core.patch.wire import may_meet

PRIORITY_MAX = 200
"""Of sACN (E1.31)."""

Kind = Literal[
    "overlap",
    "past the end",
    "not sent",
    "sent twice",
    "nothing there",
    "muted",
    "off by one",
    "not heard",
    "another subnet",
    "two senders",
    "stays dark",
    "never dark",
    "old mode",
    "not safe",
]


@dataclass(frozen=True, slots=True)
class Repair:
    """An edit that mends a finding: `change` fields of an object; of a profile {"mode", "what"} as `mode_faults.mended`
    takes them. Undoable like every edit."""

    label: str
    table: Literal["fixture", "output", "profile"]
    id: str
    change: dict[str, Any]


@dataclass(frozen=True, slots=True)
class Finding:
    """`universe` 0 where it belongs to none; `fixture` and `output` are ids, "" where it is about neither."""

    kind: Kind
    sentence: str
    universe: int = 0
    fixture: str = ""
    output: str = ""
    repair: Repair | None = None


@dataclass(frozen=True, slots=True)
class PatchedFixture:
    """`spans`: (universe, first, last); empty where it has no address or does not fit at it. `free`: the next
    address that would hold it whole. `mode` is its mode; `stays_dark`, `never_dark` and `old_mode` as `mode_faults`
    says them, "" where nothing is wrong; `not_safe`: channels of a guarded mode that have no safe value, in words.
    """

    id: str
    number: int
    name: str
    footprint: int
    address: str
    spans: tuple[tuple[int, int, int], ...]
    conflict: tuple[int, ...]
    free: str
    mode: str = ""
    profile: str = ""
    stays_dark: str = ""
    never_dark: str = ""
    old_mode: str = ""
    not_safe: str = ""


def examine(fixtures: Sequence[PatchedFixture], outputs: Sequence[dict[str, Any]], network: Network) -> list[Finding]:
    """All findings, the ones of the show first, then those of the network."""
    off = list(_off_by_one(outputs, network))
    return [
        *_overlaps(fixtures),
        *_past_the_end(fixtures),
        *_not_sent(fixtures, outputs),
        *_sent_twice(outputs),
        *_nothing_there(fixtures, outputs),
        *_muted(outputs),
        *off,
        *_not_heard(fixtures, outputs, network, {one.output for one in off}),
        *_another_subnet(outputs, network),
        *_two_senders(outputs, network),
        *_of_modes(fixtures),
    ]


def _of_modes(fixtures: Sequence[PatchedFixture]) -> Iterator[Finding]:
    """What a mode will do that nobody means; of many alike, the first is named with how many more."""
    kinds: tuple[tuple[Kind, str, str], ...] = (
        ("stays dark", "{one} stays dark: {why}.", "Drive its dimmer"),
        (
            "never dark",
            "{one} never goes dark: its {why} reads 0 as its stored default and has no value for dark.",
            "Give it a value for dark",
        ),
        ("not safe", "{one} cannot be armed: {why} of its mode has no safe value.", "Give them safe values"),
    )
    for kind, says, label in kinds:
        alike: dict[str, list[PatchedFixture]] = {}
        for one in fixtures:
            why = {"stays dark": one.stays_dark, "never dark": one.never_dark, "not safe": one.not_safe}[kind]
            if why:
                alike.setdefault(f"{one.mode}/{why}", []).append(one)
        for key, found in alike.items():
            first, more = found[0], len(found) - 1
            named = f"{first.number} {first.name}" + (f" (and {more} more in mode {first.mode})" if more else "")
            yield Finding(
                kind,
                says.format(one=named, why=key.partition("/")[2]),
                first.spans[0][0] if first.spans else 0,
                first.id,
                repair=Repair(
                    label,
                    "profile",
                    first.profile,
                    {"mode": first.mode, "what": kind},
                ),
            )
    for one in fixtures:
        if one.old_mode:
            said = re.compile(rf"(?<!\w){re.escape(one.old_mode)}(?!\w)", re.IGNORECASE)
            name = one.mode.join(said.split(one.name))
            yield Finding(
                "old mode",
                f"{one.number} is called '{one.name}' and is in mode {one.mode}.",
                one.spans[0][0] if one.spans else 0,
                one.id,
                repair=Repair(f"Call it '{name[:120]}'", "fixture", one.id, {"name": name[:120]}),
            )


def _overlaps(fixtures: Sequence[PatchedFixture]) -> Iterator[Finding]:
    by_number = {one.number: one for one in fixtures}
    for one in fixtures:
        for other in one.conflict:
            if other > one.number and other in by_number:
                late = by_number[other]
                universe = _shared_universe(one, late)
                yield Finding(
                    "overlap",
                    f"{one.number} {one.name} and {late.number} {late.name} share channels of U{universe}.",
                    universe,
                    late.id,
                    repair=Repair(f"Move {late.number} to {late.free}", "fixture", late.id, {"address": late.free}),
                )


def _shared_universe(one: PatchedFixture, other: PatchedFixture) -> int:
    """The first universe in which both have the same channels: a strip that runs on may collide in its second."""
    return next(
        universe
        for universe, first, last in one.spans
        for there, begin, end in other.spans
        if universe == there and first <= end and begin <= last
    )


def _past_the_end(fixtures: Sequence[PatchedFixture]) -> Iterator[Finding]:
    for one in fixtures:
        if one.address and not one.spans:
            universe = int(one.address[1:].split(".")[0])
            yield Finding(
                "past the end",
                f"{one.number} {one.name} with {one.footprint} channels from {one.address} ends past its universe.",
                universe,
                one.id,
                repair=Repair(f"Move it to {one.free}", "fixture", one.id, {"address": one.free}),
            )


def _not_sent(fixtures: Sequence[PatchedFixture], outputs: Sequence[dict[str, Any]]) -> Iterator[Finding]:
    used = {span[0]: one for one in reversed(fixtures) for span in one.spans}
    covered = {u for o in outputs if o["on"] for u in _universes(o)}
    for universe in sorted(set(used) - covered):
        one = used[universe]
        off = next((o for o in outputs if not o["on"] and universe in _universes(o)), None)
        before = next((o for o in outputs if o["on"] and universe == o["first_universe"] + o["count"]), None)
        repair = None
        if off is not None:
            repair = Repair(f"Switch {off['name']} on", "output", off["id"], {"on": True})
        elif before is not None:
            repair = Repair(f"Let {before['name']} send it too", "output", before["id"], {"count": before["count"] + 1})
        because = f"{off['name']} is off" if off is not None else "no output covers it"
        yield Finding(
            "not sent",
            f"U{universe} carries {one.number} {one.name} and is not sent: {because}.",
            universe,
            one.id,
            repair=repair,
        )


def _nothing_there(fixtures: Sequence[PatchedFixture], outputs: Sequence[dict[str, Any]]) -> Iterator[Finding]:
    used = {span[0] for one in fixtures for span in one.spans}
    for output in outputs:
        if output["on"] and not used & set(_universes(output)):
            yield Finding(
                "nothing there",
                f"{output['name']} sends {_run(output)}, where no fixture lies.",
                output["first_universe"],
                output=output["id"],
                repair=Repair("Switch it off", "output", output["id"], {"on": False}),
            )


def _sent_twice(outputs: Sequence[dict[str, Any]]) -> Iterator[Finding]:
    """One protocol number by two outputs that can reach the same node: it hears two senders."""
    on = [output for output in outputs if output["on"]]
    for n, one in enumerate(on):
        for other in on[n + 1 :]:
            both = sorted(set(numbers(one)) & set(numbers(other)))
            if not both or not may_meet(one, other):
                continue
            what = _say(one["protocol"], both[0]) + (f" and {len(both) - 1} more" if both[1:] else "")
            yield Finding(
                "sent twice",
                f"{one['name']} and {other['name']} both send {what}: a node that hears both takes two senders.",
                other["first_universe"] + both[0] - other["first_number"],
                output=other["id"],
                repair=Repair(f"Switch {other['name']} off", "output", other["id"], {"on": False}),
            )


def _muted(outputs: Sequence[dict[str, Any]]) -> Iterator[Finding]:
    for output in outputs:
        if output["on"] and output.get("mute"):
            yield Finding(
                "muted",
                f"{output['name']} is muted: {_run(output)} is sent dark.",
                output["first_universe"],
                output=output["id"],
                repair=Repair("Let it light", "output", output["id"], {"mute": False}),
            )


def _off_by_one(outputs: Sequence[dict[str, Any]], network: Network) -> Iterator[Finding]:
    """A node that listens one beside what is sent to it, and to nothing that is."""
    for node in network.nodes:
        protocol = node.protocol
        reach = [o for o in outputs if goes_to(o, node, network)]
        sent = {n for o in reach for n in numbers(o)}
        wanted = set(node.outputs)
        if not wanted or not sent or wanted & sent:
            continue
        for step in (1, -1):
            output = next((o for o in reach if wanted & {n + step for n in numbers(o)}), None)
            if output is None or (output["first_number"] + step < (1 if node.by_sacn else 0)):
                continue
            listens = min(wanted & {n + step for n in numbers(output)})
            yield Finding(
                "off by one",
                f"{node.name} ({node.ip}) listens to {_say(protocol, listens)}; {_say(protocol, listens - step)} "
                "is sent to it. The number is likely off by one.",
                output["first_universe"] + listens - step - output["first_number"],
                output=output["id"],
                repair=Repair(
                    f"Count {output['name']} from {output['first_number'] + step}",
                    "output",
                    output["id"],
                    {"first_number": output["first_number"] + step},
                ),
            )
            break


def _not_heard(
    fixtures: Sequence[PatchedFixture], outputs: Sequence[dict[str, Any]], network: Network, but: Collection[str]
) -> Iterator[Finding]:
    """A node that answers and does not listen to what is sent to it, unless it is said already why."""
    used = {span[0] for one in fixtures for span in one.spans}
    for output, universe, says in not_heard(outputs, used, network):
        if output["id"] not in but:
            yield Finding("not heard", f"{output['name']}: {says}", universe, output=output["id"])


def _another_subnet(outputs: Sequence[dict[str, Any]], network: Network) -> Iterator[Finding]:
    nets = [ipaddress.ip_interface(card).network for card in network.cards]
    for output in outputs:
        if not (output["on"] and output["mode"] == "unicast" and output["address"]):
            continue
        for address in output["address"].split(", "):
            there = ipaddress.ip_address(address)
            if nets and not any(there in net for net in nets):
                cards = ", ".join(network.cards)
                yield Finding(
                    "another subnet",
                    f"{output['name']} sends to {address}: none of this machine's networks ({cards}) holds it.",
                    output["first_universe"],
                    output=output["id"],
                    repair=Repair("Switch it off", "output", output["id"], {"on": False}),
                )


def _two_senders(outputs: Sequence[dict[str, Any]], network: Network) -> Iterator[Finding]:
    for protocol, number, who, priority in network.senders:
        for output in outputs:
            if output["on"] and output["protocol"] == protocol and number in numbers(output):
                above = min(priority + 1, PRIORITY_MAX)
                repair = Repair("Switch ours off", "output", output["id"], {"on": False})
                if protocol == "sacn" and output["priority"] <= priority < PRIORITY_MAX:
                    repair = Repair(f"Send with priority {above}", "output", output["id"], {"priority": above})
                yield Finding(
                    "two senders",
                    f"{who} sends {_say(protocol, number)} too: two senders on one universe.",
                    output["first_universe"] + number - output["first_number"],
                    output=output["id"],
                    repair=repair,
                )


def _universes(output: dict[str, Any]) -> range:
    return range(output["first_universe"], output["first_universe"] + output["count"])


def _run(output: dict[str, Any]) -> str:
    last = output["first_universe"] + output["count"] - 1
    return f"U{last}" if output["count"] == 1 else f"U{output['first_universe']} to U{last}"


def _say(protocol: str, number: int) -> str:
    return f"sACN {number}" if protocol == "sacn" else f"Art-Net {spell_number(protocol, number).split('(')[0].strip()}"
