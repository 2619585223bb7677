"""Who gets what is sent: each port of the nodes heard, and beside each output whether its node answers and listens.

A node gets only what goes to it: a unicast output to another address is not counted, whatever its numbers. Receivers
of sACN need not answer ArtPoll (E1.31 has no such question), so their silence says nothing.
"""

from __future__ import annotations

import ipaddress
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from heliograph.core.patch.dmx import spell_number

Output = Mapping[str, Any]
State = Literal["heard", "not heard", "silent", "unknown", "off"]
NAMED = 3
"""So many universes or nodes are named one by one."""


@dataclass(frozen=True, slots=True)
class HeardNode:
    """A device that answers ArtPoll: its Art-Net Port-Addresses, or sACN universes where `by_sacn`."""

    ip: str
    name: str
    outputs: tuple[int, ...]
    by_sacn: bool

    @property
    def protocol(self) -> str:
        return "sacn" if self.by_sacn else "artnet"


@dataclass(frozen=True, slots=True)
class Network:
    """What is heard: nodes, networks of our cards (`192.168.1.7/24`), foreign senders (protocol, number, who,
    priority)."""

    nodes: Sequence[HeardNode] = ()
    cards: Sequence[str] = ()
    senders: Sequence[tuple[str, int, str, int]] = ()


@dataclass(frozen=True, slots=True)
class Port:
    """One number a node listens to, and the universes of ours that come to it by it."""

    ip: str
    name: str
    protocol: str
    number: int
    universes: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Reach:
    """What can be said of one output: `says` is a sentence. "unknown" where nobody could answer."""

    output: str
    state: State
    says: str


def goes_to(output: Output, node: HeardNode, network: Network) -> bool:
    """Whether packets of the output come to the node: by its address or, where it goes to many, by its network."""
    if not output["on"] or output["protocol"] != node.protocol:
        return False
    if output["mode"] == "unicast":
        return node.ip in addresses(output)
    if not network.cards:  # nothing is known of them
        return True
    mine = [ipaddress.ip_interface(card) for card in network.cards if card.split("/")[0] == output.get("card", "")]
    return any(ipaddress.ip_address(node.ip) in card.network for card in mine)


def addresses(output: Output) -> list[str]:
    """Of each destination of a unicast output; none where a name did not resolve."""
    return [one for one in output["address"].split(", ") if one]


def numbers(output: Output) -> range:
    return range(output["first_number"], output["first_number"] + output["count"])


def universe_of(output: Output, number: int) -> int:
    return int(output["first_universe"] + number - output["first_number"])


def ports_of(outputs: Sequence[Output], network: Network) -> list[Port]:
    """Every port of the nodes heard, in their order."""
    found = []
    for node in network.nodes:
        reach = [one for one in outputs if goes_to(one, node, network)]
        for number in node.outputs:
            comes = sorted({universe_of(one, number) for one in reach if number in numbers(one)})
            found.append(Port(node.ip, node.name, node.protocol, number, tuple(comes)))
    return found


def reach_of(output: Output, network: Network) -> Reach:
    """Whether the output's node answers and listens to its numbers."""
    if not output["on"]:
        return Reach(output["id"], "off", "")
    if output["mode"] == "unicast":
        found = [_to_one(output, address, network) for address in addresses(output)] or [
            ("silent", f"{output.get('destination') or 'its destination'} has no address.")
        ]
    else:
        found = [_to_many(output, network)]
    order: tuple[State, ...] = ("silent", "not heard", "unknown", "heard")
    state = min((one[0] for one in found), key=order.index)
    told = [says for one, says in found if one == state]
    more = f" {len(told) - 1} more destinations likewise." if len(told) > 1 else ""
    return Reach(output["id"], state, told[0] + more)


