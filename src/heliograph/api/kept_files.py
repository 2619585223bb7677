"""Files that belong to a show, such as manuals and pictures of plans: kept once for each content, by its hash."""

from __future__ import annotations

import hashlib
import os
from pathlib import Path

from heliograph.api.context import Context


def files_folder(context: Context) -> Path:
    folder = context.settings.data / "media" / "files"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def keep_file(context: Context, raw: bytes, suffix: str) -> str:
    """Keeps a content and answers its name: SHA-256 in hex, to which `suffix` (".pdf") is added in the folder."""
    content = hashlib.sha256(raw).hexdigest()
    target = files_folder(context) / f"{content}{suffix}"
    if not target.exists():
        temporary = target.with_suffix(".part")
        temporary.write_bytes(raw)
        os.replace(temporary, target)
    return content
