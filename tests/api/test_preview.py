"""Pictures of what was sent, against positions written down by hand."""

from __future__ import annotations

import struct
from uuid import UUID

import numpy as np

from heliograph.api.preview import (
    ALL_SENT,
    NOT_SENT,
    PARTLY_SENT,
    Pictures,
    cells_message,
    decoded,
    levels_message,
    pictures_message,
    plan_pictures,
)
from heliograph.core.rig.arrays import build_rig
from heliograph.ipc.frames import SentFrame
from tests.engine.shows import grid, lamps

KEY = UUID("11111111-2222-4333-8444-555555555555")


def frame(universes: list[int], sent: list[int], value: int = 0) -> SentFrame:
    data = np.full((len(universes), 512), value, dtype=np.uint8)
    return SentFrame(7, 8_000_000_000, 0, np.array(universes, dtype=np.uint16), np.array(sent, dtype=np.uint8), data)


def plans(count: int, width: int, height: int, placed: int | None = None) -> Pictures:
    section = {**grid(width, height, placed), "id": str(KEY)}
    return plan_pictures(build_rig(lamps(count)), {"matrix:M": section})


def read(message: bytes) -> tuple[tuple[int, ...], tuple[object, ...], bytes]:
    """Head, first picture's head, its pixels; offsets as written in the front end."""
    return struct.unpack_from("<BBHIQq", message), struct.unpack_from("<16sHHHBB", message, 24), message[48:]


def test_a_picture_holds_the_bytes_that_were_sent() -> None:
    one = frame([1], [1])
    one.data[0, :12] = range(1, 13)
    head, picture, rgb = read(pictures_message(decoded(plans(4, 2, 2), one), set()))
    assert head == (1, 0, 1, 0, 7, 8_000_000_000)
    assert picture == (KEY.bytes, 2, 2, 1, ALL_SENT, 0)
    assert list(rgb) == list(range(1, 13))


def test_what_was_not_sent_is_black_and_says_so() -> None:
    one = frame([1], [0], value=99)
    _, picture, rgb = read(pictures_message(decoded(plans(4, 2, 2), one), set()))
    assert picture[4] == NOT_SENT
    assert not any(rgb)
    two = frame([1, 2], [1, 0], value=99)
    _, picture, rgb = read(pictures_message(decoded(plans(340, 17, 20), two), set()))
    assert picture[4] == PARTLY_SENT
    assert set(rgb[: 170 * 3]) == {99}
    assert not any(rgb[170 * 3 :])


def test_empty_squares_are_black() -> None:
    _, picture, rgb = read(pictures_message(decoded(plans(3, 2, 2, placed=3), frame([1], [1], value=5)), set()))
    assert list(rgb) == [5] * 9 + [0] * 3
    assert picture[4] == ALL_SENT


def test_large_matrices_are_thinned_by_whole_steps_unless_asked_in_full() -> None:
    many = plans(170 * 60, 170, 60)
    one = frame(list(range(1, 61)), [1] * 60)
    one.data[:, :510] = np.tile(np.arange(170, dtype=np.uint8).repeat(3), (60, 1))
    _, thin, rgb = read(pictures_message(decoded(many, one), set()))
    assert thin[1:4] == (85, 30, 2)
    assert list(rgb[: 85 * 3 : 3]) == list(range(0, 170, 2))
    _, full, rgb = read(pictures_message(decoded(many, one), {KEY.bytes}))
    assert full[1:4] == (170, 60, 1)
    assert list(rgb[: 170 * 3 : 3]) == list(range(170))


def test_levels_of_a_universe_and_of_one_that_is_not_there() -> None:
    one = frame([3], [1], value=4)
    assert levels_message(one, 3)[24:] == bytes([4]) * 512
    assert levels_message(one, 3)[1] == 1
    assert levels_message(one, 9)[1] == 0
    assert not any(levels_message(one, 9)[24:])


def test_the_colours_of_all_cells_come_in_the_order_of_the_fixtures() -> None:
    one = frame([1], [1])
    one.data[0, :12] = range(1, 13)
    message = cells_message(decoded(plans(4, 2, 2), one))
    assert struct.unpack_from("<BBHIQq", message) == (4, 0, 0, 4, 7, 8_000_000_000)
    assert list(message[24:]) == list(range(1, 13))
