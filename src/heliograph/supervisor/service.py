"""A service file for systemd, so that a machine that is switched on plays by itself; made and removed again."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Sequence
from pathlib import Path

from heliograph.supervisor.say import StartError

NAME = "heliograph.service"
MADE_BY = "# Made by ./heliograph service; ./heliograph service --remove takes it away."

SYSTEM, USER = Path("/etc/systemd/system"), Path.home() / ".config" / "systemd" / "user"


def default_folder() -> Path:
    """Of all users where this is root's, else of this one."""
    return SYSTEM if os.getuid() == 0 else USER


def unit_text(program: Path, options: Sequence[str], system: bool) -> str:
    """The unit: it starts when the network is there, is started again whatever ends it, and ends as Ctrl-C does."""
    command = " ".join(quoted(one) for one in (str(program), "up", "--unattended", *options))
    return f"""{MADE_BY}
[Unit]
Description=Heliograph: pixels across Art-Net and sACN
Documentation={(program.parent / "README.md").as_uri().replace("%", "%%")}
Wants=network-online.target
After=network-online.target

[Service]
ExecStart={command}
WorkingDirectory={str(program.parent).replace("%", "%%")}
KillMode=mixed
KillSignal=SIGTERM
TimeoutStartSec=600
TimeoutStopSec=40
Restart=always
RestartSec=2

[Install]
WantedBy={"multi-user.target" if system else "default.target"}
"""


def quoted(word: str) -> str:
    """A word of a command as systemd reads it."""
    plain = word.replace("\\", "\\\\").replace('"', '\\"').replace("%", "%%").replace("$", "$$")
    return f'"{plain}"' if set(plain) & set(" \t'\"\\;") else plain


def install(folder: Path, program: Path, options: Sequence[str]) -> list[str]:
    """Writes the file and lets systemd take it up; sentences for whoever asked. StartError where that cannot be."""
    path = folder / NAME
    if path.exists() and MADE_BY not in _read(path):
        raise StartError(f"{path} was not made by Heliograph and stays as it is. Move it away first.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        path.write_text(unit_text(program, options, folder == SYSTEM))
    except OSError as error:
        raise StartError(f"{path} cannot be written: {error.strerror}. As root: sudo ./heliograph service") from error
    said = [f"Made {path}."]
    commands = (["daemon-reload"], ["enable", "--now", NAME])
    return said + _systemd(folder, commands, "Heliograph starts now, and whenever this machine is switched on.")


def remove(folder: Path) -> list[str]:
    """Takes the file away again: what it starts is ended."""
    path = folder / NAME
    if not path.exists():
        return [f"There is no {path}."]
    if MADE_BY not in _read(path):
        raise StartError(f"{path} was not made by Heliograph and stays as it is.")
    said = _systemd(folder, (["disable", "--now", NAME],), "It was ended.")
    try:
        path.unlink()
    except OSError as error:
        raise StartError(f"{path} cannot be removed: {error.strerror}.") from error
    return [*said, *_systemd(folder, (["daemon-reload"],), ""), f"Removed {path}."]


def _read(path: Path) -> str:
    try:
        return path.read_text(errors="replace")
    except OSError:
        return ""


def _systemd(folder: Path, commands: Sequence[Sequence[str]], done: str) -> list[str]:
    """Runs these where systemd runs this machine and the folder is its own; else says how."""
    words = [["systemctl", *([] if folder != USER else ["--user"]), *one] for one in commands]
    runs = Path("/run/systemd/system").is_dir() and shutil.which("systemctl") is not None
    if folder not in (SYSTEM, USER) or not runs:
        return [f"Then: {' '.join(one)}" for one in words]
    for one in words:
        ended = subprocess.run(one, capture_output=True, text=True, check=False)
        if ended.returncode:
            raise StartError(f"{' '.join(one)} says: {ended.stderr.strip() or ended.returncode}")
    return [done] if done else []
