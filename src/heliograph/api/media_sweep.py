"""Media files that nobody uses any more go after 30 days: until then a clip that was deleted by mistake comes back."""

from __future__ import annotations

import re
import threading
import time
from pathlib import Path

import orjson
import structlog

from heliograph.core.errors import HeliographError
from heliograph.ipc.durable import write_durably
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.media_use import is_in_journal, used_contents

UNUSED_S = 30 * 86_400.0
LOOK_S = 6 * 3600.0
FIRST_LOOK_S = 120.0
_NAMED = re.compile(r"([0-9a-f]{64})(\.[a-z0-9]{2,5})")


def sweep(media: Path, now_s: float) -> list[str]:
    """Notes what is unused since when, and deletes what has been for 30 days; the names of the files that went."""
    note = media / "unused.json"
    try:
        since: dict[str, float] = {str(key): float(value) for key, value in orjson.loads(note.read_bytes()).items()}
    except (OSError, ValueError, TypeError, AttributeError):
        since = {}
    files = {match[1]: path for path in (media / "files").glob("*.*") if (match := _NAMED.fullmatch(path.name))}
    gone = []
    with connected():
        used = used_contents()
        unused = {content: min(since.get(content, now_s), now_s) for content in files if content not in used}
        for content, first_s in list(unused.items()):
            if now_s - first_s >= UNUSED_S and not is_in_journal(content):
                gone.append(files[content].name)
                del unused[content]
    for name in gone:
        _delete(media, name)
    write_durably(note, orjson.dumps(unused))
    return gone


def _delete(media: Path, name: str) -> None:
    content = name.partition(".")[0]
    (media / "files" / name).unlink(missing_ok=True)
    (media / "thumbs" / f"{content}.png").unlink(missing_ok=True)
    (media / "proxies" / f"{content}.mp4").unlink(missing_ok=True)
    for frames in (media / "frames").glob(f"{content}-*.frames"):
        frames.unlink(missing_ok=True)


def keep_sweeping(media: Path, stopping: threading.Event) -> None:
    """For a thread of its own."""
    log = structlog.get_logger("web")
    wait_s = FIRST_LOOK_S
    while not stopping.wait(wait_s):
        wait_s = LOOK_S
        try:
            with connected():
                forgotten = rows.forget_deleted()
            gone = sweep(media, time.time())
        except (HeliographError, OSError) as error:
            log.warning(f"unused media could not be looked for: {error}")
            continue
        if forgotten:
            names = ", ".join(forgotten[:5])
            log.info(f"deleted shows are gone after 30 days: {names}", event_for_people=True)
        if gone:
            log.info(f"{len(gone)} media files that nobody used for 30 days are gone", event_for_people=True)
