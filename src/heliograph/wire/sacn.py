"""Streaming ACN (ANSI E1.31-2018) packets, bytes only. Layouts: standards 3.1 to 3.4.

The layout was established byte for byte against the sacn library 1.11.0 and tshark 4.0.17; rules
marked [S] are recalled from the standard.
"""

from __future__ import annotations

import struct
from dataclasses import dataclass

from heliograph.wire.artnet import MalformedPacketError

PORT = 5568
DATA_HEADER = 126
DATA_SYNC_AT = 109
DATA_SEQUENCE_AT = 111
DATA_OPTIONS_AT = 112
SYNC_SEQUENCE_AT = 44

OPTION_PREVIEW = 0x80
OPTION_TERMINATED = 0x40
OPTION_FORCE_SYNC = 0x20

PRIORITY_DEFAULT = 100
PRIORITY_MAX = 200
UNIVERSE_DISCOVERY = 64214
UNIVERSE_MAX = 63999
TERMINATION_PACKETS = 3
"""Packets with the terminated bit at the end of a stream [S]."""

SOURCE_LOST_S = 2.5
"""A source without a packet for so long is gone [S; the library's constant too]."""

DISCOVERY_INTERVAL_S = 10.0
DISCOVERY_PER_PAGE = 512

_PREAMBLE = struct.pack(">HH", 0x0010, 0) + b"ASC-E1.17\0\0\0"
_VECTOR_ROOT_DATA = 4
_VECTOR_ROOT_EXTENDED = 8


def _length(bytes_to_end: int) -> int:
    return 0x7000 | bytes_to_end


def data_header(
    cid: bytes,
    name: str,
    universe: int,
    slots: int,
    priority: int = PRIORITY_DEFAULT,
    sync: int = 0,
    options: int = 0,
    start_code: int = 0,
) -> bytes:
    """The 126 bytes before the slots of a data packet, sequence 0."""
    total = DATA_HEADER + slots
    return (
        _PREAMBLE
        + struct.pack(">HI", _length(total - 16), _VECTOR_ROOT_DATA)
        + cid
        + struct.pack(">HI", _length(total - 38), 2)
        + _source_name(name)
        + struct.pack(">BHBBH", priority, sync, 0, options, universe)
        + struct.pack(">HBBHHHB", _length(total - 115), 0x02, 0xA1, 0, 1, slots + 1, start_code)
    )


def encode_data(cid: bytes, name: str, universe: int, slots: bytes, sequence: int, **options: int) -> bytes:
    """One data packet; `options` as for `data_header`."""
    packet = bytearray(data_header(cid, name, universe, len(slots), **options) + slots)
    packet[DATA_SEQUENCE_AT] = sequence
    return bytes(packet)


@dataclass(frozen=True, slots=True)
class Data:
    cid: bytes
    name: str
    universe: int
    priority: int
    sync: int
    sequence: int
    options: int
    start_code: int
    slots: bytes


@dataclass(frozen=True, slots=True)
class Sync:
    cid: bytes
    sequence: int
    address: int


@dataclass(frozen=True, slots=True)
class Discovery:
    cid: bytes
    name: str
    page: int
    last_page: int
    universes: tuple[int, ...]


def decode(packet: bytes) -> Data | Sync | Discovery:
    """Reads any E1.31 packet; raises MalformedPacketError where a field is not as the standard has it."""
    if len(packet) < 49 or packet[:16] != _PREAMBLE:
        raise MalformedPacketError("not sACN")
    _check_length(packet, 16)
    vector = struct.unpack_from(">I", packet, 18)[0]
    if vector == _VECTOR_ROOT_DATA:
        return _decode_data(packet)
    if vector == _VECTOR_ROOT_EXTENDED:
        return _decode_extended(packet)
    raise MalformedPacketError(f"root vector {vector}")


