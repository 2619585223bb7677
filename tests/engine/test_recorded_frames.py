"""Frames that were recorded before the stages of power and the mixing of looks were made anew: the wire is the same.

What was wrong before is left out of the recorded scenes: lines blended across looks, parked values below blackout,
highlight that shone through a blackout, a muted universe with an armed laser in it.
"""

from __future__ import annotations

import random
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.hand.parking import NOTHING_PARKED
from heliograph.core.playing.level import FULL
from heliograph.render.renderer import Renderer
from tests.preview.test_why import random_show

RECORDED = Path(__file__).with_name("recorded_frames.npz")
SEEDS = range(7_000, 7_050)
MOMENTS_S = (0.0, 0.37, 12.4)


def frames_of(seed: int) -> np.ndarray[Any, Any]:
    """(3, U, 512): the universes of one random show at each moment."""
    show, state, show_ns = random_show(random.Random(seed))
    show = replace(show, parked=NOTHING_PARKED)
    runs = tuple(replace(run, level=FULL) for run in state.runs[:1])
    armed = frozenset() if show.emission.muted.any() else state.armed
    state = replace(state, runs=runs, blackout=False, armed=armed)
    renderer = Renderer()
    return np.stack([renderer.render(show, state, show_ns + round(one * 1e9)).copy() for one in MOMENTS_S])


@pytest.mark.parametrize("seed", SEEDS)
def test_the_wire_is_what_it_was(seed: int) -> None:
    """On the processor it was recorded on, bit by bit; another one may round the last bit of a few otherwise."""
    before, now = np.load(RECORDED)[str(seed)].astype(np.int16), frames_of(seed).astype(np.int16)
    apart = np.abs(before - now)
    assert int(apart.max()) <= 1
    assert np.count_nonzero(apart) <= before.size // 2_000


def test_the_recording_is_no_empty_one() -> None:
    recorded = np.load(RECORDED)
    frames = [frame for seed in recorded.files for frame in recorded[seed]]
    assert len({frame.tobytes() for frame in frames}) > 75
    assert max(int(frame.max()) for frame in frames) == 255


if __name__ == "__main__":
    frames: dict[str, Any] = {str(seed): frames_of(seed) for seed in SEEDS}
    np.savez_compressed(RECORDED, **frames)
