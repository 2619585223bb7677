"""The golden packets of the wire tests as a receiver meets them: what is kept, what is left out, who ends.

Source: tests/wire/golden_packets.json; how each was established stands in its entry (tshark 4.0.17, sacn 1.11.0,
a second Art-Net library).
"""

from __future__ import annotations

from pathlib import Path

import pytest

from heliograph.ipc.incoming import IncomingReader, IncomingWriter
from heliograph.receiver.intake import Intake
from tests.wire.test_golden import CID, DMX, GOLDEN, golden

DESK = "127.0.0.7"


@pytest.fixture
def intake(tmp_path: Path) -> Intake:
    return Intake(incoming=IncomingWriter(tmp_path / "incoming.frames"))


@pytest.fixture
def reader(tmp_path: Path, intake: Intake) -> IncomingReader:
    return IncomingReader(tmp_path / "incoming.frames")


@pytest.mark.parametrize("name", DMX)
def test_art_dmx_is_kept_at_its_port_address(intake: Intake, reader: IncomingReader, name: str) -> None:
    told = GOLDEN[name]["decoded"]
    intake.artnet(golden(name), DESK, "127.0.0.1", 1.0)
    found = reader.read()["artnet", told["port_address"]]
    assert len(found.data) == told["length"]
    assert list(found.data[:3]) == (told.get("slots") or told.get("first_slots") or list(found.data))[:3]


@pytest.mark.parametrize("name", ["sacn_u1_512", "sacn_u7962_3slots_sync_force", "sacn_u1_510slots_170rgb"])
def test_sacn_is_kept_with_its_priority_and_source(intake: Intake, reader: IncomingReader, name: str) -> None:
    told = GOLDEN[name]["decoded"]
    intake.sacn(golden(name), DESK, 1.0)
    found = reader.read()["sacn", told["universe"]]
    assert len(found.data) == told.get("slots", told["count"] - 1 if "count" in told else 512)
    assert found.source == CID
    assert found.priority == told.get("priority", found.priority)


def test_a_stream_by_golden_packets_begins_and_ends(intake: Intake, reader: IncomingReader) -> None:
    """Sequence 7 begins, a preview (10) and per-address priorities carry no levels, 9 ends the stream."""
    intake.sacn(golden("sacn_u1_512"), DESK, 1.0)
    kept = reader.read()["sacn", 1].data
    for name in ("sacn_u1_preview", "sacn_u1_per_address_priority"):
        intake.sacn(golden(name), DESK, 1.1)
        assert reader.read()["sacn", 1].data == kept
    streams = intake.status(1.2).streams
    assert [one.number for one in streams] == [1]
    ending = bytearray(golden("sacn_u1_terminated"))
    ending[111] = 11  # E1.31 table 6-1: octet 111 is the sequence; it has to come after the preview's 10
    intake.sacn(bytes(ending), DESK, 1.3)
    assert intake.status(1.4).streams == []


def test_what_carries_no_levels_is_counted_and_kept_out(intake: Intake, reader: IncomingReader) -> None:
    for name in ("artsync", "artpoll_minimal", "artnzs_startcode_0xDD"):
        intake.artnet(golden(name), DESK, "127.0.0.1", 1.0)
    intake.sacn(golden("sacn_sync_u63999"), DESK, 1.0)
    intake.sacn(golden("sacn_discovery_3"), DESK, 1.0)
    assert reader.read() == {}
    assert intake.counts["polls"] == 1
    assert [one.universes for one in intake.status(1.0).announced] != []
