"""What a simulated node does with packets: sequences, rates, gaps, merging. No sockets.

Times are kernel receive times in seconds, so that a busy Python does not look like a late sender.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from heliograph.wire import artnet, sacn

SOURCE_LOST_S = 2.5
SOURCES_MAX = 8

ARTSYNC = 1
"""ArtSync has no number: all of a sender belong together."""

ARTSYNC_LOST_S = 4.0
"""A node goes back to immediate output after so long without ArtSync [S]."""


@dataclass(slots=True)
class Source:
    """One sender of one universe. `waiting`: data that wait for the synchronisation `sync` (0: none)."""

    name: str
    sequence: int
    priority: int
    data: bytes
    last_s: float
    sync: int = 0
    waiting: bytes | None = None


@dataclass(slots=True)
class NodeUniverse:
    """One universe as a node sees it. `gap_max_s` is the longest time between two packets since the reset."""

    packets: int = 0
    late: int = 0
    terminated: int = 0
    synced: int = 0
    gap_max_s: float = 0.0
    first_s: float = 0.0
    last_s: float = 0.0
    sequences: list[int] = field(default_factory=list)
    sources: dict[str, Source] = field(default_factory=dict)

    def data(self, now_s: float) -> bytes:
        """Highest priority wins, equal priorities merge by highest value (usual; E1.31 leaves it open).

        When the last source is lost its last data stay (hold last look, common practice).
        """
        alive = [s for s in self.sources.values() if now_s - s.last_s <= SOURCE_LOST_S] or list(self.sources.values())
        if not alive:
            return bytes(512)
        top = max(source.priority for source in alive)
        values = [source.data.ljust(512, b"\0") for source in alive if source.priority == top]
        return values[0] if len(values) == 1 else bytes(map(max, *values))

    def rate(self) -> float:
        span = self.last_s - self.first_s
        return (self.packets - 1) / span if span > 0 and self.packets > 1 else 0.0


@dataclass(slots=True)
class NodeInputs:
    """All universes a node listens to, by ("artnet" | "sacn", protocol number)."""

    listens: set[tuple[str, int]]
    universes: dict[tuple[str, int], NodeUniverse] = field(default_factory=dict)
    syncs: dict[tuple[str, int], float] = field(default_factory=dict)
    sync_groups: set[int] = field(default_factory=set)
    malformed: int = 0
    other: Counter[str] = field(default_factory=Counter)

    def take(self, protocol: str, packet: bytes, source: str, now_s: float) -> artnet.Poll | None:
        """Takes a datagram; returns a poll that wants an answer."""
        try:
            if protocol == "sacn":
                self._sacn(packet, now_s)
                return None
            code = artnet.opcode(packet)
            if code == artnet.OP_POLL:
                return artnet.decode_poll(packet)
            if code == artnet.OP_DMX:
                dmx = artnet.decode_dmx(packet)
                self._frame("artnet", dmx.port_address, source, dmx.sequence, 100, dmx.data, now_s, ARTSYNC)
            elif code == artnet.OP_SYNC:
                self._synchronise("artnet", source, ARTSYNC, now_s)
            else:
                self.other[f"opcode {code:#06x}"] += 1
        except artnet.MalformedPacketError:
            self.malformed += 1
        return None

    def _sacn(self, packet: bytes, now_s: float) -> None:
        read = sacn.decode(packet)
        if isinstance(read, sacn.Sync):
            self._synchronise("sacn", read.cid.hex(), read.address, now_s)
            return
        if not isinstance(read, sacn.Data) or read.start_code != 0 or read.options & sacn.OPTION_PREVIEW:
            self.other["not levels"] += 1
            return
        name = read.cid.hex()
        if read.options & sacn.OPTION_TERMINATED:
            universe = self.universes.get(("sacn", read.universe))
            if universe is not None:
                universe.terminated += 1
                if name in universe.sources and len(universe.sources) > 1:
                    del universe.sources[name]
            return
        if read.sync:
            self.sync_groups.add(read.sync)
        self._frame("sacn", read.universe, name, read.sequence, read.priority, read.slots, now_s, read.sync)

    def _synchronise(self, protocol: str, name: str, sync: int, now_s: float) -> None:
        """What waits for this synchronisation acts now. ArtSync is ignored where two senders merge [S]."""
        self.syncs[(name, sync)] = now_s
        for (kind, _), universe in self.universes.items():
            source = universe.sources.get(name)
            if kind != protocol or source is None or source.sync != sync or source.waiting is None:
                continue
            if protocol == "sacn" or len(universe.sources) == 1:
                source.data, source.waiting = source.waiting, None
                universe.synced += 1

    def _waits(self, protocol: str, name: str, sync: int, alone: bool, now_s: float) -> bool:
        """Whether data act only at the next synchronisation: once one was heard, and until it stays away.

        Every sACN stream is treated as if its force-sync bit were set, as Heliograph sets it.
        """
        lost_s = ARTSYNC_LOST_S if protocol == "artnet" else SOURCE_LOST_S
        heard = now_s - self.syncs.get((name, sync), -1e9) <= lost_s
        return heard and (alone or protocol == "sacn")

    def _frame(
        self, protocol: str, number: int, name: str, sequence: int, priority: int, data: bytes, now_s: float, sync: int
    ) -> None:
        if (protocol, number) not in self.listens:
            self.other[f"{protocol} {number} is not ours"] += 1
            return
        universe = self.universes.setdefault((protocol, number), NodeUniverse())
        source = universe.sources.get(name)
        accepts = artnet.accepts_sequence if protocol == "artnet" else sacn.accepts_sequence
        fresh = source is None or now_s - source.last_s > SOURCE_LOST_S
        if source is not None and not fresh and not accepts(source.sequence, sequence):
            universe.late += 1
            return
        if source is None and len(universe.sources) >= SOURCES_MAX:
            self.other["sources over the limit"] += 1
            return
        if universe.packets:
            universe.gap_max_s = max(universe.gap_max_s, now_s - universe.last_s)
        else:
            universe.first_s = now_s
        universe.packets += 1
        universe.last_s = now_s
        universe.sequences = [*universe.sequences[-7:], sequence]
        alone = not universe.sources or set(universe.sources) == {name}
        if sync and source is not None and self._waits(protocol, name, sync, alone, now_s):
            universe.sources[name] = Source(name, sequence, priority, source.data, now_s, sync, data)
        else:
            universe.sources[name] = Source(name, sequence, priority, data, now_s, sync)

    def reset(self) -> None:
        """Begins counting anew; sources and data stay."""
        for universe in self.universes.values():
            universe.packets = universe.late = universe.terminated = universe.synced = 0
            universe.gap_max_s = 0.0
        self.malformed = 0
        self.other.clear()

    def as_json(self, now_s: float) -> dict[str, Any]:
        return {
            "malformed": self.malformed,
            "other": dict(self.other),
            "universes": {
                f"{protocol} {number}": {
                    "packets": u.packets,
                    "late": u.late,
                    "terminated": u.terminated,
                    "synced": u.synced,
                    "rate": round(u.rate(), 2),
                    "gap_max_ms": round(u.gap_max_s * 1000, 2),
                    "silent_ms": round((now_s - u.last_s) * 1000, 1),
                    "sources": len(u.sources),
                    "sequences": u.sequences,
                    "data": u.data(now_s).hex(),
                }
                for (protocol, number), u in sorted(self.universes.items())
            },
        }
