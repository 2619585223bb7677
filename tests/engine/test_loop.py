"""The running loop with its control side: sections, moves, commands; packets are read on loopback."""

from __future__ import annotations

import socket
import time
from pathlib import Path

import pytest

from heliograph.core.errors import InputError
from heliograph.core.playing.frames import PERIOD_NS
from tests.conftest import wait_for
from tests.engine.desk import Desk, sees
from tests.engine.shows import line, look
from tests.moves import level_of, line_moved, move, moves, off, on


def test_a_show_is_taken_and_a_look_started(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    sees(node, [0, 0, 0])
    state = desk.ask(**on("L"))["state"]
    assert [run["look"] for run in state["running"]] == ["L"]
    sees(node, [100, 50, 20] * 4)
    desk.ask(**off("L"))
    sees(node, [0, 0, 0])
    with pytest.raises(InputError, match="in the running show"):
        desk.ask(**on("nothing"))


def test_what_a_hand_holds_of_a_line_acts_until_it_lets_go(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(**on("L"))
    desk.ask(**line_moved("L", "a", ramp=[[0, 9, 8, 7]]), by="a browser")
    sees(node, [9, 8, 7])
    desk.ask(**line_moved("L", "a", opacity=0.0), by="a browser")
    sees(node, [0, 0, 0])
    desk.ask(do="let_go", by="somebody else")
    desk.ask(do="let_go", handles=["look/L/a/opacity"], by="a browser")
    sees(node, [9, 8, 7])
    desk.publish(2, look_L=look(line("a", "Flat", ramp=[[0, 1, 2, 3]])))
    sees(node, [9, 8, 7])  # stored beneath the hand
    desk.ask(do="let_go", by="a browser")
    sees(node, [1, 2, 3])


def test_a_wrong_move_is_refused_and_nothing_of_its_message_is_done(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(**on("L"))
    desk.ask(**line_moved("L", "a", ramp=[[0, 9, 8, 7]]))
    wrong = {"opacity": 3, "glow": 1, "matrix": "other", "place": 900, "blend": "burn", "ramp": [[0]]}
    for name, value in wrong.items():
        with pytest.raises(InputError):
            desk.ask(**moves({"master": 0.1, f"look/L/a/{name}": value}))
    sees(node, [9, 8, 7])
    assert desk.ask(do="status")["state"]["master"] == 1.0


def test_what_is_held_of_a_line_that_is_deleted_is_let_go_of(desk: Desk) -> None:
    desk.publish(1)
    desk.ask(**line_moved("L", "a", opacity=0.5))
    assert desk.ask(do="status")["state"]["held_lines"] == ["a"]
    desk.publish(2, look_L=look(line("b", "Flat")))
    assert desk.ask(do="status")["state"]["held_lines"] == []


def test_a_deleted_look_that_comes_back_runs_on_but_not_through_another_show(desk: Desk, node: socket.socket) -> None:
    """Undo brings a running look back as it was; a show that is opened again begins with nothing running."""
    desk.publish(1)
    desk.ask(**on("L"))
    desk.ask(**level_of("L", 0.5))
    sees(node, [50, 25, 10])
    away = {"id": "other", "name": "Other", "lines": [line("z", "Flat")]}
    desk.publish(2, look_L=away)
    sees(node, [0, 0, 0])
    desk.publish(3)  # as undo does
    sees(node, [50, 25, 10])
    desk.publish(1, show="another", look_L=away)
    sees(node, [0, 0, 0])
    desk.publish(3)
    assert desk.ask(do="status")["state"]["running"] == []
    sees(node, [0, 0, 0])


def test_a_look_fades_in_and_out_and_is_gone_then(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(do="hold_time")
    desk.ask(do="set_time", seconds=10)
    desk.ask(do="move", moves=[{"handle": "look/L/on", "value": True, "over_s": 4.0}])
    desk.ask(do="set_time", seconds=11)
    sees(node, [25, 13, 5])  # a quarter of 100, 50, 20
    desk.ask(do="move", moves=[{"handle": "look/L/on", "value": False, "over_s": 2.0}])
    desk.ask(do="set_time", seconds=12)
    sees(node, [13, 6, 3])  # half of that
    desk.ask(do="set_time", seconds=13)
    sees(node, [0, 0, 0])
    assert desk.ask(do="status")["state"]["running"] == []


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
    begun = time.monotonic()
    desk.ask(do="run_time")
    wait_for(lambda: desk.ask(do="status")["state"]["show_s"] > 42.5, 3, "time stands still")
    assert desk.ask(do="status")["state"]["show_s"] - 42.5 < time.monotonic() - begun + 2 * PERIOD_NS / 1e9


def test_tempo_taps_and_masters(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    assert desk.ask(**move("tempo", 100))["state"]["bpm"] == 100
    desk.ask(do="hold_time")  # a busy machine may answer frames later: the beat it tells is that of the tap
    for moment in (0, 502, 998):
        desk.ask(**move("tap", moment))
    tapped = desk.ask(**move("tap", 1503))["state"]
    assert tapped["bpm"] == pytest.approx(119.76, abs=0.01)  # standards 8.2
    assert tapped["beat"] == pytest.approx(round(tapped["beat"]), abs=1e-6)
    desk.ask(do="run_time")
    desk.ask(**on("L"))
    desk.ask(**move("master", 0.5))
    sees(node, [50, 25, 10])
    desk.ask(**move("blackout", True))
    sees(node, [0, 0, 0])
    for wrong in (move("master", 2), move("tempo", 1), {"do": "dance"}):
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
    first.ask(**on("L"))
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
    desk.ask(**on("L"))
    desk.ask(**level_of("L", 0.25))
    sees(node, [25, 13, 5])  # a quarter of 100, 50, 20
    [running] = desk.ask(do="status")["state"]["running"]
    assert (running["look"], running["level"]) == ("L", 0.25)
    desk.ask(**off("L"))
    for level, says in ((0.5, "does not run"), (1.5, "150 %")):
        with pytest.raises(InputError, match=says):
            desk.ask(**level_of("L", level))


def test_cells_of_unequal_colours_are_dimmed_by_hand_and_each_keeps_its_own(desk: Desk, node: socket.socket) -> None:
    """Red, blue and dark cells: at half, half red, half blue and dark; on the same movement, from where it began."""
    desk.publish(1)
    held = {"f0/1": 200, "f0/2": 0, "f0/3": 0, "f1/1": 0, "f1/2": 0, "f1/3": 100, "f2/1": 0, "f2/2": 0, "f2/3": 0}
    desk.ask(do="manual", values=held)
    sees(node, [200, 0, 0, 0, 0, 100, 0, 0, 0])
    cells = [{"keys": [f"f{n}/{channel}" for channel in (1, 2, 3)]} for n in range(3)]
    for to, wanted in ((0.2, [51, 0, 0, 0, 0, 26]), (0.0, [0] * 6), (100 / 255, [100, 0, 0, 0, 0, 50])):
        desk.ask(do="colours", cells=cells, what="brightness", to=to, drag="one")
        sees(node, [*wanted, 0, 0, 0])
    desk.ask(do="colours", cells=cells, what="hue", to=1 / 3, drag="two")
    sees(node, [0, 100, 0, 0, 50, 0, 0, 0, 0])
    with pytest.raises(InputError, match="of no fixture"):
        desk.ask(do="colours", cells=[{"keys": ["f0/1", "f0/2", "gone/3"]}], what="hue", to=0.1, drag="three")


def test_cells_that_nobody_holds_are_dimmed_from_what_is_sent(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(**on("L"))
    sees(node, [100, 50, 20] * 4)
    cells = [{"keys": ["f1/1", "f1/2", "f1/3"]}]
    desk.ask(do="colours", cells=cells, what="brightness", to=50 / 255, drag="one")
    sees(node, [100, 50, 20, 50, 25, 10, 100, 50, 20])


def test_of_two_states_of_one_frame_the_one_after_a_command_is_known_as_the_newer(desk: Desk) -> None:
    desk.publish(1)
    for level in (0.25, 0.5, 0.75):
        before = desk.ask(do="status")["state"]
        after = desk.ask(**move("master", level))["state"]
        assert after["changes"] > before["changes"]
        assert desk.ask(do="status")["state"]["changes"] == after["changes"]
