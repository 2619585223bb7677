"""The inputs process: `python -m heliograph.inputs.process --data DIR`.

HELIOGRAPH_START_OF_DAY is JSON {"first": handle, "catch_up": true, "show": id} where this is the start of a day; see
`ClockWork`. HELIOGRAPH_WALL_S moves the time on the wall by so many seconds, for tests.
"""

from __future__ import annotations

import argparse
import os
import signal
import threading
from pathlib import Path
from typing import Any

import orjson

from heliograph.core.errors import InputError
from heliograph.inputs.clock_work import ClockWork, StartOfDay, Wall
from heliograph.ipc.control import ControlClient, ControlServer
from heliograph.ipc.heartbeat import Heartbeat
from heliograph.ipc.log import start_log
from heliograph.ipc.messages.base import Answer
from heliograph.ipc.messages.inputs import AskClock, ClockTold, InputsRequest, SetWall
from heliograph.ipc.messages.show import Adopt, Adopted, HandSections, Missing, OfferManifest
from heliograph.ipc.sections import SectionStore
from heliograph.ipc.service_user import drop_rights

STEP_S = 0.1
CLOCK = "clock"


class Inputs:
    """Keeps the rules on disk, so that it starts again with them while the web process and the database are away."""

    def __init__(self, data: Path, log: Any, start: StartOfDay) -> None:
        engine = ControlClient(str(data / "run" / "engine.sock"), "engine", timeout_s=3.0)
        self._store = SectionStore(data / "inputs" / "sections")
        self._lock = threading.Lock()
        self._log = log
        wall = Wall()
        wall.set(wall.now() + float(os.environ.get("HELIOGRAPH_WALL_S", "0")))
        self.clock = ClockWork(engine.ask, wall, log, start, self._has_show)
        if self._store.load():
            self._take(changed=False)

    def _has_show(self, show: str) -> bool:
        """Whether that one was handed over; it goes to the engine before it comes here."""
        return bool(self._store.show_id) and show in ("", self._store.show_id)

    def answer(self, request: InputsRequest, _fds: list[int]) -> Answer | None:
        store = self._store
        match request:
            case AskClock():
                return ClockTold(self.clock.wall.now(), self.clock.done_s, self.clock.faults())
            case SetWall():
                with self._lock:
                    self.clock.wall.set(request.now_s)
                return None
            case OfferManifest():
                return Missing(store.missing(request.manifest), store.manifest, store.revision, store.show_id)
            case HandSections():
                for section in request.sections:
                    store.add(section)
                return None
            case Adopt():
                return self._adopt(request)

    def step(self) -> None:
        with self._lock:
            self.clock.step()

    def _adopt(self, request: Adopt) -> Adopted:
        if self._store.missing(request.manifest):
            raise InputError("Sections have not arrived.", where="manifest")
        with self._lock:
            before = self._rules()
            self._store.use(request.manifest, request.revision, request.show)
            self._take(changed=self._rules() != before)
        try:
            self._store.keep()
        except OSError as error:
            self._log.warning(f"the clock's rules cannot be written to disk: {error.strerror}")
        return Adopted(revision=request.revision)

    def _section(self) -> dict[str, Any] | None:
        return self._store.sections(self._store.manifest).get(CLOCK)

    def _rules(self) -> dict[str, Any]:
        """What of the section makes things due."""
        return {name: value for name, value in (self._section() or {}).items() if name != "saved_s"}

    def _take(self, changed: bool) -> None:
        try:
            self.clock.adopt(self._section(), changed)
        except Exception as error:
            self._log.exception("the clock's rules cannot be used", exc_info=error)
            self.clock.adopt(None, changed)


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's inputs")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    log = start_log("inputs", data / "log")
    drop_rights(data)
    told = orjson.loads(os.environ.get("HELIOGRAPH_START_OF_DAY", "{}"))
    heart = Heartbeat(data, "inputs")
    inputs = Inputs(
        data, log, StartOfDay(told.get("first", ""), bool(told.get("catch_up", False)), told.get("show", ""))
    )
    stopping = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: stopping.set())
    server = ControlServer(str(data / "run" / "inputs.sock"), InputsRequest, inputs.answer)
    server.start()
    while not stopping.wait(STEP_S):
        inputs.step()
        heart.beat()
    server.close()


if __name__ == "__main__":
    main()
