"""What a reader's process can do: each job takes and gives plain values."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any


def _sheet(path: str, profiles: list[dict[str, Any]]) -> dict[str, Any]:
    from heliograph.formats.patch_sheet import SHEET_BYTES_MAX, read_sheet, sheet_to_json

    with open(path, "rb") as file:
        raw = file.read(SHEET_BYTES_MAX + 1)
    return sheet_to_json(read_sheet(raw, profiles))


def _svg(path: str) -> list[dict[str, Any]]:
    from heliograph.formats.squares_svg import BYTES_MAX, read_svg

    with open(path, "rb") as file:
        return [asdict(one) for one in read_svg(file.read(BYTES_MAX + 1))]


def _picture(path: str, target: str, name: str) -> dict[str, Any]:
    from heliograph.media.still import write_png

    return {"proportion": write_png(Path(path), Path(target), name)}


def _clip(path: str, name: str, thumbs: str) -> dict[str, Any]:
    """Looks into a clip, scales it where it is a picture that is too large, and draws its thumbnail. `content` is the
    hash of what is there afterwards: what is hashed is what is kept."""
    from heliograph.media.imports import scaled_on_import, write_thumbnail
    from heliograph.media.probe import probe

    place = Path(path)
    facts, said = scaled_on_import(place, probe(place, name), name)
    with open(place, "rb") as file:
        content = hashlib.file_digest(file, "sha256").hexdigest()
    write_thumbnail(place, Path(thumbs) / f"{content}.png", facts)
    return {
        "kind": facts.kind,
        "width": facts.width,
        "height": facts.height,
        "frames": len(facts.times),
        "duration_ns": facts.duration_ns,
        "said": said,
        "content": content,
        "suffix": ".png" if said else "",
        "bytes": place.stat().st_size,
    }


def _frames(path: str, columns: int, rows: int, name: str) -> list[tuple[str, float]]:
    from heliograph.media.drawn_frames import frames_of

    return [(one.picture, one.seconds) for one in frames_of(Path(path), columns, rows, name)]


def _show(path: str) -> dict[str, Any]:
    from heliograph.formats.show_file import read_show_file

    with open(path, "rb") as file:
        read = read_show_file(file)
    return {"name": read.name, "tables": read.tables, "media": dict(read.media)}


def _media(path: str, entry: str, target: str) -> None:
    from heliograph.formats.show_file import copy_media

    with open(path, "rb") as file:
        copy_media(file, entry, Path(target))


JOBS: dict[str, Callable[..., Any]] = {
    "sheet": _sheet,
    "svg": _svg,
    "picture": _picture,
    "clip": _clip,
    "frames": _frames,
    "show": _show,
    "media": _media,
}
