"""Malformed and hostile datagrams, and a network card that vanishes."""

from __future__ import annotations

import random
import socket
import subprocess
from collections.abc import Callable
from typing import Any

from heliograph.wire import artnet, sacn
from tests.conftest import Node, RunningApp, needs_root, wait_for
from tests.live.scenes import goes_on, light_wall, running, wall_hang

DUSK = [200, 90, 20]
MakeNode = Callable[[str, dict[str, Any]], Node]


def hostile(seed: int = 7) -> list[tuple[int, bytes]]:
    """Datagrams that are wrong in many ways: (port, bytes)."""
    chance = random.Random(seed)
    good = artnet.encode_poll_reply(artnet.PollReply("127.0.87.77", "Ghost", "Ghost"))
    data = sacn.encode_data(bytes(16), "x", 1, bytes(512), 1)
    packets = [(6454, b""), (6454, artnet.ID), (6454, good[:60]), (6454, artnet.encode_dmx(1, b"\1\2")[:17])]
    packets += [(6454, artnet.encode_dmx(0xFFFF, bytes(512))), (5568, data[:-1]), (5568, data[:30])]
    for _ in range(300):
        broken = bytearray(good if chance.random() < 0.5 else data)
        for _ in range(chance.randrange(1, 40)):
            broken[chance.randrange(len(broken))] = chance.randrange(256)
        packets.append((6454 if broken[:3] == b"Art" else 5568, bytes(broken)))
    packets += [(port, chance.randbytes(chance.randrange(1400))) for port in (6454, 5568) for _ in range(100)]
    return packets


def test_malformed_datagrams_are_counted_and_nothing_is_lost(app: RunningApp, node: MakeNode) -> None:
    receiver = node("127.0.87.2", wall_hang())
    light_wall(app, "127.0.87.2", [[0, *DUSK]])
    wait_for(lambda: receiver.picture() == DUSK * 18)
    before = app.api().call("GET", "/api/status")["receiver"]["malformed_total"]
    receiver.reset()
    attacker = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    attacker.bind(("127.0.87.66", 0))
    for port, packet in hostile():
        for target in (app.card, "127.0.87.2"):
            attacker.sendto(packet, (target, port))
    attacker.close()
    told = wait_for(lambda: _malformed(app, before), 10, "malformed packets were not counted")
    assert any(one["sender"] == "127.0.87.66" and one["last"] for one in told["malformed"])
    assert receiver.picture() == DUSK * 18
    assert receiver.state()["malformed"] > 50
    goes_on(app)


def _malformed(app: RunningApp, before: int) -> Any:
    told = app.api().call("GET", "/api/status")["receiver"]
    return told if told and told["malformed_total"] > before + 50 else None


def test_nodes_are_found_by_artpoll_and_their_silence_is_told(app: RunningApp, node: MakeNode) -> None:
    ghost = node("127.0.87.3", {**wall_hang("artnet 18"), "name": "Old boathouse"})

    def heard(silent: bool) -> Any:
        nodes = app.api().call("GET", "/api/status")["receiver"]["nodes"]
        return [n for n in nodes if n["ip"] == "127.0.87.3" and n["silent"] is silent]

    found = wait_for(lambda: heard(False), 10, "the node was not found")
    assert found[0]["name"] == "Old boathouse"
    assert found[0]["outputs"] == [18]
    ghost.stop()
    wait_for(lambda: heard(True), 20, "its silence was not told")
    texts = [event["text"] for event in app.api().call("GET", "/api/events")]
    assert any(text.startswith("node Old boathouse 127.0.87.3 silent") for text in texts)


def test_a_card_that_vanishes_is_told_and_light_returns_with_it(own_app: Callable[..., RunningApp]) -> None:
    """veth in the test's own network namespace; both ends belong to the test."""
    needs_root()

    def ip(*words: str) -> None:
        subprocess.run(["ip", *words], check=True, capture_output=True)

    def plug() -> None:
        ip("link", "add", "hgtest0", "type", "veth", "peer", "name", "hgtest1")
        ip("addr", "add", "10.86.0.1/24", "dev", "hgtest0")
        ip("link", "set", "hgtest0", "up")
        ip("link", "set", "hgtest1", "up")

    probe = subprocess.run(["ip", "-o", "link"], capture_output=True, text=True)
    if "eth0" in probe.stdout:  # not in a namespace of our own: leave the machine's network alone
        import pytest

        pytest.skip("run through ./heliograph test, which gives the tests a network of their own")
    plug()
    try:
        app = own_app("10.86.0.1", "--card", "127.0.88.1")
        api = app.api()
        from uuid import uuid4

        api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Veth"})
        output = {"name": "Pier", "protocol": "sacn", "mode": "multicast", "card": "10.86.0.1", "first_number": 1}
        api.call("POST", "/api/outputs", {"id": str(uuid4()), **output})

        def status() -> dict[str, Any]:
            outputs: list[dict[str, Any]] = running(app)["outputs"]
            return outputs[0] if outputs else {"packets": 0, "last_error": "", "errors": 0}

        wait_for(lambda: status()["packets"] > 10 and not status()["last_error"])
        ip("link", "del", "hgtest0")
        wait_for(lambda: status()["last_error"], 10, "the missing card was not told")
        assert status()["errors"] > 0
        goes_on(app)
        plug()
        wait_for(lambda: not status()["last_error"], 10, "sending did not come back with the card")
    finally:
        subprocess.run(["ip", "link", "del", "hgtest0"], capture_output=True)
