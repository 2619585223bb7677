"""The virtual environment, installed from a hashed lock file."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

from launch.steps import ROOT, STATE, forget, hash_of, is_done, mark_done, run, saying

VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"


def make() -> None:
    """Makes `.venv` where there is none that works."""
    if not works():
        with saying("making a virtual environment"):
            shutil.rmtree(VENV, ignore_errors=True)
            run([sys.executable, "-m", "venv", str(VENV)], what="Making the virtual environment")


def prepare_first(lock: str, names: tuple[str, ...]) -> None:
    """Installs some packages of a lock before all others, because something waits for them."""
    blocks = re.split(r"\n(?=[A-Za-z0-9])", (ROOT / "requirements" / f"{lock}.lock").read_text())
    wanted = [block for block in blocks if block.partition("==")[0] in names]
    make()
    part = STATE / f"{names[0]}.lock"
    part.write_text("\n".join(wanted) + "\n")
    with saying(f"installing {names[0]}"):
        pip = [str(PYTHON), "-m", "pip", "install", "--disable-pip-version-check", "--no-deps", "--require-hashes"]
        run([*pip, "-r", str(part)], what=f"Installing {names[0]}", repair="Is the machine connected to the internet?")


def prepare(lock: str) -> None:
    """Brings `.venv` to `requirements/<lock>.lock`. The tests' lock holds all of the runtime's: any order works."""
    path = ROOT / "requirements" / f"{lock}.lock"
    inputs = hash_of([path], sys.version)
    if is_done(f"python-{lock}", inputs) and works():
        return
    forget(f"python-{lock}")
    make()
    with saying(f"installing Python packages ({lock})"):
        pip = [str(PYTHON), "-m", "pip", "install", "--disable-pip-version-check", "--require-hashes", "-r", str(path)]
        run(pip, what="Installing Python packages", repair="Is the machine connected to the internet?")
    mark_done(f"python-{lock}", inputs)


def compile_sources() -> None:
    """Compiles our own modules where they changed: our processes that run without rights may write nothing beside them
    and would compile them at every start. A checkout that cannot be written to runs without."""
    if os.access(ROOT / "src", os.W_OK):
        subprocess.run([str(PYTHON), "-m", "compileall", "-q", str(ROOT / "src")], capture_output=True)


def works() -> bool:
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
