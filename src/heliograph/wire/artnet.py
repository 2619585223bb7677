"""Art-Net 4 packets, bytes only. Layouts: standards 2.1 to 2.5.

Offsets and fixed values were established with tshark 4.0.17; rules marked [S] are recalled from the
published Art-Net 4 specification.
"""

from __future__ import annotations

import ipaddress
import struct
from dataclasses import dataclass

PORT = 6454
ID = b"Art-Net\0"
PROTOCOL_VERSION = 14

OP_POLL = 0x2000
OP_POLL_REPLY = 0x2100
OP_DMX = 0x5000
OP_SYNC = 0x5200

DMX_HEADER = 18
DMX_SEQUENCE_AT = 12
"""Byte of an ArtDmx packet that counts 1..255 (0 would switch reordering off)."""

POLL_INTERVAL_S = 2.5
"""Controllers poll every 2.5 to 3 s [S]."""

NODE_SILENT_S = 9.0
"""A node that missed about three polls is silent (common practice)."""

OEM_UNKNOWN = 0x00FF
ESTA_PROTOTYPE = 0x7FF0

STYLE_NODE, STYLE_CONTROLLER = 0, 1


class MalformedPacketError(Exception):
    """A datagram that is not a well-formed packet of its protocol. Counted, then dropped."""


def dmx_header(port_address: int, slots: int, physical: int = 0) -> bytes:
    """The 18 bytes before the data of an ArtDmx packet, sequence 0. `slots` is even, 2..512."""
    return (
        ID
        + struct.pack("<H", OP_DMX)
        + struct.pack(">HBB", PROTOCOL_VERSION, 0, physical)
        + struct.pack("<H", port_address)
        + struct.pack(">H", slots)
    )


def encode_dmx(port_address: int, data: bytes, sequence: int = 0, physical: int = 0) -> bytes:
    """One ArtDmx packet. An odd number of slots is padded with one zero [S]."""
    padded = data + b"\0" if len(data) % 2 else data
    packet = bytearray(dmx_header(port_address, len(padded), physical) + padded)
    packet[DMX_SEQUENCE_AT] = sequence
    return bytes(packet)


@dataclass(frozen=True, slots=True)
class Dmx:
    port_address: int
    sequence: int
    physical: int
    data: bytes


def decode_dmx(packet: bytes) -> Dmx:
    """Reads an ArtDmx packet; trusts the smaller of its Length and the bytes present."""
    _check_header(packet, OP_DMX, DMX_HEADER)
    length = struct.unpack_from(">H", packet, 16)[0]
    if not 1 <= length <= 512:
        raise MalformedPacketError(f"ArtDmx length {length}")
    data = packet[DMX_HEADER : DMX_HEADER + length]
    if not data:
        raise MalformedPacketError("ArtDmx without data")
    port_address = struct.unpack_from("<H", packet, 14)[0]
    if port_address > 0x7FFF:
        raise MalformedPacketError(f"ArtDmx Port-Address {port_address}")
    return Dmx(port_address, packet[12], packet[13], data)


def encode_sync() -> bytes:
    return ID + struct.pack("<H", OP_SYNC) + struct.pack(">HBB", PROTOCOL_VERSION, 0, 0)


@dataclass(frozen=True, slots=True)
class Poll:
    """`bottom`..`top` is the inclusive range of Port-Addresses that should answer, all if not targeted."""

    flags: int = 0
    priority: int = 0
    bottom: int = 0
    top: int = 0x7FFF

    def asks(self, port_address: int) -> bool:
        return not self.flags & 0x20 or self.bottom <= port_address <= self.top


def encode_poll(flags: int = 0x02, priority: int = 0) -> bytes:
    """ArtPoll in its minimal 14-byte form, asking for replies also on change."""
    return ID + struct.pack("<H", OP_POLL) + struct.pack(">HBB", PROTOCOL_VERSION, flags, priority)


def decode_poll(packet: bytes) -> Poll:
    _check_header(packet, OP_POLL, 14)
    flags, priority = packet[12], packet[13]
    if flags & 0x20 and len(packet) >= 18:
        top, bottom = struct.unpack_from(">HH", packet, 14)
        return Poll(flags, priority, bottom, top)
    return Poll(flags & ~0x20, priority)


@dataclass(frozen=True, slots=True)
class PollReply:
    """One ArtPollReply: up to four ports sharing Net and Sub-Net. Port-Addresses are 0-based."""

    ip: str
    short_name: str
    long_name: str
    report: str = ""
    net: int = 0
    sub_net: int = 0
    port_types: tuple[int, int, int, int] = (0, 0, 0, 0)
    good_input: tuple[int, int, int, int] = (0, 0, 0, 0)
    good_output: tuple[int, int, int, int] = (0, 0, 0, 0)
    sw_in: tuple[int, int, int, int] = (0, 0, 0, 0)
    sw_out: tuple[int, int, int, int] = (0, 0, 0, 0)
    style: int = STYLE_NODE
    bind_ip: str = "0.0.0.0"
    bind_index: int = 1
    port: int = PORT
    version: int = 1
    oem: int = OEM_UNKNOWN
    esta: int = ESTA_PROTOTYPE
    status1: int = 0xD0
    status2: int = 0x08
    num_ports: int = 0
    refresh_hz: int = 44
    acn_priority: int = 100
    mac: bytes = bytes(6)
    responder_uid: bytes = bytes(6)

    def outputs(self) -> list[int]:
        """Port-Addresses of its output ports."""
        return [
            self.net << 8 | self.sub_net << 4 | self.sw_out[i] & 15
            for i in range(min(self.num_ports, 4))
            if self.port_types[i] & 0x80
        ]


