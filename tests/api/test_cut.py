"""A connection that is cut ends at once, and no other does."""

from __future__ import annotations

import contextlib
import socket

import pytest

from heliograph.api.live_outbox import cut


def pair(listening: socket.socket) -> tuple[socket.socket, socket.socket]:
    """(our end, the client's end) of a connection over loopback."""
    client = socket.create_connection(listening.getsockname(), timeout=3)
    ours, _ = listening.accept()
    return ours, client


def test_a_client_that_reads_nothing_is_cut_off_and_its_neighbour_stays() -> None:
    with socket.create_server(("127.0.0.1", 0)) as listening:
        ours, client = pair(listening)
        other, neighbour = pair(listening)
        ours.setblocking(False)
        with contextlib.suppress(BlockingIOError):  # until the kernel keeps no more
            while True:
                ours.send(b"x" * 65_536)
        cut(client.getsockname())
        with pytest.raises(BrokenPipeError):
            ours.send(b"x")
        other.sendall(b"here")
        assert neighbour.recv(4) == b"here"
        for one in (ours, client, other, neighbour):
            one.close()
