"""Entries of scores as they are typed: places in bars and beats, lengths, what they play; wrong ones say what is
right."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.playing.score import written
from heliograph.core.playing.typed_scores import (
    read_beats,
    read_entry,
    read_level,
    read_lies,
    read_place,
    write_beats,
    write_lies,
)

LOOKS = [{"id": "h", "name": "Herring run"}, {"id": "b", "name": "Beacon turn"}]
PRESETS = [{"id": "s", "name": "Sea line"}]


@pytest.mark.parametrize(
    ("text", "at", "length"),
    [
        ("5.1 for 2 bars", 16, 8),
        ("5 for 6 beats", 16, 6),
        ("5.3.5", 18.5, None),
        ("5.1 to 7.1", 16, 8),
        ("at 1.2 for 1", 1, 1),
        ("from 33 for 0,5 bars", 128, 2),
    ],
)
def test_places(text: str, at: float, length: float | None) -> None:
    assert read_lies(text) == (at, length)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("5.5", "4 beats, not 5"),
        ("0.1", "no place"),
        ("bar five", "no place"),
        ("5.1 for ever", "no length"),
        ("7.1 to 5.1", "not behind"),
        ("", "no place"),
        ("9" * 500, "no place"),
    ],
)
def test_what_is_no_place_says_so(text: str, said: str) -> None:
    with pytest.raises(InputError, match=said) as error:
        read_lies(text)
    assert error.value.repair


@given(st.integers(0, 8_000).map(lambda n: n / 4), st.integers(1, 400).map(lambda n: n / 4))
def test_what_is_written_reads_the_same(at: float, length: float) -> None:
    assert read_place(written(at)) == pytest.approx(at, abs=1e-3)
    assert read_beats(write_beats(length)) == pytest.approx(length)
    assert read_lies(write_lies(at, length)) == pytest.approx((at, length), abs=1e-3)


@pytest.mark.parametrize(
    ("text", "fields"),
    [
        ("Herring run 80 % at 5.1 for 2 bars", {"look": "h", "level": 0.8, "at": 16, "length": 8}),
        ("beacon at 1.1", {"look": "b", "level": 1.0, "at": 0, "length": 4}),
        ("white 40 % at 2.1 for 1 beat", {"white": True, "level": 0.4, "at": 4, "length": 1}),
        ("Sea line at 3.1 for 4 bars", {"preset": "s", "at": 8, "length": 16}),
    ],
)
def test_entries(text: str, fields: dict[str, Any]) -> None:
    assert fields.items() <= read_entry(text, LOOKS, PRESETS).items()


@pytest.mark.parametrize(
    ("text", "said"),
    [("Herring run 80 %", "begins is missing"), ("Kelp at 1.1", "no look or preset 'Kelp'"), ("% at 1.1", "no look")],
)
def test_what_is_no_entry_says_so(text: str, said: str) -> None:
    with pytest.raises(InputError, match=said) as error:
        read_entry(text, LOOKS, PRESETS)
    assert error.value.repair
    with pytest.raises(InputError, match="no level"):
        read_level("140 %")
