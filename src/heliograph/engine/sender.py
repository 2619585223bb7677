"""From rendered universes to datagrams: all routes, which of them have their turn, and what left.

When a universe is first sent to a destination it begins with one dark frame; how it ends is in `endings`.
"""

from __future__ import annotations

import contextlib
import socket
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from heliograph.core.lasers.hanging import LeftGuard
from heliograph.core.patch.dmx import SLOTS
from heliograph.engine.endings import Ending, ending_of
from heliograph.engine.routes import Bytes, Ints, OpenSocket, Route, Sequences, build_route
from heliograph.engine.syncs import Sync, build_syncs
from heliograph.wire import artnet

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
    endings: list[Ending] = field(default_factory=list)

    def prepare(
        self,
        outputs: tuple[dict[str, Any], ...],
        universes: Ints,
        dark: Bytes | None = None,
        guard: tuple[Ints, Bytes] | None = None,
    ) -> list[Route]:
        """Builds the routes of new outputs, off the frame path; sockets too. `dark`, `guard`: see `build_route`."""
        routes = []
        for output in outputs:
            if not output["on"]:
                continue
            try:
                fd: int | None = self.open_socket(output["protocol"], output["card"])
            except OSError:
                fd = None
            routes.append(build_route(output, universes, dark, self.cid, self.name, fd, guard))
        return routes

    def swap(self, routes: list[Route]) -> None:
        """Puts prepared routes to work between two frames; what is no longer sent begins to end."""
        self.remember()
        before = {key for route in self.routes for key in route.keys}
        after = {place for route in routes for place in route.places}
        running = (ending.without(after) for ending in self.endings)
        self.endings = [ending for ending in running if ending is not None]
        for route in self.routes:
            gone = np.array([place not in after for place in route.places], dtype=np.bool_)
            if gone.any() and not route.waiting:
                self.endings.append(ending_of(route, gone, self.cid, self.sequences))
        for route in routes:
            old = next((r for r in self.routes if r.output["id"] == route.output["id"]), None)
            route.fresh = np.array([key not in before for key in route.keys], dtype=np.bool_)
            if old is not None:
                route.packets_sent, route.errors = old.packets_sent, old.errors
        self._take(routes)

    def resume(self, routes: list[Route]) -> None:
        """After a restart: the same outputs go on, with no dark frame between."""
        for route in routes:
            route.fresh[:] = False
        self._take(routes)

    def _take(self, routes: list[Route]) -> None:
        for route in routes:
            route.packets[:, route.sequence_at] = [self.sequences.get(key, 0) for key in route.keys]
            route.waiting = self._ends_elsewhere(route)
        self.routes = routes
        self.syncs = build_syncs(routes, self.cid, self.sequences)

    def _ends_elsewhere(self, route: Route) -> bool:
        """Whether the same numbers to the same destination are still ending on another card: two streams of one
        sequence would be taken for one that is out of order."""
        return any(not set(route.keys).isdisjoint(ending.keys) for ending in self.endings)

    def count_up(self, urgent: bool = False) -> None:
        """Settles who sends in the coming frame, and with which sequences. `urgent`: everybody, whatever its rate."""
        for route in self.routes:
            if route.waiting and not self._ends_elsewhere(route):
                route.waiting = False
                route.fresh[:] = True
                route.packets[:, route.sequence_at] = [self.sequences.get(key, 0) for key in route.keys]
            route.take_turn(urgent)
        for sync in self.syncs:
            sync.take_turn()

    def send(self, universes: Bytes, sent: Bytes) -> None:
        """Sends the frame (U, 512); `sent` (U,) gets how many packets of each universe left.

        A universe whose routes do not send in this frame keeps what they sent last: `universes` gets it, for what
        is shown as sent must have been sent.
        """
        sent[:] = 0
        self.send_endings()
        self._keep_unsent(universes)
        for route in self.routes:
            if route.due:
                route.fill(universes)
                if (route.fd is None or route.failing) and route.failing % REOPEN_FRAMES == REOPEN_FRAMES - 1:
                    self._reopen(route)
                route.send()
            elif route.waiting:
                route.left[:] = 0
            np.add.at(sent, route.universes_at, route.left)
        for sync in self.syncs:
            sync.send()

    def hold_safe(self, left: Iterable[LeftGuard]) -> None:
        """Addresses that a guarded fixture left are safe in the dark of every output too (mute, first and last)."""
        values = [pair for one in left for pair in one.values]
        if not values:
            return
        for route in self.routes:
            for position, value in values:
                route.dark[route.shown == position // SLOTS + 1, position % SLOTS] = value

    def send_endings(self) -> None:
        """One more frame of everything that ends."""
        for ending in self.endings:
            ending.send()
            self.sequences.update(ending.sequences())
        if self.endings:
            self.endings = [ending for ending in self.endings if ending.frames > 0]

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
            if not route.waiting:
                self.sequences.update(zip(route.keys, route.packets[:, route.sequence_at].tolist(), strict=True))
        self.sequences.update({sync.key: sync.sequence for sync in self.syncs})

    def sequence_bytes(self) -> bytes:
        routes = b"".join(route.packets[:, route.sequence_at].tobytes() for route in self.routes)
        return routes + bytes(sync.sequence for sync in self.syncs)

    def sequence_keys(self) -> list[str]:
        return [key for route in self.routes for key in route.keys] + [sync.key for sync in self.syncs]

    def close(self, wait: Callable[[], None] = lambda: None) -> None:
        """Ends everything that is sent; `wait` is called before each frame of the endings and keeps their rate."""
        self.swap([])
        while self.endings:
            wait()
            self.send_endings()


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
