"""An engine process with a large show, fed through its control socket, and a sink for its packets."""

from __future__ import annotations

import contextlib
import os
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from bench.quiet import is_quiet
from heliograph.core.matrix.placements import CellKey, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages.engine import AskStatus, MoveHandles, OneMove
from heliograph.ipc.messages.show import Adopt, HandSections
from heliograph.ipc.sections import content_hash

PIXELS = 170
"""RGB pixels of one universe: 510 of 512 channels."""

SINK, CARD = "127.0.95.2", "127.0.95.1"


def line(key: str, effect: str, **fields: Any) -> dict[str, Any]:
    base = {
        "id": key,
        "paints": "effect",
        "matrix": "M",
        "effect": effect,
        "ramp": [[0, 6, 18, 46], [1, 255, 206, 128]],
        "speed": {"value": 4, "unit": "s"},
        "opacity": 1.0,
        "blend": "over",
        "params": {},
    }
    return {**base, **fields}


def three_lines(universes: int) -> list[dict[str, Any]]:
    return [
        line("a", "Flat"),
        line("b", "Relay", params={"order": "column", "width": max(2, universes // 8), "overlap": 50}),
        line("c", "Relay", params={"order": "row", "width": 9, "overlap": 50}, blend="add", opacity=0.5),
    ]


def driven_lines(universes: int) -> list[dict[str, Any]]:
    """The same three lines, of which six numbers are driven, one of them over the cells."""

    def drive(low: float, high: float, **fields: Any) -> dict[str, Any]:
        return {"low": low, "high": high, "period": {"value": 4.0, "unit": "s"}, "rise": 0.2, "fall": 0.4, **fields}

    drives: list[dict[str, Any]] = [
        {"opacity": drive(0.4, 1.0), "shift": drive(0.0, 0.5)},
        {"params.width": drive(20.0, 64.0), "opacity": drive(0.5, 1.0)},
        {"params.overlap": drive(10.0, 90.0, over="row"), "opacity": drive(0.2, 0.9)},
    ]
    return [{**one, "drives": driven} for one, driven in zip(three_lines(universes), drives, strict=True)]


def show_sections(universes: int) -> dict[str, Any]:
    """`universes` x 170 RGB pixels on one matrix, a look of three lines, one Art-Net output."""
    cell = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
    mode = {"name": "170", "blocks": [{"name": "b", "cell_count": PIXELS, "cell_channels": cell}]}
    fixtures = [
        {"id": f"f{n}", "number": n + 1, "name": f"Strip {n + 1}", "mode": "m", "universe": n + 1, "channel": 1}
        for n in range(universes)
    ]
    keys = [CellKey(f"f{n}", str(c + 1)) for n in range(universes) for c in range(PIXELS)]
    placed = pack(place(keys, Weave(universes, PIXELS, "top left", "columns", True)))
    lines = three_lines(universes)
    output = {
        "id": "o",
        "name": "sink",
        "protocol": "artnet",
        "mode": "unicast",
        "address": SINK,
        "card": CARD,
        "first_universe": 1,
        "count": universes,
        "first_number": 0,
        "priority": 100,
        "on": True,
    }
    return {
        "rig": {"modes": {"m": {"mode": mode, "guarded": False}}, "fixtures": fixtures},
        "matrix:M": {"id": "M", "name": "M", "width": universes, "height": PIXELS, "placements": placed},
        "look:L": {"id": "L", "name": "L", "lines": lines},
        "outputs": {"outputs": [output]},
    }


@contextlib.contextmanager
def sink() -> Iterator[None]:
    """A bound port that is never read: packets are delivered and dropped by the kernel, as by a distant node."""
    one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    one.bind((SINK, 6454))
    yield
    one.close()


@contextlib.contextmanager
def running_engine(
    folder: Path, universes: int, lines: list[dict[str, Any]] | None = None, more: dict[str, Any] | None = None
) -> Iterator[ControlClient]:
    """A real engine process that renders and sends the show, with other lines where they are given, and `more`
    sections."""
    (folder / "run").mkdir(parents=True)
    process = subprocess.Popen(
        [sys.executable, "-m", "heliograph.engine.process", "--data", str(folder)], env=dict(os.environ)
    )
    try:
        client = ControlClient(str(folder / "run" / "engine.sock"), "engine", timeout_s=30)
        until = time.monotonic() + 10
        while not (folder / "run" / "engine.sock").exists() and time.monotonic() < until:
            time.sleep(0.05)
        time.sleep(0.2)
        sections = show_sections(universes)
        if lines is not None:
            sections["look:L"] = {**sections["look:L"], "lines": lines}
        sections |= more or {}
        manifest = {key: content_hash(value) for key, value in sections.items()}
        client.ask(HandSections(sections=list(sections.values())))
        client.ask(Adopt(manifest=manifest, revision=1))
        client.ask(MoveHandles(moves=[OneMove("look/L/on", True)]))
        time.sleep(1.5)
        yield client
    finally:
        process.terminate()
        process.wait(10)


def measure(client: ControlClient, seconds: int) -> dict[str, float]:
    """Means over `seconds` of the engine's own one-second summaries, of those in which the machine was at its full
    pace where there are any (`quiet`: how many); skipped frames as a difference, over all."""
    begun = client.ask(AskStatus()).stats["skipped"]
    found: list[dict[str, float]] = []
    quiet: list[dict[str, float]] = []
    before = is_quiet()
    for _ in range(seconds):
        time.sleep(1.0)
        found.append(client.ask(AskStatus()).stats)
        after = is_quiet()
        if before and after:
            quiet.append(found[-1])
        before = after
    counted = quiet or found
    result = {name: sum(one[name] for one in counted) / len(counted) for name in found[0]}
    result["quiet"] = len(quiet)
    result["late_max_ms"] = max(one["late_max_ms"] for one in found)
    result["skipped"] = found[-1]["skipped"] - begun
    result["stolen_ticks"] = sum(one["stolen_ticks"] for one in found)
    return result


class BareLoop(threading.Thread):
    """The limit for pacing: a loop that only sleeps to the same deadlines, in a process of its own."""

    CODE = """
import sys, time
sys.path[:0] = %r
from heliograph.engine.clock import Deadlines, run_in_real_time, sleep_until
run_in_real_time()
d = Deadlines(time.monotonic_ns() + 5_000_000)
late = []
end = time.monotonic() + %f
while time.monotonic() < end:
    sleep_until(d.due_ns)
    now = time.monotonic_ns()
    late.append((now - d.due_ns) / 1e6)
    d.next(now)
print(d.skipped, sum(late) / len(late), max(late))
"""

    def __init__(self, seconds: float) -> None:
        super().__init__()
        self._code = self.CODE % (sys.path, seconds)
        self.skipped, self.late_ms, self.late_max_ms = 0, 0.0, 0.0

    def run(self) -> None:
        done = subprocess.run([sys.executable, "-c", self._code], capture_output=True, text=True, check=True)
        skipped, late, most = done.stdout.split()
        self.skipped, self.late_ms, self.late_max_ms = int(skipped), float(late), float(most)
