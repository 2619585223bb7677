"""Where files that are written every frame live: in memory where the system has such a place.

Writing to a mapped file on a disk waits while its page is being written back; under the load of other
programs that made the frame loop miss frames. A file in /dev/shm is never written back.
"""

from __future__ import annotations

import hashlib
import os
from pathlib import Path

MEMORY = Path("/dev/shm")


def fast_folder(data: Path) -> Path:
    """The folder for a data folder's frame files: its owner's (mode 0700) in memory, else in `data` itself."""
    name = hashlib.sha256(str(data.resolve()).encode()).hexdigest()[:16]
    owner = _owner(data)
    folder = MEMORY / f"heliograph-{owner}-{name}"
    try:
        folder.mkdir(mode=0o700, exist_ok=True)
        facts = folder.lstat()
        if facts.st_uid != owner and facts.st_uid == os.getuid() == 0:
            os.chown(folder, owner, -1, follow_symlinks=False)
            facts = folder.lstat()
    except OSError:
        return data
    ours = facts.st_uid == owner and facts.st_mode & 0o077 == 0 and folder.is_dir() and not folder.is_symlink()
    return folder if ours else data


def _owner(data: Path) -> int:
    """Whose the data folder is: a root engine and its readers, who are not root, mean the same folder."""
    try:
        return (data / "run").stat().st_uid if os.getuid() == 0 else os.getuid()
    except OSError:
        return os.getuid()
