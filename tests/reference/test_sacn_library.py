"""The reference sACN library (sacn 1.11.0 from the package index) receives our universes.

Its receiver listens on all interfaces; unicast on loopback reaches it. What it departs from in the
standard (one sequence a universe, no termination by source) does not matter for one sender.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
import sacn

from tests.conftest import RunningApp, wait_for
from tests.live.scenes import light_wall

HOST = "127.0.92.2"
COLOUR = [12, 200, 77]


@pytest.fixture
def library() -> Iterator[sacn.sACNreceiver]:
    receiver = sacn.sACNreceiver()
    receiver.start()
    yield receiver
    receiver.stop()


def test_it_receives_our_universes(app: RunningApp, library: sacn.sACNreceiver) -> None:
    heard: dict[int, Any] = {}
    for universe in (1, 7962):
        library.register_listener("universe", lambda p: heard.__setitem__(p.universe, p), universe=universe)
    ids = light_wall(app, HOST, [[0, *COLOUR]])
    for first_universe, number in ((1, 1), (2, 7962)):
        app.api().call(
            "POST",
            "/api/outputs",
            {
                "id": ids["look"][:-1] + str(first_universe),
                "name": f"sACN {number}",
                "protocol": "sacn",
                "mode": "unicast",
                "destination": HOST,
                "card": app.card,
                "first_universe": first_universe,
                "first_number": number,
                "priority": 150,
            },
        )
    wait_for(lambda: 1 in heard and list(heard[1].dmxData[:54]) == COLOUR * 18, 10, "the library heard no levels")
    packet = heard[1]
    assert (packet.sourceName, packet.priority, packet.universe) == ("Heliograph", 150, 1)
    assert packet.option_StreamTerminated is False
    assert packet.option_PreviewData is False
    assert packet.dmxStartCode == 0
    assert len(packet.dmxData) == 512
    wait_for(lambda: 7962 in heard, 5, "universe 7962 was not heard")
    assert not any(heard[7962].dmxData)
    assert heard[7962].cid == packet.cid


def test_we_receive_what_it_sends_and_who_counts(app: RunningApp) -> None:
    """The library as a sender: two of its senders, unequal priorities; the higher one stops and says so."""
    senders = []
    for priority, value in ((110, 40), (90, 200)):
        sender = sacn.sACNsender(f"127.0.92.{priority}", 0, source_name=f"Library {priority}", universeDiscovery=False)
        sender.start()
        sender.activate_output(77)
        sender[77].destination = app.card
        sender[77].priority = priority
        sender[77].dmx_data = tuple([value] * 512)
        senders.append(sender)

    def received() -> list[int]:
        found = [u for u in app.api().call("GET", "/api/received") if u["number"] == 77]
        return found[0]["values"] if found else []

    def lines() -> dict[str, Any]:
        return {one["name"]: one for one in app.api().call("GET", "/api/streams") if one["number"] == 77}

    wait_for(lambda: len(lines()) == 2, 5, "two senders were not heard")
    wait_for(lambda: received() == [40] * 512, 5, "the higher priority did not win")
    assert (lines()["Library 110"]["counts"], lines()["Library 90"]["counts"]) == (True, False)
    assert lines()["Library 90"]["ip"] == "127.0.92.90"
    senders[0].stop()
    wait_for(lambda: received() == [200] * 512, 5, "the lower priority did not take over")
    senders[1].stop()
    wait_for(lambda: not lines(), 5, "the end of a stream was not heard")
