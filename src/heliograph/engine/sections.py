"""Show sections: the validated parts of a show, each known by the hash of its content.

Only changed sections travel to the engine; it keeps them on disk, so that it starts again with the
same show while the web process and the database are away.

Keys: `rig`, `outputs`, `matrix:<id>`, `look:<id>`, `clip:<id>`.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import orjson

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
        self.manifest: Manifest = {}
        self.revision = 0

    def load(self) -> bool:
        """Reads the last manifest whose sections are all there; False where there is none."""
        try:
            data = orjson.loads((self._folder / "manifest.json").read_bytes())
            manifest = dict(data["manifest"])
            self._known = {key: self._read(key) for key in set(manifest.values())}
        except (OSError, ValueError, KeyError):
            return False
        self.manifest, self.revision = manifest, int(data["revision"])
        return True

    def missing(self, manifest: Manifest) -> list[str]:
        """Hashes of a manifest that have not arrived yet."""
        return sorted({value for value in manifest.values() if value not in self._known})

    def add(self, section: Section) -> None:
        self._known[content_hash(section)] = section

    def adopt(self, manifest: Manifest, revision: int) -> dict[str, Section]:
        """Makes a manifest current, on disk too, and returns its sections by key."""
        for key in set(manifest.values()):
            self._write(key)
        _replace(self._folder / "manifest.json", orjson.dumps({"manifest": manifest, "revision": revision}))
        self.manifest, self.revision = dict(manifest), revision
        self._forget_others()
        return self.sections()

    def sections(self) -> dict[str, Section]:
        return {key: self._known[value] for key, value in self.manifest.items()}

    def _forget_others(self) -> None:
        used = set(self.manifest.values())
        self._known = {key: value for key, value in self._known.items() if key in used}
        for path in self._folder.glob("*.section"):
            if path.stem not in used:
                with contextlib.suppress(OSError):
                    path.unlink()

    def _write(self, key: str) -> None:
        path = self._folder / f"{key}.section"
        if not path.exists():
            _replace(path, orjson.dumps(self._known[key]))

    def _read(self, key: str) -> Section:
        section: Section = orjson.loads((self._folder / f"{key}.section").read_bytes())
        if content_hash(section) != key:
            raise ValueError(f"section {key} is damaged")
        return section


def _replace(path: Path, content: bytes) -> None:
    temporary = path.with_suffix(".new")
    temporary.write_bytes(content)
    os.replace(temporary, path)
