"""Kills, hangs and full disks in random order under a running look: the longest gap at the node for each kind, beside
a bare 44 Hz sender of the same moment, and whether anything that was stored is lost.

Needs root for the full disks: the data folder lies on a small file system of the bench's own.
"""

from __future__ import annotations

import contextlib
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from bench.report import Report
from bench.survival import BARE
from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

AMBER = [10, 200, 30]
EACH = 20
SEED = 1127
DISK_MB = 900
OTHERS = ("web", "database", "receiver", "media", "preview")
WHOLE_S = 90.0
FULL_S = 3.0


class Scene:
    """The running program, its node, a bare sender's node, and the last name that was stored."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.node = Node(folder, "127.0.96.2", wall_hang())
        self.beside = Node(folder, "127.0.96.3", wall_hang("artnet 1"))
        self.app = RunningApp(folder, "127.0.96.1")
        self.ids = light_wall(self.app, "127.0.96.2", [[0, *AMBER]])
        wait_for(lambda: self.node.picture() == AMBER * 16)
        self.stored = "Dusk"
        self.lost = 0

    def store(self, name: str) -> None:
        """An edit; only what was acknowledged counts as stored."""
        with contextlib.suppress(HeliographError, OSError, ValueError):
            self.app.api().call("PATCH", f"/api/looks/{self.ids['look']}", {"name": name})
            self.stored = name

    def is_whole(self) -> bool:
        try:
            looks = self.app.api().call("GET", "/api/show")["looks"]
            engine = self.app.engine().ask({"do": "status"})
        except (HeliographError, OSError, ValueError):
            return False
        names = [look["name"] for look in looks]
        self.seen = names[0] if names else ""
        return bool(engine["state"]["running"]) and self.node.universe("artnet 0").get("silent_ms", 9999) < 500

    def settle(self) -> None:
        """Waits until everything works again, then looks whether what was stored is there."""
        wait_for(self.is_whole, WHOLE_S, "it was not whole again")
        wait_for(lambda: self.node.picture() == AMBER * 16, 10, "the picture is another one")
        if self.seen != self.stored:
            self.lost += 1

    def stop(self) -> None:
        self.app.stop()
        self.node.stop()
        self.beside.stop()


def _kill(scene: Scene, process: str) -> None:
    scene.app.kill(process)


def _hang(scene: Scene, process: str) -> None:
    hung = scene.app.pid(process)
    os.kill(hung, signal.SIGSTOP)
    wait_for(lambda: scene.app.pid(process) != hung, 60, f"{process} was not replaced")


def _fill(scene: Scene) -> None:
    """Takes all room of the disk for a while, edits meanwhile, and gives it back."""
    filler = scene.folder / "filler"
    with contextlib.suppress(OSError), open(filler, "wb") as out:
        while True:
            out.write(bytes(1 << 20))
            out.flush()
    until = time.monotonic() + FULL_S
    while time.monotonic() < until:
        scene.store(f"full {time.monotonic_ns()}")
        time.sleep(0.5)
    filler.unlink()


def _plan(chance: random.Random, disks: bool) -> list[tuple[str, Callable[[Scene], None]]]:
    names = ("engine", *OTHERS)
    plan: list[tuple[str, Callable[[Scene], None]]] = []
    for n in range(EACH):
        victim = names[n % len(names)]
        kind = "engine" if victim == "engine" else "another process"
        plan.append((f"{kind} killed", partial(_kill, process=victim)))
        plan.append((f"{kind} hung", partial(_hang, process=victim)))
        if disks:
            plan.append(("disk full", _fill))
    chance.shuffle(plan)
    return plan


@contextlib.contextmanager
def _small_disk() -> Iterator[tuple[Path, bool]]:
    """(folder, whether it is a file system of its own)."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        words = ["mount", "-t", "tmpfs", "-o", f"size={DISK_MB}m,mode=755", "heliograph-bench", name]
        own = os.geteuid() == 0 and subprocess.run(words, capture_output=True).returncode == 0
        folder.chmod(0o755)
        try:
            yield folder, own
        finally:
            if own:
                subprocess.run(["umount", "-l", name], capture_output=True)


def run(report: Report) -> None:
    with _small_disk() as (folder, own):
        scene = Scene(folder)
        gaps: dict[str, list[float]] = {}
        bare: dict[str, list[float]] = {}
        discarded = 0
        try:
            for number, (kind, fault) in enumerate(_plan(random.Random(SEED), own)):
                scene.store(f"Dusk {number}")
                beside = subprocess.Popen([sys.executable, "-c", BARE % (sys.path, 120.0)])
                time.sleep(0.8)
                scene.node.reset()
                scene.beside.reset()
                time.sleep(0.3)
                fault(scene)
                scene.settle()
                beside.terminate()
                beside.wait()
                universe = scene.node.universe("artnet 0")
                gaps.setdefault(kind, []).append(universe["gap_max_ms"])
                discarded += universe["late"]
                bare.setdefault(kind, []).append(scene.beside.universe("artnet 1")["gap_max_ms"])
        finally:
            scene.stop()
    if not own:
        report.note("no file system of its own could be made: the full disks were left out")
    for kind in sorted(gaps):
        beside_ms = max(bare[kind])
        limit, against = (beside_ms + 50, "bare sender + 50 ms")
        if kind.startswith("engine"):
            limit, against = (2000.0, "stated") if "killed" in kind else (4000.0, "stated: 2 s to notice")
        report.row(f"longest gap, {kind} ({len(gaps[kind])} times)", max(gaps[kind]), "ms", limit, against, holds=True)
        report.note(f"bare sender meanwhile: {beside_ms:.1f} ms at the most")
    report.row("stored edits lost", scene.lost, "", 0, "none", holds=True)
    report.row("packets a receiver would discard", discarded, "", 0, "none", holds=True)
