"""Speeds as they are typed."""

from __future__ import annotations

import pytest

from heliograph.core.errors import InputError
from heliograph.core.playing.tempo import Speed
from heliograph.core.playing.typed_speed import read_speed


@pytest.mark.parametrize(
    ("text", "speed"),
    [
        ("4 s", Speed(4.0, "s")),
        ("0,5", Speed(0.5, "s")),
        ("3 sec", Speed(3.0, "s")),
        ("8 beats", Speed(8.0, "beat")),
        ("1 b", Speed(1.0, "beat")),
        ("2 Bars", Speed(8.0, "beat")),
        ("-4 bars", Speed(-16.0, "beat")),
        ("8 beats backward", Speed(-8.0, "beat")),
        ("150 %", Speed(1.5, "times")),
        ("-150%", Speed(-1.5, "times")),
    ],
)
def test_a_speed_is_seconds_beats_bars_or_a_percentage(text: str, speed: Speed) -> None:
    assert read_speed(text) == speed


@pytest.mark.parametrize("text", ["", "fast", "--1 s", "1 s s", "backward", "4 s 2", "0 s", "1e3", "9999 %"])
def test_what_is_no_speed_is_refused(text: str) -> None:
    with pytest.raises(InputError) as refused:
        read_speed(text)
    assert refused.value.where == "speed"
    assert "8 beats" in refused.value.repair
