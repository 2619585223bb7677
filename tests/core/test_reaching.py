"""Who gets what is sent. A node gets what goes to it: trade practice, no published source; that receivers of sACN do
not answer: E1.31 has no such message."""

from __future__ import annotations

from typing import Any

import pytest

from heliograph.core.patch.reaching import (
    HeardNode,
    Network,
    all_clear,
    not_heard,
    ports_of,
    reach_of,
)
from heliograph.core.patch.saying import sentences_of

CARDS = ("192.0.2.17/24", "198.51.100.17/24")
QUAY = HeardNode("192.0.2.90", "Quay", (6, 7), False)
TOWER = HeardNode("192.0.2.91", "Tower", (1, 2, 3), True)


def output(**more: Any) -> dict[str, Any]:
    base: dict[str, Any] = {
        "id": "o",
        "name": "Quay by Art-Net",
        "protocol": "artnet",
        "mode": "unicast",
        "address": "192.0.2.90",
    }
    base |= {
        "address": "192.0.2.90",
        "card": "192.0.2.17",
        "first_universe": 7,
        "count": 2,
        "first_number": 6,
        "on": True,
    }
    return {**base, **more}


def heard(*nodes: HeardNode) -> Network:
    return Network(nodes, CARDS)


MULTICAST = {"protocol": "sacn", "mode": "multicast", "address": "", "first_universe": 1, "count": 3, "first_number": 1}


def gets(outputs: list[dict[str, Any]], *nodes: HeardNode) -> dict[int, tuple[int, ...]]:
    return {port.number: port.universes for port in ports_of(outputs, heard(*nodes))}


def test_a_node_gets_what_is_sent_to_it() -> None:
    assert gets([output()], QUAY) == {6: (7,), 7: (8,)}
    assert gets([output(on=False)], QUAY) == {6: (), 7: ()}
    assert gets([output(count=1)], QUAY) == {6: (7,), 7: ()}


def test_a_node_does_not_get_what_is_sent_to_another_address() -> None:
    assert gets([output(address="192.0.2.99")], QUAY) == {6: (), 7: ()}
    assert gets([output(address="192.0.2.99, 192.0.2.90")], QUAY) == {6: (7,), 7: (8,)}


def test_a_node_on_another_network_hears_no_broadcast_and_no_multicast() -> None:
    many = output(mode="broadcast", address="192.0.2.255")
    assert gets([many], QUAY)[6] == (7,)
    assert gets([{**many, "card": "198.51.100.17"}], QUAY)[6] == ()
    assert gets([output(**MULTICAST)], TOWER) == {1: (1,), 2: (2,), 3: (3,)}
    assert gets([output(**MULTICAST, card="198.51.100.17")], TOWER)[1] == ()


def test_through_a_card_that_is_gone_nobody_is_reached() -> None:
    assert gets([output(**MULTICAST, card="203.0.113.9")], TOWER)[1] == ()


def test_a_node_takes_no_packets_of_the_other_protocol() -> None:
    assert gets([output(**{**MULTICAST, "first_number": 6})], QUAY) == {6: (), 7: ()}


