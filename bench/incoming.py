"""100 universes that arrive 44 times a second: what the receiver loses and costs, and what the engine feels of it."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

import psutil

from bench.engine_run import measure
from bench.report import Report
from tests.conftest import ENVIRONMENT, Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

UNIVERSES = 100
SECONDS = 10
LOSS_LIMIT = 0.001
"""Of the packets sent: one in a thousand."""

CARD, DESK = "127.0.98.1", "127.0.98.9"

SEND = """
import socket, sys, time
from heliograph.engine.clock import Deadlines, sleep_until
from heliograph.wire import artnet, sacn
to, source, each, seconds = sys.argv[1], sys.argv[2], int(sys.argv[3]), float(sys.argv[4])
one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
one.setsockopt(socket.SOL_SOCKET, socket.SO_SNDBUF, 4 << 20)
one.bind((source, 0))
due, end, frame = Deadlines(time.monotonic_ns() + 5_000_000), time.monotonic() + seconds, 0
while time.monotonic() < end:
    sleep_until(due.due_ns)
    frame += 1
    data = bytes([frame % 256]) * 512
    for n in range(each):
        one.sendto(sacn.encode_data(b"bench desk 00000", "bench", 1000 + n, data, frame % 256), (to, sacn.PORT))
        one.sendto(artnet.encode_dmx(200 + n, data, frame % 255 + 1), (to, artnet.PORT))
    due.next(time.monotonic_ns())
print(frame)
"""

BARE = """
import resource, selectors, socket, sys, time
select = selectors.DefaultSelector()
for port in (5568, 6454):
    one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 4 << 20)
    one.bind((sys.argv[1], port))
    one.setblocking(False)
    select.register(one, selectors.EVENT_READ)
end, count = time.monotonic() + float(sys.argv[2]), 0
while time.monotonic() < end:
    for key, _ in select.select(0.2):
        while True:
            try:
                key.fileobj.recv(2048)
            except BlockingIOError:
                break
            count += 1
used = resource.getrusage(resource.RUSAGE_SELF)
print(count, used.ru_utime + used.ru_stime)
"""


def _start(code: str, *arguments: object) -> subprocess.Popen[str]:
    command = [sys.executable, "-c", code, *map(str, arguments)]
    return subprocess.Popen(command, env=ENVIRONMENT, stdout=subprocess.PIPE, text=True)


def bare_loop() -> float:
    """Share of a core of a loop that takes the same packets from its sockets and forgets them."""
    loop = _start(BARE, "127.0.98.5", SECONDS + 1)
    sender = _start(SEND, "127.0.98.5", DESK, UNIVERSES // 2, SECONDS)
    frames = int(sender.communicate(timeout=60)[0])
    count, used = loop.communicate(timeout=60)[0].split()
    assert int(count) > frames * UNIVERSES * 0.99, (count, frames)
    return float(used) / SECONDS


def run(report: Report) -> None:
    limit = bare_loop()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        node = Node(folder, "127.0.98.2", wall_hang())
        app = RunningApp(folder, CARD)
        try:
            light_wall(app, "127.0.98.2", [[0, 1, 2, 3]])
            wait_for(lambda: node.picture() == [1, 2, 3] * 16)
            receiver = psutil.Process(app.pid("receiver"))
            quiet = measure(app.engine_client(), 3)
            sender = _start(SEND, CARD, DESK, UNIVERSES // 2, SECONDS)
            time.sleep(1.0)
            before = receiver.cpu_times()
            found = measure(app.engine_client(), SECONDS - 3)
            after = receiver.cpu_times()
            share = (after.user + after.system - before.user - before.system) / (SECONDS - 3)
            frames = int(sender.communicate(timeout=60)[0])
            streams: list[dict[str, Any]] = app.api().call("GET", "/api/streams")
        finally:
            app.stop()
            node.stop()
    ours = [one for one in streams if one["ip"] == DESK]
    assert len(ours) == UNIVERSES, len(ours)
    taken, lost = sum(one["packets"] for one in ours), sum(one["lost"] for one in ours)
    report.note(f"{frames * UNIVERSES} packets sent, {taken} taken, {lost} known to be lost")
    missed = 1 - taken / (frames * UNIVERSES)
    report.row(f"{UNIVERSES} universes in: packets missed", missed, "", LOSS_LIMIT, "one in 1,000", holds=True)
    report.row("receiver's share of a core", share, "", limit, "a loop that only reads them")
    report.row("engine skipped meanwhile", found["skipped"], "frames", quiet["skipped"], "in quiet", holds=False)
    report.row("engine late, mean", found["late_ms"], "ms", quiet["late_ms"], "in quiet")
    report.note(f"time stolen from the machine meanwhile: {found['stolen_ticks'] * 10:.0f} ms")
