"""Drawing tools: against Pillow's own drawing and flood fill, and pictures written down here."""

from __future__ import annotations

import base64
import random
import zlib

import numpy as np
import pytest
from PIL import Image, ImageDraw

from heliograph.core.errors import InputError
from heliograph.core.look.drawn import TOOLS, clear, drawn, packed, unpacked

RED = (255, 0, 0)


def mask(picture: np.ndarray) -> list[str]:
    """Rows of x and . where something is set."""
    return ["".join("x" if one else "." for one in row) for row in picture[:, :, 3] > 0]


def test_what_is_kept_comes_back_and_what_is_damaged_is_refused() -> None:
    picture = np.random.default_rng(4).integers(0, 256, (9, 7, 4), dtype=np.uint8)
    assert (unpacked(packed(picture), 7, 9) == picture).all()
    bomb = base64.b64encode(zlib.compress(bytes(200_000_000))).decode()
    for text in ("%", "AAAA", packed(picture)[:-8], bomb):
        with pytest.raises(InputError, match="drawn picture"):
            unpacked(text, 7, 9)
    with pytest.raises(InputError, match="not of 9 x 9"):
        unpacked(packed(picture), 9, 9)


def test_pen_line_rectangle_erase() -> None:
    made = drawn(clear(5, 4), "pen", [(0, 0), (4, 3), (9, 9), (-1, 2)], RED)
    assert mask(made) == ["x....", ".....", ".....", "....x"]
    assert made[0, 0].tolist() == [255, 0, 0, 255]
    made = drawn(made, "rectangle", [(3, 2), (1, 1)], (0, 0, 0))
    assert mask(made) == ["x....", ".xxx.", ".xxx.", "....x"]
    made = drawn(made, "erase", [(2, 1), (0, 0)], RED)
    assert mask(made) == [".....", ".x.x.", ".xxx.", "....x"]
    assert mask(drawn(clear(5, 4), "line", [(0, 3), (4, 0)], RED)) == ["....x", "...x.", ".xx..", "x...."]
    assert mask(drawn(clear(5, 4), "line", [(1, 0), (1, 3)], RED)) == [".x..."] * 4
    assert mask(drawn(clear(5, 4), "rectangle", [(-3, -2), (1, 9)], RED)) == ["xx..."] * 4


def test_a_line_is_never_further_from_the_straight_one_than_half_a_square() -> None:
    for seed in range(60):
        chance = random.Random(seed)
        a, b = ((chance.randrange(40), chance.randrange(30)) for _ in "ab")
        ys, xs = np.nonzero(drawn(clear(40, 30), "line", [a, b], RED)[:, :, 3])
        longer = max(abs(b[0] - a[0]), abs(b[1] - a[1]))
        assert len(xs) == longer + 1
        if longer:
            away = np.abs((b[0] - a[0]) * (ys - a[1]) - (b[1] - a[1]) * (xs - a[0])) / longer
            assert away.max() <= 0.5


def test_move_and_mirror() -> None:
    made = drawn(clear(4, 3), "pen", [(0, 0), (1, 0), (3, 2)], RED)
    assert mask(drawn(made, "move", [(1, 1), (2, 2)], None)) == ["....", ".xx.", "...."]
    assert mask(drawn(made, "move", [(3, 2), (2, 1)], None)) == ["....", "..x.", "...."]
    assert mask(drawn(made, "move", [(0, 0), (4, 0)], None)) == ["...."] * 3
    assert mask(drawn(made, "mirror across", [], None)) == ["..xx", "....", "x..."]
    assert mask(drawn(made, "mirror down", [], None)) == ["...x", "....", "xx.."]


def test_fill_takes_what_pillow_s_flood_fill_takes() -> None:
    for seed in range(40):
        chance = np.random.default_rng(seed)
        colours = np.array([[0, 0, 0], [9, 200, 30]], dtype=np.uint8)[chance.integers(0, 2, (23, 31))]
        picture = np.dstack([colours, np.full((23, 31), 255, dtype=np.uint8)])
        x, y = int(chance.integers(31)), int(chance.integers(23))
        image = Image.fromarray(colours)
        ImageDraw.floodfill(image, (x, y), (1, 2, 3))
        assert (drawn(picture, "fill", [(x, y)], (1, 2, 3))[:, :, :3] == np.asarray(image)).all()


def test_a_tool_used_outside_or_nowhere_changes_nothing() -> None:
    picture = drawn(clear(4, 3), "pen", [(1, 1)], RED)
    for tool in TOOLS:
        if not tool.startswith("mirror"):
            assert (drawn(picture, tool, [], RED) == picture).all()
        if tool in ("pen", "line", "fill", "erase", "rectangle"):
            assert (drawn(picture, tool, [(9, 9)], RED) == picture).all()
