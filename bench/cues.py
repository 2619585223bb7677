"""Cue lists and scores at 512 universes: a fade between two looks of three lines each beside one of them alone, a list
that stands and a score that plays beside the same look by hand; in the same run.

Limits: a fade costs at most 1.6 times the frame of one; a list that stands costs nothing (5 %, what pairs of equal runs
differ by here), and a score of one entry over all cells as much as a look that has to know what it covers (1.6).
"""

from __future__ import annotations

import tempfile
import time
from pathlib import Path
from typing import Any

from bench.effects import UNIVERSES
from bench.engine_run import measure, running_engine, sink
from bench.report import Report
from heliograph.ipc.messages.engine import MoveHandles, OneMove

SECONDS, TURNS = 4, 3
FADE_TIMES, IDLE_TIMES = 1.6, 1.05
HOUR = 3_600


def _line(key: str, effect: str, **fields: Any) -> dict[str, Any]:
    line = {"id": key, "paints": "effect", "matrix": "M", "effect": effect, "speed": {"value": 4, "unit": "s"}}
    return {
        **line,
        "ramp": [[0, 20, 60, 90], [1, 255, 206, 128]],
        "opacity": 1.0,
        "blend": "over",
        "params": {},
        **fields,
    }


def _more() -> dict[str, Any]:
    """A second look of three lines, and a list of both."""
    lines = [
        _line("B1", "Grade", matrix="M"),
        _line("B2", "Relay", matrix="M", blend="multiply", opacity=0.6),
        _line("B3", "Flat", matrix="M", blend="add", opacity=0.2),
    ]
    cues = [
        {"id": "c1", "number": 1, "looks": [{"look": "L"}]},
        {"id": "c2", "number": 2, "looks": [{"look": "B"}], "fade_in": HOUR},
    ]
    return {
        "look:B": {"id": "B", "name": "B", "lines": lines},
        "list:E": {"id": "E", "name": "Evening", "cues": cues, "release_s": 0},
        "groups": {"groups": [{"id": "G", "name": "All", "fixtures": [f"f{n}" for n in range(UNIVERSES)]}]},
        "score:S": {
            "id": "S",
            "name": "Midwinter",
            "bars": 2_000,
            "staves": [{"id": "v", "group": "G"}],
            "entries": [{"id": "e", "stave": "v", "look": "L", "at": 0, "length": 8_000}],
            "release_s": 0,
        },
    }


def run(report: Report) -> None:
    took: dict[str, list[float]] = {}
    with tempfile.TemporaryDirectory() as name, sink(), running_engine(Path(name), UNIVERSES, more=_more()) as client:

        def frame(what: str, **moves: object) -> None:
            for handle, value in moves.items():
                client.ask(MoveHandles(moves=[OneMove(handle.replace("_", "/"), value)]))
            time.sleep(1.5)
            stats = measure(client, SECONDS)
            took.setdefault(what, []).append(stats["render_ms"] + stats["send_ms"])

        for _ in range(TURNS):
            frame("one", look_L_on=True)
            frame("other", look_B_on=True, look_L_on=False)
            frame("stands", list_E_go=None, look_B_on=False)
            frame("fades", list_E_go=None)
            client.ask(MoveHandles(moves=[OneMove("list/E/release")]))
            time.sleep(0.3)
            frame("score", score_S_start=None)
            client.ask(MoveHandles(moves=[OneMove("score/S/release")]))
            time.sleep(0.3)
    one, other, stands, fades, score = (min(took[what]) for what in ("one", "other", "stands", "fades", "score"))
    dearer = max(one, other)
    report.row("one look of three lines by hand, a frame", one, "ms", dearer, "the dearer of both")
    report.row("the other one", other, "ms", dearer, "the dearer of both")
    report.row("the first in a list that stands", stands, "ms", one * IDLE_TIMES, "limit", holds=True)
    report.row("a fade from one to the other", fades, "ms", dearer * FADE_TIMES, "limit", holds=True)
    report.row("the first in a score", score, "ms", one * FADE_TIMES, "limit", holds=True)
