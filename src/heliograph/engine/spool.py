"""What a restarted engine needs to go on in the same place: playback, clock, CID, every sequence number.

A mapped file with two checksummed slots, written in turn each frame before the frame is sent: of a
death in the middle of a write the other slot remains. It lies in memory, so that the frame loop never
waits for a disk; a copy on disk (`keep`) survives a power cut.
"""

from __future__ import annotations

import mmap
import os
import struct
import zlib
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from uuid import uuid4

import msgspec

from heliograph.core.playing.kept_state import STATE_VERSION, decode_state, encode_state
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import ShowClock
from heliograph.ipc.durable import write_durably

VERSION = 2
"""Of the file's layout; what is said in a slot has a version of its own."""

_HEAD = struct.Struct("<8sIII")  # magic, version, slot size, reserved
_SLOT = struct.Struct("<QII")  # counter, length, crc32 of the payload
_BODY = struct.Struct("<QqqBII")  # frame, show ns, steady ns, held, json length, sequence length
_MAGIC = b"HGSPOOL\0"
_SLOT_SIZE = 8 * 1024 * 1024
"""Bytes of a slot: sequences and keys of 32,768 packets a frame (1.2 MB), 40,000 values by hand (2 MB), a walk over
20,000 fixtures (1 MB), some hundred running lines."""


class Body(msgspec.Struct, frozen=True):
    """What a slot says beside numbers: the start of the machine, the CID, the playback state in the form of its
    `version`, and the keys of the sequence numbers."""

    boot: str
    cid: str
    state: msgspec.Raw
    keys: tuple[str, ...]
    version: int = 2


_encoder = msgspec.json.Encoder()
_bodies = msgspec.json.Decoder(Body)


@dataclass(frozen=True, slots=True)
class Resumed:
    """State read back. `clock` is already set for now: show time went on while nobody was there."""

    cid: bytes
    frame: int
    clock: ShowClock
    state: PlaybackState
    sequences: dict[str, int]


@cache
def boot_id() -> str:
    """Changes with each start of the machine; steady-clock readings compare only within one."""
    try:
        return Path("/proc/sys/kernel/random/boot_id").read_text().strip()
    except OSError:
        return ""


class Spool:
    """Opens or makes the file; `resumed` is what the last engine left there or in the copy, or None."""

    def __init__(self, path: Path, steady_ns: int, copy: Path | None = None) -> None:
        self._path, self._copy = path, copy
        self._counter = 0
        size = _HEAD.size + 2 * _SLOT_SIZE
        self._file = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
        known = os.fstat(self._file).st_size == size
        if not known:
            os.ftruncate(self._file, 0)
        os.posix_fallocate(self._file, 0, size)  # room that is missing is told here and not by a SIGBUS later
        self._map = mmap.mmap(self._file, size)
        self.resumed = self._read(steady_ns) if known else None
        if self.resumed is None and copy is not None:
            self.resumed = _read_copy(copy, steady_ns)
        self.cid = self.resumed.cid if self.resumed else uuid4().bytes
        _HEAD.pack_into(self._map, 0, _MAGIC, VERSION, _SLOT_SIZE, 0)
        self._json = b""
        self.too_large = False
        self._last: tuple[PlaybackState, tuple[str, ...]] | None = None

    def begin_anew(self) -> None:
        """Of what was left nothing plays on: only what keeps lasers' addresses safe, and the tempo."""
        if self.resumed is not None:
            left = self.resumed.state
            self.resumed = replace(self.resumed, state=PlaybackState(tempo=left.tempo, left=left.left, hung=left.hung))

    def write(
        self, frame: int, clock: ShowClock, state: PlaybackState, keys: tuple[str, ...], sequences: bytes
    ) -> None:
        """One slot. The JSON part is made anew only when the state or the routes changed.

        What does not fit is not written: `too_large` tells, and a restart would go on from the last that did.
        """
        if self._last is None or self._last[0] is not state or self._last[1] is not keys:
            self._json = _encoder.encode(
                Body(boot_id(), self.cid.hex(), msgspec.Raw(encode_state(state)), keys, STATE_VERSION)
            )
            self._last = (state, keys)
        head = _BODY.pack(frame, clock.show_ns, clock.steady_ns, clock.held, len(self._json), len(sequences))
        payload = head + self._json + sequences
        self.too_large = len(payload) > _SLOT_SIZE - _SLOT.size
        if self.too_large:
            return
        self._counter += 1
        at = _HEAD.size + self._counter % 2 * _SLOT_SIZE
        self._map[at + _SLOT.size : at + _SLOT.size + len(payload)] = payload
        _SLOT.pack_into(self._map, at, self._counter, len(payload), zlib.crc32(payload))

    def keep(self) -> None:
        """Writes the newest slot to the copy on disk; called from another thread than `write`."""
        good = [slot for slot in (self._slot(0), self._slot(1)) if slot is not None]
        if self._copy is None or not good:
            return
        _, payload = max(good)
        write_durably(self._copy, zlib.crc32(payload).to_bytes(4, "little") + payload, 0o600)

    def close(self) -> None:
        self._map.close()
        os.close(self._file)

    def _read(self, steady_ns: int) -> Resumed | None:
        magic, version, slot_size, _ = _HEAD.unpack_from(self._map, 0)
        if (magic, version, slot_size) != (_MAGIC, VERSION, _SLOT_SIZE):
            return None
        slots = [self._slot(index) for index in (0, 1)]
        good = [slot for slot in slots if slot is not None]
        for counter, payload in sorted(good, reverse=True):
            try:
                resumed = _parse(payload, steady_ns)
            except (ValueError, KeyError, TypeError, struct.error):
                continue
            self._counter = counter
            return resumed
        return None

    def _slot(self, index: int) -> tuple[int, bytes] | None:
        return _slot_of(self._map, index)


