"""The simulated node: what it makes of packets. Merge vectors: standards 2.3 and 3.2."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from heliograph.core.errors import InputError
from heliograph.standins.hang_list import load_hang_list
from heliograph.standins.node import poll_replies
from heliograph.standins.node_inputs import NodeInputs
from heliograph.wire import artnet, sacn

A, B = bytes([1] * 16), bytes([2] * 16)


def data(cid: bytes, slots: list[int], sequence: int, priority: int = 100, options: int = 0) -> bytes:
    return sacn.encode_data(cid, "x", 1, bytes(slots), sequence, priority=priority, options=options)


def sacn_node() -> NodeInputs:
    return NodeInputs({("sacn", 1)})


def seen(node: NodeInputs, now: float) -> list[int]:
    return list(node.universes[("sacn", 1)].data(now)[:2])


def test_equal_priorities_merge_by_highest_value() -> None:
    node = sacn_node()
    node.take("sacn", data(A, [255, 0], 1), "", 0.0)
    node.take("sacn", data(B, [0, 128], 1), "", 0.1)
    assert seen(node, 0.2) == [255, 128]


def test_a_higher_priority_wins_until_it_is_lost() -> None:
    node = sacn_node()
    node.take("sacn", data(A, [255, 0], 1), "", 0.0)
    node.take("sacn", data(B, [0, 128], 1, priority=101), "", 0.0)
    assert seen(node, 0.1) == [0, 128]
    node.take("sacn", data(A, [255, 0], 2), "", 2.4)
    assert seen(node, 2.6) == [255, 0]


def test_termination_hands_over_at_once() -> None:
    node = sacn_node()
    node.take("sacn", data(A, [255, 0], 1), "", 0.0)
    node.take("sacn", data(B, [0, 128], 1, priority=101), "", 0.0)
    node.take("sacn", data(B, [9, 9], 2, options=sacn.OPTION_TERMINATED), "", 0.1)
    assert seen(node, 0.1) == [255, 0]
    assert node.universes[("sacn", 1)].terminated == 1


def test_late_packets_are_dropped_and_counted() -> None:
    node = sacn_node()
    for sequence, value in ((10, 1), (11, 2), (9, 3), (12, 4)):
        node.take("sacn", data(A, [value, 0], sequence), "", sequence / 100)
    universe = node.universes[("sacn", 1)]
    assert (universe.packets, universe.late, seen(node, 0.2)[0]) == (3, 1, 4)


def test_preview_data_and_other_start_codes_never_reach_the_lamps() -> None:
    node = sacn_node()
    node.take("sacn", data(A, [1, 1], 1, options=sacn.OPTION_PREVIEW), "", 0.0)
    node.take("sacn", sacn.encode_data(A, "x", 1, b"\1\1", 2, start_code=0xDD), "", 0.0)
    assert node.universes == {}


def test_malformed_packets_are_counted() -> None:
    node = sacn_node()
    for packet in (b"", b"Art-Net\0", artnet.encode_dmx(0, b"\1\2")[:15], data(A, [1], 1)[:-1]):
        node.take("artnet" if packet.startswith(b"Art") else "sacn", packet, "", 0.0)
    assert node.malformed == 4


def hang(tmp_path: Path, **changes: object) -> Path:
    run = {"universe": "artnet 0", "channel": 508, "count": 3, "order": "GRB", "x": 0, "y": 2, "dx": 0, "dy": -1}
    whole = {"name": "Pier", "listens": ["artnet 0", "artnet 1"], "width": 1, "height": 3, "lamps": [run], **changes}
    path = tmp_path / "hang.json"
    path.write_text(json.dumps(whole))
    return path


def test_a_hang_list_goes_on_in_the_next_universe_and_knows_odd_orders(tmp_path: Path) -> None:
    found = load_hang_list(hang(tmp_path))
    first, second = bytearray(512), bytearray(512)
    first[507:510] = bytes([20, 10, 30])
    second[0:6] = bytes([50, 40, 60, 80, 70, 90])
    assert found.picture({("artnet", 0): bytes(first), ("artnet", 1): bytes(second)}) == [
        *(70, 80, 90),
        *(40, 50, 60),
        *(10, 20, 30),
    ]


@pytest.mark.parametrize("changes", [{"lamps": [{}]}, {"listens": ["dmx 1"]}, {"width": "wide"}])
def test_a_wrong_hang_list_gets_a_sentence(tmp_path: Path, changes: dict[str, object]) -> None:
    with pytest.raises(InputError, match="hang list"):
        load_hang_list(hang(tmp_path, **changes))


def test_ports_are_told_four_at_a_time(tmp_path: Path) -> None:
    found = load_hang_list(hang(tmp_path, listens=[f"artnet {n}" for n in (14, 15, 16, 17, 18, 19, 20)]))
    told = poll_replies("127.0.0.12", found, 7)
    assert [reply.outputs() for reply in told] == [[14, 15], [16, 17, 18, 19], [20]]
    again = [artnet.decode_poll_reply(artnet.encode_poll_reply(reply)) for reply in told]
    assert again == told


def test_art_net_waits_for_artsync_until_it_stays_away() -> None:
    """Facts 2.3 [S]: buffered until the next ArtSync, at once again after 4 s without, ignored while merging."""
    node = NodeInputs({("artnet", 0), ("artnet", 1)})

    def shown() -> list[int]:
        return [node.universes[("artnet", n)].data(0.0)[0] for n in (0, 1)]

    def send(value: int, sequence: int, now: float, source: str = "127.0.0.1") -> None:
        for n in (0, 1):
            node.take("artnet", artnet.encode_dmx(n, bytes([value, 0]), sequence), source, now)

    send(1, 1, 0.0)
    assert shown() == [1, 1]  # no ArtSync was heard yet
    node.take("artnet", artnet.encode_sync(), "127.0.0.1", 0.0)
    send(2, 2, 0.1)
    assert shown() == [1, 1]
    node.take("artnet", artnet.encode_sync(), "127.0.0.8", 0.1)
    assert shown() == [1, 1]  # of somebody else
    node.take("artnet", artnet.encode_sync(), "127.0.0.1", 0.1)
    assert shown() == [2, 2]
    assert node.universes[("artnet", 0)].synced == 1
    send(3, 3, 4.2)
    assert shown() == [3, 3]
    node.take("artnet", artnet.encode_sync(), "127.0.0.1", 4.2)
    send(9, 1, 4.3, "127.0.0.8")
    send(4, 4, 4.3)
    assert shown() == [9, 9]
    send(200, 5, 4.4)
    assert shown() == [200, 200]  # merging: at once


def test_sacn_waits_for_the_synchronisation_of_its_own_universe() -> None:
    """Facts 3.2 [S]."""
    node = NodeInputs({("sacn", 1)})

    def send(value: int, sequence: int, now: float) -> None:
        packet = sacn.encode_data(A, "x", 1, bytes([value]), sequence, sync=7, options=sacn.OPTION_FORCE_SYNC)
        node.take("sacn", packet, "", now)

    send(1, 1, 0.0)
    assert seen(node, 0.0)[0] == 1
    assert node.sync_groups == {7}
    node.take("sacn", sacn.encode_sync(A, 7, 1), "", 0.0)
    send(2, 2, 0.1)
    node.take("sacn", sacn.encode_sync(A, 8, 1), "", 0.1)
    assert seen(node, 0.1)[0] == 1
    node.take("sacn", sacn.encode_sync(A, 7, 2), "", 0.1)
    assert seen(node, 0.1)[0] == 2
    send(3, 3, 2.7)
    assert seen(node, 2.7)[0] == 3  # force sync: goes on without
