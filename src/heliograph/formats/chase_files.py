"""A chase as files for other programs: a moving GIF, and a table of its colours."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from PIL import Image

from heliograph.core.look.drawn import Picture, unpacked

LONGER_SIDE = 256
"""Small pictures are drawn larger, each square as a block of pixels, up to so many."""

LEAST_MS = 20
"""Programs show what is shorter at a speed of their own."""


def pictures_of(chase: Mapping[str, Any]) -> list[Picture]:
    return [unpacked(one["picture"], chase["columns"], chase["rows"]) for one in chase["frames"]]


def as_gif(chase: Mapping[str, Any], beat_s: float) -> bytes:
    """Each frame for as long as it fades in and holds, round after round; clear squares are black, fades are cuts."""
    unit = 1.0 if chase["unit"] == "s" else beat_s
    times = [max(round((one["fade"] + one["hold"]) * unit * 1000), LEAST_MS) for one in chase["frames"]]
    by = max(LONGER_SIDE // max(chase["columns"], chase["rows"]), 1)
    images = [Image.fromarray(_on_black(one).repeat(by, axis=0).repeat(by, axis=1)) for one in pictures_of(chase)]
    found = io.BytesIO()
    images[0].save(found, "gif", save_all=True, append_images=images[1:], duration=times, loop=0, disposal=2)
    return found.getvalue()


def as_csv(chase: Mapping[str, Any]) -> str:
    """A line for each row of each frame: its number, fade, hold and row, then a colour for each column (#rrggbb, empty
    where it is clear)."""
    found = io.StringIO()
    table = csv.writer(found, lineterminator="\n")
    table.writerow(["frame", f"fade {chase['unit']}", f"hold {chase['unit']}", "row", *range(1, chase["columns"] + 1)])
    for number, (frame, picture) in enumerate(zip(chase["frames"], pictures_of(chase), strict=True), start=1):
        for row, colours in enumerate(picture, start=1):
            table.writerow([number, frame["fade"], frame["hold"], row, *_written(colours)])
    return found.getvalue()


def _on_black(picture: Picture) -> Picture:
    cover = picture[:, :, 3:].astype(np.uint16)
    dimmed: Picture = ((picture[:, :, :3] * cover + 127) // 255).astype(np.uint8)
    return dimmed


def _written(colours: Sequence[Any]) -> list[str]:
    return ["" if not cover else f"#{red:02x}{green:02x}{blue:02x}" for red, green, blue, cover in colours]
