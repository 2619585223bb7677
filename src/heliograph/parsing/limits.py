"""What a reader of files may take."""

from __future__ import annotations

from dataclasses import dataclass

GIB = 1024**3


@dataclass(frozen=True, slots=True)
class Limits:
    """`seconds` of the clock, and as much of one processor; `memory`: bytes of address space; `file`: bytes of one file
    it writes."""

    seconds: float
    memory: int = 2 * GIB
    file: int = GIB


LIMITS = {
    "sheet": Limits(20.0),
    "svg": Limits(20.0),
    "picture": Limits(40.0, 3 * GIB),
    "clip": Limits(120.0, 4 * GIB),
    "frames": Limits(60.0, 4 * GIB),
    "show": Limits(60.0, 3 * GIB),
    "media": Limits(600.0, file=16 * GIB),
}
"""By job. A picture of 100 million pixels takes 1.2 GB while it is scaled; a video's decoder some hundred MB."""

OUTPUT_MAX = 256 * 1024**2
"""Bytes a reader may answer: a show.json of 64 MB written again."""
