"""tshark dissects a capture of the running demo.

tshark 4.0.17 needs both the heuristic and the preference for sACN (established in standards 0).
"""

from __future__ import annotations

import csv
import io
import itertools
import shutil
import subprocess
import time
from collections import defaultdict
from collections.abc import Callable
from pathlib import Path

import pytest

from tests.conftest import RunningApp, wait_for

DISSECT = ["-n", "--enable-heuristic", "acn", "-o", "acn.dmx_enable:TRUE"]
SECONDS = 5
FIELDS = [
    "frame.time_epoch",
    "udp.dstport",
    "udp.length",
    "ip.src",
    "ip.dst",
    "acn.dmx.universe",
    "acn.dmx.seq_number",
    "acn.dmx.priority",
    "artnet.header.opcode",
    "artnet.output.universe",
    "artnet.output.sequence",
    "_ws.malformed",
]


@pytest.fixture
def demo(own_app: Callable[..., RunningApp]) -> RunningApp:
    app = own_app("127.0.93.1", "--demo", "--node-address", "127.0.93.12", "--node-page-port", "7693")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["running"], 20, "the demo does not run")
    return app


def capture(path: Path, seconds: int) -> None:
    command = ["tshark", "-p", "-q", "-i", "lo", "-f", "udp port 5568 or udp port 6454", "-w", str(path)]
    subprocess.run([*command, "-a", f"duration:{seconds}"], check=True, capture_output=True, timeout=60)


def dissect(path: Path) -> list[dict[str, str]]:
    fields = [word for name in FIELDS for word in ("-e", name)]
    done = subprocess.run(
        ["tshark", *DISSECT, "-r", str(path), "-T", "fields", "-E", "separator=,", "-E", "quote=d", *fields],
        check=True,
        capture_output=True,
        text=True,
        timeout=120,
    )
    return [dict(zip(FIELDS, row, strict=True)) for row in csv.reader(io.StringIO(done.stdout))]


def test_the_running_demo_is_dissected_without_a_fault(demo: RunningApp, tmp_path: Path) -> None:
    assert shutil.which("tshark"), "tshark is installed by ./heliograph test"
    time.sleep(1.0)
    capture(tmp_path / "demo.pcapng", SECONDS)
    everything = dissect(tmp_path / "demo.pcapng")
    packets = [
        p for p in everything if p["ip.src"] in (demo.card, "127.0.93.12", "127.0.93.13", "127.0.93.14")
    ]  # not of other tests' parts
    assert not [p for p in packets if p["_ws.malformed"]]
    universes = defaultdict(list)
    for packet in packets:
        if packet["udp.dstport"] == "5568" and packet["ip.dst"] != "239.255.250.214":  # universes told every 10 s
            assert packet["acn.dmx.universe"], "not dissected as sACN levels"
            universes[int(packet["acn.dmx.universe"])].append(packet)
    assert sorted(universes) == [1, 2, 3, 4, 5, 6, 10]
    for number, sent in universes.items():
        assert {p["ip.dst"] for p in sent} == {f"239.255.0.{number}"}
        assert {int(p["udp.length"]) for p in sent} == {638 + 8}
        assert {p["acn.dmx.priority"] for p in sent} == {"100"}
        sequences = [int(p["acn.dmx.seq_number"]) for p in sent]
        assert all((b - a) % 256 == 1 for a, b in itertools.pairwise(sequences))
    # Every frame carries every universe (how many frames a second: bench engine); the capture may begin within one.
    counts_of_frames = [len(sent) for sent in universes.values()]
    assert min(counts_of_frames) > 1
    assert max(counts_of_frames) - min(counts_of_frames) <= 1
    levels = [p for p in packets if p["artnet.header.opcode"] == "0x5000"]
    # The quay has Port-Addresses 6 and 7, the lantern gallery 8 and 10: universe - 1 (product page, the demo's table).
    routes = {(p["ip.dst"], p["artnet.output.universe"]) for p in levels}
    assert routes == {("127.0.93.13", "6"), ("127.0.93.13", "7"), ("127.0.93.14", "8"), ("127.0.93.14", "10")}
    assert {int(p["udp.length"]) for p in levels} == {18 + 512 + 8}
    for port in ("6", "7", "8", "10"):
        sent = [p for p in levels if p["artnet.output.universe"] == port]
        counts = [int(p["artnet.output.sequence"]) for p in sent]
        assert all(b == a % 255 + 1 for a, b in itertools.pairwise(counts))  # 1..255, never 0
    opcodes = {p["artnet.header.opcode"] for p in packets if p["udp.dstport"] == "6454"}
    assert {"0x2000", "0x2100"} <= opcodes  # ArtPoll goes out, ArtPollReply comes back
