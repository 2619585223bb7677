"""A camera whose pictures say when they were made, and how late they are on a node's lamps."""

from __future__ import annotations

import threading
import time

from heliograph.standins.camera import bits_picture, send, time_of
from tests.conftest import Node, wait_for

WITHIN = 25
"""Hundredths of a second from the picture to the lamp, at its best: nothing waits in a row somewhere. `bench feed`
measures how late it mostly is."""


class Camera:
    """Sends pictures that say their time to an address until it is stopped."""

    def __init__(self, address: str) -> None:
        self._address = address
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def _run(self) -> None:
        send(self._address, 25, lambda at: bits_picture(96, 48, 6, 3, at), self._stop.is_set)

    def stop(self) -> None:
        self._stop.set()
        self._thread.join()


def late(receiver: Node) -> int:
    """How many hundredths of a second ago the picture on the node's lamps was made."""
    values = receiver.picture()[0::3]
    now = int(time.monotonic() * 100)
    return (now - time_of(sum(1 << n for n, one in enumerate(values) if one > 127))) % (1 << 18)


def check_in_time(receiver: Node) -> None:
    """The picture on the lamps is new, and later a newer one."""
    for _ in range(2):
        wait_for(lambda: late(receiver) <= WITHIN, 30, "what is shown is old")
        time.sleep(0.5)
