"""One output at work: its packets prebuilt, one preallocated array, each row with where it goes."""

from __future__ import annotations

import os
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.patch.dmx import SLOTS, sacn_group
from heliograph.core.playing.frames import FRAME_HZ
from heliograph.engine.mmsg import Batch
from heliograph.wire import artnet, sacn

Bytes = npt.NDArray[np.uint8]
Ints = npt.NDArray[np.int64]
Sequences = dict[str, int]
Target = tuple[str, int]
Safe = tuple[Ints, Ints, Bytes]

OpenSocket = Callable[[str, str], int]
"""(protocol, card address) -> file descriptor; raises OSError where the card is not there."""

NO_DEVICE = 19
_PHASE_EPSILON = 1e-9


@dataclass(slots=True)
class Route:
    """One output that is on. Rows of `packets`: all its universes to its first destination, then to the next.

    `shown` (rows,) are show universes, `universes_at` (rows,) their places among the rendered ones. `dark` (rows, 512)
    is what it sends first, last, and all the time while it is muted: nothing lit, homes kept, guarded fixtures at their
    safe values. `safe`: (rows, channels from 0, values) of guarded fixtures. `keys` name protocol, destination and
    number, and count one sequence each; `places` the network card too. `fresh` (rows,): begin with a dark frame.
    `waiting`: the same numbers to the same destination still end on another card.
    """

    output: Mapping[str, Any]
    packets: Bytes
    shown: Ints
    universes_at: Ints
    dark: Bytes
    targets: list[Target]
    batch: Batch
    keys: tuple[str, ...]
    data_at: int
    sequence_at: int
    fd: int | None
    left: Bytes
    fresh: npt.NDArray[np.bool_]
    safe: Safe
    waiting: bool = False
    due: bool = True
    phase: float = 0.0
    packets_sent: int = 0
    errors: int = 0
    last_error: str = ""
    failing: int = 0

    @property
    def is_artnet(self) -> bool:
        return bool(self.output["protocol"] == "artnet")

    @property
    def places(self) -> tuple[str, ...]:
        return tuple(f"{self.output['card']} {key}" for key in self.keys)

    @property
    def sync(self) -> int:
        """0: not synchronised; sACN: the synchronisation universe; Art-Net: 1, an ArtSync after each frame."""
        return int(self.output.get("sync", 0))

    @property
    def is_slow(self) -> bool:
        return int(self.output.get("rate_hz", FRAME_HZ)) < FRAME_HZ

    def take_turn(self, urgent: bool = False) -> None:
        """Whether it sends in the coming frame: `rate_hz` of the 44 frames of a second, spread evenly, and each that is
        urgent. If so, its sequences move on: Art-Net 1..255 without 0, sACN 0..255."""
        self.phase += int(self.output.get("rate_hz", FRAME_HZ)) / FRAME_HZ
        self.due = not self.waiting and (urgent or bool(self.fresh.any()) or self.phase >= 1.0 - _PHASE_EPSILON)
        if not self.due:
            return
        self.phase = max(self.phase - 1.0, 0.0) % 1.0
        column = self.packets[:, self.sequence_at]
        if self.is_artnet:
            np.copyto(column, column % np.uint8(255) + np.uint8(1))
        else:
            column += np.uint8(1)

    def fill(self, universes: Bytes) -> None:
        """Takes the frame (U, 512) into the packets."""
        self.packets[:, self.data_at :] = self.dark if self.output.get("mute") else universes[self.universes_at]
        if self.fresh.any():
            self.packets[self.fresh, self.data_at :] = self.dark[self.fresh]
            self.fresh[:] = False

    def send(self) -> None:
        error = self.batch.send(self.fd, self.left) if self.fd is not None else NO_DEVICE
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
    universes: Ints,
    dark: Bytes | None,
    cid: bytes,
    name: str,
    fd: int | None,
    guard: tuple[Ints, Bytes] | None = None,
) -> Route:
    """Packets for an output's run of universes to each of its destinations, sequences at 0.

    `universes` (U,): numbers of the rendered ones, sorted; `dark` (U, 512) of them, None: zeros. `guard`: positions in
    the U x 512 channels of guarded fixtures, and their safe values.
    """
    count, first = int(output["count"]), int(output["first_number"])
    numbers = range(first, first + count)
    addresses = [part for part in str(output["address"]).split(", ") if part]
    if output["protocol"] == "artnet":
        head, sequence_at, port = artnet.DMX_HEADER, artnet.DMX_SEQUENCE_AT, artnet.PORT
        headers = [artnet.dmx_header(n, SLOTS) for n in numbers]
        keys = tuple(f"artnet {to} {n}" for to in addresses for n in numbers)
    else:
        head, sequence_at, port = sacn.DATA_HEADER, sacn.DATA_SEQUENCE_AT, sacn.PORT
        sync = int(output.get("sync", 0))
        options = sacn.OPTION_FORCE_SYNC if sync else 0  # a lost sync must not freeze the lamps
        headers = [sacn.data_header(cid, name, n, SLOTS, int(output["priority"]), sync, options) for n in numbers]
        keys = tuple(f"sacn {to} {n}" for to in addresses or ["multicast"] for n in numbers)
    if addresses:
        targets = [(to, port) for to in addresses for _ in numbers]
    else:
        targets = [(sacn_group(n), port) for n in numbers]
    rows = len(targets)
    packets = np.zeros((rows, head + SLOTS), dtype=np.uint8)
    for row in range(rows):
        packets[row, :head] = np.frombuffer(headers[row % count], dtype=np.uint8)
    wanted = np.tile(np.arange(output["first_universe"], output["first_universe"] + count), rows // count)
    at = np.searchsorted(universes, wanted)
    black = np.zeros((rows, SLOTS), dtype=np.uint8) if dark is None else dark[at]
    left = np.zeros(rows, dtype=np.uint8)
    fresh = np.ones(rows, dtype=np.bool_)
    safe = _safe_of(at, guard)
    batch = Batch(packets, targets)
    return Route(output, packets, wanted, at, black, targets, batch, keys, head, sequence_at, fd, left, fresh, safe)


def _safe_of(universes_at: Ints, guard: tuple[Ints, Bytes] | None) -> Safe:
    """Where the guarded channels of a route's rows are."""
    rows: list[int] = []
    columns: list[int] = []
    values: list[int] = []
    if guard is not None and guard[0].size:
        by_universe: dict[int, list[tuple[int, int]]] = {}
        for position, value in zip(guard[0].tolist(), guard[1].tolist(), strict=True):
            by_universe.setdefault(position // SLOTS, []).append((position % SLOTS, value))
        for row, universe in enumerate(universes_at.tolist()):
            for column, value in by_universe.get(universe, ()):
                rows.append(row)
                columns.append(column)
                values.append(value)
    return np.array(rows, dtype=np.int64), np.array(columns, dtype=np.int64), np.array(values, dtype=np.uint8)
