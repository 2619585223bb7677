"""Network cards: their IPv4 addresses and directed broadcasts."""

from __future__ import annotations

import ipaddress
import socket
from dataclasses import asdict, dataclass
from typing import Any

import psutil


@dataclass(frozen=True, slots=True)
class Card:
    """One IPv4 address of one network card."""

    name: str
    address: str
    netmask: str
    broadcast: str
    up: bool

    def as_json(self) -> dict[str, Any]:
        return asdict(self)

    def reaches(self, host: str) -> bool:
        """Whether `host` is on this card's own subnet."""
        network = ipaddress.IPv4Network(f"{self.address}/{self.netmask}", strict=False)
        return ipaddress.IPv4Address(host) in network


def list_cards(only: tuple[str, ...] = ()) -> list[Card]:
    """All IPv4 addresses of this machine; with `only`, just these (any loopback address may be named)."""
    stats = psutil.net_if_stats()
    found = []
    for name, addresses in psutil.net_if_addrs().items():
        for one in addresses:
            if one.family == socket.AF_INET and one.netmask:
                found.append(_card(name, one.address, one.netmask, name in stats and stats[name].isup))
    if not only:
        return found
    chosen = [card for card in found if card.address in only]
    known = {card.address for card in chosen}
    more = [a for a in only if a not in known and ipaddress.IPv4Address(a).is_loopback]
    return chosen + [_card("lo", address, "255.0.0.0", True) for address in more]


def _card(name: str, address: str, netmask: str, up: bool) -> Card:
    # Computed, because some systems report none for the loopback card.
    network = ipaddress.IPv4Network(f"{address}/{netmask}", strict=False)
    return Card(name, address, netmask, str(network.broadcast_address), up)
