"""Universes that arrive: who sends them, which sender counts, what was lost. No sockets, no clock.

sACN [S, E1.31-2018 6.2.3, 6.2.6, 6.7]: the highest priority counts, a stream ends with its termination bit or 2.5 s
without a packet. Senders of equal priority are merged by the highest value (common practice; E1.31 leaves it open).
Art-Net [S]: at most two senders of a universe are merged, a third is left out until one was silent for 10 s.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from heliograph.ipc.messages.receiver import HeardStream
from heliograph.wire import artnet, sacn

SENDERS_MAX = {"artnet": 2, "sacn": 16}
"""Senders of one universe that are followed. 16 for sACN is ours: E1.31 asks receivers to say their limit."""

LOST_S = {"artnet": 10.0, "sacn": sacn.SOURCE_LOST_S}
UNIVERSES_MAX = 4_096
RATE_S = 1.0
IDLE_S = 60.0
"""A universe that nobody has sent for a minute makes room for others."""

ARTNET_PRIORITY = 100
"""Art-Net knows no priority: as sACN's default."""

_ACCEPTS: dict[str, Callable[[int, int], bool]] = {
    "artnet": artnet.accepts_sequence,
    "sacn": sacn.accepts_sequence,
}

Key = tuple[str, int]


@dataclass(slots=True)
class Sender:
    """One sender of one universe. `lost`: packets its sequence skipped; `late`: such as came out of order."""

    key: str
    name: str
    ip: str
    priority: int
    sequence: int
    last_s: float
    data: bytes = b""
    packets: int = 0
    late: int = 0
    lost: int = 0
    rate: float = 0.0
    window_s: float = 0.0
    in_window: int = 0

    def count(self, now_s: float) -> None:
        self.packets += 1
        self.in_window += 1
        span = now_s - self.window_s
        if span >= RATE_S:
            self.rate, self.window_s, self.in_window = self.in_window / span, now_s, 0


@dataclass(slots=True)
class Universe:
    """All senders of one universe; `left_out`: packets of more senders than are followed."""

    protocol: str
    number: int
    senders: dict[str, Sender] = field(default_factory=dict)
    left_out: int = 0

    def counting(self) -> list[Sender]:
        """Those whose values are taken: all of the highest priority that have sent any."""
        sending = [one for one in self.senders.values() if one.data]
        top = max((one.priority for one in sending), default=0)
        return [one for one in sending if one.priority == top]

    def levels(self) -> bytes:
        """The merged values; empty where nobody sends."""
        values = [one.data for one in self.counting()]
        if len(values) < 2:
            return values[0] if values else b""
        size = max(map(len, values))
        return bytes(map(max, *(value.ljust(size, b"\0") for value in values)))


@dataclass(frozen=True, slots=True)
class Packet:
    """One data packet of either protocol. `levels` False: counts for its sender, carries no values (start code)."""

    protocol: str
    number: int
    key: str
    name: str
    ip: str
    priority: int
    sequence: int
    data: bytes
    levels: bool = True
    ends: bool = False


@dataclass(slots=True)
class Streams:
    """All universes; `changes` collects sentences for the event log, whoever reads it empties it."""

    universes: dict[Key, Universe] = field(default_factory=dict)
    changes: list[str] = field(default_factory=list)
    not_followed: int = 0
    idle: dict[Key, float] = field(default_factory=dict)

    def take(self, packet: Packet, now_s: float) -> Universe | None:
        """Counts a packet; the universe where its values may have changed by it, else None."""
        key = (packet.protocol, packet.number)
        universe = self.universes.get(key)
        if universe is None:
            if len(self.universes) >= UNIVERSES_MAX or packet.ends:
                self.not_followed += not packet.ends
                return None
            universe = self.universes[key] = Universe(*key)
        sender = universe.senders.get(packet.key)
        if packet.ends:
            return self._end(universe, packet.key, "ended") if sender else None
        if sender is None or now_s - sender.last_s > LOST_S[packet.protocol]:
            if sender is None and len(universe.senders) >= SENDERS_MAX[packet.protocol]:
                universe.left_out += 1
                return None
            sender = Sender(packet.key, packet.name, packet.ip, packet.priority, packet.sequence, now_s, window_s=now_s)
            universe.senders[packet.key] = sender
            self.changes.append(f"{say_universe(universe)}: {say_sender(sender)} sends, priority {sender.priority}")
        elif not _ACCEPTS[packet.protocol](sender.sequence, packet.sequence):
            sender.late += 1
            sender.last_s = now_s
            sender.count(now_s)
            return None
        else:
            sender.lost += _skipped(packet.protocol, sender.sequence, packet.sequence)
        sender.name, sender.ip, sender.priority = packet.name, packet.ip, packet.priority
        sender.sequence, sender.last_s = packet.sequence, now_s
        sender.count(now_s)
        if not packet.levels:
            return None
        sender.data = packet.data
        return universe

    def look(self, now_s: float) -> list[Universe]:
        """Lets go of senders that fell silent; the universes whose values change by that."""
        changed = []
        for place, universe in list(self.universes.items()):
            if not universe.senders:
                idle_s = self.idle.setdefault(place, now_s)
                if now_s - idle_s > IDLE_S:
                    del self.universes[place], self.idle[place]
                continue
            self.idle.pop(place, None)
            for key, sender in list(universe.senders.items()):
                if now_s - sender.last_s > LOST_S[universe.protocol]:
                    self._end(universe, key, f"silent for {now_s - sender.last_s:.1f} s")
                    changed.append(universe)
            if not universe.senders:
                self.idle[place] = now_s
        return changed

    def _end(self, universe: Universe, key: str, how: str) -> Universe:
        sender = universe.senders.pop(key)
        self.changes.append(f"{say_universe(universe)}: {say_sender(sender)} {how}")
        return universe

    def listed(self, now_s: float, most: int) -> list[HeardStream]:
        """A line for each sender of each universe, at most `most`."""
        lines: list[HeardStream] = []
        for (protocol, number), universe in sorted(self.universes.items()):
            counting = {one.key for one in universe.counting()}
            for sender in universe.senders.values():
                if len(lines) >= most:
                    return lines
                lines.append(
                    HeardStream(
                        protocol=protocol,
                        number=number,
                        sender=sender.key,
                        name=sender.name,
                        ip=sender.ip,
                        priority=sender.priority,
                        counts=sender.key in counting,
                        packets=sender.packets,
                        rate=round(sender.rate, 1),
                        late=sender.late,
                        lost=sender.lost,
                        ago_s=round(now_s - sender.last_s, 2),
                        left_out=universe.left_out,
                    )
                )
        return lines


def _skipped(protocol: str, before: int, now: int) -> int:
    """Packets between two sequences; a jump of half the circle or more is a restart, not a loss."""
    if protocol == "artnet":
        if 0 in (before, now):
            return 0
        gap = (now - before) % 255 - 1
    else:
        gap = (now - before) % 256 - 1
    return gap if 0 < gap < 127 else 0


def say_universe(universe: Universe) -> str:
    return f"{'sACN' if universe.protocol == 'sacn' else 'Art-Net'} {universe.number}"


def say_sender(sender: Sender) -> str:
    return f"{sender.name} ({sender.ip})" if sender.name else sender.ip
