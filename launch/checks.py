"""`./heliograph test`: linters, types, unit tests of the front end, and pytest, in lanes side by side.

Each lane of pytest has a network of its own, so that they and a running Heliograph never meet. What comes of a whole
run is said by `launch/gate.py`.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from typing import NoReturn

from launch import front_end, gate
from launch.lanes import Lanes, Task
from launch.python_env import PYTHON, tool
from launch.rooms import RunFolder, clear_left_over, own_room
from launch.stalls import StallMeter
from launch.steps import ROOT

PURE = ("tests/core", "tests/effects", "tests/wire", "tests/test_structure.py")
"""Need a processor and nothing else: what they find wrong is wrong."""
API = ("tests/api",)
BROWSER = ("tests/browser",)
LIVE = ("tests/live",)
OUTSIDE = ("tests/media", "tests/network", "tests/parsing", "tests/reference", "tests/standins")
"""Whole programs; and real media, hostile files, other hosts and dissectors: minutes, and waiting for most of them."""

WHOLE = ("--durations=25", "--durations-min=4", "--hypothesis-profile=whole")
"""A whole run ends by naming what took its time, and asks each time the same."""

NOT_SLOW = ("-m", "not slow")

KNOWN = ROOT / "tests" / "known_unstable.txt"

LIMIT_S = 4800.0
"""A whole run on a machine that gives a quarter of what it should."""


def run_checks(arguments: list[str]) -> int:
    """Runs everything; `--quick` leaves out the browser and whole programs; with other arguments, only pytest with
    them. Returns the exit code."""
    env = front_end.install()
    env = {**env, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}", "MYPYPATH": str(ROOT / "src")}
    env.pop("PYTHONDONTWRITEBYTECODE", None)  # each of hundreds of processes would compile all anew
    for sentence in clear_left_over():
        print(f"  {sentence}", flush=True)
    for number in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _ended)
    run = RunFolder()
    env |= run.environment
    failed = True
    try:
        if arguments and arguments != ["--quick"]:
            command = _tests(run, "typed", *arguments).command
            failed = (code := subprocess.run(command, cwd=ROOT, env=env).returncode) != 0
            return code
        verdict = _whole(run, env, bool(arguments))
        failed = bool(verdict.red or verdict.unstable)
        return 1 if verdict.red else 0
    except KeyboardInterrupt:
        return 130
    finally:
        if failed:
            print(f"  what failed lies in {run.folder} until the next run", flush=True)
        run.end(keep=failed)


def _whole(run: RunFolder, env: dict[str, str], quick: bool) -> gate.Verdict:
    begun = time.monotonic()
    lanes = Lanes(env, begun + LIMIT_S)
    with StallMeter() as meter:
        lanes.run(lanes_of(run, quick))
        verdict = gate.judged(
            lanes, meter, lambda name, test: _tests(run, name, *WHOLE, test), gate.known_causes(KNOWN)
        )
    for one in verdict.unstable:
        print(f"UNSTABLE {one}", flush=True)
    print(verdict.closing_line(time.monotonic() - begun), flush=True)
    for sentence in verdict.red:
        print(f"FAILED: {sentence}", file=sys.stderr, flush=True)
    return verdict


def _ended(number: int, _frame: object) -> NoReturn:
    sys.exit(128 + number)


def lanes_of(run: RunFolder, quick: bool) -> list[list[Task]]:
    """What runs side by side: as many lanes as a machine of two cores and tests that mostly wait can bear; one where
    they would meet in one network."""
    static = [
        Task("ruff check", [tool("ruff"), "check", "."], final=True),
        Task("ruff format", [tool("ruff"), "format", "--check", "."], final=True),
        Task("mypy", [tool("mypy")], final=True),
        Task("biome", ["npm", "run", "--silent", "lint"], front_end.WEB, final=True),
        Task("tsc", ["npm", "run", "--silent", "types"], front_end.WEB, final=True),
        Task("vitest", ["npm", "run", "--silent", "test"], front_end.WEB, final=True),
    ]
    some = NOT_SLOW if quick else ()
    pure = _tests(run, "pure", *WHOLE, *some, *PURE, final=True)
    if quick:
        rules = _tests(run, "rules", *some, *_without(*PURE, *API, *BROWSER, *LIVE, *OUTSIDE))
        lanes = [[*static, pure, rules], [_tests(run, "api", *some, *API)]]
    else:
        rest = _tests(run, "rest", *WHOLE, *_without(*PURE, *BROWSER, *LIVE))
        browser, live = _tests(run, "browser", *WHOLE, *BROWSER), _tests(run, "live", *WHOLE, *LIVE)
        lanes = [[*static, pure, rest], [browser], [live]]
    return lanes if own_room() else [[task for lane in lanes for task in lane]]


def _without(*folders: str) -> list[str]:
    return [f"--ignore={folder}" for folder in folders]


def _tests(run: RunFolder, name: str, *arguments: str, final: bool = False) -> Task:
    """Pytest in a room of its own, with a folder and a log of its own."""
    log = run.folder / f"{name}.log"
    own = [f"--basetemp={run.folder / name}", f"--report-log={log}"]
    return Task(name, [*own_room(), str(PYTHON), "-m", "pytest", *own, *arguments], log=log, final=final)
