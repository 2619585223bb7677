"""sACN universe discovery: every ten seconds a source tells which universes it sends [S, E1.31-2018 section 8]."""

from __future__ import annotations

import contextlib
import socket
import threading
import time

from heliograph.core.patch.dmx import sacn_group
from heliograph.engine.routes import OpenSocket
from heliograph.engine.sender import Sender
from heliograph.wire import sacn

LOOK_S = 1.0

Universes = dict[str, list[int]]


def announced_universes(sender: Sender) -> Universes:
    """Card -> numbers of the sACN universes sent from it, sorted."""
    found: dict[str, set[int]] = {}
    for route in list(sender.routes):
        if not route.is_artnet:
            first = int(route.output["first_number"])
            found.setdefault(str(route.output["card"]), set()).update(range(first, first + int(route.output["count"])))
    return {card: sorted(numbers) for card, numbers in found.items()}


def announce(universes: Universes, cid: bytes, name: str, open_socket: OpenSocket) -> None:
    """Sends all pages, from each card its own; a card that is gone is passed over."""
    to = (sacn_group(sacn.UNIVERSE_DISCOVERY), sacn.PORT)
    for card, numbers in universes.items():
        with contextlib.suppress(OSError), socket.socket(fileno=socket.dup(open_socket("sacn", card))) as out:
            for page in sacn.discovery_pages(cid, name, numbers):
                out.sendto(page, to)


def keep_announcing(sender: Sender, stopping: threading.Event) -> None:
    """Announces at once what changed, and all of it every ten seconds; for a thread of its own."""
    last: Universes = {}
    due = 0.0
    while not stopping.wait(LOOK_S):
        now, universes = time.monotonic(), announced_universes(sender)
        if universes != last or now >= due:
            last, due = universes, now + sacn.DISCOVERY_INTERVAL_S
            announce(universes, sender.cid, sender.name, sender.open_socket)
