"""A running engine in a thread, told what the web process tells it, and a listener at its destination."""

from __future__ import annotations

import socket
import threading
import time
from pathlib import Path
from typing import Any

import pytest

from heliograph.engine.control_side import ControlSide
from heliograph.engine.loop import Engine
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.engine.spool import Spool
from heliograph.ipc.sections import SectionStore, content_hash
from heliograph.wire import artnet
from tests.asking import answered
from tests.engine.shows import grid, lamps, line, look, output

HOST, CARD = "127.0.82.2", "127.0.82.1"


class Desk:
    """What the web process does to an engine."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        spool = Spool(folder / "spool", time.monotonic_ns())
        self.engine = Engine(folder, Sender(spool.cid, "test", open_send_socket, open_send_socket), spool)
        self.side = ControlSide(self.engine, SectionStore(folder / "sections"), folder, lambda *_: None)
        self.side.resume()
        self.thread = threading.Thread(target=self.engine.run)
        self.thread.start()

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
        self.thread.join(20)


def listen(host: str = HOST, port: int = artnet.PORT) -> socket.socket:
    one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    one.bind((host, port))
    one.settimeout(2)
    return one


def sees(node: socket.socket, wanted: list[int], seconds: float = 3.0) -> int:
    """Packets until one begins with `wanted`."""
    until = time.monotonic() + seconds
    count = 0
    while time.monotonic() < until:
        count += 1
        if list(artnet.decode_dmx(node.recv(2048)).data[: len(wanted)]) == wanted:
            return count
    pytest.fail(f"{wanted} was never sent")


def rest(node: socket.socket, silent_s: float = 0.3, most: int = 400) -> list[bytes]:
    """What still arrives, until nothing has for `silent_s`; `most` packets where it does not end."""
    found: list[bytes] = []
    node.settimeout(silent_s)
    try:
        while len(found) < most:
            found.append(node.recv(2048))
    except TimeoutError:
        pass
    node.settimeout(2)
    return found
