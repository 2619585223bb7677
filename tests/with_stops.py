"""Runs a command and stops all that it began for a few seconds, once a minute at a random moment: what a machine that
is shared with others does. `python -m tests.with_stops ./heliograph test`."""

from __future__ import annotations

import contextlib
import random
import signal
import subprocess
import sys
import time

import psutil

EVERY_S, STOPPED_S = 60.0, 3.0


def stop_all(root: psutil.Process, seconds: float) -> int:
    """Stops `root` and all its descendants; what a test had stopped already stays stopped afterwards. Returns how many
    were stopped."""
    stopped = []
    for one in [root, *root.children(recursive=True)]:
        with contextlib.suppress(psutil.Error):
            if one.status() not in (psutil.STATUS_STOPPED, psutil.STATUS_ZOMBIE):
                one.send_signal(signal.SIGSTOP)
                stopped.append(one)
    time.sleep(seconds)
    for one in reversed(stopped):  # children first: who sees them late is who was stopped longest
        with contextlib.suppress(psutil.Error):
            one.send_signal(signal.SIGCONT)
    return len(stopped)


def main(command: list[str]) -> int:
    """Returns the command's exit code."""
    chance = random.Random(20261202)
    process = subprocess.Popen(command)
    root, times = psutil.Process(process.pid), 0
    while process.poll() is None:
        moment = chance.uniform(0, EVERY_S - STOPPED_S)
        with contextlib.suppress(subprocess.TimeoutExpired):
            process.wait(moment)
            break
        count, times = stop_all(root, STOPPED_S), times + 1
        print(f"  stop {times}: {count} processes for {STOPPED_S:.0f} s", flush=True)
        with contextlib.suppress(subprocess.TimeoutExpired):
            process.wait(EVERY_S - STOPPED_S - moment)
    return process.wait()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
