"""What becomes of a datagram: decoded, counted with its sender, or refused. Never raises."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from heliograph.ipc.incoming import IncomingWriter
from heliograph.receiver.nodes import NodeTable
from heliograph.wire import artnet, sacn

SENDERS_MAX = 256
"""Senders of malformed packets that are counted by name; the rest together."""

STREAMS_MAX = 4_096


@dataclass(slots=True)
class Stream:
    """One universe from one sender."""

    packets: int = 0
    late: int = 0
    sequence: int = 0
    last_s: float = 0.0


@dataclass(slots=True)
class Intake:
    """Counters and tables of everything that arrives."""

    own: set[str] = field(default_factory=set)
    nodes: NodeTable = field(default_factory=NodeTable)
    counts: Counter[str] = field(default_factory=Counter)
    malformed: Counter[str] = field(default_factory=Counter)
    reasons: dict[str, str] = field(default_factory=dict)
    streams: dict[tuple[str, int, str], Stream] = field(default_factory=dict)
    incoming: IncomingWriter | None = None

    def artnet(self, packet: bytes, source: str, card: str, now_s: float) -> artnet.Poll | None:
        """Takes an Art-Net datagram; returns the poll that wants an answer, if it was one."""
        try:
            code = artnet.opcode(packet)
            if source in self.own:
                self.counts["own"] += 1
            elif code == artnet.OP_POLL_REPLY:
                self.counts["poll replies"] += 1
                self.nodes.hear(artnet.decode_poll_reply(packet), source, card, now_s)
            elif code == artnet.OP_POLL:
                self.counts["polls"] += 1
                return artnet.decode_poll(packet)
            elif code == artnet.OP_DMX:
                dmx = artnet.decode_dmx(packet)
                self.counts["ArtDmx"] += 1
                if self._stream("artnet", dmx.port_address, source, dmx.sequence, now_s, artnet.accepts_sequence):
                    self._keep("artnet", dmx.port_address, 100, source.encode(), now_s, dmx.data)
            else:
                self.counts["other Art-Net"] += 1
        except artnet.MalformedPacketError as error:
            self._refuse(source, str(error))
        return None

    def sacn(self, packet: bytes, source: str, now_s: float) -> None:
        try:
            read = sacn.decode(packet)
        except artnet.MalformedPacketError as error:
            self._refuse(source, str(error))
            return
        if source in self.own:
            self.counts["own"] += 1
        elif isinstance(read, sacn.Data):
            self.counts["sACN data"] += 1
            on_time = self._stream("sacn", read.universe, read.cid.hex(), read.sequence, now_s, sacn.accepts_sequence)
            hidden = read.options & (sacn.OPTION_PREVIEW | sacn.OPTION_TERMINATED)
            if on_time and not hidden and read.start_code == 0:
                self._keep("sacn", read.universe, read.priority, read.cid, now_s, read.slots)
        else:
            self.counts["other sACN"] += 1

    def _stream(self, protocol: str, number: int, sender: str, sequence: int, now_s: float, accepts: Any) -> bool:
        """Counts a packet of a stream; False for one that is late or of a stream too many."""
        key = (protocol, number, sender)
        stream = self.streams.get(key)
        if stream is None:
            if len(self.streams) >= STREAMS_MAX:
                self.counts["streams not followed"] += 1
                return False
            stream = self.streams[key] = Stream(sequence=(sequence - 1) % 256)
        stream.packets += 1
        if accepts(stream.sequence, sequence) or now_s - stream.last_s > sacn.SOURCE_LOST_S:
            stream.sequence = sequence
            on_time = True
        else:
            stream.late += 1
            on_time = False
        stream.last_s = now_s
        return on_time

    def _keep(self, protocol: str, number: int, priority: int, source: bytes, now_s: float, data: bytes) -> None:
        if self.incoming is not None and not self.incoming.write(
            protocol, number, priority, source, round(now_s * 1e9), data
        ):
            self.counts["universes not kept"] += 1

    def _refuse(self, source: str, reason: str) -> None:
        known = source in self.malformed or len(self.malformed) < SENDERS_MAX
        name = source if known else "others"
        self.malformed[name] += 1
        self.reasons[name] = reason

    def as_json(self, now_s: float) -> dict[str, Any]:
        return {
            "nodes": self.nodes.as_json(now_s),
            "counts": dict(self.counts),
            "malformed": [
                {"sender": name, "packets": n, "last": self.reasons[name]} for name, n in self.malformed.most_common(20)
            ],
            "malformed_total": sum(self.malformed.values()),
            "streams": [
                {"protocol": p, "number": n, "sender": s, "packets": one.packets, "late": one.late}
                for (p, n, s), one in list(self.streams.items())[:200]
                if now_s - one.last_s <= sacn.SOURCE_LOST_S
            ],
        }
