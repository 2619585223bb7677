"""From rendered universes to datagrams: all routes, which of them have their turn, and what left.

When a route is first switched on it begins with one dark frame; an sACN route that ends says so with three
termination packets.
"""

from __future__ import annotations

import contextlib
import socket
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.engine.mmsg import Batch
from heliograph.engine.routes import Bytes, Ints, OpenSocket, Route, Sequences, build_route
from heliograph.engine.syncs import Sync, build_syncs
from heliograph.wire import artnet, sacn

SEND_BUFFER = 4 * 1024 * 1024
"""Room for a burst of 512 universes; the default kept 166 packets of it (measured)."""

REOPEN_FRAMES = 44
"""A route that fails tries a fresh socket once a second: its network card may have come back."""


@dataclass(slots=True)
class Sender:
    """All routes; sends a frame and knows which universes left."""

    cid: bytes
    name: str
    open_socket: OpenSocket
    renew_socket: OpenSocket
    routes: list[Route] = field(default_factory=list)
    syncs: list[Sync] = field(default_factory=list)
    sequences: Sequences = field(default_factory=dict)

    def prepare(self, outputs: tuple[dict[str, Any], ...], universes: Ints, dark: Bytes | None = None) -> list[Route]:
        """Builds the routes of new outputs, off the frame path; sockets included. `dark`: see `build_route`."""
        routes = []
        for output in outputs:
            if not output["on"]:
                continue
            try:
                fd: int | None = self.open_socket(output["protocol"], output["card"])
            except OSError:
                fd = None
            routes.append(build_route(output, universes, dark, self.cid, self.name, fd))
        return routes

    def swap(self, routes: list[Route]) -> None:
        """Puts prepared routes to work between two frames; ends what is no longer sent."""
        self.remember()
        before = {key for route in self.routes for key in route.keys}
        after = {key for route in routes for key in route.keys}
        for route in self.routes:
            gone = np.array([key not in after for key in route.keys])
            if not route.is_artnet and gone.any():
                self._terminate(route, gone)
        for route in routes:
            old = next((r for r in self.routes if r.output["id"] == route.output["id"]), None)
            route.fresh = not set(route.keys) <= before
            if old is not None:
                route.packets_sent, route.errors = old.packets_sent, old.errors
        self._take(routes)

    def resume(self, routes: list[Route]) -> None:
        """After a restart: the same outputs go on, with no dark frame between."""
        for route in routes:
            route.fresh = False
        self._take(routes)

    def _take(self, routes: list[Route]) -> None:
        for route in routes:
            route.packets[:, route.sequence_at] = [self.sequences.get(key, 0) for key in route.keys]
        self.routes = routes
        self.syncs = build_syncs(routes, self.cid, self.sequences)

    def count_up(self) -> None:
        """Settles who sends in the coming frame, and with which sequences."""
        for route in self.routes:
            route.take_turn()
        for sync in self.syncs:
            sync.take_turn()

    def send(self, universes: Bytes, sent: Bytes) -> None:
        """Sends the frame (U, 512); `sent` (U,) gets how many packets of each universe left.

        A universe whose routes do not send in this frame keeps what they sent last: `universes` gets it, for what
        is shown as sent must have been sent.
        """
        sent[:] = 0
        self._keep_unsent(universes)
        for route in self.routes:
            if route.due:
                route.fill(universes)
                if (route.fd is None or route.failing) and route.failing % REOPEN_FRAMES == REOPEN_FRAMES - 1:
                    self._reopen(route)
                route.send()
            np.add.at(sent, route.universes_at, route.left)
        for sync in self.syncs:
            sync.send()

    def _keep_unsent(self, universes: Bytes) -> None:
        waiting = [route for route in self.routes if not route.due]
        if not waiting:
            return
        covered = np.zeros(len(universes), dtype=np.bool_)
        for route in self.routes:
            if route.due:
                covered[route.universes_at] = True
        for route in waiting:
            rows = np.flatnonzero(~covered[route.universes_at])
            universes[route.universes_at[rows]] = route.packets[rows, route.data_at :]

    def _reopen(self, route: Route) -> None:
        with contextlib.suppress(OSError):
            route.fd = self.renew_socket(route.output["protocol"], route.output["card"])

    def remember(self) -> None:
        """Keeps the sequences of all routes, so that a universe that comes back goes on counting."""
        for route in self.routes:
            self.sequences.update(zip(route.keys, route.packets[:, route.sequence_at].tolist(), strict=True))
        self.sequences.update({sync.key: sync.sequence for sync in self.syncs})

    def sequence_bytes(self) -> bytes:
        routes = b"".join(route.packets[:, route.sequence_at].tobytes() for route in self.routes)
        return routes + bytes(sync.sequence for sync in self.syncs)

    def sequence_keys(self) -> list[str]:
        return [key for route in self.routes for key in route.keys] + [sync.key for sync in self.syncs]

    def _terminate(self, route: Route, rows: npt.NDArray[np.bool_]) -> None:
        packets = route.packets[rows].copy()
        packets[:, sacn.DATA_OPTIONS_AT] |= np.uint8(sacn.OPTION_TERMINATED)
        targets = [target for target, gone in zip(route.targets, rows.tolist(), strict=True) if gone]
        batch, left = Batch(packets, targets), np.zeros(len(packets), dtype=np.uint8)
        for _ in range(sacn.TERMINATION_PACKETS):
            packets[:, route.sequence_at] += np.uint8(1)
            if route.fd is not None:
                batch.send(route.fd, left)
        keys = [key for key, gone in zip(route.keys, rows.tolist(), strict=True) if gone]
        self.sequences.update(zip(keys, packets[:, route.sequence_at].tolist(), strict=True))

    def close(self) -> None:
        """Ends every sACN stream: receivers need not wait for their time-out."""
        self.swap([])


def open_send_socket(protocol: str, card: str) -> int:
    """A sending socket on a card. Art-Net is sent from port 6454, sACN from any."""
    sender = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    try:
        sender.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        sender.setsockopt(socket.SOL_SOCKET, socket.SO_BROADCAST, 1)
        sender.setsockopt(socket.SOL_SOCKET, socket.SO_SNDBUF, SEND_BUFFER)
        sender.setsockopt(socket.IPPROTO_IP, socket.IP_MULTICAST_IF, socket.inet_aton(card))
        sender.setsockopt(socket.IPPROTO_IP, socket.IP_MULTICAST_TTL, 16)
        sender.bind((card, artnet.PORT if protocol == "artnet" else 0))
    except OSError:
        sender.close()
        raise
    return sender.detach()
