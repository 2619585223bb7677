"""The machine that stands still now and then, as tests are tried on it."""

from __future__ import annotations

import subprocess
import sys
import threading
import time

import psutil

from tests.conftest import end_tree, wait_for
from tests.with_stops import stop_all


def test_all_is_stopped_and_goes_on_but_what_a_test_had_stopped() -> None:
    command = "sleep 600 & sleep 601 & wait"
    process = subprocess.Popen(["sh", "-c", command])
    try:
        root = psutil.Process(process.pid)
        wait_for(lambda: len(root.children()) == 2, 5, "it did not begin")
        first, second = root.children()
        first.suspend()
        wait_for(lambda: first.status() == psutil.STATUS_STOPPED, 5, "it is not stopped")
        stopping = threading.Thread(target=stop_all, args=(root, 2.0), daemon=True)
        stopping.start()
        wait_for(lambda: {one.status() for one in (root, first, second)} == {psutil.STATUS_STOPPED}, 2, "one runs")
        stopping.join(60)
        wait_for(lambda: second.status() == psutil.STATUS_SLEEPING, 5, "it does not go on")
        assert first.status() == psutil.STATUS_STOPPED
    finally:
        end_tree(process)


def test_its_exit_code_is_the_commands() -> None:
    begun = time.monotonic()
    code = subprocess.run([sys.executable, "-m", "tests.with_stops", "sh", "-c", "exit 3"], check=False).returncode
    assert code == 3
    assert time.monotonic() - begun < 55, "it waited for its minute"
