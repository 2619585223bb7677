"""Gaps at a node while processes are killed, beside a bare 44 Hz sender in the same run.

The node takes kernel receive times. Limits: the bare sender's gap plus 50 ms when web or database
die; 2 s until light is back when the engine dies.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from pathlib import Path

from bench.report import Report
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

AMBER = [10, 200, 30]
SECONDS = 6

BARE = """
import sys, time, socket
sys.path[:0] = %r
from heliograph.engine.clock import Deadlines, run_in_real_time, sleep_until
from heliograph.wire import artnet
run_in_real_time()
out = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
out.bind(("127.0.96.9", 0))
d = Deadlines(time.monotonic_ns() + 5_000_000)
sequence = 0
end = time.monotonic() + %f
while time.monotonic() < end:
    sleep_until(d.due_ns)
    sequence = artnet.next_sequence(sequence)
    out.sendto(artnet.encode_dmx(1, bytes(512), sequence), ("127.0.96.3", 6454))
    d.next(time.monotonic_ns())
"""


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        node = Node(folder, "127.0.96.2", wall_hang())
        beside = Node(folder, "127.0.96.3", wall_hang("artnet 1"))
        app = RunningApp(folder, "127.0.96.1")
        try:
            light_wall(app, "127.0.96.2", [[0, *AMBER]])
            wait_for(lambda: node.picture() == AMBER * 16)
            for victims in (("web",), ("database",), ("web", "database", "receiver", "media", "preview")):
                bare = subprocess.Popen([sys.executable, "-c", BARE % (sys.path, SECONDS + 1)])
                time.sleep(0.7)
                node.reset()
                beside.reset()
                time.sleep(0.5)
                for one in victims:
                    app.kill(one)
                time.sleep(SECONDS - 1)
                gap = node.universe("artnet 0")["gap_max_ms"]
                limit = beside.universe("artnet 1")["gap_max_ms"] + 50
                bare.wait()
                text = f"longest gap, {' '.join(victims)} killed"
                report.row(text, gap, "ms", limit, "bare sender + 50 ms", holds=True)
                wait_for(lambda: app.api().call("GET", "/api/show"), 20)
            node.reset()
            time.sleep(0.5)  # so that the first gap is counted from a packet before the kill
            app.kill("engine")
            time.sleep(4)
            gap = node.universe("artnet 0")["gap_max_ms"]
            report.row("longest gap, engine killed", gap, "ms", 2000, "stated", holds=True)
            late = node.universe("artnet 0")["late"]
            report.row("packets discarded after it", late, "", 0, "none", holds=True)
        finally:
            app.stop()
            node.stop()
            beside.stop()
