"""Any order of mute, move, delete, re-route, show switch, arming, kill and hand, on two shows with lasers and lamps,
judged by a listener that knows where lasers hang.

The engine is stepped frame by frame, and sends real datagrams. The judge keeps books of its own, from what was told to
the engine: a laser hangs at every place at which it was ever sent, until somebody says that it is gone.
"""

from __future__ import annotations

import itertools
import tempfile
import time
from functools import cache
from pathlib import Path
from typing import Any

import pytest
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from heliograph.core.errors import InputError
from heliograph.engine.control_side import ControlSide
from heliograph.engine.loop import Engine
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.engine.spool import Spool
from heliograph.ipc.sections import SectionStore, content_hash
from heliograph.wire import artnet
from tests.asking import answered
from tests.engine.desk import CARD, HOST, listen
from tests.engine.shows import output
from tests.engine.test_endings import LEASE, SAFE
from tests.engine.test_guarding import rig
from tests.moves import move

SAFE_AT = (3, 0, 0, 0)  # of SAFE
LASERS, LAMPS, SHOWS = ("ray", "fan"), ("lamp",), ("quay", "barge")
NAMES = st.sampled_from([*LASERS, *LAMPS])
STARTS = st.sampled_from([1, 3, 5, 9])
UNIVERSES = st.sampled_from([1, 2])
NUMBERS = st.sampled_from([0, 1])
ALL = {f"{universe}.{channel}": 255 for universe in (1, 2, 3) for channel in range(1, 17)}

_opened = cache(open_send_socket)


class Stepped:
    """An engine without a thread: commands act at once, `frames` are made when they are asked for."""

    def __init__(self, folder: Path) -> None:
        spool = Spool(folder / "spool", time.monotonic_ns())
        self.engine = Engine(folder, Sender(spool.cid, "test", _opened, _opened), spool)
        self.engine.between_frames = lambda run, urgent=False: run(self.engine)  # type: ignore[method-assign]
        self.side = ControlSide(self.engine, SectionStore(folder / "sections"), folder, lambda *_: None)
        self.side.resume()

    def ask(self, **message: Any) -> dict[str, Any]:
        return answered(self.side.answer, message)

    def publish(self, revision: int, show: str, sections: dict[str, dict[str, Any]]) -> None:
        manifest = {key: content_hash(value) for key, value in sections.items()}
        missing = self.ask(do="manifest", manifest=manifest)["missing"]
        self.ask(do="sections", sections=[v for v in sections.values() if content_hash(v) in missing])
        self.ask(do="adopt", manifest=manifest, revision=revision, show=show)

    def frame(self) -> None:
        self.engine._one_frame()


