"""From rendered universes to datagrams: one preallocated packet array an output, headers prebuilt.

A route's universes go out every frame. When it is first switched on it begins with one frame of
zeros; an sACN route that ends says so with three termination packets.
"""

from __future__ import annotations

import contextlib
import os
import socket
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.dmx import SLOTS, sacn_group
from heliograph.engine.mmsg import Batch
from heliograph.wire import artnet, sacn

Bytes = npt.NDArray[np.uint8]
Sequences = dict[str, int]

SEND_BUFFER = 4 * 1024 * 1024
"""Room for a burst of 512 universes; the default kept 166 packets of it (measured)."""

REOPEN_FRAMES = 44
"""A route that fails tries a fresh socket once a second: its network card may have come back."""

OpenSocket = Callable[[str, str], int]
"""(protocol, card address) -> file descriptor; raises OSError where the card is not there."""


@dataclass(slots=True)
class Route:
    """One output that is on."""

    output: Mapping[str, Any]
    packets: Bytes
    rows: npt.NDArray[np.int64]
    batch: Batch
    keys: tuple[str, ...]
    data_at: int
    sequence_at: int
    fd: int | None
    left: Bytes
    fresh: bool = True
    packets_sent: int = 0
    errors: int = 0
    last_error: str = ""
    failing: int = 0

    @property
    def is_artnet(self) -> bool:
        return bool(self.output["protocol"] == "artnet")

    def count_up(self) -> None:
        """Moves every sequence on: Art-Net 1..255 without 0, sACN 0..255."""
        column = self.packets[:, self.sequence_at]
        if self.is_artnet:
            np.copyto(column, column % np.uint8(255) + np.uint8(1))
        else:
            column += np.uint8(1)

    def send(self) -> None:
        error = self.batch.send(self.fd, self.left) if self.fd is not None else 19
        if self.fd is None:
            self.left[:] = 0
        missing = len(self.left) - int(self.left.sum())
        self.packets_sent += len(self.left) - missing
        if missing:
            self.errors += missing
            self.failing += 1
            self.last_error = os.strerror(error)
        else:
            self.failing = 0
            self.last_error = ""


def build_route(
    output: Mapping[str, Any],
    universes: npt.NDArray[np.int64],
    cid: bytes,
    name: str,
    sequences: Sequences,
    fd: int | None,
) -> Route:
    """Packets for an output's run of universes; each sequence goes on from `sequences`."""
    count, first = int(output["count"]), int(output["first_number"])
    numbers = range(first, first + count)
    if output["protocol"] == "artnet":
        head, sequence_at, port = artnet.DMX_HEADER, artnet.DMX_SEQUENCE_AT, artnet.PORT
        headers = [artnet.dmx_header(n, SLOTS) for n in numbers]
        targets = [(str(output["address"]), port) for _ in numbers]
        keys = tuple(f"artnet {output['address']} {n}" for n in numbers)
    else:
        head, sequence_at, port = sacn.DATA_HEADER, sacn.DATA_SEQUENCE_AT, sacn.PORT
        headers = [sacn.data_header(cid, name, n, SLOTS, int(output["priority"])) for n in numbers]
        multicast = output["mode"] == "multicast"
        targets = [(sacn_group(n) if multicast else str(output["address"]), port) for n in numbers]
        keys = tuple(f"sacn {output['address'] or 'multicast'} {n}" for n in numbers)
    packets = np.zeros((count, head + SLOTS), dtype=np.uint8)
    for row, header in enumerate(headers):
        packets[row, :head] = np.frombuffer(header, dtype=np.uint8)
    packets[:, sequence_at] = [sequences.get(key, 0) for key in keys]
    wanted = np.arange(output["first_universe"], output["first_universe"] + count)
    rows = np.searchsorted(universes, wanted)
    left = np.zeros(count, dtype=np.uint8)
    return Route(output, packets, rows, Batch(packets, targets), keys, head, sequence_at, fd, left)


@dataclass(slots=True)
class Sender:
    """All routes; sends a frame and knows which universes left."""

    cid: bytes
    name: str
    open_socket: OpenSocket
    renew_socket: OpenSocket
    routes: list[Route] = field(default_factory=list)
    sequences: Sequences = field(default_factory=dict)

    def prepare(self, outputs: tuple[dict[str, Any], ...], universes: npt.NDArray[np.int64]) -> list[Route]:
        """Builds the routes of new outputs, off the frame path; sockets included."""
        routes = []
        for output in outputs:
            if not output["on"]:
                continue
            try:
                fd: int | None = self.open_socket(output["protocol"], output["card"])
            except OSError:
                fd = None
            routes.append(build_route(output, universes, self.cid, self.name, {}, fd))
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
            route.packets[:, route.sequence_at] = [self.sequences.get(key, 0) for key in route.keys]
            if old is not None:
                route.packets_sent, route.errors = old.packets_sent, old.errors
        self.routes = routes

    def resume(self, routes: list[Route]) -> None:
        """After a restart: the same outputs go on, with no frame of zeros between."""
        for route in routes:
            route.fresh = False
            route.packets[:, route.sequence_at] = [self.sequences.get(key, 0) for key in route.keys]
        self.routes = routes

    def count_up(self) -> None:
        for route in self.routes:
            route.count_up()

    def send(self, universes: Bytes, sent: Bytes) -> None:
        """Sends the frame (U, 512); `sent` (U,) gets how many packets of each universe left."""
        sent[:] = 0
        for route in self.routes:
            if route.fresh:
                route.packets[:, route.data_at :] = 0
                route.fresh = False
            else:
                route.packets[:, route.data_at :] = universes[route.rows]
            if (route.fd is None or route.failing) and route.failing % REOPEN_FRAMES == REOPEN_FRAMES - 1:
                self._reopen(route)
            route.send()
            np.add.at(sent, route.rows, route.left)

    def _reopen(self, route: Route) -> None:
        with contextlib.suppress(OSError):
            route.fd = self.renew_socket(route.output["protocol"], route.output["card"])

    def remember(self) -> None:
        """Keeps the sequences of all routes, so that a universe that comes back goes on counting."""
        for route in self.routes:
            self.sequences.update(zip(route.keys, route.packets[:, route.sequence_at].tolist(), strict=True))

    def sequence_bytes(self) -> bytes:
        return b"".join(route.packets[:, route.sequence_at].tobytes() for route in self.routes)

    def sequence_keys(self) -> list[str]:
        return [key for route in self.routes for key in route.keys]

    def _terminate(self, route: Route, rows: npt.NDArray[np.bool_]) -> None:
        packets = route.packets[rows].copy()
        packets[:, sacn.DATA_OPTIONS_AT] |= np.uint8(sacn.OPTION_TERMINATED)
        numbers = np.arange(route.output["first_number"], route.output["first_number"] + len(rows))[rows]
        multicast = route.output["mode"] == "multicast"
        targets = [(sacn_group(int(n)) if multicast else str(route.output["address"]), sacn.PORT) for n in numbers]
        batch, left = Batch(packets, targets), np.zeros(len(packets), dtype=np.uint8)
        for _ in range(sacn.TERMINATION_PACKETS):
            packets[:, route.sequence_at] += np.uint8(1)
            if route.fd is not None:
                batch.send(route.fd, left)
        gone = [key for key, flag in zip(route.keys, rows.tolist(), strict=True) if flag]
        self.sequences.update(zip(gone, packets[:, route.sequence_at].tolist(), strict=True))

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
