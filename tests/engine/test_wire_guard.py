"""The guard holds places on the wire: whatever show, output, number or fixture would reach them, and in any order."""

from __future__ import annotations

import socket
from typing import Any

import pytest

from heliograph.core.errors import InputError
from tests.engine.desk import CARD, HOST, Desk, sees
from tests.engine.shows import output
from tests.engine.test_endings import LEASE
from tests.engine.test_guarding import armed, left, rig

FULL = {f"{u}.{n}": 255 for u in (1, 2, 5, 101) for n in range(1, 17)}
SAFE_4 = [3, 0, 0, 0]


def ray(**fields: Any) -> dict[str, Any]:
    return rig({"id": "ray", "channel": 1, "guarded": True, **fields})


def outs(*rows: dict[str, Any]) -> dict[str, Any]:
    return {"outputs": [output(id=f"o{n}", address=HOST, card=CARD, **row) for n, row in enumerate(rows)]}


def arms(desk: Desk, *names: str) -> None:
    desk.ask(do="arm", fixtures=list(names), lease=LEASE)


def stays_safe(desk: Desk, node: socket.socket, beyond: int = 255) -> None:
    """Everything is full, and the laser's slots are safe; those beside them are not, so it is the guard's work."""
    desk.ask(do="raw", values=FULL)
    sees(node, [*SAFE_4, beyond, beyond])
    assert [sees(node, SAFE_4) for _ in range(12)] == [1] * 12


def test_another_show_that_calls_the_place_otherwise(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=ray(universe=101), outputs=outs({"first_universe": 101}), show="quay")
    arms(desk, "ray")
    desk.publish(2, rig=rig({"id": "lamp", "channel": 1}), outputs=outs({"first_universe": 1}), show="rehearsal")
    stays_safe(desk, node)
    assert left(desk) == [("ray", ["U1.1 to 4"])]


def test_another_universe_that_is_sent_by_the_old_number(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=ray(), outputs=outs({}))
    desk.publish(2, rig=ray(), outputs=outs({"first_number": 40}))
    assert left(desk) == [], "nothing is sent there"
    assert desk.ask(do="status")["state"]["away"] == 1, "but it is not forgotten"
    desk.publish(3, rig=ray(), outputs=outs({"first_number": 40}, {"first_universe": 5}))
    stays_safe(desk, node)
    assert left(desk) == [("ray", ["U5.1 to 4"])]


@pytest.mark.parametrize("second", [{}, {"mode": "broadcast"}], ids=["to the same address", "to everybody"])
def test_a_second_output_to_the_same_place(desk: Desk, node: socket.socket, second: dict[str, Any]) -> None:
    """Neither of the two may light it; and it cannot be armed, for it would get now this and now that."""
    desk.publish(1, rig=ray(), outputs=outs({}, {"first_universe": 2, **second}))
    stays_safe(desk, node)
    with pytest.raises(InputError, match=r"would get two universes: U2 goes to .* too"):
        arms(desk, "ray")


@pytest.mark.parametrize("away", [{"mute": True}, {"on": False}], ids=["mute", "off"])
@pytest.mark.parametrize("after", [{"channel": 101}, {"universe": 7}, None], ids=["moved", "unsent", "deleted"])
def test_first_dark_then_moved_then_lit(
    desk: Desk, node: socket.socket, away: dict[str, Any], after: dict[str, Any] | None
) -> None:
    """The careful order of doing it leaves the laser where it hangs all the same."""
    moved = ray(**after) if after else rig({"id": "lamp", "channel": 9})
    desk.publish(1, rig=ray(), outputs=outs({}))
    desk.publish(2, rig=ray(), outputs=outs(away))
    assert left(desk) == []
    desk.publish(3, rig=moved, outputs=outs(away))
    desk.publish(4, rig=moved, outputs=outs({}))
    stays_safe(desk, node)


