"""Web and database down for long: a list, a score and the clock go on, looked at on the wire and at the engine's own
door. `./heliograph bench alone --minutes 60`.

The supervisor, which would start both again, is stopped meanwhile; at the end it goes on, and everything is there.
"""

from __future__ import annotations

import os
import signal
import time
from uuid import uuid4

import psutil

from bench import soak
from bench.quay import on_the_quay
from bench.report import Report
from tests.conftest import wait_for
from tests.live.test_clock_survival import COLOURS, Quay, stamp
from tests.moves import move

BAR_S = 2.0
"""Of four beats at 120 BPM."""

EDGE_S = 0.25
"""So near a change nothing is asserted: the picture was fetched a little earlier or later."""

FOLLOW_S = 3.0
BEGINS = "2030-12-01 16:00:30"
GROWTH_MB = 20.0


def run(report: Report) -> None:
    with on_the_quay() as quay:
        try:
            _alone(quay, report)
        finally:
            quay.app.process.send_signal(signal.SIGCONT)


def _alone(quay: Quay, report: Report) -> None:
    app = quay.app
    quay.api.call("PATCH", f"/api/scores/{quay.score}", {"bars": 12, "rounds": 0})
    quay.api.call("PATCH", f"/api/lists/{quay.list}", {"rounds": 0})
    cues = [one["id"] for one in quay.api.call("GET", "/api/show")["cue_lists"][0]["cues"]]
    quay.api.call("PATCH", f"/api/lists/{quay.list}/cues", {"cues": cues, "then": f"follow {FOLLOW_S:g} s"})
    for first, percent in (("16:01", 50), ("16:02", 100)):
        rule = {
            "id": str(uuid4()),
            "when": f"every 2 min from {first} to 23:59",
            "does": f"The grand master {percent} %",
        }
        quay.api.call("POST", "/api/clock/rules", rule)
    quay.arrived()
    quay.sets(BEGINS)
    clock = stamp(BEGINS) - time.monotonic()
    app.engine().ask(move(f"list/{quay.list}/go"))
    app.engine().ask(move(f"score/{quay.score}/start"))
    time.sleep(1.0)
    before = psutil.Process(app.pid("engine")).memory_info().rss / 1024**2
    app.process.send_signal(signal.SIGSTOP)
    for down in ("web", "database"):
        os.kill(app.pid(down), signal.SIGKILL)
    begun = time.monotonic()
    until = begun + soak.minutes * 60
    looked = wrong = 0
    cues_gone: list[str] = []
    while time.monotonic() < until:
        time.sleep(0.37)
        at = time.monotonic()
        now = quay.state()
        [score], [plays] = now["scores"], now["lists"]
        if plays["cue"] not in cues_gone[-1:]:
            cues_gone.append(plays["cue"])
        minute = (clock + at - stamp("2030-12-01 16:00:00")) / 60.0
        level = 0.5 if minute >= 1.0 and int(minute) % 2 else 1.0
        bar = score["beat"] / 4.0
        if min(bar % 1.0, 1.0 - bar % 1.0) * BAR_S < EDGE_S or min(minute % 1.0, 1.0 - minute % 1.0) * 60.0 < 0.5:
            continue
        wanted = [part * level for part in COLOURS["Harbour" if int(bar) % 2 else "Lamp"]]
        shown = quay.receiver.picture()[:3]
        if time.monotonic() - at > EDGE_S:  # a busy machine: it is the picture of another moment
            continue
        looked += 1
        if max(abs(a - b) for a, b in zip(shown, wanted, strict=True)) > 1.0:
            wrong += 1
            report.note(f"after {at - begun:.0f} s, bar {bar:.2f}, minute {minute:.2f}: {shown}, not {wanted}")
    lasted = time.monotonic() - begun
    after = psutil.Process(app.pid("engine")).memory_info().rss / 1024**2
    report.note(f"{lasted / 60:.1f} min, {looked} pictures looked at, {len(cues_gone)} cues begun")
    report.row("pictures that were not as score and clock have it", wrong, "", 0, "none", holds=True)
    report.row("cues too few or too many", abs(len(cues_gone) - lasted / FOLLOW_S), "", 2, "stated", holds=True)
    report.row("memory the engine grew by", after - before, "MB", GROWTH_MB, "stated", holds=True)
    app.process.send_signal(signal.SIGCONT)
    back = time.monotonic()
    wait_for(lambda: _there(quay), 60, "web and database do not come back")
    report.row("until web and database are there again", time.monotonic() - back, "s", 30.0, "stated")


def _there(quay: Quay) -> bool:
    try:
        return bool(quay.api.call("GET", "/api/show")["show"])
    except Exception:
        return False
