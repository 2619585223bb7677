"""`./heliograph test`: linters, types, unit tests of the front end, then pytest in a network of its own."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import time

from launch import front_end
from launch.python_env import PYTHON, tool
from launch.steps import ROOT

OWN_NETWORK = 'ip link set lo up && exec "$@"'
"""Run inside `unshare --net`: only loopback, so a running Heliograph and the tests never meet."""


def run_checks(arguments: list[str]) -> int:
    """Runs everything; with arguments, only pytest with them. Returns the exit code."""
    env = front_end.install()
    env = {**env, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}", "MYPYPATH": str(ROOT / "src")}
    failed = []
    if not arguments:
        for name, command, folder in (
            ("ruff check", [tool("ruff"), "check", "."], ROOT),
            ("ruff format", [tool("ruff"), "format", "--check", "."], ROOT),
            ("mypy", [tool("mypy")], ROOT),
            ("biome", ["npm", "run", "--silent", "lint"], front_end.WEB),
            ("tsc", ["npm", "run", "--silent", "types"], front_end.WEB),
            ("vitest", ["npm", "run", "--silent", "test"], front_end.WEB),
        ):
            begun = time.monotonic()
            code = subprocess.run(command, cwd=folder, env=env).returncode
            print(f"== {name}: {'ok' if code == 0 else 'FAILED'} ({time.monotonic() - begun:.1f} s)", flush=True)
            if code:
                failed.append(name)
    command = [*_own_network(), str(PYTHON), "-m", "pytest", *arguments]
    code = subprocess.run(command, cwd=ROOT, env=env).returncode
    if code:
        failed.append("pytest")
    if failed:
        print(f"Failed: {', '.join(failed)}", file=sys.stderr)
    return 1 if failed else 0


def _own_network() -> list[str]:
    """A prefix that gives the tests a network namespace, where the system allows one."""
    if shutil.which("unshare") is None or shutil.which("ip") is None:
        return []
    options = ["--net"] if os.geteuid() == 0 else ["--net", "--map-root-user"]
    probe = subprocess.run(["unshare", *options, "sh", "-c", "ip link set lo up"], capture_output=True)
    if probe.returncode or os.geteuid() != 0:
        return []  # a mapped root would look like root to the database, which refuses it
    return ["unshare", *options, "sh", "-c", OWN_NETWORK, "own-network"]