def _to_one(output: Output, address: str, network: Network) -> tuple[State, str]:
    there = [node for node in network.nodes if node.ip == address]
    if not there:
        if output["protocol"] == "sacn":
            return "unknown", f"{address} does not answer ArtPoll; a receiver of sACN need not."
        return "silent", f"{address} does not answer."
    name = there[0].name or address
    listens = {number for node in there if node.protocol == output["protocol"] for number in node.outputs}
    missing = [number for number in numbers(output) if number not in listens]
    if not missing:
        return "heard", f"{name} answers and listens to {_all(output)}."
    if len(missing) < output["count"]:
        heard = f"{name} answers and does not listen to {_named(output, missing)}."
        return "not heard", heard
    other = sorted(listens)
    to = f"to {_spelled(output['protocol'], other)}" if other else "to nothing of this protocol"
    return "not heard", f"{name} answers and listens {to}, not to what is sent."


def _to_many(output: Output, network: Network) -> tuple[State, str]:
    there = [node for node in network.nodes if goes_to(output, node, network)]
    heard: dict[int, list[str]] = {}
    for node in there:
        for number in node.outputs:
            if number in numbers(output):
                heard.setdefault(number, []).append(node.name or node.ip)
    names = list(dict.fromkeys(name for number in sorted(heard) for name in heard[number]))
    missing = [number for number in numbers(output) if number not in heard]
    state: State = "unknown" if output["protocol"] == "sacn" else "not heard"
    if not names:
        if output["protocol"] == "sacn":
            return "unknown", "No node that answers listens to it; receivers of sACN need not answer."
        return ("not heard", "No node that answers listens to it.") if there else ("silent", "No node answers.")
    if not missing:
        return "heard", f"{_listed(names)} {'listen' if len(names) > 1 else 'listens'} to {_all(output)}."
    return state, f"No node that answers listens to {_named(output, missing)}."


def all_clear(outputs: Sequence[Output], network: Network) -> str:
    """What was found right, what could not be checked, and why."""
    sound = "Every fixture lies whole and alone and every universe with fixtures is sent."
    on = [output for output in outputs if output["on"]]
    if not on:
        return sound
    reaches = {output["id"]: reach_of(output, network) for output in on}
    heard = [one for one in on if reaches[one["id"]].state == "heard"]
    if len(heard) == len(on):
        return f"{sound} Every number meets a node that answers and listens to it."
    open_ = [str(one["name"]) for one in on if reaches[one["id"]].state != "heard"]
    met = f"{_listed([str(one['name']) for one in heard])}: a node listens to every number. " if heard else ""
    return f"{sound} {met}Whether anybody hears {_listed(open_)} is not known: see beside the output."


def not_heard(outputs: Sequence[Output], used: Collection[int], network: Network) -> Iterator[tuple[Output, int, str]]:
    """Unicast outputs whose node answers and does not listen to a universe that carries fixtures: (output, universe,
    sentence)."""
    for output in outputs:
        if not output["on"] or output["mode"] != "unicast":
            continue
        for address in addresses(output):
            there = [node for node in network.nodes if node.ip == address]
            listens = {number for node in there if node.protocol == output["protocol"] for number in node.outputs}
            lost = [n for n in numbers(output) if n not in listens and universe_of(output, n) in used]
            if there and lost:
                yield output, universe_of(output, lost[0]), _to_one(output, address, network)[1]
                break


def _all(output: Output) -> str:
    return "its number" if output["count"] == 1 else f"all {output['count']} numbers"


def _named(output: Output, missing: Sequence[int]) -> str:
    named = [f"U{universe_of(output, number)}" for number in missing[:NAMED]]
    more = [f"{len(missing) - NAMED} more"] if len(missing) > NAMED else []
    return _listed([*named, *more])


def _spelled(protocol: str, found: Sequence[int]) -> str:
    named = [spell_number(protocol, number).split("(")[0].split(",")[0].strip() for number in found[:NAMED]]
    more = [f"{len(found) - NAMED} more"] if len(found) > NAMED else []
    return _listed([*named, *more])


def _listed(names: Sequence[str]) -> str:
    shown = [*names[:NAMED], f"{len(names) - NAMED} more"] if len(names) > NAMED + 1 else list(names)
    return f"{', '.join(shown[:-1])} and {shown[-1]}" if len(shown) > 1 else (shown[0] if shown else "")
