"""A running engine in a thread, told what the web process tells it, and a listener at its destination."""

from __future__ import annotations

import socket
import threading
import time
from pathlib import Path
from typing import Any, ClassVar

from heliograph.engine.control_side import ControlSide
from heliograph.engine.loop import Engine
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.engine.spool import Spool
from heliograph.ipc.sections import SectionStore, content_hash
from heliograph.wire import artnet
from tests.asking import answered
from tests.conftest import wait_for
from tests.engine.shows import grid, lamps, line, look, output

HOST, CARD = "127.0.82.2", "127.0.82.1"


HEARS_S = 60.0
"""So long for one packet: an engine that may not run sends none."""


class Desk:
    """What the web process does to an engine. The fixture `desks_end` ends all there are: an engine that outlived its
    test would go on sending to those that follow."""

    running: ClassVar[list[Desk]] = []

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        spool = Spool(folder / "spool", time.monotonic_ns())
        self.engine = Engine(folder, Sender(spool.cid, "test", open_send_socket, open_send_socket), spool)
        self.side = ControlSide(self.engine, SectionStore(folder / "sections"), folder, lambda *_: None)
        self.side.resume()
        self.thread = threading.Thread(target=self.engine.run, daemon=True)
        self.thread.start()
        self.running.append(self)

    def ask(self, **message: Any) -> dict[str, Any]:
        return answered(self.side.answer, message)

    def publish(self, revision: int, show: str = "show", **changes: dict[str, Any]) -> None:
        sections = {
            "rig": lamps(4),
            "matrix:M": grid(2, 2),
            "look:L": look(line("a", "Flat", ramp=[[0, 100, 50, 20]])),
            "outputs": {"outputs": [output(address=HOST, card=CARD)]},
            **{key.replace("_", ":"): value for key, value in changes.items()},
        }
        manifest = {key: content_hash(value) for key, value in sections.items()}
        missing = self.ask(do="manifest", manifest=manifest)["missing"]
        self.ask(do="sections", sections=[v for v in sections.values() if content_hash(v) in missing])
        self.ask(do="adopt", manifest=manifest, revision=revision, show=show)

    def stop(self) -> None:
        self.engine.stopping.set()
        self.thread.join(120)
        assert not self.thread.is_alive(), "the engine does not end"
        if self in self.running:
            self.running.remove(self)

    @property
    def ending(self) -> bool:
        """Whether dark frames of an output that was ended are still being sent."""
        return self.thread.is_alive() and bool(self.engine.sender.endings)


def listen(host: str = HOST, port: int = artnet.PORT) -> socket.socket:
    one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    one.bind((host, port))
    one.settimeout(HEARS_S)
    return one


def sees(node: socket.socket, wanted: list[int], seconds: float = 3.0) -> int:
    """Packets until one begins with `wanted`."""
    count = 0

    def seen() -> bool:
        nonlocal count
        count += 1
        return list(artnet.decode_dmx(node.recv(2048)).data[: len(wanted)]) == wanted

    wait_for(seen, seconds, f"{wanted} was never sent", pause=0)
    return count


def rest(desk: Desk, node: socket.socket, most: int = 400) -> list[bytes]:
    """What still arrives until all that was to end has ended; `most` packets where it does not end."""
    found: list[bytes] = []
    node.settimeout(0.3)
    ending = True
    while ending and len(found) < most:
        ending = desk.ending  # asked first: what it sent until then is heard below
        try:
            while len(found) < most:
                found.append(node.recv(2048))
        except TimeoutError:
            continue
    node.settimeout(HEARS_S)
    return found
