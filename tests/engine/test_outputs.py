"""Outputs with several destinations, a frame rate of their own, synchronisation and mute: real UDP on loopback."""

from __future__ import annotations

import socket
from collections.abc import Iterator
from typing import Any

import numpy as np
import pytest
from sacn.messages.sync_packet import SyncPacket

from heliograph.core.playing.state import PlaybackState
from heliograph.engine.announcing import announce, announced_universes
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.receiver.groups import SacnGroups
from heliograph.render.emitter import Emitter
from heliograph.wire import artnet, sacn
from tests.engine.shows import compiled, grid, lamps, output

CID = bytes(range(16))
CARD = "127.0.83.9"
A, B = "127.0.83.3", "127.0.83.4"


def listen(host: str, port: int) -> socket.socket:
    one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    one.bind((host, port))
    one.settimeout(0.05)
    return one


def drain(incoming: socket.socket) -> list[bytes]:
    found = []
    try:
        while True:
            found.append(incoming.recv(2048))
    except TimeoutError:
        return found


@pytest.fixture
def heard() -> Iterator[dict[tuple[str, str], socket.socket]]:
    ports = {"artnet": artnet.PORT, "sacn": sacn.PORT}
    sockets = {(protocol, host): listen(host, port) for protocol, port in ports.items() for host in (A, B)}
    yield sockets
    for one in sockets.values():
        one.close()


def run(frames: int, *outputs: dict[str, Any], universes: int = 2, dark: Any = None) -> list[np.ndarray[Any, Any]]:
    """Sends frames whose value is 1, 2, 3 ...; what counts as sent in each, universe by universe."""
    one = Sender(CID, "test", open_send_socket, open_send_socket)
    numbers = np.arange(1, universes + 1)
    one.swap(one.prepare(outputs, numbers, dark))
    shown = []
    for value in range(1, frames + 1):
        data = np.full((universes, 512), value, dtype=np.uint8)
        one.count_up()
        one.send(data, np.zeros(universes, dtype=np.uint8))
        shown.append(data[:, 0].copy())
    return shown


def test_every_destination_gets_every_universe_with_a_sequence_of_its_own(heard: Any) -> None:
    run(2, output(address=f"{A}, {B}", card=CARD, count=2))
    for host in (A, B):
        read = [artnet.decode_dmx(packet) for packet in drain(heard["artnet", host])]
        assert [(d.port_address, d.sequence, d.data[0]) for d in read] == [(0, 1, 0), (1, 1, 0), (0, 2, 2), (1, 2, 2)]


def test_a_rate_of_its_own_is_spread_evenly_and_what_is_shown_was_sent(heard: Any) -> None:
    shown = run(44, output(address=A, card=CARD, rate_hz=11), universes=1)
    read = [artnet.decode_dmx(packet) for packet in drain(heard["artnet", A])]
    assert len(read) == 11
    values = [d.data[0] for d in read]
    assert values[0] == 0  # the dark frame a fresh output begins with
    assert set(np.diff(values[1:])) == {4}
    assert [d.sequence for d in read] == list(range(1, 12))
    sent = 0
    for frame, value in enumerate(shown, start=1):
        sent = frame if frame in values else sent
        assert value[0] == sent or frame == 1


def test_thirty_a_second_of_44(heard: Any) -> None:
    run(44, output(address=A, card=CARD, rate_hz=30), universes=1)
    values = [artnet.decode_dmx(packet).data[0] for packet in drain(heard["artnet", A])]
    assert len(values) == 30
    assert set(np.diff(values[1:])) == {1, 2}


def test_artsync_follows_the_frames_and_leaves_once_a_card(heard: Any) -> None:
    together = {"card": CARD, "card_broadcast": A, "sync": 1}
    run(2, output(id="o1", address=A, **together), output(id="o2", address=A, first_number=1, **together))
    packets = drain(heard["artnet", A])
    kinds = [artnet.opcode(packet) for packet in packets]
    assert kinds == [artnet.OP_DMX, artnet.OP_DMX, artnet.OP_SYNC] * 2
    # byte for byte the golden packet "artsync" (standards 2.3, [V] with tshark and stupidArtnet)
    assert packets[2].hex() == "4172742d4e6574000052000e0000"


