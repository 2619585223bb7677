"""A whole show in one file: a ZIP with `show.json` and the clips' media, each named by the hash of its content.

Reading trusts nothing: names are checked before anything is opened, sizes before anything is unpacked, and
media against their own name while they are copied.
"""

from __future__ import annotations

import hashlib
import json
import re
import zipfile
import zlib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any, BinaryIO

from heliograph.core.errors import InputError

FORMAT = "heliograph show"
VERSION = 2
"""Of what is written; version 1 had more fields than one for some things (see `core/older_shows.py`)."""

READS = (1, 2)
JSON_NAME = "show.json"
JSON_MAX = 64 * 1024**2
"""Bytes of show.json unpacked: a show of 250,000 squares a matrix takes some 10 MB."""

MEDIA_MAX = 16 * 1024**3
ENTRIES_MAX = 2_000

UNREADABLE = (zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, OSError, EOFError, ValueError)
"""What the library raises on damaged or unusual archives (found by fuzzing)."""

_MEDIA = re.compile(r"^media/([0-9a-f]{64})(\.[a-z0-9]{2,5})$")
_CHUNK = 1 << 20

Tables = dict[str, list[dict[str, Any]]]


@dataclass(frozen=True, slots=True)
class ShowFile:
    """What was read of it: `tables` are not checked yet; `media` are the names of its media by content."""

    name: str
    tables: Tables
    media: Mapping[str, str]


def write_show_file(out: BinaryIO, name: str, tables: Tables, media: Mapping[str, Path]) -> None:
    """Writes a show; `media` are the files by "<content><suffix>", stored as they are: they are packed already."""
    with zipfile.ZipFile(out, "w") as archive:
        body = {"format": FORMAT, "version": VERSION, "name": name, "tables": tables}
        archive.writestr(JSON_NAME, json.dumps(body, ensure_ascii=False, indent=1), compress_type=zipfile.ZIP_DEFLATED)
        for file, path in sorted(media.items()):
            archive.write(path, f"media/{file}", compress_type=zipfile.ZIP_STORED)


def check_show_file(path: Path, name: str, tables: Tables, media: Iterable[str]) -> None:
    """Reads a file back as if it came from elsewhere and compares it with what it was made of; raises InputError where
    it is not the same, so that nobody relies on it. `media`: "<content><suffix>" of each."""
    with open(path, "rb") as file:
        read = read_show_file(file)
        if read.name != name or json.loads(json.dumps(tables)) != read.tables:
            raise InputError("The saved file does not hold what the show holds.", where="file", repair="Save it again.")
        wanted = {one.partition(".")[0] for one in media}
        if wanted != set(read.media):
            raise InputError("The saved file does not hold all media.", where="file", repair="Save it again.")
        with zipfile.ZipFile(file) as archive:
            for content, entry in read.media.items():
                with archive.open(entry) as packed:
                    if _hash_of(packed) != content:
                        raise InputError(
                            f"The media file {content}{Path(entry).suffix} is damaged: its content is not what its "
                            "name says.",
                            where="clip",
                            repair="Add that clip again from its original, then save.",
                        )


def _hash_of(packed: IO[bytes]) -> str:
    digest = hashlib.sha256()
    while chunk := packed.read(_CHUNK):
        digest.update(chunk)
    return digest.hexdigest()


def read_show_file(source: BinaryIO) -> ShowFile:
    """Reads all but the media; InputError with a sentence where it is no show of ours."""
    try:
        with zipfile.ZipFile(source) as archive:
            media = _checked_names(archive)
            body = _json(archive)
    except UNREADABLE as error:
        raise InputError(
            f"The file cannot be read as a show: {str(error).rstrip('.') or type(error).__name__}.",
            where="file",
            repair="Choose a file that was saved by 'Save to a file'.",
        ) from error
    tables = body.get("tables")
    name = body.get("name")
    if not isinstance(name, str) or not isinstance(tables, dict):
        raise InputError("show.json has no name or no tables.", where="file")
    for table, rows in tables.items():
        if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
            raise InputError(f"'{table}' of show.json is not a list of objects.", where="file")
    return ShowFile(name, tables, media)


def _checked_names(archive: zipfile.ZipFile) -> dict[str, str]:
    entries = archive.infolist()
    if len(entries) > ENTRIES_MAX:
        raise InputError(f"The file holds {len(entries)} entries: {ENTRIES_MAX} are the most.", where="file")
    media = {}
    total = 0
    for entry in entries:
        if entry.filename == JSON_NAME:
            continue
        match = _MEDIA.match(entry.filename)
        if match is None:
            raise InputError(f"'{entry.filename[:80]}' does not belong in a show.", where="file")
        if entry.compress_type != zipfile.ZIP_STORED or entry.compress_size != entry.file_size:
            raise InputError(f"'{entry.filename}' is packed: media are stored as they are.", where="file")
        total += entry.file_size
        media[match[1]] = entry.filename
    if total > MEDIA_MAX:
        raise InputError(f"Its media take {total / 1024**3:.1f} GiB: 16 GiB are the most.", where="file")
    return media


def _json(archive: zipfile.ZipFile) -> dict[str, Any]:
    try:
        entry = archive.getinfo(JSON_NAME)
    except KeyError as error:
        raise InputError("The file has no show.json: it is no show of Heliograph.", where="file") from error
    if entry.file_size > JSON_MAX:
        raise InputError(f"show.json unpacks to {entry.file_size / 1024**2:.0f} MiB: 64 are the most.", where="file")
    with archive.open(entry) as packed:
        raw = packed.read(JSON_MAX + 1)
    if len(raw) > JSON_MAX:
        raise InputError("show.json unpacks to more than it says.", where="file")
    try:
        body = json.loads(raw)
    except RecursionError as error:
        raise InputError("show.json is nested too deeply.", where="file") from error
    if not isinstance(body, dict) or body.get("format") != FORMAT:
        raise InputError("show.json is no show of Heliograph.", where="file")
    if body.get("version") not in READS:
        version = str(body.get("version"))[:20]
        raise InputError(
            f"The show was saved in version {version} of the format; this program reads {READS[0]} to {READS[-1]}.",
            where="file",
            repair="Use a newer Heliograph.",
        )
    return body


def copy_media(source: BinaryIO, entry: str, target: Path) -> None:
    """Unpacks one media file; InputError where its content is not what its name says. `target` is removed then."""
    digest = hashlib.sha256()
    try:
        with zipfile.ZipFile(source) as archive, archive.open(entry) as packed, open(target, "wb") as out:
            while chunk := packed.read(_CHUNK):
                digest.update(chunk)
                out.write(chunk)
        match = _MEDIA.match(entry)
        if match is None or digest.hexdigest() != match[1]:
            raise InputError(f"'{entry}' is damaged: its content is not what its name says.", where="file")
    except UNREADABLE as error:
        target.unlink(missing_ok=True)
        raise InputError(f"'{entry}' cannot be unpacked: {error}.", where="file") from error
    except InputError:
        target.unlink(missing_ok=True)
        raise
