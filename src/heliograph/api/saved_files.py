"""Files that were saved and wait to be fetched: each by a token nobody can guess, for ten minutes, a few at a time."""

from __future__ import annotations

import re
import secrets
import threading
import time
from dataclasses import dataclass
from pathlib import Path

from heliograph.core.errors import NotFoundError

KEPT_S = 600.0
KEPT_MAX = 4


@dataclass(slots=True)
class Saved:
    token: str
    path: Path
    made_s: float
    name: str = "show.zip"

    def forget(self) -> None:
        self.path.unlink(missing_ok=True)


class SavedFiles:
    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._lock = threading.Lock()
        self._saved: dict[str, Saved] = {}

    def place(self) -> Saved:
        """Where a new one may be written; older ones than the last few are gone."""
        with self._lock:
            self._folder.mkdir(parents=True, exist_ok=True)
            now = time.monotonic()
            known = {saved.path for saved in self._saved.values()}
            for left in self._folder.glob("*.saving"):  # of a process before this one
                if left not in known:
                    left.unlink(missing_ok=True)
            while self._saved and (
                len(self._saved) >= KEPT_MAX or now - next(iter(self._saved.values())).made_s > KEPT_S
            ):
                self._saved.pop(next(iter(self._saved))).forget()
            token = secrets.token_urlsafe(24)
            made = Saved(token, self._folder / f"{token}.saving", now)
            self._saved[token] = made
            return made

    def of(self, token: str) -> Saved:
        saved = self._saved.get(token) if re.fullmatch(r"[\w-]{16,64}", token) else None
        if saved is None or not saved.path.exists():
            raise NotFoundError("That file is not kept any more.", where="file", repair="Save the show again.")
        return saved
