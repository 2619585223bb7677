"""Each effect, each blend, and each way of making colour: ms a frame at 512 universes beside a plain memory pass.

Effects have a limit of their own. The memory pass is reading and writing the float pixels once (numpy, the same 87,040
cells), measured in the same run.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from bench.engine_run import PIXELS, line, show_sections
from bench.quiet import median_ms
from bench.report import Report
from heliograph.core.look.any_line import BLENDS
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.effects import EFFECTS
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer

UNIVERSES = 512
EFFECT_MS = 6.0
"""No effect takes longer, alone or with its numbers driven over the cells."""

NS = 1_000_000_000


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


def swing(low: float, high: float, **fields: Any) -> dict[str, Any]:
    return {"low": low, "high": high, "period": {"value": 4.0, "unit": "s"}, **fields}


def three_drives(name: str) -> dict[str, Any]:
    """At most three numbers of an effect, each driven over the cells."""
    found: dict[str, Any] = {}
    for one in EFFECTS[name].parameters:
        if one.kind == "number" and one.each and len(found) < 3:
            middle = float(one.default) or (one.minimum + one.maximum) / 4
            low, high = max(one.minimum, middle * 0.6), min(one.maximum, middle * 1.4)
            over = ("column", "address", "distance")[len(found)]
            found[f"params.{one.name}"] = swing(low, high, over=over, rise=0.2, fall=0.4)
    return found


def many_drives(report: Report) -> None:
    """300 numbers that are the same for all cells: the difference to the same lines with these numbers still in the
    middle of their ranges, on one universe, where painting costs little."""
    drives = {f"params.{name}": swing(1.0, 60.0, rise=0.1) for name in ("width", "spacing", "angle", "edge")}
    drives |= {"opacity": swing(0.1, 1.0)}
    middle = dict.fromkeys(("width", "spacing", "angle", "edge"), 30.5)
    still = {"params": middle, "opacity": 0.55}
    sections = show_sections(1)
    names = [f"l{n}" for n in range(60)]

    def whole(driven: bool) -> float:
        lines = [line(name, "Slats", **({"drives": drives} if driven else still)) for name in names]
        return frame_ms(compile_show({**sections, "look:L": {"id": "L", "name": "L", "lines": lines}}, Path("/x")))

    pairs = [(whole(False), whole(True)) for _ in range(3)]
    more = min(driven for _, driven in pairs) - min(still for still, _ in pairs)
    report.row("300 drives alike: over the same lines still", more, "ms", 1.0, "the limit", holds=True)


def painted_through(report: Report, limit: float) -> None:
    """What a mask, a component and a recolouring cost."""
    plain, mask = line("a", "Grade"), line("m", "Slats", stencil=True)
    recolour = {**line("r", ""), "paints": "recolour", "params": {}}
    for name in ("effect", "speed"):
        recolour.pop(name)
    for row, lines in (
        ("Grade through Slats", [mask, {**plain, "through": {"line": "m", "by": "cover"}}]),
        ("Grade, only its hue, over Flat", [line("g", "Flat"), {**plain, "only": "hue"}]),
        ("Grade recoloured onto a ramp", [plain, recolour]),
        ("Grade recoloured, hue turned", [plain, {**recolour, "params": {"onto": "its own colours", "turn": 40}}]),
    ):
        report.row(f"{row}: painting", frame_ms(compiled(lines)), "ms", limit, "memory pass")


def run(report: Report) -> None:
    cells = UNIVERSES * PIXELS
    limit = memory_pass_ms(cells)
    for name in EFFECTS:
        took = frame_ms(compiled([line("a", name)]))
        report.row(f"{name}: painting", took, "ms", EFFECT_MS, "the limit", holds=True)
        drives = three_drives(name)
        if drives:
            show = compiled([line("a", name, drives=drives)])
            row = f"{name}, {len(drives)} drives over the cells: painting"
            report.row(row, frame_ms(show), "ms", EFFECT_MS, "the limit", holds=True)
    report.note(f"a memory pass over the same cells: {limit:.3f} ms")
    ground = line("g", "Flat")
    many_drives(report)
    painted_through(report, limit)
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
