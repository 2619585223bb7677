"""The guard holds whatever happens to the patch: leases, addresses a laser left, what ends being armed."""

from __future__ import annotations

import socket
import time
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.engine import arming
from heliograph.wire import artnet
from tests.conftest import wait_for
from tests.engine.desk import CARD, HOST, Desk, sees
from tests.engine.shows import lamps, output
from tests.engine.test_endings import DARK, LEASE, LIT, SAFE, light, outputs
from tests.moves import move

PLAIN = [{"attribute": f"ColorAdd_{c}"} for c in "RGBW"]


def rig(*fixtures: dict[str, Any]) -> dict[str, Any]:
    """Lasers and lamps by their own words: {id, channel, guarded}."""
    modes = {
        name: {
            "mode": {"name": name, "blocks": [{"name": "b", "cell_count": 1, "cell_channels": channels}]},
            "guarded": name == "laser",
        }
        for name, channels in (("laser", SAFE), ("lamp", PLAIN))
    }
    rows = [
        {
            "id": one["id"],
            "number": n + 1,
            "name": one["id"],
            "mode": "laser" if one.get("guarded") else "lamp",
            "universe": one.get("universe", 1),
            "channel": one["channel"],
        }
        for n, one in enumerate(fixtures)
    ]
    return {"modes": modes, "fixtures": rows}


def left(desk: Desk) -> list[Any]:
    return [(one["name"], one["addresses"]) for one in desk.ask(do="status")["state"]["left"]]


def armed(desk: Desk) -> list[str]:
    found: list[str] = desk.ask(do="status")["state"]["armed"]
    return found


def test_what_a_laser_left_stays_safe_until_somebody_says_that_it_is_gone(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=rig({"id": "ray", "channel": 1, "guarded": True}), outputs=outputs())
    desk.ask(do="raw", values={f"1.{n}": 255 for n in range(1, 9)})
    sees(node, [3, 0, 0, 0, 255, 255])
    moved = rig({"id": "ray", "channel": 101, "guarded": True}, {"id": "lamp", "channel": 1})
    desk.publish(2, rig=moved, outputs=outputs(), parked={"parked": [{"universe": 1, "channel": 2, "value": 200}]})
    sees(node, [3, 0, 0, 0, 255, 255])  # raw, parked and another fixture do not reach it
    assert left(desk) == [("ray", ["U1.1 to 4"])]
    for command in (
        {"do": "highlight", "fixtures": ["lamp"]},
        {"do": "walk", "walk": {"channels": ["1.2"]}},
        {"do": "manual", "values": {"lamp/1": 255}},
    ):
        desk.ask(**command)
        sees(node, [3, 0, 0, 0])
    desk.ask(do="walk")
    with pytest.raises(InputError, match="No address is kept safe"):
        desk.ask(do="gone", fixture="lamp")
    desk.ask(do="gone", fixture="ray")
    sees(node, [255])
    assert left(desk) == []


@pytest.mark.parametrize(
    "after",
    [
        {"rig": rig({"id": "lamp", "channel": 1})},
        {"rig": lamps(0)},
        {"rig": rig({"id": "other", "channel": 1}), "show": "another"},
    ],
    ids=["deleted", "nothing left", "another show"],
)
def test_a_laser_that_goes_leaves_its_address_guarded(desk: Desk, node: socket.socket, after: Any) -> None:
    desk.publish(1, rig=rig({"id": "ray", "channel": 1, "guarded": True}), outputs=outputs())
    desk.ask(do="arm", fixtures=["ray"], lease=LEASE)
    desk.publish(2, outputs=outputs(), **after)
    desk.ask(do="raw", values={"1.1": 255, "1.3": 255, "1.9": 9})
    sees(node, [3, 0, 0, 0, 0, 0, 0, 0, 9])
    assert armed(desk) == []


def test_an_address_that_carries_a_laser_again_is_its_own(desk: Desk, node: socket.socket) -> None:
    here, there = (rig({"id": "ray", "channel": n, "guarded": True}) for n in (1, 101))
    desk.publish(1, rig=here, outputs=outputs())
    desk.publish(2, rig=there, outputs=outputs())
    assert left(desk) == [("ray", ["U1.1 to 4"])]
    desk.publish(3, rig=here, outputs=outputs())
    assert left(desk) == [("ray", ["U1.101 to 104"])]
    desk.ask(do="arm", fixtures=["ray"], lease=LEASE)
    sees(node, [9, 0, 0, 0])


def test_an_address_that_was_never_sent_is_not_guarded(desk: Desk) -> None:
    desk.publish(1, rig=rig({"id": "ray", "channel": 1, "guarded": True}), outputs=outputs(on=False))
    desk.publish(2, rig=rig(), outputs=outputs())
    assert left(desk) == []


def test_what_is_left_survives_a_restart_of_the_engine(desk: Desk, node: socket.socket) -> None:
    desk.publish(1, rig=rig({"id": "ray", "channel": 1, "guarded": True}), outputs=outputs())
    desk.publish(2, rig=rig({"id": "lamp", "channel": 1}), outputs=outputs())
    desk.stop()
    again = Desk(desk.folder)
    again.ask(do="raw", values={"1.1": 255, "1.8": 8})
    sees(node, [3, 0, 0, 0, 0, 0, 0, 8])
    again.stop()


