"""Steps that run only when their inputs changed: each leaves a stamp with the hash of what it was made from."""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import re
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
STATE = ROOT / ".launch"


class LaunchError(Exception):
    """Preparing is not possible; the text is what the person can do."""


@contextlib.contextmanager
def one_at_a_time() -> Iterator[None]:
    """Two starts at once do not harm each other: the second waits for the first's preparations."""
    try:
        STATE.mkdir(exist_ok=True)
        lock = open(STATE / "lock", "w")  # noqa: SIM115 (closed by the with below)
    except OSError as error:
        raise LaunchError(
            f"{ROOT} cannot be written to ({error.strerror}): Heliograph installs itself there."
        ) from error
    with lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            print("  another start is preparing this folder; waiting for it", flush=True)
            fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def hash_of(paths: Iterable[Path], *words: str) -> str:
    """Hash of files, of all files below folders, and of words."""
    digest = hashlib.sha256(repr(words).encode())
    for path in paths:
        files = sorted(p for p in path.rglob("*") if p.is_file()) if path.is_dir() else [path]
        for file in files:
            digest.update(str(file.relative_to(ROOT)).encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()


def is_done(name: str, inputs: str) -> bool:
    try:
        return (STATE / f"{name}.stamp").read_text() == inputs
    except OSError:
        return False


def mark_done(name: str, inputs: str) -> None:
    (STATE / f"{name}.stamp").write_text(inputs)


def forget(name: str) -> None:
    """Before a step begins: an interrupted one must not look done."""
    (STATE / f"{name}.stamp").unlink(missing_ok=True)


_BUSY: list[str] = []
_SAYING = threading.Lock()


@contextlib.contextmanager
def saying(text: str) -> Iterator[None]:
    """Says what is done and how long it took; steps may be done side by side."""
    begun = time.monotonic()
    with _SAYING:
        _BUSY.append(text)
        _say_busy()
    try:
        yield
    finally:
        with _SAYING:
            _BUSY.remove(text)
    with _SAYING:
        print(f"  {text:<58} {time.monotonic() - begun:6.1f} s", flush=True)
        _say_busy()


def _say_busy() -> None:
    """On a terminal the last line is what is being done now."""
    if _BUSY and sys.stdout.isatty():
        print(f"  {', '.join(_BUSY)} ..."[:78].ljust(78), end="\r", flush=True)


@contextlib.contextmanager
def beside(work: Callable[[], object]) -> Iterator[None]:
    """Does `work` in a thread beside what is done within; what it cannot do is raised at the end."""
    wrong: list[LaunchError] = []

    def do() -> None:
        try:
            work()
        except LaunchError as error:
            wrong.append(error)

    thread = threading.Thread(target=do, name="beside")
    thread.start()
    try:
        yield
    finally:
        thread.join()  # a Ctrl-C reaches its programs too
    if wrong:
        raise wrong[0]


def run(
    command: list[str], *, what: str, repair: str = "", cwd: Path = ROOT, env: dict[str, str] | None = None
) -> None:
    """Runs a command quietly; on failure its last lines are shown with what can be done."""
    log = STATE / f"{re.sub('[^a-z]+', '-', what.lower()).strip('-')}.log"
    with open(log, "wb") as out:
        done = subprocess.run(command, stdin=subprocess.DEVNULL, stdout=out, stderr=out, cwd=cwd, env=env)
    if done.returncode:
        lines = log.read_text(errors="replace").strip().splitlines()[-8:]
        tail = "\n".join(f"    {line}" for line in lines)
        raise LaunchError(f"{what} failed. {repair}\n{tail}\n  The whole log is {log}.".replace(" \n", "\n"))
