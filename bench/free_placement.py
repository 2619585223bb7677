"""512 universes rendered with half a percent of the cells placed freely, beside the same show without any."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Any

import numpy as np

from bench.engine_run import PIXELS, show_sections
from bench.report import Report
from heliograph.core.matrix.placements import Placement, pack, unpack
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer

UNIVERSES = 512
SHARE = 0.005
FRAMES = 60
RATIO_LIMIT = 1.25
"""What free placement may cost a frame: half a percent of the cells, each over two to four squares."""


def with_free_cells(sections: dict[str, Any], share: float) -> dict[str, Any]:
    """The show with a share of its cells moved off the grid by half a square, every fourth of them two squares wide."""
    dice = np.random.default_rng(5)
    matrix = sections["matrix:M"]
    placements = unpack(matrix["placements"])
    chosen = dice.choice(len(placements), int(len(placements) * share), replace=False)
    for n, index in enumerate(chosen.tolist()):
        one = placements[index]
        x, y = min(one.x, matrix["width"] - 3.0), min(one.y, matrix["height"] - 2.0)
        placements[index] = Placement(one.key, x + 0.5, y + 0.5 * (n % 2), 2.0 if n % 4 == 0 else 1.0, 1.0)
    return {**sections, "matrix:M": {**matrix, "placements": pack(placements)}}


def frame_ms(show: CompiledShow) -> list[float]:
    """Milliseconds of rendering each of some frames, the first ones left out."""
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    renderer = Renderer()
    times = []
    for n in range(FRAMES + 5):
        begun = time.perf_counter()
        renderer.render(show, state, n * 22_727_272)
        times.append((time.perf_counter() - begun) * 1e3)
    return times[5:]


def run(report: Report) -> None:
    sections = show_sections(UNIVERSES)
    plain = compile_show(sections, Path("/nonexistent"))
    free = compile_show(with_free_cells(sections, SHARE), Path("/nonexistent"))
    spread = sum(one.cells.size for one in free.matrices["M"].spreads)
    assert spread == int(UNIVERSES * PIXELS * SHARE), spread
    found: dict[str, list[float]] = {"plain": [], "free": []}
    for _ in range(3):  # in turn, so that both meet the same machine
        found["plain"] += frame_ms(plain)
        found["free"] += frame_ms(free)
    base, other = (float(np.median(found[name])) for name in ("plain", "free"))
    report.row(f"{UNIVERSES} universes, every cell on its square", base, "ms", 22.727, "one frame", holds=True)
    report.row(f"{UNIVERSES} universes, {spread} cells placed freely", other, "ms", 22.727, "one frame", holds=True)
    report.row("free beside plain", other / base, "", RATIO_LIMIT, "limit", holds=True)
