"""The virtual environment, installed from a hashed lock file."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

from launch.steps import ROOT, forget, hash_of, is_done, mark_done, run, saying

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"


def prepare(lock: str) -> None:
    """Brings `.venv` to `requirements/<lock>.lock`. The tests' lock holds all of the runtime's: any order works."""
    path = ROOT / "requirements" / f"{lock}.lock"
    inputs = hash_of([path], sys.version)
    if is_done(f"python-{lock}", inputs) and _works():
        return
    forget(f"python-{lock}")
    if not _works():
        with saying("making a virtual environment"):
            shutil.rmtree(VENV, ignore_errors=True)
            run([sys.executable, "-m", "venv", str(VENV)], what="Making the virtual environment")
    with saying(f"installing Python packages ({lock})"):
        pip = [str(PYTHON), "-m", "pip", "install", "--disable-pip-version-check", "--require-hashes", "-r", str(path)]
        run(pip, what="Installing Python packages", repair="Is the machine connected to the internet?")
    mark_done(f"python-{lock}", inputs)


def _works() -> bool:
    if not PYTHON.exists():
        return False
    if _home() != Path(sys.base_prefix) / "bin":  # made with another Python than this one
        return False
    return subprocess.run([str(PYTHON), "-c", "import pip"], capture_output=True).returncode == 0


def _home() -> Path | None:
    """Where the Python lies that the environment was made with."""
    try:
        lines = (VENV / "pyvenv.cfg").read_text().splitlines()
    except OSError:
        return None
    found = (line.partition("=") for line in lines)
    return next((Path(value.strip()) for name, _, value in found if name.strip() == "home"), None)


def tool(name: str) -> str:
    """Full path of a program of the environment."""
    return str(Path(VENV / "bin" / name))
