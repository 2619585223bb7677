"""Each effect, each blend, and each way of making colour: ms a frame at 512 universes beside a plain memory pass.

The limit is reading and writing the float pixels once (numpy, the same 87,040 cells), measured in the same run.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from bench.engine_run import PIXELS, line, show_sections
from bench.report import Report
from heliograph.core.look.line import BLENDS
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.effects import EFFECTS
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer

UNIVERSES = 512
TURNS = 40
NS = 1_000_000_000


def median_ms(run: Callable[[int], object]) -> float:
    times = []
    for turn in range(TURNS):
        begun = time.perf_counter()
        run(turn)
        times.append(time.perf_counter() - begun)
    return float(np.median(times) * 1e3)


def memory_pass_ms(cells: int) -> float:
    pixels, other = np.ones((cells, 3), dtype=np.float32), np.ones((cells, 3), dtype=np.float32)
    return median_ms(lambda _turn: np.multiply(pixels, other, out=other))


def compiled(lines: list[dict[str, Any]], folder: Path = Path("/nonexistent"), **more: Any) -> CompiledShow:
    sections = {**show_sections(UNIVERSES), **more}
    sections["look:L"] = {"id": "L", "name": "L", "lines": lines}
    return compile_show(sections, folder)


def frame_ms(show: CompiledShow, emit: bool = False) -> float:
    """Painting alone, or painting and making channel values."""
    renderer = Renderer()
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    once = renderer.render if emit else renderer.paint
    once(show, state, 0)
    return median_ms(lambda turn: once(show, state, turn * NS // 44))


def run(report: Report) -> None:
    cells = UNIVERSES * PIXELS
    limit = memory_pass_ms(cells)
    for name in EFFECTS:
        report.row(f"{name}: painting", frame_ms(compiled([line("a", name)])), "ms", limit, "memory pass")
    ground = line("g", "Flat")
    for blend in BLENDS:
        show = compiled([ground, line("a", "Grade", blend=blend, opacity=0.7)])
        report.row(f"Flat and Grade, {blend}: painting", frame_ms(show), "ms", limit, "memory pass")
    for name, channels, fixture in (
        ("RGB, as is", "RGB", {}),
        ("RGB, gamma 2.2", "RGB", {"response": "gamma 2.2"}),
        ("RGBW, replace", "RGBW", {}),
        ("RGBW, match", "RGBW", {"extra": "match"}),
    ):
        show = compiled([ground], rig=_rig(channels, fixture))
        plain = frame_ms(show)
        whole = frame_ms(show, emit=True)
        report.row(f"{name}: to channels", whole - plain, "ms", limit, "memory pass")


def _rig(letters: str, fixture: dict[str, Any]) -> dict[str, Any]:
    """The same number of cells with other emitters."""
    rig = show_sections(UNIVERSES)["rig"]
    channels = [{"attribute": f"ColorAdd_{letter}"} for letter in letters]
    count = 512 // len(channels)
    block = {"name": "b", "cell_count": min(count, PIXELS), "cell_channels": channels}
    fixtures = [{**one, **fixture} for one in rig["fixtures"]]
    return {"modes": {"m": {"mode": {"name": "m", "blocks": [block]}, "guarded": False}}, "fixtures": fixtures}
