"""Control sockets and the frame file between processes."""

from __future__ import annotations

import itertools
import os
import socket
import struct
import threading
import time
from pathlib import Path

import numpy as np
import pytest

from heliograph.core.errors import InputError, InternalError, UnavailableError
from heliograph.ipc.control import ControlClient, ControlServer
from heliograph.ipc.frames import FrameReader, FrameWriter
from heliograph.ipc.messages.base import Answer, Request
from heliograph.ipc.places import fast_folder


class Said(Answer, frozen=True):
    n: int


class Say(Request[Said], frozen=True, tag="say"):
    answers = Said
    n: int = 0
    large: str = ""
    wrong: bool = False


class Count(Request[Said], frozen=True, tag="count"):
    answers = Said
    n: int
    fails: bool = False


class Elsewhere(Request[Answer], frozen=True, tag="elsewhere"):
    """One that the servers here do not know."""


def echo(request: Say, fds: list[int]) -> Said:
    if request.wrong:
        raise InputError("It is wrong.", where="here", repair="Make it right.")
    for fd in fds:
        os.write(fd, b"handed on")
        os.close(fd)
    return Said(n=request.n)


def test_questions_errors_and_descriptors_cross(tmp_path: Path) -> None:
    server = ControlServer(str(tmp_path / "s"), Say, echo)
    server.start()
    client = ControlClient(str(tmp_path / "s"), "test process")
    assert client.ask(Say(n=1, large="x" * 3_000_000)).n == 1
    with pytest.raises(InputError) as told:
        client.ask(Say(wrong=True))
    assert (told.value.what, told.value.where, told.value.repair) == ("It is wrong.", "here", "Make it right.")
    read, write = os.pipe()
    client.ask(Say(), [write])
    assert os.read(read, 20) == b"handed on"
    server.close()


@pytest.mark.parametrize("raw", [b"", b"{", b"[]", b'{"id": 3}', b'{"ask": {}}', b"\xff\xfe"])
def test_what_is_no_message_is_answered_and_the_connection_goes_on(tmp_path: Path, raw: bytes) -> None:
    server = ControlServer(str(tmp_path / "s"), Say, echo)
    server.start()
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as own:
        own.settimeout(5)
        own.connect(str(tmp_path / "s"))
        for payload, wanted in ((raw, b"no message"), (b'{"id": "a", "ask": {"do": "say", "n": 4}}', b'"n":4')):
            own.sendall(struct.pack("<I", len(payload)) + payload)
            (length,) = struct.unpack("<I", own.recv(4, socket.MSG_WAITALL))
            assert wanted in own.recv(length, socket.MSG_WAITALL)
    server.close()


def test_a_request_that_the_schema_does_not_know_is_refused_by_name(tmp_path: Path) -> None:
    server = ControlServer(str(tmp_path / "s"), Say, echo)
    server.start()
    client = ControlClient(str(tmp_path / "s"), "test process")
    with pytest.raises(InputError, match="elsewhere"):
        client.ask(Elsewhere())
    assert client.ask(Say(n=7)).n == 7
    server.close()


def test_a_restarted_process_is_asked_again_at_once(tmp_path: Path) -> None:
    path = str(tmp_path / "s")
    first = ControlServer(path, Say, echo)
    first.start()
    client = ControlClient(path, "test process")
    client.ask(Say())
    connection = client._connection
    assert connection is not None
    connection.shutdown(2)  # as when the other side has died
    assert client.ask(Say(n=2)).n == 2
    first.close()
    client.close()
    with pytest.raises(UnavailableError, match="test process does not answer"):
        client.ask(Say())


class Counting:
    """Counts what it does; may break off a connection before its answer leaves, or fail."""

    def __init__(self, folder: Path) -> None:
        self.done: list[int] = []
        self.path = str(folder / "s")
        self.server = ControlServer(self.path, Count, self.answer)
        self.server.start()
        self.client = ControlClient(self.path, "test process")
        self.breaks = False

    def answer(self, request: Count, _fds: list[int]) -> Said:
        if request.fails:
            raise KeyError("something of ours")
        self.done.append(request.n)
        if self.breaks:
            self.breaks = False
            assert self.client._connection is not None
            self.client._connection.shutdown(2)
        return Said(n=request.n)


