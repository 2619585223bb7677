"""Nodes heard on the network: collected from ArtPollReply by (IP, bind index). No sockets, no clock."""

from __future__ import annotations

from dataclasses import dataclass, field

from heliograph.ipc.messages import receiver as told
from heliograph.wire import artnet

FORGET_S = 600.0
"""A silent node stays on the list for ten minutes: its silence is news, not its absence."""

NODES_MAX = 2_000
"""More pages of nodes than a network has; the rest are counted, so a flood cannot fill the memory."""


@dataclass(slots=True)
class HeardNode:
    """One page (up to four ports) of one device. Times are steady seconds."""

    reply: artnet.PollReply
    source: str
    card: str
    first_s: float
    last_s: float
    silent: bool = False

    def told(self, now_s: float) -> told.HeardNode:
        reply = self.reply
        return told.HeardNode(
            ip=reply.ip,
            source=self.source,
            card=self.card,
            bind_index=reply.bind_index,
            name=reply.short_name,
            long_name=reply.long_name,
            report=reply.report,
            style=reply.style,
            outputs=reply.outputs(),
            by_sacn=any(good & 1 for good in reply.good_output),
            ago_s=round(now_s - self.last_s, 1),
            silent=self.silent,
        )


@dataclass(slots=True)
class NodeTable:
    """`changes` collects sentences for the event log; whoever reads it empties it."""

    nodes: dict[tuple[str, int], HeardNode] = field(default_factory=dict)
    changes: list[str] = field(default_factory=list)
    refused: int = 0

    def hear(self, reply: artnet.PollReply, source: str, card: str, now_s: float) -> None:
        key = (reply.ip, reply.bind_index)
        known = self.nodes.get(key)
        if known is None:
            if len(self.nodes) >= NODES_MAX:
                self.refused += 1
                return
            self.nodes[key] = HeardNode(reply, source, card, now_s, now_s)
            self.changes.append(f"node {_say(reply)} heard")
            return
        if known.silent:
            self.changes.append(f"node {_say(reply)} answers again after {now_s - known.last_s:.1f} s")
        known.reply, known.source, known.card, known.last_s, known.silent = reply, source, card, now_s, False

    def look(self, now_s: float) -> None:
        """Marks nodes that went silent, forgets those silent for long."""
        for key, node in list(self.nodes.items()):
            quiet = now_s - node.last_s
            if quiet > FORGET_S:
                del self.nodes[key]
            elif quiet > artnet.NODE_SILENT_S and not node.silent:
                node.silent = True
                self.changes.append(f"node {_say(node.reply)} silent for {quiet:.1f} s")

    def listed(self, now_s: float) -> list[told.HeardNode]:
        return [node.told(now_s) for _, node in sorted(self.nodes.items())]


def _say(reply: artnet.PollReply) -> str:
    return f"{reply.short_name or 'without a name'} {reply.ip}"
