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
    wait_for(lambda: 1 in heard and list(heard[1].dmxData[:48]) == COLOUR * 16, 10, "the library heard no levels")
    packet = heard[1]
    assert (packet.sourceName, packet.priority, packet.universe) == ("Heliograph", 150, 1)
    assert packet.option_StreamTerminated is False
    assert packet.option_PreviewData is False
    assert packet.dmxStartCode == 0
    assert len(packet.dmxData) == 512
    wait_for(lambda: 7962 in heard, 5, "universe 7962 was not heard")
    assert not any(heard[7962].dmxData)
    assert heard[7962].cid == packet.cid
