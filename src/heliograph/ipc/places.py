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
    """The folder for a data folder's frame files: our own (mode 0700) in memory, else in `data` itself."""
    name = hashlib.sha256(str(data.resolve()).encode()).hexdigest()[:16]
    folder = MEMORY / f"heliograph-{os.getuid()}-{name}"
    try:
        folder.mkdir(mode=0o700, exist_ok=True)
        facts = folder.lstat()
    except OSError:
        return data
    ours = facts.st_uid == os.getuid() and facts.st_mode & 0o077 == 0 and folder.is_dir() and not folder.is_symlink()
    return folder if ours else data