class SpoolReader:
    """Reads the running engine's playback state without disturbing it; None while there is none."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._map: mmap.mmap | None = None
        self._inode = 0
        self._last: tuple[bytes, PlaybackState] | None = None

    def read(self) -> tuple[int, PlaybackState] | None:
        """(frame number, its state). The same state object as long as nothing changed."""
        if not self._open():
            return None
        assert self._map is not None
        best: tuple[int, bytes] | None = None
        for index in (0, 1):
            slot = _slot_of(self._map, index)
            if slot is not None and (best is None or slot[0] > best[0]):
                best = slot
        if best is None:
            return None
        frame, _, _, _, length, _ = _BODY.unpack_from(best[1])
        text = best[1][_BODY.size : _BODY.size + length]
        if self._last is None or self._last[0] != text:
            try:
                body = _bodies.decode(text)
                self._last = (text, decode_state(body.state, version=body.version, live=True))
            except (ValueError, KeyError, TypeError):
                return None
        return frame, self._last[1]

    def _open(self) -> bool:
        try:
            facts = os.stat(self._path)
            if self._map is not None and facts.st_ino == self._inode:
                return True
            if facts.st_size != _HEAD.size + 2 * _SLOT_SIZE:
                return False
            with open(self._path, "rb") as file:
                self._map = mmap.mmap(file.fileno(), facts.st_size, access=mmap.ACCESS_READ)
            self._inode = facts.st_ino
        except OSError:
            return False
        return True


def _slot_of(mapped: mmap.mmap, index: int) -> tuple[int, bytes] | None:
    at = _HEAD.size + index * _SLOT_SIZE
    counter, length, crc = _SLOT.unpack_from(mapped, at)
    if not 0 < length <= _SLOT_SIZE - _SLOT.size:
        return None
    payload = mapped[at + _SLOT.size : at + _SLOT.size + length]
    return (counter, payload) if zlib.crc32(payload) == crc else None


def _read_copy(copy: Path, steady_ns: int) -> Resumed | None:
    try:
        raw = copy.read_bytes()
        if zlib.crc32(raw[4:]) != int.from_bytes(raw[:4], "little"):
            return None
        return _parse(raw[4:], steady_ns)
    except (OSError, ValueError, KeyError, TypeError, struct.error):
        return None


def _parse(payload: bytes, steady_ns: int) -> Resumed:
    frame, show_ns, written_ns, held, json_length, count = _BODY.unpack_from(payload)
    body = _bodies.decode(payload[_BODY.size : _BODY.size + json_length])
    sequences = payload[_BODY.size + json_length :][:count]
    if body.boot != boot_id():
        written_ns = steady_ns  # another start of the machine: go on from the stored moment
    clock = ShowClock(show_ns, written_ns, bool(held))
    return Resumed(
        bytes.fromhex(body.cid),
        frame,
        clock,
        decode_state(body.state, version=body.version),
        dict(zip(body.keys, sequences, strict=True)),
    )
