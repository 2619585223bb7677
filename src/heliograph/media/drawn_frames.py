"""Frames of a chase out of a picture, a GIF or a short video: each as large as the chase."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

import numpy as np
from PIL import Image

from heliograph.core.errors import InputError
from heliograph.core.look.chase import FRAMES_MAX
from heliograph.core.look.drawn import packed
from heliograph.media.probe import probe
from heliograph.media.reading import Reader


class DrawnFrame(NamedTuple):
    """`picture` in its stored form; `seconds`: how long it shows in the file, 0 of a still picture."""

    picture: str
    seconds: float


def frames_of(path: Path, columns: int, rows: int, name: str) -> list[DrawnFrame]:
    """Every frame, stretched to so many squares, each the mean of what it covers; InputError for what is no picture, or
    has more frames than a chase."""
    facts = probe(path, name)
    count = len(facts.times)
    if count > FRAMES_MAX:
        raise InputError(
            f"'{name}' has {count:,} frames: {FRAMES_MAX:,} are the most.", where="file", repair="Use it as a clip."
        )
    ends = np.append(facts.times[1:], facts.duration_ns)
    lasts = (ends - facts.times) / 1e9 if count > 1 else np.zeros(1)
    found = []
    for index, picture in Reader(path, facts).frames():
        small = picture().convert("RGBA").resize((columns, rows), Image.Resampling.BOX)
        found.append(DrawnFrame(packed(np.asarray(small, dtype=np.uint8)), float(lasts[index])))
    return found
