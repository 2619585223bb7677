"""Commands and the frame: what is urgent goes first, the rest takes what a frame can give, and none is done late."""

from __future__ import annotations

import socket
import threading
import time
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.engine import loop
from tests.conftest import wait_for
from tests.engine.desk import Desk, sees
from tests.engine.shows import lamps, line, look
from tests.engine.test_endings import DARK, LEASE, LIT, light
from tests.moves import move, on

LINES = 40


def many_lines() -> dict[str, Any]:
    return look(*(line(f"a{n}", "Flat", ramp=[[0, 100, 50, 20]]) for n in range(LINES)))


def in_thread(desk: Desk, **message: Any) -> threading.Thread:
    thread = threading.Thread(target=desk.ask, kwargs=message, daemon=True)
    thread.start()
    return thread


def test_many_moves_take_several_frames_and_all_of_them_arrive(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, look_L=many_lines())
    desk.ask(**on("L"))
    moves = [{"handle": f"look/L/a{n % LINES}/opacity", "value": 0.5} for n in range(5_000)]
    before = desk.engine.frame
    desk.ask(do="move", moves=moves)
    assert desk.engine.frame - before > 5, "they were all done before one frame"
    held = desk.ask(do="status")["state"]["held_lines"]
    assert len(held) == LINES


def test_one_that_is_refused_among_many_moves_none(desk: Desk) -> None:
    desk.publish(1, look_L=many_lines())
    moves = [{"handle": f"look/L/a{n % LINES}/opacity", "value": 0.5} for n in range(500)]
    with pytest.raises(InputError, match="outside 0 to 100"):
        desk.ask(do="move", moves=[*moves, {"handle": "look/L/a1/opacity", "value": 7.0}])
    assert desk.ask(do="status")["state"]["held_lines"] == []


def test_what_makes_dark_goes_before_everything_that_waits(desk: Desk, node: socket.socket) -> None:
    """A thousand commands of other pages wait, each taking half of what a frame gives."""
    desk.publish(1)
    desk.ask(**on("L"))
    sees(node, [100, 50, 20])
    done: list[int] = []
    held = threading.Event()

    def slow(_engine: loop.Engine) -> None:
        held.wait(0.001)
        done.append(1)

    for _ in range(1_000):
        desk.engine._commands.put(loop._Command(slow))
    desk.ask(**move("blackout", True))
    assert len(done) < 500, "it waited for its turn"
    sees(node, [0, 0, 0])
    held.set()
    wait_for(lambda: len(done) == 1_000, 30, "the others were forgotten")


def test_a_frame_gives_commands_so_much_and_no_more(desk: Desk) -> None:
    frames: list[int] = []

    def slow(engine: loop.Engine) -> None:
        frames.append(engine.frame)
        time.sleep(loop.COMMANDS_NS / 1e9)

    for _ in range(6):
        desk.engine._commands.put(loop._Command(slow))
    wait_for(lambda: len(frames) == 6, 10, "they are not done")
    assert len(set(frames)) == 6, "two of them were done before one frame"


def test_a_command_nobody_waits_for_any_more_is_never_done(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    begun, goes_on, done = threading.Event(), threading.Event(), []

    def blocks(_engine: loop.Engine) -> None:
        begun.set()
        goes_on.wait(60)

    monkeypatch.setattr(loop, "COMMAND_S", 0.2)
    threading.Thread(target=desk.engine.between_frames, args=(blocks,), daemon=True).start()
    assert begun.wait(60)
    with pytest.raises(TimeoutError):
        desk.engine.between_frames(lambda _engine: done.append("late"))
    goes_on.set()
    before = desk.engine.frame
    wait_for(lambda: desk.engine.frame > before + 3, 10, "the loop does not go on")
    assert done == []


def test_colours_of_many_cells_are_worked_out_before_the_frame(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    """Whoever works them out is not the frame loop."""
    desk.publish(1, rig=lamps(100))
    who: list[str] = []
    whole = loop.Engine.sent_value

    def noted(self: loop.Engine, *arguments: Any) -> int:
        who.append(threading.current_thread().name)
        return whole(self, *arguments)

    monkeypatch.setattr(loop.Engine, "sent_value", noted)
    cells = [{"keys": (f"f{n}/1", f"f{n}/2", f"f{n}/3")} for n in range(100)]
    desk.ask(do="colours", cells=cells, what="brightness", to=1.0, drag="d")
    assert who
    assert desk.thread.name not in who
    assert len(desk.ask(do="status")["state"]["manual"]) == 300


def test_who_asked_to_arm_before_lasers_were_made_safe_is_too_late(desk: Desk, node: socket.socket) -> None:
    """*Safe* overtakes what waits; the arming it overtook must not follow it."""
    light(desk)
    sees(node, LIT)
    begun, goes_on = threading.Event(), threading.Event()
    refused: list[str] = []

    def blocks(_engine: loop.Engine) -> None:
        begun.set()
        goes_on.wait(60)
        time.sleep(2 * loop.COMMANDS_NS / 1e9)  # all that this frame gives: the others wait for the next

    def arms() -> None:
        try:
            desk.ask(do="arm", fixtures=["f0"], lease=LEASE)
        except InputError as error:
            refused.append(error.what)

    desk.engine._commands.put(loop._Command(blocks))
    assert begun.wait(60)
    arming = threading.Thread(target=arms, daemon=True)
    arming.start()
    wait_for(lambda: desk.engine._commands.qsize() == 1, 10, "it does not wait")
    safe = in_thread(desk, **move("safe", None))
    wait_for(lambda: desk.engine._urgent_commands.qsize() == 1, 10, "it is not asked")
    goes_on.set()
    arming.join(60)
    safe.join(60)
    assert refused == ["Lasers were made safe after that was asked: they stay safe."]
    assert desk.ask(do="status")["state"]["armed"] == []
    sees(node, DARK)
    desk.ask(do="arm", fixtures=["f0"], lease=LEASE)
    assert desk.ask(do="status")["state"]["armed"] == ["f0"], "afterwards it can be armed again"
