"""Child processes: restarted with growing pauses, ended by id, orphans recognised by their command line."""

from __future__ import annotations

import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import Any

from heliograph.supervisor.children import PAUSES_S, Child, Family, end_left_over
from tests.conftest import wait_for


class Silent:
    def __init__(self) -> None:
        self.said: list[str] = []

    def warning(self, text: str, **_: Any) -> None:
        self.said.append(text)

    error = info = warning


def child(folder: Path, code: str, name: str = "part") -> Child:
    for part in ("log", "run"):
        (folder / part).mkdir(exist_ok=True)
    return Child(name, lambda: ([sys.executable, "-c", code], {}), folder / "log" / f"{name}.out")


def test_what_ends_is_started_again_and_said(tmp_path: Path) -> None:
    log = Silent()
    family = Family(log)
    one = family.add(child(tmp_path, "import time; time.sleep(60)"))
    watching = threading.Thread(target=family.watch, daemon=True)
    watching.start()
    try:
        first = one.pid
        assert one.process is not None
        one.process.kill()
        wait_for(lambda: one.process is not None and one.pid not in (0, first), 5)
        wait_for(lambda: (tmp_path / "run" / "part.pid").read_text() == str(one.pid), 5, "its id is not noted")
    finally:
        family.stop()
        watching.join(60)
    assert not Path(f"/proc/{one.pid}").exists()
    assert log.said == ["part ended (SIGKILL), it is started again"]


def test_what_keeps_ending_is_given_pauses(tmp_path: Path) -> None:
    one = child(tmp_path, "pass")
    now = time.monotonic()
    one.started_s = now
    waits = []
    for _ in range(8):
        one.plan_restart(now)
        waits.append(round(one.due_s - now, 1))
    assert waits == [*PAUSES_S[1:], PAUSES_S[-1], PAUSES_S[-1], PAUSES_S[-1]]
    one.started_s = now - 60
    one.plan_restart(now)
    assert one.due_s == now  # it had lived long: at once again


def test_only_an_orphan_of_ours_is_ended(tmp_path: Path) -> None:
    code = "import time; time.sleep(60)"
    ours = subprocess.Popen([sys.executable, "-c", code, "--data", str(tmp_path)])
    other = subprocess.Popen([sys.executable, "-c", code])
    time.sleep(0.3)
    try:
        for one in (ours, other):
            (tmp_path / "pid").write_text(str(one.pid))
            threading.Thread(target=one.wait, daemon=True).start()  # so that it does not stay a zombie
            end_left_over(tmp_path / "pid", str(tmp_path))
        wait_for(lambda: ours.poll() is not None, 5)
        assert other.poll() is None
        (tmp_path / "pid").write_text("not a number")
        end_left_over(tmp_path / "pid", str(tmp_path))
    finally:
        other.kill()
        ours.kill()
