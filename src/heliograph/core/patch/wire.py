"""Places on the wire: what a number means to whoever listens, whichever universe of a show carries it.

A show counts universes as it likes, and another show, or another output, may send other universes by the same numbers.
A lamp hangs at a protocol's number behind a destination. Whatever asks where something goes on the wire, and whether
two things go to one place, asks here.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

EVERYBODY = "everybody"
"""Where broadcast and multicast go: whoever listens to the number."""


@dataclass(frozen=True, slots=True, order=True)
class WireUniverse:
    """512 slots as a receiver knows them. `destination`: an address, or EVERYBODY."""

    protocol: str
    number: int
    destination: str = EVERYBODY

    def meets(self, other: WireUniverse) -> bool:
        """Whether one lamp may get both: what goes to everybody also comes to the one that is named by its address."""
        return (
            self.protocol == other.protocol
            and self.number == other.number
            and (self.destination == other.destination or EVERYBODY in (self.destination, other.destination))
        )

    def __str__(self) -> str:
        to = "" if self.destination == EVERYBODY else f" to {self.destination}"
        return f"{'Art-Net' if self.protocol == 'artnet' else 'sACN'} {self.number}{to}"


def destinations(output: Mapping[str, Any]) -> list[str]:
    """Addresses of a unicast output, EVERYBODY for any other. One without an address is sent by multicast."""
    if output.get("mode", "unicast") != "unicast":
        return [EVERYBODY]
    return [one for one in str(output.get("address", "")).split(", ") if one] or [EVERYBODY]


def wire_universes(output: Mapping[str, Any], universe: int) -> list[WireUniverse]:
    """Where an output carries a universe of the show; [] where it does not carry it. On or off is not asked."""
    step = universe - int(output["first_universe"])
    if not 0 <= step < int(output["count"]):
        return []
    number = int(output["first_number"]) + step
    return [WireUniverse(str(output["protocol"]), number, to) for to in destinations(output)]


def carried(output: Mapping[str, Any]) -> Iterator[tuple[int, WireUniverse]]:
    """Everything an output carries: (universe of the show, where)."""
    for step in range(int(output["count"])):
        for to in destinations(output):
            yield (
                int(output["first_universe"]) + step,
                WireUniverse(str(output["protocol"]), int(output["first_number"]) + step, to),
            )


class Carriers:
    """Which universes of the show come to a place on the wire, by outputs that are on. Muted ones count: their dark
    comes there."""

    def __init__(self, outputs: Iterable[Mapping[str, Any]]) -> None:
        self._by_number: dict[tuple[str, int], list[tuple[WireUniverse, int]]] = {}
        for output in outputs:
            if output["on"]:
                for universe, wire in carried(output):
                    self._by_number.setdefault((wire.protocol, wire.number), []).append((wire, universe))

    def of(self, wire: WireUniverse) -> set[int]:
        """Universes of the show whose values reach whoever listens there."""
        known = self._by_number.get((wire.protocol, wire.number), ())
        return {universe for other, universe in known if other.meets(wire)}


def first_same(one: Mapping[str, Any], other: Mapping[str, Any]) -> WireUniverse | None:
    """The first place that two outputs both name, to one address or both to everybody; None where there is none."""
    there = {wire for _, wire in carried(other)}
    return next((wire for _, wire in carried(one) if wire in there), None)


def may_meet(one: Mapping[str, Any], other: Mapping[str, Any]) -> bool:
    """Whether one receiver may get both outputs, whatever their numbers."""
    wires = [[WireUniverse("", 0, to) for to in destinations(output)] for output in (one, other)]
    return one["protocol"] == other["protocol"] and any(a.meets(b) for a in wires[0] for b in wires[1])