def test_sacn_synchronisation_names_its_universe_and_counts_by_itself(heard: Any) -> None:
    run(3, output(protocol="sacn", address=f"{A}, {B}", card=CARD, first_number=5, sync=7962), universes=1)
    for host in (A, B):
        read = [sacn.decode(packet) for packet in drain(heard["sacn", host])]
        assert [type(one).__name__ for one in read] == ["Data", "Sync"] * 3
        data = [one for one in read if isinstance(one, sacn.Data)]
        syncs = [one for one in read if isinstance(one, sacn.Sync)]
        assert {one.sync for one in data} == {7962} == {one.address for one in syncs}
        assert all(one.options & sacn.OPTION_FORCE_SYNC for one in data)
        assert [one.sequence for one in syncs] == [1, 2, 3]
    # the sacn library 1.11.0 builds the same bytes [V]
    assert sacn.encode_sync(CID, 7962, 3) == bytes(SyncPacket(tuple(CID), 7962, 3).getBytes())


def test_a_fresh_or_muted_output_sends_dark_and_not_zeros(heard: Any) -> None:
    dark = np.zeros((1, 512), dtype=np.uint8)
    dark[0, 10] = 77
    run(3, output(address=A, card=CARD, mute=True), output(id="p", address=B, card=CARD), universes=1, dark=dark)
    muted = [artnet.decode_dmx(packet).data for packet in drain(heard["artnet", A])]
    assert muted == [dark.tobytes()] * 3
    lit = [artnet.decode_dmx(packet).data for packet in drain(heard["artnet", B])]
    assert lit == [dark.tobytes(), bytes([2] * 512), bytes([3] * 512)]


def test_mute_darkens_what_looks_and_hands_make_and_the_picture_of_it() -> None:
    """What is published as sent comes from the same frame, so the picture of a muted output is dark as well."""
    show = compiled(lamps(1), grid(1, 1), outputs=[output(mute=True)])
    emitter = Emitter(show.rig, show.emission, {})
    state = PlaybackState(raw={"U1.1": 200})
    pixels = np.ones((3, show.rig.cell_count), dtype=np.float32)
    assert not emitter.emit(pixels, state).any()
    loud = compiled(lamps(1), grid(1, 1), outputs=[output(), output(id="p", mute=True)])
    assert Emitter(loud.rig, loud.emission, {}).emit(pixels, state).any()


def test_our_sacn_universes_are_announced_and_our_own_packets_are_not_read() -> None:
    """Multicast on loopback. The kernel's filter drops what carries our CID; another's arrives."""
    sender = Sender(CID, "Helio", open_send_socket, open_send_socket)
    outputs = (
        output(protocol="sacn", mode="multicast", address="", card="127.0.0.1", first_number=20, count=3),
        output(id="p", card="127.0.0.1"),
    )
    sender.swap(sender.prepare(outputs, np.arange(1, 4)))
    assert announced_universes(sender) == {"127.0.0.1": [20, 21, 22]}
    opened: list[socket.socket] = []
    groups = SacnGroups("127.0.0.1", opened.append, opened.remove)
    groups.follow({sacn.UNIVERSE_DISCOVERY, 20}, CID)
    assert groups.joined == {sacn.UNIVERSE_DISCOVERY, 20}
    (incoming,) = opened
    incoming.settimeout(0.2)
    for cid in (CID, bytes(16)):
        announce({"127.0.0.1": [20, 21, 22]}, cid, "Helio", open_send_socket)
    read = [sacn.decode(packet) for packet in drain(incoming)]
    assert [one.cid for one in read] == [bytes(16)]
    assert isinstance(read[0], sacn.Discovery)
    assert read[0].universes == (20, 21, 22)
    groups.follow(set(), CID)
    assert opened == []
    sender.close()


def test_forty_groups_take_three_sockets_and_leaving_gives_them_back() -> None:
    opened: list[socket.socket] = []
    groups = SacnGroups("127.0.0.1", opened.append, opened.remove)
    groups.follow(range(1, 42), b"")
    assert (len(groups.joined), len(opened), groups.failed) == (41, 3, set())
    groups.follow({3}, b"")
    assert (groups.joined, len(opened)) == ({3}, 1)
    groups.follow((), b"")
    assert opened == []
