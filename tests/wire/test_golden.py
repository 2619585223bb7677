"""Our packets against golden packets, byte for byte both ways.

Source: golden_packets.json beside this file, copied from the design of this program. Each entry says how
it was established (`established_by`): hand builder with tshark 4.0.17, the sacn library 1.11.0.
"""

import json
from pathlib import Path
from typing import Any
from uuid import UUID

import pytest

from heliograph.wire import artnet, sacn

GOLDEN = {e["name"]: e for e in json.loads((Path(__file__).parent / "golden_packets.json").read_text())}
CID = UUID("0f1e2d3c-4b5a-4698-8796-a5b4c3d2e1f0").bytes


def golden(name: str) -> bytes:
    return bytes.fromhex(GOLDEN[name]["hex"])


DMX = ["artdmx_pa0_512_seq1", "artdmx_pa0x1234_6slots_seq255", "artdmx_pa32767_odd5_padded"]
DMX += ["stupidartnet_u5_12slots", "stupidartnet_u4660_6slots"]


@pytest.mark.parametrize("name", DMX)
def test_art_dmx_is_reproduced_and_read(name: str) -> None:
    raw, told = golden(name), GOLDEN[name]["decoded"]
    read = artnet.decode_dmx(raw)
    assert read.port_address == told["port_address"]
    assert read.sequence == told["sequence"]
    assert len(read.data) == told["length"]
    if "slots" in told:
        assert list(read.data) == told["slots"]
    if "first_slots" in told:
        assert list(read.data[:3]) == told["first_slots"]
    assert artnet.encode_dmx(read.port_address, read.data, read.sequence, read.physical) == raw


def test_an_odd_number_of_slots_is_padded() -> None:
    assert artnet.encode_dmx(32767, bytes([9, 8, 7, 6, 5])) == golden("artdmx_pa32767_odd5_padded")


def test_art_sync_and_poll() -> None:
    assert artnet.encode_sync() == golden("artsync")
    assert artnet.encode_poll() == golden("artpoll_minimal")
    assert artnet.decode_poll(golden("artpoll_minimal")) == artnet.Poll(flags=2)
    targeted = artnet.decode_poll(golden("artpoll_targeted_0_15"))
    assert (targeted.bottom, targeted.top) == (0, 15)
    assert targeted.asks(15)
    assert not targeted.asks(16)


def test_poll_reply_both_ways() -> None:
    name = next(n for n in GOLDEN if n.startswith("artpollreply"))
    told, raw = GOLDEN[name]["decoded"], golden(name)
    read = artnet.decode_poll_reply(raw)
    assert (read.ip, read.short_name, read.long_name, read.report) == (
        told["ip"],
        told["short_name"],
        told["long_name"],
        told["node_report"],
    )
    assert read.outputs() == told["output_port_addresses"]
    assert f"{read.esta:#06x}" == told["esta"]
    assert artnet.encode_poll_reply(read) == raw


SACN: dict[str, dict[str, Any]] = {
    "sacn_u1_512": {},
    "sacn_u7962_3slots_sync_force": {},
    "sacn_u1_510slots_170rgb": {},
    "sacn_u1_terminated": {},
    "sacn_u1_preview": {},
    "sacn_u1_per_address_priority": {},
}


@pytest.mark.parametrize("name", SACN)
def test_sacn_data_is_reproduced_and_read(name: str) -> None:
    raw, told = golden(name), GOLDEN[name]["decoded"]
    read = sacn.decode(raw)
    assert isinstance(read, sacn.Data)
    assert read.cid == CID
    for field in ("universe", "priority", "sequence", "options", "sync", "start_code"):
        if field in told:
            assert getattr(read, field) == told[field]
    if "slots" in told:
        assert len(read.slots) == told["slots"]
    again = sacn.encode_data(
        read.cid,
        read.name,
        read.universe,
        read.slots,
        read.sequence,
        priority=read.priority,
        sync=read.sync,
        options=read.options,
        start_code=read.start_code,
    )
    assert again == raw


def test_sacn_sync_and_discovery() -> None:
    sync = sacn.decode(golden("sacn_sync_u63999"))
    assert sync == sacn.Sync(CID, 9, 63999)
    assert sacn.encode_sync(CID, 63999, 9) == golden("sacn_sync_u63999")
    found = sacn.decode(golden("sacn_discovery_3"))
    assert isinstance(found, sacn.Discovery)
    assert found.universes == (1, 2, 7962)
    assert sacn.discovery_pages(CID, found.name, [7962, 2, 1]) == [golden("sacn_discovery_3")]
    full = golden("sacn_discovery_page0_of_0to1_full512")
    page = sacn.decode(full)
    assert isinstance(page, sacn.Discovery)
    assert page.universes == tuple(range(1, 513))
    assert sacn.discovery_pages(CID, page.name, list(range(1, 514)))[0] == full
