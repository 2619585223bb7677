"""The running loop with its control side: sections, gestures, commands; packets are read on loopback."""

from __future__ import annotations

import socket
import time
from pathlib import Path

import pytest

from heliograph.core.errors import InputError
from heliograph.engine.clock import PERIOD_NS
from tests.engine.desk import Desk, sees
from tests.engine.shows import line, look


def test_a_show_is_taken_and_a_look_started(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    sees(node, [0, 0, 0])
    state = desk.ask(do="start", look="L")["state"]
    assert [run["look"] for run in state["running"]] == ["L"]
    sees(node, [100, 50, 20] * 4)
    desk.ask(do="stop", look="L")
    sees(node, [0, 0, 0])
    with pytest.raises(InputError, match="not in the running show"):
        desk.ask(do="start", look="nothing")


def test_a_gesture_acts_until_it_is_stored_or_taken_back(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(do="start", look="L")
    desk.ask(do="gesture", moves=[{"look": "L", "line": "a", "changes": {"ramp": [[0, 9, 8, 7]]}}])
    sees(node, [9, 8, 7])
    desk.ask(do="gesture", moves=[{"look": "L", "line": "a", "changes": {"opacity": 0.0}}])
    sees(node, [0, 0, 0])
    desk.ask(do="end_gesture", look="L")
    sees(node, [100, 50, 20])
    desk.ask(do="gesture", moves=[{"look": "L", "line": "a", "changes": {"ramp": [[0, 9, 8, 7]]}}])
    desk.publish(2, look_L=look(line("a", "Flat", ramp=[[0, 1, 2, 3]])))
    sees(node, [1, 2, 3])  # the stored look ends the gesture


def test_a_wrong_gesture_is_refused_and_the_last_good_one_stays(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(do="start", look="L")
    desk.ask(do="gesture", moves=[{"look": "L", "line": "a", "changes": {"ramp": [[0, 9, 8, 7]]}}])
    for changes in ({"opacity": 3}, {"params": {"glow": 1}}, {"matrix": "other"}):
        with pytest.raises(InputError):
            desk.ask(do="gesture", moves=[{"look": "L", "line": "a", "changes": changes}])
    sees(node, [9, 8, 7])


def test_show_time_is_held_stepped_and_set(desk: Desk) -> None:
    desk.publish(1)
    with pytest.raises(InputError, match="hold it before"):
        desk.ask(do="step_time", frames=1)
    held = desk.ask(do="hold_time")["state"]["show_s"]
    time.sleep(0.1)
    assert desk.ask(do="step_time", frames=2)["state"]["show_s"] == pytest.approx(held + 2 * PERIOD_NS / 1e9)
    assert desk.ask(do="set_time", seconds=42.5)["state"]["show_s"] == 42.5
    time.sleep(0.1)
    assert desk.ask(do="status")["state"]["show_s"] == 42.5
    desk.ask(do="run_time")
    time.sleep(0.2)
    assert 42.5 < desk.ask(do="status")["state"]["show_s"] < 44


def test_tempo_taps_and_masters(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    assert desk.ask(do="tempo", bpm=100)["state"]["bpm"] == 100
    tapped = desk.ask(do="tap", bpm=90.5)["state"]
    assert tapped["bpm"] == 90.5
    assert tapped["beat"] == pytest.approx(round(tapped["beat"]), abs=0.2)
    desk.ask(do="start", look="L")
    desk.ask(do="master", level=0.5)
    sees(node, [50, 25, 10])
    desk.ask(do="blackout", on=True)
    sees(node, [0, 0, 0])
    for wrong in ({"do": "master", "level": 2}, {"do": "tempo", "bpm": 1}, {"do": "dance"}):
        with pytest.raises(InputError):
            desk.ask(**wrong)


def test_a_manifest_whose_sections_are_missing_is_refused(desk: Desk) -> None:
    desk.publish(1)
    with pytest.raises(InputError, match="1 sections have not arrived"):
        desk.ask(do="adopt", manifest={"rig": "0" * 32}, revision=2)
    assert desk.ask(do="status")["revision"] == 1


def test_the_next_engine_goes_on_without_anybody_telling_it(tmp_path: Path, node: socket.socket) -> None:
    first = Desk(tmp_path)
    first.publish(5)
    first.ask(do="start", look="L")
    sees(node, [100, 50, 20])
    first.stop()
    second = Desk(tmp_path)
    try:
        sees(node, [100, 50, 20])
        status = second.ask(do="status")
        assert (status["revision"], [run["look"] for run in status["state"]["running"]]) == (5, ["L"])
    finally:
        second.stop()


def test_a_look_that_runs_gets_a_level_and_one_that_does_not_is_told(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(do="start", look="L")
    desk.ask(do="look_level", look="L", level=0.25)
    sees(node, [25, 13, 5])  # a quarter of 100, 50, 20
    [running] = desk.ask(do="status")["state"]["running"]
    assert (running["look"], running["level"]) == ("L", 0.25)
    for message, says in (({"look": "M", "level": 0.5}, "does not run"), ({"look": "L", "level": 1.5}, "150 %")):
        with pytest.raises(InputError, match=says):
            desk.ask(do="look_level", **message)