def test_a_lost_answer_is_asked_for_and_nothing_is_done_twice(tmp_path: Path) -> None:
    one = Counting(tmp_path)
    assert one.client.ask(Count(n=1)).n == 1
    one.breaks = True
    assert one.client.ask(Count(n=2)).n == 2
    assert one.done == [1, 2]
    one.server.close()


def test_where_nobody_knows_any_more_it_says_so(tmp_path: Path) -> None:
    """As when the process was started anew between doing it and answering."""
    one = Counting(tmp_path)
    one.client.ask(Count(n=1))
    one.breaks = True
    one.server._answers.clear()
    forget = one.answer

    def restarted(request: Count, fds: list[int]) -> Said:
        one.server._answers.clear()
        return forget(request, fds)

    one.server._handler = restarted
    with pytest.raises(UnavailableError, match="Whether that was done is not known"):
        one.client.ask(Count(n=2))
    assert one.done == [1, 2]
    one.server.close()


def test_a_fault_of_ours_is_not_told_as_the_callers(tmp_path: Path) -> None:
    one = Counting(tmp_path)
    with pytest.raises(InternalError, match="wrong in Heliograph itself"):
        one.client.ask(Count(n=1, fails=True))
    assert one.client.ask(Count(n=2)).n == 2, "and the process goes on"
    one.server.close()


def test_no_frame_is_ever_torn(tmp_path: Path) -> None:
    universes = np.arange(1, 65, dtype="<u2")
    writer, reader = FrameWriter(tmp_path / "f", universes), FrameReader(tmp_path / "f")
    assert reader.read() is None
    stop = threading.Event()

    def write() -> None:
        number = 0
        while not stop.is_set():
            number += 1
            data = np.full((64, 512), number % 256, dtype=np.uint8)
            writer.write(number, number, number, np.ones(64, dtype=np.uint8), data)

    thread = threading.Thread(target=write, daemon=True)
    thread.start()
    seen: set[int] = set()
    until = time.monotonic() + 60
    try:
        for turn in itertools.count():
            if turn >= 2000 and (len(seen) > 10 or time.monotonic() > until):
                break
            frame = reader.read()
            if frame is not None:
                assert (frame.data == frame.number % 256).all()
                seen.add(frame.number)
    finally:
        stop.set()
        thread.join()
    assert len(seen) > 10


def test_readers_follow_to_a_new_layout(tmp_path: Path) -> None:
    writer, reader = FrameWriter(tmp_path / "f", np.array([1], dtype="<u2")), FrameReader(tmp_path / "f")
    writer.write(1, 0, 0, np.ones(1, dtype=np.uint8), np.zeros((1, 512), dtype=np.uint8))
    assert reader.read() is not None
    for wanted in ([1, 2, 3], [1, 7]):  # the first gives way before it had a frame
        writer.relayout(np.array(wanted, dtype="<u2"))
        for one in (reader, FrameReader(tmp_path / "f")):  # also one that has just come
            before = one.read()
            assert before is not None, "between a new layout and its first frame there is the one before"
            assert before.universes.tolist() == [1]
    writer.write(2, 0, 0, np.ones(2, dtype=np.uint8), np.ones((2, 512), dtype=np.uint8))
    frame = reader.read()
    assert frame is not None
    assert frame.universes.tolist() == [1, 7]
    assert [one.name for one in tmp_path.iterdir()] == ["f"], "a file was left behind"


def test_the_fast_folder_is_ours_alone(tmp_path: Path) -> None:
    folder = fast_folder(tmp_path)
    assert folder == fast_folder(tmp_path)
    if folder != tmp_path:
        assert folder.stat().st_mode & 0o077 == 0
        folder.rmdir()
        folder.symlink_to(tmp_path)
        assert fast_folder(tmp_path) == tmp_path  # somebody else's link is not followed
        folder.unlink()
