"""Finding the Heliograph that runs with a data folder: `./heliograph status` and `./heliograph down`."""

from __future__ import annotations

import fcntl
import json
import os
import signal
import time
from pathlib import Path

from heliograph.core.errors import HeliographError
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages.engine import AskStatus
from heliograph.supervisor.say import StartError

DOWN_S = 60.0


def note_running(data: Path, address: str, **more: object) -> None:
    """Leaves word where it runs; only its owner reads it."""
    path = data / "run" / "running.json"
    path.touch(mode=0o600)
    path.write_text(json.dumps({"address": address, "pid": os.getpid(), **more}))


def forget_running(data: Path) -> None:
    (data / "run" / "running.json").unlink(missing_ok=True)


def is_running(data: Path) -> bool:
    """Whether somebody holds the data folder's lock."""
    try:
        with open(data / "run" / "lock", "r+") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                return True
            fcntl.flock(lock, fcntl.LOCK_UN)
    except OSError:
        return False
    return False


def running_note(data: Path) -> dict[str, object]:
    """What the running one left; empty where there is none or it is still starting."""
    try:
        note: dict[str, object] = json.loads((data / "run" / "running.json").read_text())
    except (OSError, ValueError):
        return {}
    return note


def say_status(data: Path) -> str:
    """A few sentences; StartError where nothing runs there."""
    if not is_running(data):
        raise StartError(f"Heliograph does not run with the data folder {data}.")
    note = running_note(data)
    lines = [f"Heliograph is up: {note['address']}" if note else "Heliograph is starting."]
    engine = ControlClient(str(data / "run" / "engine.sock"), "engine", timeout_s=2.0)
    try:
        status = engine.ask(AskStatus())
    except HeliographError as error:
        lines.append(str(error))
        return "\n".join(lines)
    state, stats = status.state, status.stats
    universes = sum(one.universes for one in status.outputs)
    lines.append(f"{stats.get('frames_per_s', 0):.1f} frames/s, {universes} universes, {len(state.running)} looks on")
    armed = len(state.armed)
    lines.append(f"Lasers: {armed} armed." if armed else "Lasers: safe.")
    if state.blackout:
        lines.append("Blackout is on.")
    lines += [f"Output {one.id} fails: {one.last_error}" for one in status.outputs if one.last_error]
    return "\n".join(lines)


def end_running(data: Path) -> None:
    """Asks the running one to end and waits for it; StartError where there is none, or it does not end."""
    if not is_running(data):
        raise StartError(f"Heliograph does not run with the data folder {data}.")
    pid = running_note(data).get("pid") or _pid_in(data / "run" / "lock")
    if not isinstance(pid, int):
        raise StartError("Heliograph is still starting: try again in a moment, or press Ctrl-C where it was started.")
    os.kill(pid, signal.SIGTERM)
    until = time.monotonic() + DOWN_S
    while is_running(data):
        if time.monotonic() > until:
            raise StartError(f"Heliograph (process {pid}) does not end.")
        time.sleep(0.05)


def _pid_in(path: Path) -> int | None:
    try:
        return int(path.read_text())
    except (OSError, ValueError):
        return None