def test_another_laser_laid_over_the_place_changes_nothing(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=ray(), outputs=outs({}))
    both = rig({"id": "ray", "channel": 101, "guarded": True}, {"id": "fan", "channel": 1, "guarded": True})
    desk.publish(2, rig=both, outputs=outs({}))
    assert left(desk) == [("ray", ["U1.1 to 4"])]
    with pytest.raises(InputError, match=r"2 fan lies where laser 1 ray lay before \(U1.1\). Say at Check"):
        arms(desk, "fan")
    stays_safe(desk, node)
    desk.ask(do="gone", fixture="ray")
    arms(desk, "fan")
    sees(node, [255] * 4)


def test_a_laser_that_moves_by_a_few_channels_cannot_be_armed_until_it_is_gone(desk: Desk, node: socket.socket) -> None:
    """What hangs at 1 to 4 still would take the new dimmer for its own shutter."""
    desk.publish(1, rig=ray(), outputs=outs({}))
    desk.publish(2, rig=ray(channel=3), outputs=outs({}))
    assert left(desk) == [("ray", ["U1.1 to 4"])]
    with pytest.raises(InputError, match="1 ray lies where it lay before"):
        arms(desk, "ray")
    desk.ask(do="gone", fixture="ray")
    arms(desk, "ray")
    desk.ask(do="raw", values=FULL)
    sees(node, [255] * 6)


def test_an_armed_one_is_made_safe_when_it_comes_to_lie_where_another_was(desk: Desk) -> None:
    far = {"id": "fan", "channel": 101, "guarded": True}
    here = {"id": "ray", "channel": 1, "guarded": True}
    desk.publish(1, rig=rig(here, far), outputs=outs({}))
    arms(desk, "fan")
    desk.publish(2, rig=rig({**here, "channel": 201}, {**far, "channel": 1}), outputs=outs({}))
    assert armed(desk) == []


def test_a_chain_is_held_together(desk: Desk, node: socket.socket) -> None:
    chain = [{"id": name, "channel": at, "guarded": True} for name, at in (("a", 1), ("b", 4), ("c", 7))]
    desk.publish(1, rig=rig(*chain), outputs=outs({}))
    arms(desk, "a", "b")
    desk.ask(do="raw", values=FULL)
    sees(node, [3, 0, 0, 3, 0, 0, 3, 0, 0, 0, 255])
    arms(desk, "a", "b", "c")
    sees(node, [255] * 10)


def test_the_same_laser_of_a_copied_show_is_the_same(desk: Desk) -> None:
    desk.publish(1, rig=ray(), outputs=outs({}), show="quay")
    copy = ray()
    copy["fixtures"][0]["id"] = "another id"
    copy["fixtures"][0]["name"] = "ray"
    desk.publish(2, rig=copy, outputs=outs({}), show="copy of quay")
    assert left(desk) == []
    arms(desk, "another id")


def test_what_is_known_survives_the_engine_and_the_show_that_is_away(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=ray(universe=101), outputs=outs({"first_universe": 101}), show="quay")
    desk.publish(2, rig=rig(), outputs=outs({"first_universe": 101, "on": False}), show="empty")
    desk.stop()
    again = Desk(desk.folder)
    again.publish(3, rig=rig({"id": "lamp", "channel": 1}), outputs=outs({}), show="rehearsal")
    stays_safe(again, node)


def test_back_in_its_show_it_can_be_armed_at_once(desk: Desk) -> None:
    for revision, show in enumerate(("quay", "rehearsal", "quay"), start=1):
        here = ray() if show == "quay" else rig({"id": "lamp", "channel": 1})
        desk.publish(revision, rig=here, outputs=outs({}), show=show)
    assert left(desk) == []
    arms(desk, "ray")


def test_somebody_who_takes_all_lasers_away_says_so_once(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=ray(universe=101), outputs=outs({"first_universe": 101}), show="quay")
    desk.publish(2, rig=rig({"id": "lamp", "channel": 1}), outputs=outs({"first_number": 9}), show="rehearsal")
    desk.ask(do="gone")
    assert desk.ask(do="status")["state"]["away"] == 0
    desk.publish(3, rig=rig({"id": "lamp", "channel": 1}), outputs=outs({}), show="rehearsal")
    desk.ask(do="raw", values=FULL)
    sees(node, [255] * 6)