CHANGES: dict[str, dict[str, Any]] = {
    "address": {"rig": lamps(4, guarded=True, channels=SAFE, start=5)},
    "profile": {"rig": lamps(4, guarded=True, channels=[{**one, "highlight": 1} for one in SAFE])},
    "mode": {"rig": lamps(4, guarded=True, channels=[*SAFE, {"attribute": "Zoom", "safe": 0}])},
    "the guard itself": {"rig": lamps(4, channels=SAFE)},
    "output": {"outputs": {"outputs": [output(address="127.0.82.78", card=CARD)]}},
    "network card": {"outputs": {"outputs": [output(address=HOST, card="127.0.82.9")]}},
    "mute": {"outputs": outputs(mute=True)},
    "show": {"show": "another"},
}


@pytest.mark.parametrize("change", CHANGES)
def test_any_change_of_how_it_is_reached_ends_being_armed(desk: Desk, node: socket.socket, change: str) -> None:
    light(desk)
    sees(node, LIT)
    same: dict[str, Any] = {"rig": lamps(4, guarded=True, channels=SAFE), "outputs": outputs()}
    desk.publish(2, **same, parked={"parked": []})
    assert len(armed(desk)) == 4, "an edit of something else leaves it alone"
    desk.publish(3, **{**same, **CHANGES[change]})
    assert armed(desk) == []


def test_only_what_is_guarded_there_placed_and_sent_can_be_armed(desk: Desk) -> None:
    fixtures = rig(
        {"id": "ray", "channel": 1, "guarded": True},
        {"id": "lamp", "channel": 21},
        {"id": "far", "channel": 1, "universe": 9, "guarded": True},
        {"id": "loose", "channel": 1, "universe": 0, "guarded": True},
    )
    desk.publish(1, rig=fixtures, outputs=outputs())
    for name, says in (
        ("nothing", "not in the running show"),
        ("lamp", "2 lamp is not guarded"),
        ("far", "3 far is not sent: U9 leaves by no output that is on"),
        ("loose", "4 loose has no address"),
    ):
        with pytest.raises(InputError, match=says):
            desk.ask(do="arm", fixtures=["ray", name], lease=LEASE)
    assert armed(desk) == []
    faults = {one["name"]: bool(one["fault"]) for one in desk.ask(do="status")["lasers"]}
    assert faults == {"ray": False, "far": True, "loose": True}


def test_a_mode_without_a_safe_value_everywhere_cannot_be_armed(desk: Desk) -> None:
    unsafe = [{"attribute": "Gobo1", "home": 9}, *SAFE[1:]]
    desk.publish(1, rig=lamps(1, guarded=True, channels=unsafe), outputs=outputs())
    with pytest.raises(InputError, match="gobo of mode m have no safe value"):
        desk.ask(do="arm", fixtures=["f0"], lease=LEASE)


def grow_old(desk: Desk, seconds: float) -> None:
    """So much time goes by for what is leased."""
    for lease in desk.engine.leases.held.values():
        lease.renewed_ns -= int(seconds * 1e9)


def test_a_lease_that_nobody_renews_is_over(desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(arming, "LEASE_S", 3600.0)
    light(desk)
    for _ in range(3):
        grow_old(desk, 2400.0)
        desk.ask(do="renew", lease=LEASE)
    assert len(armed(desk)) == 4
    grow_old(desk, 3601.0)
    desk.ask(do="renew", lease="of somebody else's")
    sees(node, DARK, 3)
    wait_for(lambda: not armed(desk), 3)


def test_until_a_moment_that_was_named(desk: Desk) -> None:
    light(desk)
    with pytest.raises(InputError, match="24 hours at most"):
        desk.ask(do="arm", fixtures=["f0"], lease=LEASE, until=time.time() + 90_000)
    desk.ask(do="arm", fixtures=["f0"], lease=LEASE, until=time.time() + 3600)
    assert armed(desk) == ["f0"]
    for lease in desk.engine.leases.held.values():
        lease.until_s = time.time()  # the hour has gone by
    wait_for(lambda: not armed(desk), 3, "it stayed armed past its moment")


def test_one_that_shares_channels_with_a_safe_one_stays_safe_as_a_whole(desk: Desk, node: socket.socket) -> None:
    both = rig({"id": "ray", "channel": 1, "guarded": True}, {"id": "twin", "channel": 4, "guarded": True})
    desk.publish(1, rig=both, outputs=outputs())
    desk.ask(do="raw", values={f"1.{n}": 99 for n in range(1, 8)})
    desk.ask(do="arm", fixtures=["ray"], lease=LEASE)
    sees(node, [3, 0, 0, 3, 0, 0, 0])
    desk.ask(do="arm", fixtures=["ray", "twin"], lease=LEASE)
    sees(node, [99] * 7)


def test_blackout_is_safe_and_no_home(desk: Desk, node: socket.socket) -> None:
    light(desk)
    sees(node, LIT)
    desk.ask(**move("blackout", True))
    sees(node, DARK)


def test_a_network_card_that_is_gone_comes_back_safe(
    desk: Desk, node: socket.socket, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The card's socket is closed under the engine: sending fails until it is opened anew, once a second."""
    light(desk)
    sees(node, LIT)
    route = desk.engine.sender.routes[0]
    good, away = route.fd, socket.socket()
    back: list[bool] = []
    monkeypatch.setattr(desk.engine.sender, "renew_socket", lambda *_: good if back else away.fileno())
    route.fd = away.fileno()
    wait_for(lambda: not armed(desk), 5, "it stayed armed on a card that is gone")
    assert any("sending to them fails" in event.says for event in desk.engine.events)
    node.settimeout(0.1)
    try:
        while True:
            node.recv(2048)
    except TimeoutError:
        node.settimeout(4)
    back.append(True)
    assert list(artnet.decode_dmx(node.recv(2048)).data[:16]) == DARK
    away.close()
