"""Chases as files: read back by Pillow and by the csv module."""

from __future__ import annotations

import csv
import io
from typing import Any

import numpy as np
from PIL import Image, ImageSequence

from heliograph.core.look.drawn import clear, drawn, packed
from heliograph.formats.chase_files import as_csv, as_gif


def chase(unit: str = "beat") -> dict[str, Any]:
    """Three frames of 3 x 2: the first column red, the second teal, nothing."""
    one = drawn(clear(3, 2), "rectangle", [(0, 0), (0, 1)], (255, 0, 0))
    two = drawn(clear(3, 2), "rectangle", [(1, 0), (1, 1)], (0, 160, 140))
    frames = [
        {"id": "a", "fade": 0.25, "hold": 0.75, "picture": packed(one)},
        {"id": "b", "fade": 0.0, "hold": 2.0, "picture": packed(two)},
        {"id": "c", "fade": 0.0, "hold": 0.02, "picture": packed(clear(3, 2))},
    ]
    return {"id": "C", "name": "Gulls", "columns": 3, "rows": 2, "unit": unit, "frames": frames}


def test_a_gif_shows_each_frame_for_its_time() -> None:
    for unit, first, second in (("beat", 500, 1000), ("s", 1000, 2000)):
        image = Image.open(io.BytesIO(as_gif(chase(unit), 0.5)))
        frames = [(one.info["duration"], np.asarray(one.convert("RGB"))) for one in ImageSequence.Iterator(image)]
        assert [duration for duration, _ in frames] == [first, second, 20]
        assert image.info["loop"] == 0
        side = frames[0][1].shape[1] // 3
        assert side == 85
        middles = [picture[side // 2 :: side, side // 2 :: side].tolist() for _, picture in frames]
        assert middles[0] == [[[255, 0, 0], [0, 0, 0], [0, 0, 0]]] * 2
        assert middles[1] == [[[0, 0, 0], [0, 160, 140], [0, 0, 0]]] * 2
        assert not np.any(middles[2])


def test_a_table_has_every_square() -> None:
    lines = list(csv.reader(io.StringIO(as_csv(chase()))))
    assert lines[0] == ["frame", "fade beat", "hold beat", "row", "1", "2", "3"]
    assert lines[1] == ["1", "0.25", "0.75", "1", "#ff0000", "", ""]
    assert lines[4] == ["2", "0.0", "2.0", "2", "", "#00a08c", ""]
    assert len(lines) == 1 + 3 * 2