class GuardedWire(RuleBasedStateMachine):
    def __init__(self) -> None:
        super().__init__()
        self.temp = tempfile.TemporaryDirectory()
        self.node = listen()
        self.node.setblocking(False)
        self.patch = pytest.MonkeyPatch()
        self.patch.setattr("heliograph.engine.loop.sleep_until", lambda _due: None)
        self.desk = Stepped(Path(self.temp.name))
        self.revisions = itertools.count(1)
        self.open = SHOWS[0]
        self.rows: dict[str, dict[str, dict[str, Any]]] = {}
        self.outs: dict[str, list[dict[str, Any]]] = {}
        self.hangs: dict[str, set[tuple[int, int, int]]] = {}
        self.armed: set[str] = set()

    def teardown(self) -> None:
        self.patch.undo()
        self.node.close()
        self.temp.cleanup()

    @initialize(numbers=st.permutations([0, 1]))
    def two_shows(self, numbers: list[int]) -> None:
        for show, number in zip(SHOWS, numbers, strict=True):
            self.rows[show] = {
                f"{show} {name}": {"channel": 1 + 4 * n, "universe": 1, "guarded": name in LASERS}
                for n, name in enumerate((*LASERS, *LAMPS))
            }
            self.outs[show] = [
                output(id=f"{show}{n}", address=HOST, card=CARD, first_universe=1 + n, first_number=(number + n) % 2)
                for n in range(2)
            ]
        self._publish()

    @rule(name=NAMES, start=STARTS, universe=UNIVERSES)
    def place(self, name: str, start: int, universe: int) -> None:
        """Moves it there; it comes back where it was deleted."""
        guarded = name in LASERS
        self.rows[self.open][f"{self.open} {name}"] = {"channel": start, "universe": universe, "guarded": guarded}
        self._publish()

    @rule(name=NAMES)
    def delete(self, name: str) -> None:
        self.rows[self.open].pop(f"{self.open} {name}", None)
        self._publish()

    @rule(which=st.integers(0, 1), change=st.sampled_from(["mute", "on"]))
    def turn(self, which: int, change: str) -> None:
        out = self.outs[self.open][which]
        out[change] = not out.get(change, False)
        self._publish()

    @rule(which=st.integers(0, 1), number=NUMBERS)
    def renumber(self, which: int, number: int) -> None:
        self.outs[self.open][which]["first_number"] = number
        self._publish()

    @rule(which=st.integers(0, 1), mode=st.sampled_from(["unicast", "broadcast"]))
    def mode(self, which: int, mode: str) -> None:
        self.outs[self.open][which]["mode"] = mode
        self._publish()

    @rule()
    def switch(self) -> None:
        self.open = SHOWS[1 - SHOWS.index(self.open)]
        self.armed = set()
        self._publish()

    @rule(names=st.sets(st.sampled_from(LASERS), min_size=1))
    def arm(self, names: set[str]) -> None:
        wanted = {f"{self.open} {name}" for name in names}
        try:
            self.desk.ask(do="arm", fixtures=sorted(wanted), lease=LEASE)
        except InputError:
            return
        self.armed = wanted

    @rule()
    def disarm(self) -> None:
        self.desk.ask(do="arm", fixtures=[])
        self.armed = set()

    @rule(show=st.sampled_from(SHOWS), name=st.sampled_from(LASERS))
    def gone(self, show: str, name: str) -> None:
        key = f"{show} {name}"
        try:
            self.desk.ask(do="gone", fixture=key)
        except InputError:
            return
        self.hangs[key] = set()
        self._note_hung()

    @rule()
    def kill(self) -> None:
        """The next engine goes on from what the last one left."""
        self.desk = Stepped(Path(self.temp.name))
        self.armed &= set(self.desk.ask(do="status")["state"]["armed"])

    @rule(values=st.sampled_from([ALL, {}]))
    def raw(self, values: dict[str, int]) -> None:
        self.desk.ask(do="raw", values=values or dict.fromkeys(ALL))

    @rule(name=NAMES)
    def highlight(self, name: str) -> None:
        self.desk.ask(do="highlight", fixtures=[f"{self.open} {name}"])

    @rule(channel=st.integers(1, 16))
    def walk(self, channel: int) -> None:
        self.desk.ask(do="walk", walk={"channels": [f"1.{channel}", f"2.{channel}"]})

    @rule(on=st.booleans())
    def blackout(self, on: bool) -> None:
        self.desk.ask(**move("blackout", on))

    @rule(on=st.booleans())
    def freeze(self, on: bool) -> None:
        self.desk.ask(**move("freeze", on))

    @invariant()
    def nothing_is_lit_by_accident(self) -> None:
        if not self.rows:
            return
        for _ in range(2):
            self.desk.frame()
        for packet in self._heard():
            told = artnet.decode_dmx(packet)
            for (number, slot), channels in self._hung().items():
                if told.port_address == number:
                    allowed = {SAFE_AT[channel] for channel in channels}
                    assert told.data[slot] in allowed, f"Art-Net {number}, slot {slot + 1}: {told.data[slot]}"

    def _heard(self) -> list[bytes]:
        found = []
        while True:
            try:
                found.append(self.node.recv(2048))
            except BlockingIOError:
                return found

    def _hung(self) -> dict[tuple[int, int], set[int]]:
        """Slots at which a laser hangs that is not armed, by number; which channels of lasers there may be there: where
        several share a slot, each one's safe value is safe."""
        channels: dict[tuple[int, int], set[int]] = {}
        unarmed = set()
        for key, places in self.hangs.items():
            now = self._now(key) if key in self.armed else set()
            for number, slot, channel in places:
                channels.setdefault((number, slot), set()).add(channel)
            unarmed |= {(number, slot) for number, slot, _ in places - now}
        return {place: channels[place] for place in unarmed}

    def _now(self, key: str) -> set[tuple[int, int, int]]:
        row = self.rows[self.open].get(key)
        if row is None:
            return set()
        return {
            (out["first_number"], row["channel"] - 1 + channel, channel)
            for out in self.outs[self.open]
            for channel in range(len(SAFE))
            if out["on"] and not out.get("mute") and out["first_universe"] == row["universe"]
        }

    def _note_hung(self) -> None:
        for key, row in self.rows[self.open].items():
            if row["guarded"]:
                self.hangs.setdefault(key, set()).update(self._now(key))

    def _publish(self) -> None:
        rows = [{"id": key, **row} for key, row in self.rows[self.open].items()]
        outs = {"outputs": [dict(out) for out in self.outs[self.open]]}
        self.desk.publish(next(self.revisions), self.open, {"rig": rig(*rows), "outputs": outs})
        self.armed &= set(self.desk.ask(do="status")["state"]["armed"])
        self._note_hung()
