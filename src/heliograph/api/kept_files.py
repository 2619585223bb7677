"""Files that belong to a show, such as manuals and pictures of plans: kept once for each content, by its hash."""

from __future__ import annotations

import hashlib
from pathlib import Path

from heliograph.api.context import Context
from heliograph.ipc.durable import put_in_place, sync, write_durably


def files_folder(context: Context) -> Path:
    folder = context.settings.data / "media" / "files"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def keep_file(context: Context, raw: bytes, suffix: str) -> str:
    """Keeps a content and answers its name: SHA-256 in hex, to which `suffix` (".pdf") is added in the folder."""
    content = hashlib.sha256(raw).hexdigest()
    target = files_folder(context) / f"{content}{suffix}"
    if not is_whole(target, content):
        write_durably(target, raw)
    return content


def is_whole(path: Path, content: str) -> bool:
    """Whether a kept file is there and holds what its name says: a damaged one is written again."""
    try:
        with open(path, "rb") as file:
            return hashlib.file_digest(file, "sha256").hexdigest() == content
    except OSError:
        return False


def keep_received(temporary: Path, target: Path, content: str) -> bool:
    """Puts an upload in its place, durably; False where the same content lies there already, whole."""
    if is_whole(target, content):
        temporary.unlink(missing_ok=True)
        return False
    sync(temporary)
    put_in_place(temporary, target)
    return True
