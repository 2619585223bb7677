"""DMX that arrives from the network, in a mapped file: written by the receiver, read without asking it.

A table of slots, one a universe and protocol; each holds the newest accepted packet. Which of several
sources counts is decided by whoever merges, not here.
"""

from __future__ import annotations

import mmap
import os
import struct
from collections.abc import Collection
from dataclasses import dataclass
from pathlib import Path

from heliograph.core.patch.dmx import SLOTS

MAGIC = b"HGDMXIN1"
SLOTS_MAX = 2_048
"""Universes kept at once: more than a network of 100 Mbit/s carries at 44 Hz (about 400)."""

IDLE_NS = 60_000_000_000
"""A universe that has not come for a minute gives its slot to another one where all are taken."""

_HEAD = struct.Struct("<8sI")
_HEAD_SIZE = 64
_SLOT = struct.Struct("<QBBHIq16s")  # counter, protocol, priority, length, number, steady ns, source
_SLOT_SIZE = 576
_DATA_AT = 64
_READ_TRIES = 8
PROTOCOLS = ("artnet", "sacn")

Key = tuple[str, int]


@dataclass(frozen=True, slots=True)
class Received:
    """The newest packet of one universe. `number` is the protocol's own; `steady_ns` when it came."""

    protocol: str
    number: int
    priority: int
    source: bytes
    steady_ns: int
    data: bytes


class IncomingWriter:
    """Owns the file; one process writes."""

    def __init__(self, path: Path) -> None:
        size = _HEAD_SIZE + SLOTS_MAX * _SLOT_SIZE
        temporary = path.with_suffix(".new")
        with open(temporary, "w+b") as file:
            os.posix_fallocate(file.fileno(), 0, size)  # a full disk is told here, not by a SIGBUS later
            self._map = mmap.mmap(file.fileno(), size)
        _HEAD.pack_into(self._map, 0, MAGIC, 0)
        os.replace(temporary, path)
        self._slots: dict[Key, int] = {}
        self._counter = 0
        self._written: dict[Key, int] = {}

    def write(self, protocol: str, number: int, priority: int, source: bytes, steady_ns: int, data: bytes) -> bool:
        """Keeps a packet's levels; False where all slots are taken by other universes."""
        key = (protocol, number)
        slot = self._slots.get(key)
        if slot is None:
            slot = self._free_slot(steady_ns)
            if slot is None:
                return False
            self._slots[key] = slot
        self._written[key] = steady_ns
        at = _HEAD_SIZE + slot * _SLOT_SIZE
        self._counter += 2
        kind = PROTOCOLS.index(protocol)
        head = (kind, priority, len(data), number, steady_ns, source.ljust(16, b"\0")[:16])
        _SLOT.pack_into(self._map, at, self._counter + 1, *head)  # odd while writing
        self._map[at + _DATA_AT : at + _DATA_AT + len(data)] = data
        struct.pack_into("<Q", self._map, at, self._counter)
        struct.pack_into("<I", self._map, 8, max(self._slots.values()) + 1)
        return True

    def _free_slot(self, now_ns: int) -> int | None:
        """A slot nobody uses, else that of the universe that has been idle longest, if long enough."""
        if len(self._slots) < SLOTS_MAX:
            taken = set(self._slots.values())
            return next(n for n in range(SLOTS_MAX) if n not in taken)
        oldest = min(self._written, key=self._written.__getitem__)
        if now_ns - self._written[oldest] < IDLE_NS:
            return None
        del self._written[oldest]
        return self._slots.pop(oldest)


class IncomingReader:
    def __init__(self, path: Path) -> None:
        self._path = path
        self._map: mmap.mmap | None = None
        self._inode = 0
        self._places: dict[Key, int] = {}

    def look_up(self, keys: Collection[Key]) -> None:
        """Finds where universes lie, so that `one` reads each by itself: an order of magnitude faster than `read`."""
        if not all(self._is_at(key, self._places.get(key)) for key in keys):
            self._places = {key: place for key, (place, _) in self._slots().items()}

    def one(self, key: Key) -> Received | None:
        """The newest of a universe that was looked up; None where it has not come."""
        place = self._places.get(key)
        if self._map is None or place is None:
            return None
        found = _read_slot(self._map, _HEAD_SIZE + place * _SLOT_SIZE)
        return found if found is not None and (found.protocol, found.number) == key else None

    def _is_at(self, key: Key, place: int | None) -> bool:
        mapped = self._current()
        return mapped is not None and place is not None and self.one(key) is not None

    def _current(self) -> mmap.mmap | None:
        try:
            facts = os.stat(self._path)
            if self._map is None or facts.st_ino != self._inode:
                with open(self._path, "rb") as file:
                    self._map = mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ)
                self._inode = facts.st_ino
        except (OSError, ValueError):
            return self._map
        return self._map

    def read(self) -> dict[Key, Received]:
        """All universes that arrived since the receiver started; empty while there is none."""
        return {key: one for key, (_, one) in self._slots().items()}

    def _slots(self) -> dict[Key, tuple[int, Received]]:
        """By universe, where it lies and what it is."""
        mapped = self._current()
        if mapped is None or mapped[:8] != MAGIC:
            return {}
        count = min(_HEAD.unpack_from(mapped, 0)[1], SLOTS_MAX)
        found: dict[Key, tuple[int, Received]] = {}
        for slot in range(count):
            one = _read_slot(mapped, _HEAD_SIZE + slot * _SLOT_SIZE)
            if one is not None:
                found[(one.protocol, one.number)] = (slot, one)
        return found


def _read_slot(mapped: mmap.mmap, at: int) -> Received | None:
    for _ in range(_READ_TRIES):
        before, kind, priority, length, number, steady_ns, source = _SLOT.unpack_from(mapped, at)
        data = mapped[at + _DATA_AT : at + _DATA_AT + min(length, SLOTS)]
        if before and before % 2 == 0 and struct.unpack_from("<Q", mapped, at)[0] == before:
            return Received(PROTOCOLS[kind], number, priority, source, steady_ns, data)
    return None
