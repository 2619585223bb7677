"""What arrives: counted, kept in the mapped file, late and hidden packets left out."""

from __future__ import annotations

import socket
from pathlib import Path

from heliograph.ipc.incoming import IncomingReader, IncomingWriter
from heliograph.receiver.intake import Intake
from heliograph.receiver.nodes import NodeTable
from heliograph.wire import artnet, sacn
from tests.conftest import RunningApp, wait_for

CID = bytes(range(16))


def taking(tmp_path: Path) -> tuple[Intake, IncomingReader]:
    path = tmp_path / "incoming.frames"
    return Intake(incoming=IncomingWriter(path)), IncomingReader(path)


def test_levels_are_kept_as_they_came(tmp_path: Path) -> None:
    intake, reader = taking(tmp_path)
    assert reader.read() == {}
    intake.artnet(artnet.encode_dmx(4660, bytes([1, 2, 3, 4]), 9), "127.0.0.7", "127.0.0.1", 1.0)
    intake.sacn(sacn.encode_data(CID, "desk", 7962, bytes(512), 1, priority=150), "127.0.0.7", 1.5)
    found = reader.read()
    assert set(found) == {("artnet", 4660), ("sacn", 7962)}
    assert found[("artnet", 4660)].data == bytes([1, 2, 3, 4])
    assert (found[("sacn", 7962)].priority, found[("sacn", 7962)].source) == (150, CID)
    assert found[("sacn", 7962)].steady_ns == 1_500_000_000


def test_late_preview_and_other_start_codes_are_left_out(tmp_path: Path) -> None:
    intake, reader = taking(tmp_path)
    for sequence, value, options, start_code in ((10, 1, 0, 0), (9, 2, 0, 0), (11, 3, 0x80, 0), (12, 4, 0, 0xDD)):
        packet = sacn.encode_data(
            CID, "desk", 1, bytes([value]) * 512, sequence, options=options, start_code=start_code
        )
        intake.sacn(packet, "127.0.0.7", 1.0)
    assert reader.read()[("sacn", 1)].data[0] == 1
    assert intake.status(1.0).streams[0].late == 1


def test_our_own_packets_do_not_count_as_input(tmp_path: Path) -> None:
    intake, reader = taking(tmp_path)
    intake.own.add("127.0.0.1")
    intake.artnet(artnet.encode_dmx(0, bytes(2)), "127.0.0.1", "127.0.0.1", 1.0)
    assert reader.read() == {}
    assert intake.counts["own"] == 1


def test_a_silent_node_is_told_and_told_when_it_answers_again() -> None:
    table = NodeTable()
    reply = artnet.PollReply("127.0.0.9", "Pier", "Pier")
    table.hear(reply, "127.0.0.9", "127.0.0.1", 0.0)
    table.look(8.0)
    table.look(9.5)
    table.look(9.6)
    table.hear(reply, "127.0.0.9", "127.0.0.1", 12.0)
    assert table.changes == [
        "node Pier 127.0.0.9 heard",
        "node Pier 127.0.0.9 silent for 9.5 s",
        "node Pier 127.0.0.9 answers again after 12.0 s",
    ]


def test_a_running_app_shows_what_another_device_sends(app: RunningApp) -> None:
    desk = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    desk.bind(("127.0.84.77", 0))

    def received() -> object:
        desk.sendto(artnet.encode_dmx(300, bytes([9, 8, 7, 6])), (app.card, artnet.PORT))
        return [u for u in app.api().call("GET", "/api/received") if u["number"] == 300]

    found = wait_for(received, 5, "the levels did not arrive")
    desk.close()
    assert found[0]["values"] == [9, 8, 7, 6]
    assert found[0]["ago_s"] < 5
