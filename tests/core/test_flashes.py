"""Flashes by the definition of WCAG 2.2, 2.3.1 (standards 9.1; the red rule 9.2 is recalled): patterns made of it."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from heliograph.core.colour.flashes import FlashCounter, Flashing, linear

RATE = 44


def counted(dark: tuple[float, ...], bright: tuple[float, ...], hz: float, share: float, cells: int = 100) -> Flashing:
    """`share` of the cells go between two colours so many times a second, for four seconds; the others stay dark."""
    counter = FlashCounter(cells)
    for frame in range(4 * RATE):
        picture = np.zeros((3, cells), dtype=np.float32)
        picture[:] = np.array(dark)[:, None]
        if frame * hz / RATE % 1 >= 0.5:
            picture[:, : round(cells * share)] = np.array(bright)[:, None]
        counter.take(picture)
    return counter.found(RATE)


def grey(luminance: float) -> tuple[float, ...]:
    """The sRGB grey of a relative luminance."""
    value = luminance * 12.92 if luminance <= 0.0031308 else 1.055 * luminance ** (1 / 2.4) - 0.055
    return (value,) * 3


def test_the_grey_of_a_luminance_is_what_it_says() -> None:
    for luminance in (0.001, 0.1, 0.5, 0.8, 1.0):
        assert linear(np.array(grey(luminance), dtype=np.float32))[0] == pytest.approx(luminance, abs=1e-4)


@pytest.mark.parametrize(
    ("low", "high", "hz", "share", "too_many"),
    [
        (0.0, 1.0, 4, 0.30, True),
        (0.0, 1.0, 3, 0.30, False),  # three a second are allowed
        (0.0, 1.0, 4, 0.26, True),
        (0.0, 1.0, 4, 0.25, False),  # not more than a quarter
        (0.5, 0.61, 5, 0.50, True),
        (0.5, 0.59, 5, 0.50, False),  # a change of less than a tenth
        (0.79, 0.95, 5, 0.50, True),
        (0.81, 0.95, 5, 0.50, False),  # the darker is not below 0.80
    ],
)
def test_general_flashes(low: float, high: float, hz: float, share: float, too_many: bool) -> None:
    found = counted(grey(low), grey(high), hz, share)
    assert found.too_many is too_many
    if too_many:
        assert (found.rate, found.cells, found.of, found.red) == (hz, round(share * 100), 100, False)


def test_saturated_red_has_its_own_rule() -> None:
    """Red of a luminance of 0.09, less than a tenth: no general flash, but a red one."""
    value = grey(0.09 / 0.2126)[0]
    found = counted((0, 0, 0), (value, 0, 0), 4, 0.5)
    assert (found.too_many, found.rate, found.red) == (True, 4, True)
    pale = counted((0, 0, 0), (value, value * 0.7, value * 0.7), 4, 0.5)
    assert not pale.red


def test_cells_that_take_turns_do_not_flash_together_more_than_each() -> None:
    counter = FlashCounter(100)
    for frame in range(4 * RATE):
        picture = np.zeros((3, 100), dtype=np.float32)
        step = frame * 8 // RATE % 4
        picture[:, step * 25 : step * 25 + 25] = 1.0  # each quarter twice a second
        counter.take(picture)
    assert counter.found(RATE).rate == 2


def test_a_slow_fade_and_noise_below_a_tenth_count_once_there_and_back() -> None:
    dice = np.random.default_rng(4)
    counter = FlashCounter(50)
    for frame in range(4 * RATE):
        base = 0.4 + 0.3 * np.sin(2 * np.pi * frame / RATE)  # once a second
        picture = np.clip(base + dice.uniform(-0.02, 0.02, 50), 0, 1)
        counter.take(np.array([[grey(one)[0] for one in picture]] * 3, dtype=np.float32))
    assert counter.found(RATE).rate == 1


def test_no_cells_flash_not() -> None:
    counter: Any = FlashCounter(0)
    counter.take(np.zeros((3, 0), dtype=np.float32))
    assert not counter.found(RATE).too_many
