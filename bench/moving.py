"""What moves beside the pictures: twenty lines over 200 heads each, and fifty chases on matrices of their own, at 512
universes of pixels; each set beside the same show without it, in the same run."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from bench.effects import NS, UNIVERSES, swing
from bench.engine_run import PIXELS, show_sections
from bench.quiet import median_ms
from bench.report import Report
from heliograph.core.look.drawn import packed
from heliograph.core.matrix.placements import CellKey, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer

HEADS, LINES, CHASES, FRAMES = 200, 20, 50, 12
MORE_MS = 2.0
"""Each of the two sets takes at most so much more a frame."""

Sections = dict[str, Any]


def difference_ms(without: CompiledShow, whole: CompiledShow) -> float:
    """How much longer a whole frame takes, the least of three pairs."""
    pairs = [(_frame_ms(without), _frame_ms(whole)) for _ in range(3)]
    return min(took for _, took in pairs) - min(took for took, _ in pairs)


def _frame_ms(show: CompiledShow) -> float:
    renderer, state = Renderer(), PlaybackState()
    for look in show.looks:
        state = state.started(look, 0)
    state = advance(state, show.lines, 0)
    renderer.render(show, state, 0)
    return median_ms(lambda turn: renderer.render(show, state, turn * NS // 44))


def heads_ms() -> float:
    """Each line drives pan and tilt of its heads; four lines move the same 200."""
    sections = show_sections(UNIVERSES)
    wide = [{"attribute": "Pan", "home": 128, "physical": [-270, 270]}, {"attribute": "Pan", "fine": True}]
    wide += [{"attribute": "Tilt", "home": 128, "physical": [-135, 135]}, {"attribute": "Tilt", "fine": True}]
    block = {"name": "Head", "shared": wide, "cell_count": 0, "cell_channels": []}
    rig = sections["rig"]
    rig["modes"]["head"] = {"mode": {"name": "4 channels", "blocks": [block]}, "guarded": False}
    per = 512 // len(wide)
    count = HEADS * LINES // 4
    rig["fixtures"] += [
        {
            "id": f"h{n}",
            "number": 10_001 + n,
            "name": f"Signal {n + 1}",
            "mode": "head",
            "universe": UNIVERSES + 1 + n // per,
            "channel": 1 + n % per * len(wide),
        }
        for n in range(count)
    ]
    lines = []
    for number in range(LINES):
        key = f"H{number % 5}"
        first = (number % 5) * HEADS
        members = [f"h{n}" for n in range(first, first + HEADS)]
        sections[f"matrix:{key}"] = {
            "id": key,
            "name": key,
            "width": 1,
            "height": 1,
            "placements": pack([]),
            "members": members,
        }
        drives = {
            "params.Pan": swing(-24, 24, over="address"),
            "params.Tilt": swing(-11, 11, over="address", phase=0.25),
        }
        base = {"id": f"a{number}", "paints": "attributes", "matrix": key, "ramp": [[0, 255, 255, 255]]}
        lines.append(
            {**base, "opacity": 1.0, "blend": "over", "params": {"Pan": "20°", "Tilt": "5°"}, "drives": drives}
        )
    without = compile_show(sections, Path("/x"))
    whole = compile_show({**sections, "look:A": {"id": "A", "name": "A", "lines": lines}}, Path("/x"))
    return difference_ms(without, whole)


def chases_ms() -> float:
    """Fifty matrices share all pixels; what they show is compared with the same show's three lines alone."""
    sections = show_sections(UNIVERSES)
    each = UNIVERSES // CHASES
    lines, drawn = [], np.random.default_rng(7)
    more: Sections = {}
    for number in range(CHASES):
        key, chase = f"C{number}", f"chase{number}"
        keys = [CellKey(f"f{number * each + n}", str(c + 1)) for n in range(each) for c in range(PIXELS)]
        placed = pack(place(keys, Weave(each, PIXELS, "top left", "columns", True)))
        more[f"matrix:{key}"] = {"id": key, "name": key, "width": each, "height": PIXELS, "placements": placed}
        frames = [
            {
                "id": f"f{n}",
                "fade": 0.2,
                "hold": 0.3,
                "picture": packed(drawn.integers(0, 256, (PIXELS, each, 4), dtype=np.uint8)),
            }
            for n in range(FRAMES)
        ]
        more[f"chase:{chase}"] = {"id": chase, "columns": each, "rows": PIXELS, "unit": "s", "frames": frames}
        base = {"id": f"c{number}", "paints": "chase", "chase": chase, "matrix": key, "ramp": [[0, 255, 255, 255]]}
        speed = {"value": 1.0, "unit": "times"}
        lines.append({**base, "opacity": 1.0, "blend": "over", "speed": speed, "length": FRAMES * 0.5, "unit": "s"})
    without = compile_show({**sections, **more}, Path("/x"))
    whole = compile_show({**sections, **more, "look:A": {"id": "A", "name": "A", "lines": lines}}, Path("/x"))
    return difference_ms(without, whole)


def run(report: Report) -> None:
    report.row(
        f"{LINES} lines moving {HEADS} heads each: more a frame", heads_ms(), "ms", MORE_MS, "the limit", holds=True
    )
    report.row(f"{CHASES} chases at once: more a frame", chases_ms(), "ms", MORE_MS, "the limit", holds=True)
