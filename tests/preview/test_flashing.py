"""A look that flashes is found ahead, with the line that makes it."""

from __future__ import annotations

import time

import pytest

from heliograph.ipc.messages.preview import FlashesFound
from heliograph.preview.flashing import FlashWatch, flashes_of
from tests.conftest import wait_for
from tests.engine.shows import compiled, grid, lamps, line, look

STEADY = line("a", "Mist", speed={"value": 20, "unit": "s"}, ramp=[[0, 40, 40, 90], [1, 90, 60, 40]])


def strobe(seconds: float, **fields: object) -> dict[str, object]:
    return line("b", "Pulse", params={"shape": "square"}, speed={"value": seconds, "unit": "s"}, **fields)


def found_of(*lines: dict[str, object], bpm: float = 120.0) -> FlashesFound:
    show = compiled(lamps(24), grid(6, 4), look(*lines))
    return flashes_of(show.looks["L"], bpm, time.monotonic() + 30)


@pytest.mark.slow
def test_the_line_that_flashes_is_named() -> None:
    found = found_of(STEADY, strobe(0.25))
    assert (found.rate, found.cells, found.of, found.line, found.name) == (4, 24, 24, 2, "M")
    assert found_of(STEADY, strobe(0.5)).rate <= 3
    assert found_of(STEADY, strobe(0.25, region={"squares": [[0, 0, 6, 1]]})).rate <= 3  # a quarter of it


def test_a_flash_by_beats_is_found_at_the_tempo_there_is() -> None:
    beats = {**strobe(1.0), "speed": {"value": 0.5, "unit": "beat"}}
    assert found_of(beats, bpm=132).rate == 4
    assert found_of(beats, bpm=70).rate <= 3


def test_it_is_looked_for_once_and_kept() -> None:
    watch = FlashWatch()
    show = compiled(lamps(24), grid(6, 4), look(STEADY, strobe(0.2)))
    assert watch.ask(show, "L", 120.0) is None
    found = wait_for(lambda: watch.ask(show, "L", 120.0), 30)
    assert (found.rate, found.line) == (5, 2)
    assert watch.ask(show, "L", 120.0) is found
    assert watch.ask(show, "nothing", 120.0) == FlashesFound(known=True)