@pytest.mark.parametrize(
    ("given", "nodes", "state", "says"),
    [
        ({}, (QUAY,), "heard", "Quay answers and listens to all 2 numbers."),
        ({"on": False}, (QUAY,), "off", ""),
        ({"address": "192.0.2.99"}, (QUAY,), "silent", "192.0.2.99 does not answer."),
        ({"address": "", "destination": "quay.invalid"}, (QUAY,), "silent", "quay.invalid has no address."),
        ({"count": 3}, (QUAY,), "not heard", "Quay answers and does not listen to U9."),
        (
            {"first_number": 20},
            (QUAY,),
            "not heard",
            "Quay answers and listens to Net 0 Sub-Net 0 Universe 6 and Net 0 Sub-Net 0 Universe 7, "
            "not to what is sent.",
        ),
        ({"address": "192.0.2.91"}, (TOWER,), "not heard", "Tower answers and listens to nothing of this protocol"),
        (
            {**MULTICAST, "mode": "unicast", "address": "192.0.2.99"},
            (QUAY,),
            "unknown",
            "192.0.2.99 does not answer ArtPoll; a receiver of sACN need not.",
        ),
        (MULTICAST, (TOWER,), "heard", "Tower listens to all 3 numbers."),
        (
            MULTICAST,
            (QUAY,),
            "unknown",
            "No node that answers listens to it; receivers of sACN need not answer.",
        ),
        ({**MULTICAST, "count": 5}, (TOWER,), "unknown", "No node that answers listens to U4 and U5."),
        ({"mode": "broadcast", "address": "192.0.2.255"}, (), "silent", "No node answers."),
        ({"mode": "broadcast", "address": "192.0.2.255", "first_number": 9}, (QUAY,), "not heard", "listens to it"),
        ({"address": "192.0.2.90, 192.0.2.98, 192.0.2.99"}, (QUAY,), "silent", "1 more destinations likewise"),
    ],
)
def test_beside_an_output_stands_whether_its_node_answers_and_listens(
    given: dict[str, Any], nodes: tuple[HeardNode, ...], state: str, says: str
) -> None:
    found = reach_of(output(**given), heard(*nodes))
    assert found.state == state
    assert says in found.says


def test_the_all_clear_says_what_was_checked_and_what_could_not_be() -> None:
    both = [output(), output(id="t", name="Tower by sACN", **MULTICAST)]
    assert all_clear(both, heard(QUAY, TOWER)).endswith("Every number meets a node that answers and listens to it.")
    said = all_clear(both, heard(QUAY))
    assert "Quay by Art-Net: a node listens to every number." in said
    assert "Whether anybody hears Tower by sACN is not known" in said
    assert "hears" not in all_clear([output(on=False)], heard())


def test_what_no_port_listens_to_matters_where_a_fixture_lies() -> None:
    three = output(count=3)
    assert [(universe, says) for _, universe, says in not_heard([three], {9}, heard(QUAY))] == [
        (9, "Quay answers and does not listen to U9.")
    ]
    assert not list(not_heard([three], {7, 8}, heard(QUAY)))
    assert not list(not_heard([output(address="192.0.2.99")], {7}, heard(QUAY)))  # silent: said beside the output


def test_an_output_says_itself_in_every_counting() -> None:
    art = output(destination="192.0.2.90", rate_hz=44, when_ends="as it is")
    assert sentences_of(art) == [
        "U7 to U8 by Art-Net to 192.0.2.90",
        "Net 0 Sub-Net 0 Universe 6 to 7 (Port-Address 6 to 7, counted from 1: 7 to 8)",
        "card 192.0.2.17, 44 frames a second, stays lit when it ends",
    ]
    assert sentences_of(output(first_number=15, count=2))[1].startswith("Net 0 Sub-Net 0 Universe 15 to 0:1:0 (")
    tower = output(**MULTICAST, priority=100, rate_hz=30, sync=9)
    assert sentences_of(tower) == [
        "U1 to U3 by sACN multicast",
        "239.255.0.1 to .3, universe 1 to 3, counted from 1; priority 100",
        "card 192.0.2.17, 30 frames a second, synchronised by 9",
    ]
    far = sentences_of(output(**{**MULTICAST, "first_number": 255, "count": 1}, priority=100))
    assert far[1].startswith("239.255.0.255, universe 255,")
    over = sentences_of(output(**{**MULTICAST, "first_number": 255, "count": 2}, priority=100))
    assert over[1].startswith("239.255.0.255 to 239.255.1.0, universe 255 to 256,")
    alone = output(**{**MULTICAST, "mode": "unicast", "destination": "192.0.2.91"}, priority=120)
    assert sentences_of(alone)[:2] == [
        "U1 to U3 by sACN to 192.0.2.91",
        "universe 1 to 3, counted from 1; priority 120",
    ]
