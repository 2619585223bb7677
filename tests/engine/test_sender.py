"""What leaves the machine: real UDP on loopback, read back with plain sockets."""

from __future__ import annotations

import socket
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest

from heliograph.engine.sender import Sender, open_send_socket
from heliograph.wire import artnet, sacn
from tests.engine.shows import output

CID = bytes(range(16))
HOST = "127.0.83.1"


@pytest.fixture
def heard() -> Iterator[dict[str, socket.socket]]:
    sockets = {}
    for name, port in (("artnet", artnet.PORT), ("sacn", sacn.PORT)):
        one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        one.bind((HOST, port))
        one.settimeout(1.0)
        sockets[name] = one
    yield sockets
    for one in sockets.values():
        one.close()


def drain(incoming: socket.socket) -> list[bytes]:
    found = []
    incoming.settimeout(0.05)
    try:
        while True:
            found.append(incoming.recv(2048))
    except TimeoutError:
        return found


def sender() -> Sender:
    return Sender(CID, "test", open_send_socket, open_send_socket)


def start(one: Sender, *outputs: dict[str, Any], universes: int = 2) -> np.ndarray[Any, Any]:
    numbers = np.arange(1, universes + 1)
    one.swap(one.prepare(outputs, numbers))
    return np.zeros(universes, dtype=np.uint8)


def send(one: Sender, sent: np.ndarray[Any, Any], value: int) -> None:
    data = np.full((len(sent), 512), value, dtype=np.uint8)
    data[:, 0] = np.arange(1, len(sent) + 1) % 256
    one.count_up()
    one.send(data, sent)


def test_art_net_first_zeros_then_the_frame(heard: dict[str, socket.socket]) -> None:
    one = sender()
    sent = start(one, output(address=HOST, card="127.0.83.9", count=2, first_number=4660))
    for value in (7, 8):
        send(one, sent, value)
    assert sent.tolist() == [1, 1]
    read = [artnet.decode_dmx(p) for p in drain(heard["artnet"])]
    assert [(d.port_address, d.sequence) for d in read] == [(4660, 1), (4661, 1), (4660, 2), (4661, 2)]
    assert not any(read[0].data)
    assert read[2].data == bytes([1, *[8] * 511])
    assert read[3].data == bytes([2, *[8] * 511])


def test_art_net_comes_from_port_6454_and_skips_sequence_zero(heard: dict[str, socket.socket]) -> None:
    one = sender()
    sent = start(one, output(address=HOST, card="127.0.83.9"), universes=1)
    one.sequences["artnet 127.0.83.1 0"] = 0
    one.routes[0].packets[:, one.routes[0].sequence_at] = 254
    for value in range(3):
        send(one, sent, value)
    packet, source = heard["artnet"].recvfrom(2048)
    assert source == ("127.0.83.9", 6454)
    assert [artnet.decode_dmx(p).sequence for p in [packet, *drain(heard["artnet"])]] == [255, 1, 2]


def test_sacn_ends_dark_and_then_with_three_termination_packets(heard: dict[str, socket.socket]) -> None:
    """E1.31-2018, 6.2.6 [S, recalled]: three packets with the terminated bit."""
    one = sender()
    sacn_output = output(protocol="sacn", address=HOST, card="127.0.83.9", first_number=7)
    sent = start(one, sacn_output, universes=1)
    send(one, sent, 1)
    send(one, sent, 2)
    drain(heard["sacn"])
    one.close()
    last = [p for p in map(sacn.decode, drain(heard["sacn"])) if isinstance(p, sacn.Data)]
    assert [(p.universe, p.sequence) for p in last] == [(7, n) for n in range(3, 11)]
    assert [p.options & sacn.OPTION_TERMINATED for p in last] == [0] * 5 + [sacn.OPTION_TERMINATED] * 3
    assert not any(any(p.slots) for p in last)


def test_a_change_of_another_output_disturbs_nothing(heard: dict[str, socket.socket]) -> None:
    one = sender()
    first = output(address=HOST, card="127.0.83.9")
    sent = start(one, first)
    for _ in range(3):
        send(one, sent, 5)
    drain(heard["artnet"])
    second = output(id="p", protocol="sacn", address=HOST, card="127.0.83.9", first_universe=2, first_number=2)
    sent = start(one, first, second)
    send(one, sent, 6)
    read = artnet.decode_dmx(drain(heard["artnet"])[0])
    assert (read.sequence, read.data[1]) == (4, 6)


def test_a_card_that_is_not_there_is_counted_and_harms_nobody(heard: dict[str, socket.socket]) -> None:
    one = sender()
    sent = start(
        one,
        output(address=HOST, card="203.0.113.77"),
        output(id="p", protocol="sacn", address=HOST, card="127.0.83.9", first_universe=2, first_number=2),
    )
    for value in (1, 2):
        send(one, sent, value)
    assert sent.tolist() == [0, 1]
    assert one.routes[0].errors == 2
    assert one.routes[0].last_error
    assert len(drain(heard["sacn"])) == 2


def test_512_universes_leave_in_one_frame(heard: dict[str, socket.socket]) -> None:
    heard["artnet"].setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 8 * 1024 * 1024)
    one = sender()
    sent = start(one, output(address=HOST, card="127.0.83.9", count=512), universes=512)
    send(one, sent, 3)
    assert sent.sum() == 512
    assert len({artnet.decode_dmx(p).port_address for p in drain(heard["artnet"])}) == 512