POLL_REPLY_SIZE = 239
POLL_REPLY_MINIMUM = 207


def encode_poll_reply(reply: PollReply) -> bytes:
    """239 bytes. EstaMan is low byte first here, unlike Oem (both established with tshark)."""
    packet = bytearray(POLL_REPLY_SIZE)
    packet[0:8] = ID
    struct.pack_into("<H", packet, 8, OP_POLL_REPLY)
    packet[10:14] = ipaddress.IPv4Address(reply.ip).packed
    struct.pack_into("<H", packet, 14, reply.port)
    struct.pack_into(">HBBHBB", packet, 16, reply.version, reply.net, reply.sub_net, reply.oem, 0, reply.status1)
    struct.pack_into("<H", packet, 24, reply.esta)
    packet[26:44] = _text(reply.short_name, 18)
    packet[44:108] = _text(reply.long_name, 64)
    packet[108:172] = _text(reply.report, 64)
    struct.pack_into(">H", packet, 172, reply.num_ports)
    packet[174:194] = bytes(reply.port_types + reply.good_input + reply.good_output + reply.sw_in + reply.sw_out)
    packet[194] = reply.acn_priority
    packet[200] = reply.style
    packet[201:207] = reply.mac
    packet[207:211] = ipaddress.IPv4Address(reply.bind_ip).packed
    packet[211] = reply.bind_index
    packet[212] = reply.status2
    packet[218:224] = reply.responder_uid
    struct.pack_into(">H", packet, 226, reply.refresh_hz)
    return bytes(packet)


def decode_poll_reply(packet: bytes) -> PollReply:
    """Reads a reply of at least 207 bytes; what an older one lacks reads as zero."""
    if len(packet) < POLL_REPLY_MINIMUM or packet[:8] != ID:
        raise MalformedPacketError(f"ArtPollReply of {len(packet)} bytes")
    full = packet.ljust(POLL_REPLY_SIZE, b"\0")
    version, net, sub_net, oem, _, status1 = struct.unpack_from(">HBBHBB", full, 16)

    def four(at: int) -> tuple[int, int, int, int]:
        return full[at], full[at + 1], full[at + 2], full[at + 3]

    return PollReply(
        ip=str(ipaddress.IPv4Address(full[10:14])),
        port=struct.unpack_from("<H", full, 14)[0],
        version=version,
        net=net & 0x7F,
        sub_net=sub_net & 0x0F,
        oem=oem,
        status1=status1,
        esta=struct.unpack_from("<H", full, 24)[0],
        short_name=_read_text(full[26:44]),
        long_name=_read_text(full[44:108]),
        report=_read_text(full[108:172]),
        num_ports=struct.unpack_from(">H", full, 172)[0],
        port_types=four(174),
        good_input=four(178),
        good_output=four(182),
        sw_in=four(186),
        sw_out=four(190),
        acn_priority=full[194],
        style=full[200],
        mac=full[201:207],
        responder_uid=full[218:224],
        bind_ip=str(ipaddress.IPv4Address(full[207:211])),
        bind_index=full[211],
        status2=full[212],
        refresh_hz=struct.unpack_from(">H", full, 226)[0],
    )


def opcode(packet: bytes) -> int:
    """Opcode of an Art-Net datagram; raises MalformedPacketError for anything else."""
    if len(packet) < 10 or packet[:8] != ID:
        raise MalformedPacketError("not Art-Net")
    return int(struct.unpack_from("<H", packet, 8)[0])


def accepts_sequence(last: int, new: int) -> bool:
    """Whether a packet is not late; 0 on either side switches the check off (common practice, standards 2.2)."""
    return last == 0 or new == 0 or (new != last and (new - last) & 0xFF < 0x80)


def next_sequence(last: int) -> int:
    """1..255, then 1 again: 0 is skipped [S]."""
    return last % 255 + 1


def _check_header(packet: bytes, code: int, minimum: int) -> None:
    if opcode(packet) != code:
        raise MalformedPacketError(f"opcode {opcode(packet):#06x}")
    if len(packet) < minimum:
        raise MalformedPacketError(f"{len(packet)} bytes, at least {minimum} are needed")
    version = struct.unpack_from(">H", packet, 10)[0]
    if version < PROTOCOL_VERSION:
        raise MalformedPacketError(f"protocol version {version}")


def _text(text: str, size: int) -> bytes:
    return text.encode("ascii", "replace")[: size - 1].ljust(size, b"\0")


def _read_text(raw: bytes) -> str:
    return raw.split(b"\0", 1)[0].decode("ascii", "replace")
