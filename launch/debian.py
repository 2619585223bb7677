"""Debian packages that are missing: installed as root or through sudo, else named in one command."""

from __future__ import annotations

import os
import shutil
import subprocess
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from launch.steps import LaunchError, run, saying


@dataclass(frozen=True, slots=True)
class Package:
    """A package and how to tell that what it brings is there."""

    name: str
    there: Callable[[], bool]


def _has_postgres() -> bool:
    return any(Path("/usr/lib/postgresql").glob("*/bin/postgres"))


def _has_venv() -> bool:
    try:
        import ensurepip  # noqa: F401
        import venv  # noqa: F401
    except ImportError:
        return False
    return True


def _program(name: str) -> Callable[[], bool]:
    return lambda: shutil.which(name) is not None or Path(f"/usr/sbin/{name}").exists()


def _file(path: str) -> Callable[[], bool]:
    return lambda: any(Path("/").glob(path))


TO_RUN = (
    Package("postgresql", _has_postgres),
    Package("python3-venv", _has_venv),
    Package("fonts-dejavu-core", _file("usr/share/fonts/truetype/dejavu/DejaVuSans.ttf")),
    Package("fonts-unifont", _file("usr/share/fonts/*/unifont/unifont.*")),
)
TO_TEST = (
    *TO_RUN,
    Package("chromium", _program("chromium")),
    Package("chromium-driver", _program("chromedriver")),
    Package("tshark", _program("tshark")),
    Package("iproute2", _program("ip")),
)


def install(packages: tuple[Package, ...]) -> None:
    """Installs what is missing of `packages`; LaunchError with the one command where we may not."""
    missing = [package.name for package in packages if not package.there()]
    if not missing:
        return
    words = " ".join(missing)
    if shutil.which("apt-get") is None:
        raise LaunchError(f"Heliograph needs these programs: {words}. Install them, then start again.")
    prefix = _prefix()
    if prefix is None:
        raise LaunchError(
            "Some Debian packages are missing. Install them with this one command, then start again:\n"
            f"  sudo sh -c 'apt-get update && apt-get install -y {words}'"
        )
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    with saying(f"installing Debian packages: {words}"):
        run([*prefix, "apt-get", "update"], what="Reading Debian's package lists", env=env)
        run(
            [*prefix, "apt-get", "install", "-y", "--no-install-recommends", *missing],
            what=f"Installing {words}",
            env=env,
        )


def _prefix() -> list[str] | None:
    if os.geteuid() == 0:
        return []
    if shutil.which("sudo") and subprocess.run(["sudo", "-n", "true"], capture_output=True).returncode == 0:
        return ["sudo", "-n"]
    return None
