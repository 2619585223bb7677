"""What a person in front of a node sees: every letter of a hang list, worked out by hand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.standins.hang_list import load_hang_list


def seen(folder: Path, run: dict[str, Any], values: list[int], width: int = 1) -> list[int]:
    path = folder / "hang.json"
    lamps = [{"universe": "artnet 0", "channel": 1, "x": 0, "y": 0, **run}]
    path.write_text(json.dumps({"name": "N", "listens": ["artnet 0"], "width": width, "height": 1, "lamps": lamps}))
    return load_hang_list(path).picture({("artnet", 0): bytes(values)})


@pytest.mark.parametrize(
    ("order", "values", "colour"),
    [
        ("RGB", [10, 20, 30], [10, 20, 30]),
        ("GRB", [10, 20, 30], [20, 10, 30]),
        ("-RGB-", [99, 10, 20, 30, 99], [10, 20, 30]),
        ("RGBW", [10, 20, 30, 40], [50, 60, 70]),
        ("RGBW", [200, 20, 30, 100], [255, 120, 130]),  # more light than full is full
        ("W", [70], [70, 70, 70]),
        ("DRGB", [51, 200, 100, 50], [40, 20, 10]),  # a fifth
        ("KRGB", [255, 200, 100, 50], [200, 100, 50]),
        ("KRGB", [4, 200, 100, 50], [0, 0, 0]),
        ("RGBK", [200, 100, 50, 94], [99, 50, 25]),  # half-way between 5 and 184, rounded down
        ("KRGB", [200, 200, 100, 50], [200, 100, 50]),  # strobing: lit while it is
        ("RGB", [10], [10, 0, 0]),  # a short packet: what did not come is dark
    ],
)
def test_orders(tmp_path: Path, order: str, values: list[int], colour: list[int]) -> None:
    assert seen(tmp_path, {"order": order}, values) == colour


def test_a_dimmer_above_a_whole_run(tmp_path: Path) -> None:
    run = {"channel": 3, "count": 2, "order": "RGB", "dimmer": 1}
    assert seen(tmp_path, run, [51, 0, 200, 100, 50, 20, 10, 5], 2) == [40, 20, 10, 4, 2, 1]


def test_a_strip_goes_on_in_the_next_universe_without_a_split_pixel(tmp_path: Path) -> None:
    path = tmp_path / "hang.json"
    run = {"universe": "sacn 1", "channel": 508, "count": 2, "order": "RGB", "x": 0, "y": 0}
    hang = {"name": "N", "listens": ["sacn 1", "sacn 2"], "width": 2, "height": 1, "lamps": [run]}
    path.write_text(json.dumps(hang))
    data = {("sacn", 1): bytes(507) + bytes([1, 2, 3, 9, 9]), ("sacn", 2): bytes([4, 5, 6])}
    assert load_hang_list(path).picture(data) == [1, 2, 3, 4, 5, 6]


@pytest.mark.parametrize("run", [{"order": "RGX"}, {"universe": "midi 1"}, {"universe": "sacn"}, {"channel": "one"}])
def test_what_is_wrong_in_the_file_is_named(tmp_path: Path, run: dict[str, Any]) -> None:
    with pytest.raises(InputError, match="is not right"):
        seen(tmp_path, run, [])
