"""An armed laser and a lamp on one universe, watched on the wire by a listener of the test's own."""

from __future__ import annotations

import contextlib
import socket
import threading
import time
from typing import Any
from uuid import uuid4

from heliograph.core.errors import HeliographError
from heliograph.wire import artnet
from tests.conftest import RunningApp, at_rest, wait_for
from tests.moves import on

RAY = {
    "maker": "Kittiwake Optics",
    "name": "Test ray",
    "kind": "laser",
    "modes": [
        {
            "name": "4",
            "blocks": [
                {
                    "name": "Zone",
                    "shared": [{"attribute": "Gobo1", "home": 9, "safe": 3}],
                    "cell_count": 1,
                    "cell_channels": [{"attribute": f"ColorAdd_{c}", "safe": 0} for c in "RGB"],
                }
            ],
        }
    ],
}
LIT, DARK = [9, 200, 100, 40, 200, 100, 40], [3, 0, 0, 0, 0, 0, 0]
"""Laser (pattern, red, green, blue) and lamp: as the look lights them, and dark."""


class Wire:
    """Everything that reaches an address by Art-Net, with its moment."""

    def __init__(self, address: str) -> None:
        self.address = address
        self._socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self._socket.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        self._socket.bind((address, artnet.PORT))
        self._socket.settimeout(0.1)
        self.heard: list[tuple[float, int, bytes]] = []
        self._open = True
        threading.Thread(target=self._listen, daemon=True).start()

    def _listen(self) -> None:
        while self._open:
            try:
                packet = self._socket.recv(2048)
            except TimeoutError:
                continue
            except OSError:
                return
            if artnet.opcode(packet) == artnet.OP_DMX:
                read = artnet.decode_dmx(packet)
                self.heard.append((time.monotonic(), read.port_address, bytes(read.data)))

    def last(self, count: int = 7, number: int = 0) -> list[int]:
        """The first values of the newest frame of a Port-Address."""
        return next((list(data[:count]) for _, at, data in reversed(self.heard) if at == number), [])

    def silent_s(self) -> float:
        return time.monotonic() - self.heard[-1][0] if self.heard else 0.0

    def sees(self, wanted: list[int], seconds: float = 10, why: str = "") -> None:
        wait_for(lambda: self.last(len(wanted)) == wanted, seconds, why or f"{wanted} never came")

    def rests(self, seconds: float = 1.0) -> list[int]:
        """What it holds once nothing more comes."""
        wait_for(lambda: self.silent_s() > seconds, 30, "packets go on")
        return self.last()

    def close(self) -> None:
        self._open = False
        self._socket.close()


class Holder:
    """A browser that holds lasers armed, renewing its lease."""

    def __init__(self, app: RunningApp, fixtures: list[str]) -> None:
        self.lease, self._app, self._on = uuid4().hex, app, True
        app.api().call("POST", "/api/engine", {"do": "arm", "fixtures": fixtures, "lease": self.lease})
        threading.Thread(target=self._renew, daemon=True).start()

    def _renew(self) -> None:
        while self._on:
            with contextlib.suppress(HeliographError, OSError, ValueError):
                self._app.api().call("POST", "/api/engine", {"do": "renew", "lease": self.lease})
            time.sleep(1.0)

    def leave(self) -> None:
        self._on = False


def laser_scene(app: RunningApp, wire: Wire) -> dict[str, Any]:
    """Builds the scene and lights it, armed; the ids and the holder."""
    at_rest(app)
    api = app.api()
    ids: dict[str, Any] = {
        name: str(uuid4()) for name in ("show", "profile", "ray", "lamp", "matrix", "look", "line", "output")
    }
    api.call("POST", "/api/shows", {"id": ids["show"], "name": "Lantern test"})
    api.call("POST", "/api/profiles", {"id": ids["profile"], **RAY})
    api.call("POST", "/api/fixtures", {"text": "1 x Test ray, from 801, at U1.1", "ids": [ids["ray"]]})
    api.call("POST", "/api/fixtures", {"text": "1 x RGB lamp, from 1, at U1.5", "ids": [ids["lamp"]]})
    weave = {"selection": "801, 1", "width": 2, "height": 1}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "Both", "width": 2, "height": 1, "weave": weave})
    one = {"id": ids["line"], "paints": "effect", "effect": "Flat", "matrix": ids["matrix"]}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "On", "lines": [{**one, "ramp": [[0, 200, 100, 40]]}]})
    output = {"id": ids["output"], "name": "Lantern", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call("POST", "/api/outputs", {**output, "destination": wire.address})
    wire.sees([3, 0, 0, 0, 0, 0, 0])

    def started() -> bool:
        try:
            api.call("POST", "/api/engine", on(ids["look"]))
        except HeliographError:
            return False
        return True

    wait_for(started, 10)
    ids["holder"] = Holder(app, [ids["ray"]])
    wire.sees(LIT)
    return ids
