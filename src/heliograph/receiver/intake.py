"""What becomes of a datagram: decoded, counted with its sender, or refused. Never raises."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field

from heliograph.ipc.incoming import IncomingWriter
from heliograph.ipc.messages.receiver import BadSender, ReceiverStatus
from heliograph.receiver.announced import Announced
from heliograph.receiver.nodes import NodeTable
from heliograph.receiver.streams import ARTNET_PRIORITY, Packet, Streams, Universe
from heliograph.wire import artnet, sacn

SENDERS_MAX = 256
"""Senders of malformed packets that are counted by name; the rest together."""

NEWS_A_MINUTE = 120
"""Sentences for the event log."""

LINES_MAX = 300
"""Lines of streams in a status."""


@dataclass(slots=True)
class Intake:
    """Counters and tables of everything that arrives. `own`: addresses of our cards, `cid`: of our sACN packets."""

    own: set[str] = field(default_factory=set)
    cid: bytes = b""
    nodes: NodeTable = field(default_factory=NodeTable)
    announced: Announced = field(default_factory=Announced)
    streams: Streams = field(default_factory=Streams)
    counts: Counter[str] = field(default_factory=Counter)
    malformed: Counter[str] = field(default_factory=Counter)
    reasons: dict[str, str] = field(default_factory=dict)
    incoming: IncomingWriter | None = None
    _minute_s: float = 0.0
    _told: int = 0
    _untold: int = 0

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
                key = f"{source} {dmx.physical}" if dmx.physical else source
                self._take(
                    Packet("artnet", dmx.port_address, key, "", source, ARTNET_PRIORITY, dmx.sequence, dmx.data), now_s
                )
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
        if read.cid == self.cid:
            self.counts["own"] += 1
        elif isinstance(read, sacn.Discovery):
            self.counts["announcements"] += 1
            self.announced.hear(read, source, now_s)
        elif isinstance(read, sacn.Data):
            self.counts["sACN data"] += 1
            if read.options & sacn.OPTION_PREVIEW:
                return
            self._take(
                Packet(
                    "sacn",
                    read.universe,
                    read.cid.hex(),
                    read.name,
                    source,
                    read.priority,
                    read.sequence,
                    read.slots,
                    levels=read.start_code == 0,
                    ends=bool(read.options & sacn.OPTION_TERMINATED),
                ),
                now_s,
            )
        else:
            self.counts["other sACN"] += 1

    def look(self, now_s: float) -> None:
        """What silence changes; to be called a few times a second."""
        self.nodes.look(now_s)
        self.announced.look(now_s)
        for universe in self.streams.look(now_s):
            self._keep(universe, now_s)

    def news(self, now_s: float) -> list[str]:
        """Sentences for the event log since the last call; of a flood only so many a minute, and how many more."""
        news = [*self.nodes.changes, *self.streams.changes]
        self.nodes.changes.clear()
        self.streams.changes.clear()
        if now_s - self._minute_s >= 60.0:
            if self._untold:
                news.insert(0, f"{self._untold} more changes on the network were not told")
            self._minute_s, self._told, self._untold = now_s, 0, 0
        told = news[: max(NEWS_A_MINUTE - self._told, 0)]
        self._told += len(told)
        self._untold += len(news) - len(told)
        return told

    def _take(self, packet: Packet, now_s: float) -> None:
        universe = self.streams.take(packet, now_s)
        if universe is not None:
            self._keep(universe, now_s)

    def _keep(self, universe: Universe, now_s: float) -> None:
        """Keeps the merged levels; where the last sender went, the last levels stay with the time they came."""
        counting = universe.counting()
        if self.incoming is None or not counting:
            return
        first = counting[0]
        source = bytes.fromhex(first.key) if universe.protocol == "sacn" else first.key.encode()
        newest_ns = round(max(one.last_s for one in counting) * 1e9)
        if not self.incoming.write(
            universe.protocol, universe.number, first.priority, source, newest_ns, universe.levels()
        ):
            self.counts["universes not kept"] += 1

    def _refuse(self, source: str, reason: str) -> None:
        known = source in self.malformed or len(self.malformed) < SENDERS_MAX
        name = source if known else "others"
        self.malformed[name] += 1
        self.reasons[name] = reason

    def status(self, now_s: float) -> ReceiverStatus:
        """All that is known at a moment of the steady clock."""
        return ReceiverStatus(
            nodes=self.nodes.listed(now_s),
            announced=self.announced.listed(now_s),
            counts=dict(self.counts),
            malformed=[BadSender(name, n, self.reasons[name]) for name, n in self.malformed.most_common(20)],
            malformed_total=sum(self.malformed.values()),
            streams=self.streams.listed(now_s, LINES_MAX),
            not_followed=self.streams.not_followed,
        )
