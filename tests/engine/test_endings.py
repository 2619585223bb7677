"""Whatever ends the sending of a universe, the last thing every destination holds is dark: read on the wire."""

from __future__ import annotations

import socket
from collections.abc import Callable
from itertools import pairwise
from typing import Any

import pytest

from heliograph.wire import artnet, sacn
from tests.engine.desk import CARD, HEARS_S, HOST, Desk, listen, rest, sees
from tests.engine.shows import lamps, output
from tests.moves import move, on

SAFE = [
    {"attribute": "Gobo1", "home": 9, "safe": 3},
    *({"attribute": f"ColorAdd_{c}", "safe": 0} for c in "RGB"),
]
"""A laser: a pattern that rests at 9 and is safe at 3, then its colours."""

LIT = [9, 100, 50, 20] * 4
DARK = [3, 0, 0, 0] * 4
OTHER = "127.0.82.77"
LEASE = "0123456789abcdef"

Change = Callable[[Desk], None]


def light(desk: Desk, **more: Any) -> None:
    """Four armed lasers, lit."""
    desk.publish(1, rig=lamps(4, guarded=True, channels=SAFE), outputs=outputs(**more))
    desk.ask(**on("L"))
    desk.ask(do="arm", fixtures=[f"f{n}" for n in range(4)], lease=LEASE)


def outputs(**fields: Any) -> dict[str, Any]:
    return {"outputs": [output(address=HOST, card=CARD, **fields)]}


def republish(**changes: Any) -> Change:
    def change(desk: Desk) -> None:
        rig = changes.get("rig", lamps(4, guarded=True, channels=SAFE))
        desk.publish(2, rig=rig, outputs=changes["outputs"])

    return change


def stop(desk: Desk) -> None:
    desk.stop()


WAYS: dict[str, Change] = {
    "off": republish(outputs=outputs(on=False)),
    "deleted": republish(outputs={"outputs": []}),
    "another destination": republish(outputs={"outputs": [output(address=OTHER, card=CARD)]}),
    "other numbers": republish(outputs=outputs(first_number=40)),
    "another protocol": republish(outputs=outputs(protocol="sacn", first_number=1)),
    "another network card": republish(outputs={"outputs": [output(address=HOST, card="127.0.82.9")]}),
    "a rig without that universe": republish(outputs=outputs(first_universe=2), rig=lamps(0)),
    "another show": lambda desk: desk.publish(2, show="another", rig=lamps(1, start=100), outputs={"outputs": []}),
    "the end of the program": stop,
}


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.slow
def test_the_last_thing_an_art_net_node_holds_is_dark_and_safe(desk: Desk, node: socket.socket, way: str) -> None:
    light(desk)
    sees(node, LIT)
    WAYS[way](desk)
    goes_on = way in ("another network card", "a rig without that universe")  # to the same number
    packets = rest(desk, node, most=60 if goes_on else 400)
    if goes_on:
        desk.stop()
        packets += rest(desk, node)
    here = [one for one in map(artnet.decode_dmx, packets) if one.port_address == 0]
    dark = [list(one.data[:16]) for one in here][-3:]
    assert dark == [DARK] * 3, "the lasers hang there still, whatever the number carries now"
    steps = [(b.sequence - a.sequence) % 255 for a, b in pairwise(here)]
    assert set(steps) <= {1}, "a receiver would discard packets"


def test_dark_frames_come_at_frame_rate_and_sacn_terminates_with_them(desk: Desk) -> None:
    node = listen(HOST, sacn.PORT)
    light(desk, protocol="sacn", first_number=5)
    while list(sacn.decode(node.recv(2048)).slots[:16]) != LIT:  # type: ignore[union-attr]
        pass
    desk.publish(2, rig=lamps(4, guarded=True, channels=SAFE), outputs=outputs(protocol="sacn", on=False))
    last = [one for one in map(sacn.decode, rest(desk, node)) if isinstance(one, sacn.Data)][-8:]
    assert [list(one.slots[:16]) for one in last] == [DARK] * 8
    assert [bool(one.options & sacn.OPTION_TERMINATED) for one in last] == [False] * 5 + [True] * 3
    assert {one.sync for one in last} == {0}, "nobody would send the synchronisation they waited for"
    node.close()


def test_as_it_is_keeps_lamps_lit_and_lasers_safe(desk: Desk, node: socket.socket) -> None:
    light(desk, when_ends="as it is")
    desk.ask(do="raw", values={"1.100": 77})
    sees(node, LIT)
    desk.publish(2, rig=lamps(4, guarded=True, channels=SAFE), outputs=outputs(on=False))
    last = artnet.decode_dmx(rest(desk, node)[-1]).data
    assert list(last[:16]) == DARK
    assert last[99] == 77


def test_an_output_switched_on_again_at_once_goes_on(desk: Desk, node: socket.socket) -> None:
    light(desk)
    sees(node, LIT)
    rig = lamps(4, guarded=True, channels=SAFE)
    desk.publish(2, rig=rig, outputs=outputs(on=False))
    desk.publish(3, rig=rig, outputs=outputs())
    desk.ask(do="arm", fixtures=["f0"], lease=LEASE)
    sees(node, LIT[:4] + DARK[4:])
    held = [artnet.decode_dmx(node.recv(2048)) for _ in range(40)]
    assert len({tuple(one.data) for one in held}) == 1
    assert {(b.sequence - a.sequence) % 255 for a, b in pairwise(held)} == {1}


def test_slow_sending_never_delays_dark(desk: Desk, node: socket.socket) -> None:
    """Of 44 frames one is sent: an output at one frame a second."""
    light(desk, rate_hz=1)
    sees(node, LIT)
    for command, wanted in ((move("blackout", True), DARK), ({"do": "arm", "fixtures": []}, DARK)):
        node.setblocking(False)
        try:
            while True:
                node.recv(2048)
        except BlockingIOError:
            node.settimeout(HEARS_S)
        before = desk.engine.frame
        desk.ask(**command)
        assert list(artnet.decode_dmx(node.recv(2048)).data[:16]) == wanted
        # By its turn it would wait for 22 frames on average; a busy machine lets this test itself wait for some.
        assert desk.engine.frame - before <= 9, "it waited for its turn"
        desk.ask(**move("blackout", False))
        desk.ask(do="arm", fixtures=["f0", "f1", "f2", "f3"], lease=LEASE)
        sees(node, LIT)


def test_the_safe_value_is_the_wires_value(desk: Desk, node: socket.socket) -> None:
    """*Inverted* turns what plays, never what is safe."""
    turned = [{**channel, "invert": True, "safe": 7} for channel in SAFE]
    desk.publish(1, rig=lamps(1, guarded=True, channels=turned), outputs=outputs())
    desk.ask(**on("L"))
    sees(node, [7, 7, 7, 7])
    desk.publish(2, rig=lamps(1, guarded=True, channels=turned), outputs=outputs(on=False))
    assert list(artnet.decode_dmx(rest(desk, node)[-1]).data[:4]) == [7, 7, 7, 7]