def _decode_data(packet: bytes) -> Data:
    if len(packet) < DATA_HEADER:
        raise MalformedPacketError(f"data packet of {len(packet)} bytes")
    _check_length(packet, 38)
    _check_length(packet, 115)
    framing = struct.unpack_from(">I", packet, 40)[0]
    priority, sync, sequence, options, universe = struct.unpack_from(">BHBBH", packet, 108)
    vector, kind, first, increment, count, start_code = struct.unpack_from(">BBHHHB", packet, 117)
    if (framing, vector, kind, first, increment) != (2, 2, 0xA1, 0, 1):
        raise MalformedPacketError("vectors of a data packet")
    if not 1 <= count <= 513 or DATA_HEADER + count - 1 > len(packet):
        raise MalformedPacketError(f"property count {count}")
    if priority > PRIORITY_MAX:
        raise MalformedPacketError(f"priority {priority}")
    if not 1 <= universe <= UNIVERSE_MAX:
        raise MalformedPacketError(f"universe {universe}")
    slots = packet[DATA_HEADER : DATA_HEADER + count - 1]
    name = _read_name(packet[44:108])
    return Data(packet[22:38], name, universe, priority, sync, sequence, options, start_code, slots)


def encode_sync(cid: bytes, address: int, sequence: int) -> bytes:
    return (
        _PREAMBLE
        + struct.pack(">HI", _length(33), _VECTOR_ROOT_EXTENDED)
        + cid
        + struct.pack(">HIBHH", _length(11), 1, sequence, address, 0)
    )


def encode_discovery(cid: bytes, name: str, universes: list[int], page: int = 0, last_page: int = 0) -> bytes:
    """One page of universe discovery; at most 512 sorted universes."""
    total = 120 + 2 * len(universes)
    return (
        _PREAMBLE
        + struct.pack(">HI", _length(total - 16), _VECTOR_ROOT_EXTENDED)
        + cid
        + struct.pack(">HI", _length(total - 38), 2)
        + _source_name(name)
        + bytes(4)
        + struct.pack(">HIBB", _length(total - 112), 1, page, last_page)
        + struct.pack(f">{len(universes)}H", *universes)
    )


def discovery_pages(cid: bytes, name: str, universes: list[int]) -> list[bytes]:
    """All pages for a set of universes, sorted, 512 on a page."""
    ordered = sorted(set(universes))
    chunks = [ordered[i : i + DISCOVERY_PER_PAGE] for i in range(0, len(ordered), DISCOVERY_PER_PAGE)] or [[]]
    return [encode_discovery(cid, name, chunk, page, len(chunks) - 1) for page, chunk in enumerate(chunks)]


def _decode_extended(packet: bytes) -> Sync | Discovery:
    _check_length(packet, 38)
    cid = packet[22:38]
    framing = struct.unpack_from(">I", packet, 40)[0]
    if framing == 1:
        sequence, address = struct.unpack_from(">BH", packet, 44)
        return Sync(cid, sequence, address)
    if framing != 2 or len(packet) < 120:
        raise MalformedPacketError(f"framing vector {framing}")
    _check_length(packet, 112)
    vector, page, last_page = struct.unpack_from(">IBB", packet, 114)
    if vector != 1:
        raise MalformedPacketError(f"discovery vector {vector}")
    count = (len(packet) - 120) // 2
    return Discovery(cid, _read_name(packet[44:108]), page, last_page, struct.unpack_from(f">{count}H", packet, 120))


def accepts_sequence(last: int, new: int) -> bool:
    """E1.31 6.7.2: rejects where -20 < signed 8-bit difference <= 0 [S; vectors in standards 3.2]."""
    difference = (new - last + 128) % 256 - 128
    return not -20 < difference <= 0


def _check_length(packet: bytes, at: int) -> None:
    field = struct.unpack_from(">H", packet, at)[0]
    if field >> 12 != 7 or (field & 0x0FFF) != len(packet) - at:
        raise MalformedPacketError(f"flags and length {field:#06x} at byte {at} of {len(packet)}")


def _source_name(name: str) -> bytes:
    raw = name.encode()[:63]
    return raw.decode("utf-8", "ignore").encode().ljust(64, b"\0")


def _read_name(raw: bytes) -> str:
    return raw.split(b"\0", 1)[0].decode("utf-8", "replace")
