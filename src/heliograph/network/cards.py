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


def list_cards(extra: tuple[str, ...] = ()) -> list[Card]:
    """All IPv4 addresses of this machine; `extra` adds further loopback addresses to use as cards."""
    stats = psutil.net_if_stats()
    found = []
    for name, addresses in psutil.net_if_addrs().items():
        for one in addresses:
            if one.family == socket.AF_INET and one.netmask:
                found.append(_card(name, one.address, one.netmask, name in stats and stats[name].isup))
    for address in extra:
        if all(card.address != address for card in found) and ipaddress.IPv4Address(address).is_loopback:
            found.append(_card("lo", address, "255.0.0.0", True))
    return found


def _card(name: str, address: str, netmask: str, up: bool) -> Card:
    # Computed, because some systems report none for the loopback card.
    network = ipaddress.IPv4Network(f"{address}/{netmask}", strict=False)
    return Card(name, address, netmask, str(network.broadcast_address), up)
