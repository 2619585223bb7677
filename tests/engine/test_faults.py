"""The engine does not stop: frames that fail, shows that cannot be compiled, disks and spools that are full."""

from __future__ import annotations

import errno
import os
import socket
import threading
import time
from pathlib import Path
from typing import Any

import pytest

from heliograph.core.errors import InputError, InternalError, UnavailableError
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import ShowClock
from heliograph.engine.process import the_only_one
from heliograph.engine.spool import Spool, SpoolReader
from heliograph.ipc.frames import FrameReader, FrameWriter
from heliograph.render import show_keeper
from heliograph.render.renderer import Renderer
from heliograph.wire import artnet
from tests.asking import answered
from tests.conftest import wait_for
from tests.engine.desk import Desk, sees
from tests.engine.shows import grid, line, look
from tests.engine.test_endings import DARK, LIT, light
from tests.moves import move, off, on


def test_a_frame_that_fails_is_sent_as_the_last_good_one(
    desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk.publish(1)
    desk.ask(**on("L"))
    sees(node, [100, 50, 20] * 4)
    render = Renderer.paint

    def broken(self: Renderer, *arguments: Any) -> Any:
        raise FloatingPointError("made up for a test")

    monkeypatch.setattr(Renderer, "paint", broken)
    begun = desk.engine.frame
    wait_for(lambda: desk.engine.failed_frames > 5, 3, "no frame failed")
    packets = [artnet.decode_dmx(node.recv(2048)) for _ in range(20)]
    assert {tuple(one.data[:12]) for one in packets} == {tuple([100, 50, 20] * 4)}
    assert desk.engine.frame > begun + 5
    told = [event.says for event in desk.engine.events if event.bad]
    assert len(told) == 1
    assert "FloatingPointError: made up for a test" in told[0]
    monkeypatch.setattr(Renderer, "paint", render)
    failed = desk.ask(do="status")["failed_frames"]
    desk.ask(**off("L"))
    sees(node, [0] * 12)
    assert desk.engine.failed_frames - failed < 3


def test_the_guard_acts_on_a_frame_that_is_sent_again(
    desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch
) -> None:
    light(desk)
    sees(node, LIT)

    def broken(*_: Any) -> Any:
        raise RuntimeError("made up for a test")

    monkeypatch.setattr(Renderer, "paint", broken)
    sees(node, LIT)
    desk.ask(do="arm", fixtures=[])
    sees(node, DARK)


@pytest.mark.slow
def test_a_show_that_cannot_be_compiled_is_refused_and_the_last_one_goes_on(
    desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk.publish(1)
    desk.ask(**on("L"))
    sees(node, [100, 50, 20])
    broken = grid(2, 2)
    broken["placements"] = {**broken["placements"], "packed": "rubbish"}
    with pytest.raises(InternalError, match="The show of revision 2 cannot be used"):
        desk.publish(2, matrix_M=broken)
    sees(node, [100, 50, 20])
    assert desk.ask(do="status")["revision"] == 1
    desk.stop()
    again = Desk(desk.folder)  # and what is on disk is the one that works
    sees(node, [100, 50, 20])
    again.stop()


@pytest.mark.slow
def test_a_look_that_fails_when_it_is_painted_is_met_before_it_plays(
    desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk.publish(1)
    desk.ask(**on("L"))
    sees(node, [100, 50, 20])

    class Broken(Renderer):
        def paint(self, *_: Any) -> Any:
            raise ZeroDivisionError

    monkeypatch.setattr(show_keeper, "Renderer", Broken)
    with pytest.raises(InternalError):
        desk.publish(2, look_L=look(line("a", "Flat", ramp=[[0, 1, 2, 3]])))
    sees(node, [100, 50, 20])
    assert desk.engine.failed_frames == 0


def test_a_show_that_is_not_on_disk_plays_and_is_written_later(
    desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(*_: Any, **__: Any) -> None:
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    desk.publish(1)
    with monkeypatch.context() as patched:
        patched.setattr("heliograph.ipc.sections.write_durably", full)
        desk.publish(2, look_L=look(line("a", "Flat", ramp=[[0, 7, 8, 9]])))
        desk.ask(**on("L"))
        sees(node, [7, 8, 9])
    desk.ask(do="manifest", manifest={})  # as the web process asks twice a second
    desk.stop()
    again = Desk(desk.folder)
    sees(node, [7, 8, 9])
    again.stop()


@pytest.mark.parametrize("frames", [10**12, 10**30, -(10**30)])
def test_steps_of_show_time_have_an_end(desk: Desk, node: socket.socket, frames: int) -> None:
    desk.publish(1)
    desk.ask(do="hold_time")
    if frames > 0:
        with pytest.raises(InputError, match="past the longest show time"):
            desk.ask(do="step_time", frames=frames)
    else:
        assert desk.ask(do="step_time", frames=frames)["state"]["show_s"] == 0
    before = desk.engine.frame
    wait_for(lambda: desk.engine.frame > before + 5, 2, "the loop has ended")


def test_a_state_too_large_for_the_spool_is_not_written_and_nothing_ends(tmp_path: Path) -> None:
    spool = Spool(tmp_path / "spool", time.monotonic_ns())
    clock = ShowClock(0, 0)
    spool.write(1, clock, PlaybackState(), (), b"")
    many = PlaybackState(manual={f"{n:036}/1": 200 for n in range(400_000)})
    spool.write(2, clock, many, (), b"")
    assert spool.too_large
    frame, state = SpoolReader(tmp_path / "spool").read() or (0, None)
    assert (frame, state) == (1, PlaybackState())
    spool.write(3, clock, PlaybackState(), (), b"")
    assert not spool.too_large


def test_no_room_for_frames_is_an_error_and_no_end(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """`/dev/shm` that is full is a sentence; the layout before goes on being written."""
    import numpy as np

    writer = FrameWriter(tmp_path / "sent.frames", np.arange(1, 3, dtype="<u2"))

    def full(*_: Any) -> None:
        raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    monkeypatch.setattr(os, "posix_fallocate", full)
    with pytest.raises(OSError, match="No space left"):
        writer.relayout(np.arange(1, 500, dtype="<u2"))
    writer.write(7, 0, 0, np.ones(2, dtype=np.uint8), np.full((2, 512), 9, dtype=np.uint8))
    read = FrameReader(tmp_path / "sent.frames").read()
    assert read is not None
    assert (read.number, int(read.data[1, 511])) == (7, 9)
    with pytest.raises(OSError, match="No space left"):
        Spool(tmp_path / "spool", 0)


def test_only_one_engine_holds_the_lock(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("heliograph.engine.process.LOCK_WAIT_S", 0.2)
    first = the_only_one(tmp_path / "run" / "engine.lock")
    assert first is not None
    assert (tmp_path / "run" / "engine.lock").read_text() == str(os.getpid())
    begun = time.monotonic()
    assert the_only_one(tmp_path / "run" / "engine.lock") is None
    assert time.monotonic() - begun >= 0.2
    os.close(first)
    second = the_only_one(tmp_path / "run" / "engine.lock")
    assert second is not None
    os.close(second)


def test_handing_over_leaves_the_lamps_as_they_are_and_lasers_safe(desk: Desk, node: socket.socket) -> None:
    light(desk)
    desk.ask(do="raw", values={"1.100": 77})
    sees(node, LIT)
    threading.Thread(target=desk.engine.hand_over, daemon=True).start()
    desk.thread.join(20)
    last = b""
    node.settimeout(0.2)
    try:
        while True:
            last = node.recv(2048)
    except TimeoutError:
        pass
    data = artnet.decode_dmx(last).data
    assert list(data[:16]) == DARK
    assert data[99] == 77
    node.settimeout(2)
    again = Desk(desk.folder)
    for _ in range(10):
        assert artnet.decode_dmx(node.recv(2048)).data[99] == 77, "it went dark in between"
    again.stop()


def test_commands_wait_until_the_engine_is_ready(tmp_path: Path) -> None:
    from heliograph.engine.control_side import ControlSide
    from heliograph.engine.loop import Engine
    from heliograph.engine.sender import Sender, open_send_socket
    from heliograph.ipc.sections import SectionStore

    spool = Spool(tmp_path / "spool", time.monotonic_ns())
    engine = Engine(tmp_path, Sender(spool.cid, "t", open_send_socket, open_send_socket), spool)
    side = ControlSide(engine, SectionStore(tmp_path / "sections"), tmp_path, lambda *_: None)
    assert answered(side.answer, {"do": "status"})["cells"] == 0
    with pytest.raises(UnavailableError, match="is starting"):
        answered(side.answer, move("blackout", True))


def test_a_kept_show_that_cannot_be_used_any_more_leaves_an_engine_that_answers(tmp_path: Path) -> None:
    made = Desk(tmp_path)
    made.publish(1)
    made.stop()
    for path in (tmp_path / "sections").glob("*.section"):
        path.write_bytes(path.read_bytes().replace(b'"width":2', b'"width":-2'))
    manifest = tmp_path / "sections" / "manifest.json"
    manifest.write_bytes(manifest.read_bytes().replace(b'"revision":1', b'"revision":"x"'))
    again = Desk(tmp_path)
    assert again.ask(do="status")["cells"] in (0, 4)
    again.publish(2)
    assert again.ask(do="status")["revision"] == 2
    again.stop()
