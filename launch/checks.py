"""`./heliograph test`: linters, types, unit tests of the front end, and pytest, in lanes side by side.

Each lane of pytest has a network of its own, so that they and a running Heliograph never meet.
"""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
import threading
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from launch import front_end
from launch.python_env import PYTHON, tool
from launch.steps import ROOT

OWN_NETWORK = 'ip link set lo up && exec "$@"'
"""Run inside `unshare --net`: only loopback."""

API = ("tests/api",)
BROWSER = ("tests/browser",)
LIVE = ("tests/live",)
OUTSIDE = ("tests/media", "tests/network", "tests/parsing", "tests/reference", "tests/standins")
"""Whole programs; and real media, hostile files, other hosts and dissectors: minutes, and waiting for most of them."""

SLOWEST = ("--durations=25", "--durations-min=4")
"""A whole run ends by naming what took its time."""

NOT_SLOW = ("-m", "not slow")

_COUNTS = re.compile(r"(\d+) (passed|failed|skipped|errors?|xfailed|xpassed|deselected)\b")


@dataclass(frozen=True, slots=True)
class Task:
    """One program of a lane."""

    name: str
    command: Sequence[str]
    folder: Path = ROOT


class Report:
    """What the lanes print, line by line, and what came of their tasks."""

    def __init__(self, env: dict[str, str]) -> None:
        self.env = {**env, "PYTHONUNBUFFERED": "1"}
        self.failed: list[str] = []
        self.counts: dict[str, int] = {}
        self._lock = threading.Lock()

    def run(self, lane: Sequence[Task]) -> None:
        """One task after another; each line it prints comes at once, with the task's name before it."""
        for task in lane:
            self._say(f"== {task.name}: begun")
            begun, last = time.monotonic(), ""
            with subprocess.Popen(
                task.command,
                cwd=task.folder,
                env=self.env,
                stdout=subprocess.PIPE,
                stderr=subprocess.STDOUT,
                text=True,
                errors="replace",
            ) as process:
                for line in process.stdout or ():
                    last = line if line.strip() else last
                    self._say(f"{task.name} | {line.rstrip()}")
            took = time.monotonic() - begun
            with self._lock:
                for count, what in _COUNTS.findall(last):
                    self.counts[what] = self.counts.get(what, 0) + int(count)
                if process.returncode:
                    self.failed.append(task.name)
            self._say(f"== {task.name}: {'FAILED' if process.returncode else 'ok'} ({took:.1f} s)")

    def _say(self, text: str) -> None:
        with self._lock:
            print(text, flush=True)


def run_checks(arguments: list[str]) -> int:
    """Runs everything; `--quick` leaves out the browser and whole programs; with other arguments, only pytest with
    them. Returns the exit code."""
    env = front_end.install()
    env = {**env, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}", "MYPYPATH": str(ROOT / "src")}
    env.pop("PYTHONDONTWRITEBYTECODE", None)  # each of hundreds of processes would compile all anew
    if arguments and arguments != ["--quick"]:
        return subprocess.run(_pytest(*arguments), cwd=ROOT, env=env).returncode
    begun = time.monotonic()
    report = Report(env)
    threads = [threading.Thread(target=report.run, args=(lane,)) for lane in lanes(bool(arguments))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    counted = ", ".join(f"{count} {what}" for what, count in report.counts.items())
    print(f"{counted} in {time.monotonic() - begun:.0f} s", flush=True)
    if report.failed:
        print(f"Failed: {', '.join(report.failed)}", file=sys.stderr)
    return 1 if report.failed else 0


def lanes(quick: bool) -> list[list[Task]]:
    """What runs side by side: as many lanes as a machine of two cores and tests that mostly wait can bear; one where
    they would meet in one network."""
    static = [
        Task("ruff check", [tool("ruff"), "check", "."]),
        Task("ruff format", [tool("ruff"), "format", "--check", "."]),
        Task("mypy", [tool("mypy")]),
        Task("biome", ["npm", "run", "--silent", "lint"], front_end.WEB),
        Task("tsc", ["npm", "run", "--silent", "types"], front_end.WEB),
        Task("vitest", ["npm", "run", "--silent", "test"], front_end.WEB),
    ]
    if quick:
        rules = Task("rules", _pytest(*NOT_SLOW, *_without(*API, *BROWSER, *LIVE, *OUTSIDE)))
        api = Task("api", _pytest(*NOT_SLOW, *API))
        return [[*static, rules], [api]] if _own_network() else [[*static, rules, api]]
    most = Task("pytest", _pytest(*SLOWEST, *_without(*BROWSER, *LIVE)))
    browser, live = Task("browser", _pytest(*SLOWEST, *BROWSER)), Task("live", _pytest(*SLOWEST, *LIVE))
    return [[*static, most], [browser], [live]] if _own_network() else [[*static, most, browser, live]]


def _without(*folders: str) -> list[str]:
    return [f"--ignore={folder}" for folder in folders]


def _pytest(*arguments: str) -> list[str]:
    return [*_own_network(), str(PYTHON), "-m", "pytest", *arguments]


def _own_network() -> list[str]:
    """A prefix that gives the tests a network namespace, where the system allows one."""
    if shutil.which("unshare") is None or shutil.which("ip") is None:
        return []
    options = ["--net"] if os.geteuid() == 0 else ["--net", "--map-root-user"]
    probe = subprocess.run(["unshare", *options, "sh", "-c", "ip link set lo up"], capture_output=True)
    if probe.returncode or os.geteuid() != 0:
        return []  # a mapped root would look like root to the database, which refuses it
    return ["unshare", *options, "sh", "-c", OWN_NETWORK, "own-network"]
