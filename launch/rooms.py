"""Where a run of tests lives: a folder held by a lock, a network and processes of its own for each lane; and what is
left of runs that were killed."""

from __future__ import annotations

import contextlib
import fcntl
import os
import shutil
import signal
import subprocess
import tempfile
import time
from pathlib import Path

MARK = "HELIOGRAPH_TEST_RUN"
"""In the environment of all that a run starts: the name of its folder."""

PREFIX = "heliograph-tests-"

UNHELD = "heliograph-making-"
"""A run's folder until its lock is held; one that is older than `FORGOTTEN_S` was left by a run that was killed."""

FORGOTTEN_S = 3600.0

INSIDE = 'ip link set lo up; "$@"; code=$?; exit $code'
"""The shell stays: it is process 1 of its room and collects those whose parents are gone."""

ENDS_WITH_US = ["setpriv", "--pdeathsig", "KILL"]
"""A launcher that is killed takes its lanes along, and the kernel then ends all that lives in their rooms."""


class RunFolder:
    """A folder for all that a run's tests write; held, so that others can tell whether the run lives."""

    def __init__(self) -> None:
        made = Path(tempfile.mkdtemp(prefix=UNHELD))
        made.chmod(0o711)  # the database's own user must pass through it
        self._lock = open(made / "lock", "w")  # noqa: SIM115 (held as long as the run lives)
        fcntl.flock(self._lock, fcntl.LOCK_EX)
        self.folder = made.rename(made.with_name(made.name.replace(UNHELD, PREFIX, 1)))  # seen only when held

    @property
    def environment(self) -> dict[str, str]:
        return {MARK: self.folder.name}

    def end(self, keep: bool) -> None:
        """What failed can be looked at until the next run; what went well is removed."""
        self._lock.close()
        if not keep:
            shutil.rmtree(self.folder, ignore_errors=True)


def clear_left_over() -> list[str]:
    """Ends processes and removes folders of runs that are over, those of this user alone. Returns what it did, in
    sentences."""
    said = []
    place = Path(tempfile.gettempdir())
    for folder in sorted([*place.glob(f"{PREFIX}*"), *place.glob(f"{UNHELD}*")]):
        with contextlib.suppress(OSError):
            if folder.stat().st_uid != os.getuid() or not _is_over(folder):
                continue
            ended = [pid for pid in _marked(folder.name) if _killed(pid)]
            shutil.rmtree(folder, ignore_errors=True)
            processes = f", and {len(ended)} of its processes, which still ran, ended" if ended else ""
            said.append(f"{folder}, left by a run that is over, is removed{processes}")
    return said


def _is_over(folder: Path) -> bool:
    """Whether nobody holds it any more."""
    old = time.time() - folder.stat().st_mtime > FORGOTTEN_S
    if folder.name.startswith(UNHELD) and not old:
        return False
    try:
        lock = open(folder / "lock", "r+")  # noqa: SIM115 (closed by the with below)
    except FileNotFoundError:
        return old and not _marked(folder.name)
    with lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return False
    return True


def _marked(name: str) -> list[int]:
    """Processes that a run of this name started and that live."""
    mark = f"{MARK}={name}".encode()
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit() and int(entry.name) != os.getpid():
            with contextlib.suppress(OSError):
                if mark in (entry / "environ").read_bytes().split(b"\0"):
                    found.append(int(entry.name))
    return found


def _killed(pid: int) -> bool:
    with contextlib.suppress(OSError):
        os.kill(pid, signal.SIGKILL)
        return True
    return False


def own_room() -> list[str]:
    """A prefix that gives a command a network and, where the system allows it, processes of its own; [] where it allows
    neither. Tests of two lanes must not meet on the wire, and nothing may outlive its lane."""
    if os.geteuid() != 0 or shutil.which("ip") is None or shutil.which("unshare") is None:
        return []  # a mapped root would look like root to the database, which refuses it
    tied = ENDS_WITH_US if shutil.which("setpriv") else []
    for options in (["--net", "--pid", "--fork", "--kill-child", "--mount-proc"], ["--net"]):
        prefix = [*tied, "unshare", *options, "sh", "-c", INSIDE, "own-room"]
        if subprocess.run([*prefix, "true"], capture_output=True).returncode == 0:
            return prefix
    return []
