"""Files that must survive a power cut: written beside their place, forced to disk, put in place, the folder too."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path


def write_durably(path: Path, content: bytes, mode: int = 0o644) -> None:
    """Replaces the file as a whole or, where that fails (OSError: a full disk), leaves it as it was."""
    temporary = path.with_name(f"{path.name}.{os.getpid()}.new")
    try:
        with open(os.open(temporary, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, mode), "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        put_in_place(temporary, path)
    except BaseException:
        with contextlib.suppress(OSError):
            temporary.unlink()
        raise


def put_in_place(temporary: Path, path: Path) -> None:
    """Renames a file that is complete, and forces the folder to disk so that the name survives as well."""
    os.replace(temporary, path)
    sync(path.parent)


def sync(path: Path) -> None:
    """Forces to disk what another program wrote: a file, or a folder and so the names in it."""
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
