"""The running loop with its control side: sections, gestures, commands; packets are read on loopback."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.engine.clock import PERIOD_NS
from heliograph.engine.control_side import ControlSide
from heliograph.engine.loop import Engine
from heliograph.engine.sections import SectionStore, content_hash
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.engine.spool import Spool
from heliograph.wire import artnet
from tests.engine.shows import grid, lamps, layer, look, output

HOST, CARD = "127.0.82.2", "127.0.82.1"


class Desk:
    """What the web process does to an engine."""

    def __init__(self, folder: Path) -> None:
        spool = Spool(folder / "spool", time.monotonic_ns())
        self.engine = Engine(folder, Sender(spool.cid, "test", open_send_socket, open_send_socket), spool)
        self.side = ControlSide(self.engine, SectionStore(folder / "sections"), folder, lambda *_: None)
        self.side.resume()
        self.thread = threading.Thread(target=self.engine.run)
        self.thread.start()

    def ask(self, **message: Any) -> dict[str, Any]:
        return self.side.answer(message, [])

    def publish(self, revision: int, **changes: dict[str, Any]) -> None:
        sections = {
            "rig": lamps(4),
            "matrix:M": grid(2, 2),
            "look:L": look(layer("a", "Flat", ramp=[[0, 100, 50, 20]])),
            "outputs": {"outputs": [output(address=HOST, card=CARD)]},
            **{key.replace("_", ":"): value for key, value in changes.items()},
        }
        manifest = {key: content_hash(value) for key, value in sections.items()}
        missing = self.ask(do="manifest", manifest=manifest)["missing"]
        self.ask(do="sections", sections=[v for v in sections.values() if content_hash(v) in missing])
        self.ask(do="adopt", manifest=manifest, revision=revision)

    def stop(self) -> None:
        self.engine.stopping.set()
        self.thread.join(5)


@pytest.fixture
def desk(tmp_path: Path) -> Iterator[Desk]:
    made = Desk(tmp_path)
    yield made
    made.stop()


@pytest.fixture
def node() -> Iterator[socket.socket]:
    one = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    one.bind((HOST, artnet.PORT))
    one.settimeout(2)
    yield one
    one.close()


def sees(node: socket.socket, wanted: list[int], seconds: float = 3.0) -> int:
    """Packets until one begins with `wanted`."""
    until = time.monotonic() + seconds
    count = 0
    while time.monotonic() < until:
        count += 1
        if list(artnet.decode_dmx(node.recv(2048)).data[: len(wanted)]) == wanted:
            return count
    pytest.fail(f"{wanted} was never sent")


def test_a_show_is_taken_and_a_look_started(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    sees(node, [0, 0, 0])
    state = desk.ask(do="start", look="L")["state"]
    assert [run["look"] for run in state["running"]] == ["L"]
    sees(node, [100, 50, 20] * 4)
    desk.ask(do="stop", look="L")
    sees(node, [0, 0, 0])
    with pytest.raises(InputError, match="not in the running show"):
        desk.ask(do="start", look="nothing")


def test_a_gesture_acts_until_it_is_stored_or_taken_back(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(do="start", look="L")
    desk.ask(do="gesture", look="L", layer="a", changes={"ramp": [[0, 9, 8, 7]]})
    sees(node, [9, 8, 7])
    desk.ask(do="gesture", look="L", layer="a", changes={"opacity": 0.0})
    sees(node, [0, 0, 0])
    desk.ask(do="end_gesture", look="L")
    sees(node, [100, 50, 20])
    desk.ask(do="gesture", look="L", layer="a", changes={"ramp": [[0, 9, 8, 7]]})
    desk.publish(2, look_L=look(layer("a", "Flat", ramp=[[0, 1, 2, 3]])))
    sees(node, [1, 2, 3])  # the stored look ends the gesture


def test_a_wrong_gesture_is_refused_and_the_last_good_one_stays(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    desk.ask(do="start", look="L")
    desk.ask(do="gesture", look="L", layer="a", changes={"ramp": [[0, 9, 8, 7]]})
    for changes in ({"opacity": 3}, {"params": {"glow": 1}}, {"matrix": "other"}):
        with pytest.raises(InputError):
            desk.ask(do="gesture", look="L", layer="a", changes=changes)
    sees(node, [9, 8, 7])


def test_show_time_is_held_stepped_and_set(desk: Desk) -> None:
    desk.publish(1)
    with pytest.raises(InputError, match="hold it before"):
        desk.ask(do="step_time", frames=1)
    held = desk.ask(do="hold_time")["state"]["show_s"]
    time.sleep(0.1)
    assert desk.ask(do="step_time", frames=2)["state"]["show_s"] == pytest.approx(held + 2 * PERIOD_NS / 1e9)
    assert desk.ask(do="set_time", seconds=42.5)["state"]["show_s"] == 42.5
    time.sleep(0.1)
    assert desk.ask(do="status")["state"]["show_s"] == 42.5
    desk.ask(do="run_time")
    time.sleep(0.2)
    assert 42.5 < desk.ask(do="status")["state"]["show_s"] < 44


def test_tempo_taps_and_masters(desk: Desk, node: socket.socket) -> None:
    desk.publish(1)
    assert desk.ask(do="tempo", bpm=100)["state"]["bpm"] == 100
    tapped = desk.ask(do="tap", bpm=90.5)["state"]
    assert tapped["bpm"] == 90.5
    assert tapped["beat"] == pytest.approx(round(tapped["beat"]), abs=0.2)
    desk.ask(do="start", look="L")
    desk.ask(do="master", level=0.5)
    sees(node, [50, 25, 10])
    desk.ask(do="blackout", on=True)
    sees(node, [0, 0, 0])
    for wrong in ({"do": "master", "level": 2}, {"do": "tempo", "bpm": 1}, {"do": "dance"}):
        with pytest.raises(InputError):
            desk.ask(**wrong)


def test_a_manifest_whose_sections_are_missing_is_refused(desk: Desk) -> None:
    desk.publish(1)
    with pytest.raises(InputError, match="1 sections have not arrived"):
        desk.ask(do="adopt", manifest={"rig": "0" * 32}, revision=2)
    assert desk.ask(do="status")["revision"] == 1


def test_the_next_engine_goes_on_without_anybody_telling_it(tmp_path: Path, node: socket.socket) -> None:
    first = Desk(tmp_path)
    first.publish(5)
    first.ask(do="start", look="L")
    sees(node, [100, 50, 20])
    first.stop()
    second = Desk(tmp_path)
    try:
        sees(node, [100, 50, 20])
        status = second.ask(do="status")
        assert (status["revision"], [run["look"] for run in status["state"]["running"]]) == (5, ["L"])
    finally:
        second.stop()
