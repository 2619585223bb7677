"""Two hosts on one network, in a network namespace of this test's own.

192.0.2.17 and 192.0.2.90 with mask 255.255.255.0 see each other (arithmetic of the trade: common practice, no
published source); 198.51.100.90 is on another network, and the patch doctor says so through the API.
"""

from __future__ import annotations

import contextlib
import json
import os
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.conftest import ENVIRONMENT, START_S, free_port, needs_root

ASK = """
import json, sys
from uuid import uuid4
from heliograph.demo.client import ApiClient
api = ApiClient(sys.argv[1], person="tester", name="Tester")
api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Hosts"})
api.call("POST", "/api/fixtures", {"text": "1 x RGB lamp, from 1", "ids": [str(uuid4())]})
key = str(uuid4())
route = {"protocol": "artnet", "mode": "unicast", "card": "192.0.2.17", "destination": "192.0.2.90"}
api.call("POST", "/api/outputs", {"id": key, "name": "Out", **route})
def kinds():
    return [(one["kind"], one["sentence"]) for one in api.call("GET", "/api/patch/doctor")]
seen = kinds()
api.call("PATCH", f"/api/outputs/{key}", {"destination": "198.51.100.90"})
print(json.dumps([seen, kinds()]))
"""


@pytest.fixture
def namespace() -> Iterator[str]:
    """A namespace with one network card, 192.0.2.17 with mask 255.255.255.0."""
    needs_root()
    name = f"hg{os.getpid()}"
    commands = (
        f"ip netns add {name}",
        f"ip -n {name} link set lo up",
        f"ip -n {name} link add card0 type veth peer name card1",
        f"ip -n {name} addr add 192.0.2.17/24 brd + dev card0",
        f"ip -n {name} link set card0 up",
        f"ip -n {name} link set card1 up",
    )
    try:
        for command in commands:
            if subprocess.run(command.split(), check=False, capture_output=True).returncode:
                pytest.skip(f"this machine allows no '{command}'")
        yield name
    finally:
        subprocess.run(["ip", "netns", "del", name], check=False, capture_output=True)


@contextlib.contextmanager
def running_inside(namespace: str, folder: Path) -> Iterator[tuple[list[str], str]]:
    """A Heliograph in the namespace: how to run Python beside it, and its address."""
    folder.chmod(0o755)
    inside = ["ip", "netns", "exec", namespace, sys.executable]
    port, log = free_port(), folder / "up.log"
    command = [*inside, "-m", "heliograph.cli", "up", "--data", str(folder / "data"), "--port", str(port)]
    with open(log, "wb") as out:
        app = subprocess.Popen(command, env=ENVIRONMENT, stdout=out, stderr=out, stdin=subprocess.DEVNULL)
    try:
        until = time.monotonic() + START_S
        while "Heliograph is up" not in log.read_text():
            assert app.poll() is None, log.read_text()
            assert time.monotonic() < until, log.read_text()
            time.sleep(0.1)
        yield inside, f"http://127.0.0.1:{port}"
    finally:
        app.send_signal(2)
        app.wait(120)


def test_hosts_with_one_mask_see_each_other(namespace: str, tmp_path: Path) -> None:
    with running_inside(namespace, tmp_path) as (inside, address):
        ask = [*inside, "-c", ASK, address]
        told = subprocess.run(ask, env=ENVIRONMENT, capture_output=True, text=True, timeout=120, check=False)
        assert told.returncode == 0, told.stderr
        near, far = json.loads(told.stdout)
    assert near == []
    assert [kind for kind, _ in far] == ["another subnet"]
    assert "Out sends to 198.51.100.90: none of this machine's networks (" in far[0][1]
    assert "192.0.2.17/255.255.255.0" in far[0][1]


LIGHT = """
import sys, time
from uuid import uuid4
from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
api = ApiClient(sys.argv[1], person="tester", name="Tester")
lamp, matrix, look = (str(uuid4()) for _ in range(3))
api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Card"})
api.call("POST", "/api/fixtures", {"text": "1 x RGB lamp, from 1", "ids": [lamp]})
weave = {"selection": "all", "width": 1, "height": 1}
api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 1, "height": 1, "weave": weave})
line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix, "ramp": [[0, 9, 9, 9]]}
api.call("POST", "/api/looks", {"id": look, "name": "L", "lines": [line]})
route = {"protocol": "artnet", "mode": "broadcast", "card": "192.0.2.17"}
api.call("POST", "/api/outputs", {"id": str(uuid4()), "name": "Out", **route})
def until(kind):
    for _ in range(150):
        found = None
        try:
            api.call("POST", "/api/engine", {"do": "move", "moves": [{"handle": f"look/{look}/on", "value": True}]})
            found = api.call("GET", f"/api/why-dark/{lamp}/1")
            if found["kind"] == kind:
                return found["sentence"]
        except HeliographError:
            pass
        time.sleep(0.1)
    sys.exit(f"not {kind}: {found}")
until("")
print("lit", flush=True)
sys.stdin.readline()
print(until("network card"), flush=True)
"""


def test_a_network_card_that_is_taken_out_is_named(namespace: str, tmp_path: Path) -> None:
    with running_inside(namespace, tmp_path) as (inside, address):
        asking = subprocess.Popen(
            [*inside, "-c", LIGHT, address],
            env=ENVIRONMENT,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        assert asking.stdout is not None
        try:
            assert asking.stdout.readline() == "lit\n"
            subprocess.run(["ip", "-n", namespace, "link", "del", "card0"], check=True)
            said, wrong = asking.communicate("taken out\n", timeout=120)
        finally:
            asking.kill()
    assert said.startswith("Out cannot send from the network card 192.0.2.17"), wrong
