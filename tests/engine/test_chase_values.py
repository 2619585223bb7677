"""What frames of a chase set beside their pictures: by word and in degrees, mixed while a frame fades, in 16 bits."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.look.drawn import packed
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.heads import HEAD, PAN_DEG, heads, row
from tests.engine.shows import output

SIZE = len(HEAD)
CLEAR = packed(np.zeros((1, 1, 4), dtype=np.uint8))


def show_of(*frames: dict[str, Any], **fields: Any) -> CompiledShow:
    each = [one.get("fade", 0.0) + one.get("hold", 1.0) for one in frames]
    stored = [{"id": str(n), "fade": 0.0, "hold": 1.0, "picture": CLEAR, **one} for n, one in enumerate(frames)]
    line: dict[str, Any] = {
        "id": "a",
        "paints": "chase",
        "chase": "C",
        "matrix": "M",
        "ramp": [[0, 255, 255, 255]],
        "blend": "over",
    }
    line |= {"speed": {"value": 1, "unit": "times"}, "opacity": 1.0, "length": sum(each), "unit": "s", **fields}
    return compile_show(
        {
            "rig": heads(2),
            "matrix:M": row("h0", "h1"),
            "outputs": {"outputs": [output()]},
            "look:L": {"id": "L", "name": "L", "lines": [line]},
            "chase:C": {"id": "C", "columns": 1, "rows": 1, "unit": "s", "frames": stored},
        },
        Path("/nonexistent"),
    )


def sent(show: CompiledShow, seconds: float) -> list[int]:
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    now = round(seconds * NS_PER_S)
    frame = Renderer().render(show, state, now)[0, : 2 * SIZE].tolist()
    assert [why(show, Renderer().stages(show), state, now, n, {}).value for n in range(2 * SIZE)] == frame
    return frame


def wide(frame: list[int], head: int = 0) -> int:
    return frame[head * SIZE] * 256 + frame[head * SIZE + 1]


def degrees(value: float) -> float:
    return (value + PAN_DEG / 2) / PAN_DEG * 65_535


def test_each_frame_sets_its_own_for_all_fixtures_and_one_that_sets_none_leaves_them_at_rest() -> None:
    show = show_of({"sets": {"Pan": "90°", "Gobo1": "shingle"}}, {"sets": {"Pan": "-45° > 45°"}}, {})
    first, second, third = (sent(show, at) for at in (0.5, 1.5, 2.5))
    assert [wide(first, head) for head in (0, 1)] == pytest.approx([degrees(90)] * 2, abs=1)
    assert first[4] == 30
    assert [wide(second, head) for head in (0, 1)] == pytest.approx([degrees(-45), degrees(45)], abs=1)
    assert second[4] == 0
    assert (wide(third), third[4]) == (128 * 256, 0)


def test_a_frame_that_fades_is_the_mean_of_both_at_its_middle_and_what_cannot_fade_changes_once() -> None:
    frames = ({"sets": {"Pan": "90°", "Gobo1": "ripples"}}, {"sets": {"Pan": "-45°", "Gobo1": "shingle"}, "fade": 2.0})
    show = show_of(*frames)
    assert wide(sent(show, 2.0)) == pytest.approx(degrees((90 - 45) / 2), abs=1)
    assert wide(sent(show, 1.5)) == pytest.approx(degrees(90 - 135 * 0.25), abs=1)
    gobos = [sent(show, 1.0 + n / 10)[4] for n in range(21)]
    assert gobos == [10] * 10 + [30] * 11  # half-way, as its profile says


def test_opacity_and_a_mute_are_those_of_its_line_and_a_changed_frame_is_sent() -> None:
    frame = {"sets": {"Pan": "90°"}}
    assert wide(sent(show_of(frame, opacity=0.5), 0.5)) == pytest.approx((degrees(90) + 128 * 256) / 2, abs=1)
    assert wide(sent(show_of(frame, mute=True), 0.5)) == 128 * 256
    before = show_of(frame)
    sections = {"sets": {"Pan": "-90°"}}
    assert wide(sent(show_of(sections), 0.5)) == pytest.approx(degrees(-90), abs=1)
    assert wide(sent(before, 0.5)) == pytest.approx(degrees(90), abs=1)
