"""Show sections: the validated parts of a show, each known by the hash of its content.

Only changed sections travel to the engine; it keeps them on disk, so that it starts again with the
same show while the web process and the database are away.

Keys: `rig`, `outputs`, `matrix:<id>`, `look:<id>`, `clip:<id>`.
"""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import orjson

from heliograph.ipc.durable import write_durably

Section = dict[str, Any]
Manifest = dict[str, str]


def content_hash(section: Mapping[str, Any]) -> str:
    """32 hex digits of the section's canonical form."""
    return hashlib.blake2b(orjson.dumps(section, option=orjson.OPT_SORT_KEYS), digest_size=16).hexdigest()


class SectionStore:
    """Sections by hash in a folder, and the manifest (key -> hash) that is current."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        self._known: dict[str, Section] = {}
        self._on_disk: set[str] = set()
        self.manifest: Manifest = {}
        self.revision = 0
        self.show_id = ""
        self.is_kept = True

    def load(self) -> bool:
        """Reads the last manifest whose sections are all there; False where there is none."""
        try:
            data = orjson.loads((self._folder / "manifest.json").read_bytes())
            manifest = dict(data["manifest"])
            self._known = {key: self._read(key) for key in set(manifest.values())}
        except (OSError, ValueError, KeyError):
            return False
        self.manifest, self.revision = manifest, int(data["revision"])
        self.show_id = str(data.get("show", ""))
        self._on_disk = set(manifest.values())
        return True

    def missing(self, manifest: Manifest) -> list[str]:
        """Hashes of a manifest that have not arrived yet."""
        return sorted({value for value in manifest.values() if value not in self._known})

    def add(self, section: Section) -> None:
        self._known[content_hash(section)] = section

    def use(self, manifest: Manifest, revision: int, show_id: str = "") -> None:
        """Makes a manifest current; it is on disk once `keep` was called."""
        self.manifest, self.revision, self.show_id = dict(manifest), revision, show_id
        self.is_kept = False

    def keep(self) -> None:
        """Writes the current manifest and its sections to disk; raises OSError where there is no room, and what was
        kept before stays."""
        for key in set(self.manifest.values()):
            self._write(key)
        facts = {"manifest": self.manifest, "revision": self.revision, "show": self.show_id}
        write_durably(self._folder / "manifest.json", orjson.dumps(facts))
        self._forget_others()
        self.is_kept = True

    def sections(self, manifest: Manifest) -> dict[str, Section]:
        return {key: self._known[value] for key, value in manifest.items()}

    def _forget_others(self) -> None:
        used = set(self.manifest.values())
        self._known = {key: value for key, value in self._known.items() if key in used}
        for path in self._folder.glob("*.section"):
            if path.stem not in used:
                with contextlib.suppress(OSError):
                    path.unlink()
        self._on_disk &= used

    def _write(self, key: str) -> None:
        """Sections never change: one that is there under its hash, and is whole, stays."""
        path = self._folder / f"{key}.section"
        if key in self._on_disk and path.exists():
            return
        with contextlib.suppress(OSError, ValueError):
            self._read(key)
            self._on_disk.add(key)
            return
        write_durably(path, orjson.dumps(self._known[key]))
        self._on_disk.add(key)

    def _read(self, key: str) -> Section:
        section: Section = orjson.loads((self._folder / f"{key}.section").read_bytes())
        if content_hash(section) != key:
            raise ValueError(f"section {key} is damaged")
        return section
