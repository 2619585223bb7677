"""Synchronisation: one packet after the frames of all routes that share it, so that every lamp changes at once.

Art-Net: an ArtSync to the directed broadcast of the card. sACN: a synchronisation packet to the group of its
universe, or to each destination where the data go by unicast; its sequence counts by itself.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from heliograph.core.patch.dmx import sacn_group
from heliograph.engine.mmsg import Batch
from heliograph.engine.routes import Route, Sequences, Target
from heliograph.wire import artnet, sacn


@dataclass(slots=True)
class Sync:
    """One packet, where it goes, and after which routes."""

    key: str
    packet: npt.NDArray[np.uint8]
    batch: Batch
    counts: bool
    routes: list[Route] = field(default_factory=list)
    left: npt.NDArray[np.uint8] = field(default_factory=lambda: np.zeros(1, dtype=np.uint8))

    @property
    def sequence(self) -> int:
        return int(self.packet[0, sacn.SYNC_SEQUENCE_AT]) if self.counts else 0

    def take_turn(self) -> None:
        if self.counts and any(route.due for route in self.routes):
            self.packet[0, sacn.SYNC_SEQUENCE_AT] += np.uint8(1)

    def send(self) -> None:
        for route in self.routes:
            if route.due and route.fd is not None:
                self.batch.send(route.fd, self.left)
                return


def build_syncs(routes: Iterable[Route], cid: bytes, sequences: Sequences) -> list[Sync]:
    """The packets that belong to routes; sequences go on from `sequences`."""
    found: dict[str, Sync] = {}
    for route in routes:
        for key, target in _places(route):
            if key not in found:
                sequence = sequences.get(key, 0)
                raw = artnet.encode_sync() if route.is_artnet else sacn.encode_sync(cid, route.sync, sequence)
                packet = np.frombuffer(raw, dtype=np.uint8).reshape(1, -1).copy()
                found[key] = Sync(key, packet, Batch(packet, [target]), not route.is_artnet)
            found[key].routes.append(route)
    return list(found.values())


def _places(route: Route) -> list[tuple[str, Target]]:
    if not route.sync:
        return []
    card = str(route.output["card"])
    if route.is_artnet:
        to = str(route.output.get("card_broadcast") or "255.255.255.255")
        return [(f"artsync {card} {to}", (to, artnet.PORT))]
    if route.output["mode"] == "multicast":
        return [(f"sync {card} multicast {route.sync}", (sacn_group(route.sync), sacn.PORT))]
    hosts = dict.fromkeys(host for host, _ in route.targets)
    return [(f"sync {card} {host} {route.sync}", (host, sacn.PORT)) for host in hosts]
