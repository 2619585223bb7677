"""The engine process: `python -m heliograph.engine.process --data DIR`.

Sockets of network cards are inherited: HELIOGRAPH_CARDS is JSON {address: file descriptor}.
"""

from __future__ import annotations

import argparse
import contextlib
import fcntl
import os
import shutil
import signal
import sys
import threading
import time
from pathlib import Path

import orjson

from heliograph.engine.announcing import keep_announcing
from heliograph.engine.clock import CONTROL_PRIORITY, run_in_real_time
from heliograph.engine.control_side import ControlSide
from heliograph.engine.loop import Engine
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.engine.spool import Spool
from heliograph.engine.watching import watch
from heliograph.ipc.control import ControlServer
from heliograph.ipc.log import start_log
from heliograph.ipc.messages.engine import EngineRequest
from heliograph.ipc.places import fast_folder
from heliograph.ipc.sections import SectionStore
from heliograph.ipc.service_user import give_to_owner

SOURCE_NAME = "Heliograph"
NICE = -10
"""Where permitted, ahead of web, media and browsers on the same machine."""

KEEP_S = 2.0
LOCK_WAIT_S = 5.0
"""An engine that is ending may take so long."""

HAND_OVER = signal.SIGUSR1
"""Another engine takes over: lasers are made safe, all else goes on as it is."""

ALREADY_RUNS = 3
"""Exit code where another engine of the same data folder runs."""

SWITCH_INTERVAL_S = 0.0005
"""A control thread yields the interpreter to the frame loop after half a millisecond (default 5 ms)."""


class CardSockets:
    """One sending socket a protocol and card. Art-Net's are the supervisor's (port 6454 on both sides)."""

    def __init__(self, inherited: dict[str, int]) -> None:
        self._open = {("artnet", address): fd for address, fd in inherited.items()}

    def add(self, address: str, fd: int) -> None:
        self._open[("artnet", address)] = fd

    def open(self, protocol: str, card: str) -> int:
        """The socket of a card; raises OSError where the card is not there."""
        key = (protocol, card)
        if key not in self._open:
            self._open[key] = open_send_socket(protocol, card)
        return self._open[key]

    def renew(self, protocol: str, card: str) -> int:
        """A fresh socket under the same descriptor: a card that came back has another index."""
        key = (protocol, card)
        if key not in self._open:
            return self.open(protocol, card)
        if protocol == "sacn":
            fresh = open_send_socket(protocol, card)
            os.dup2(fresh, self._open[key])
            os.close(fresh)
        return self._open[key]


def the_only_one(path: Path) -> int | None:
    """Holds the lock of this data folder's engine; None where another one holds it and does not end. The system lets
    go of it with the process, however that ends."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
    until = time.monotonic() + LOCK_WAIT_S
    while True:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            if time.monotonic() > until:
                os.close(handle)
                return None
            time.sleep(0.02)
            continue
        os.ftruncate(handle, 0)
        os.write(handle, str(os.getpid()).encode())
        return handle


def _keep(engine: Engine, spool: Spool) -> None:
    """Copies the spool to disk every two seconds, away from the frame loop."""
    while not engine.stopping.wait(KEEP_S):
        with contextlib.suppress(OSError):
            spool.keep()


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's output engine")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    log = start_log("engine", data / "log")
    lock = the_only_one(data / "run" / "engine.lock")
    if lock is None:
        log.error("another engine sends already: two would fight for the lamps", event_for_people=True)
        sys.exit(ALREADY_RUNS)
    folder = data / "engine"
    folder.mkdir(parents=True, exist_ok=True)
    sys.setswitchinterval(SWITCH_INTERVAL_S)
    with contextlib.suppress(OSError):
        os.setpriority(os.PRIO_PROCESS, 0, NICE)
    run_in_real_time(CONTROL_PRIORITY)
    cards = CardSockets(orjson.loads(os.environ.get("HELIOGRAPH_CARDS", "{}")))
    fast = fast_folder(data)
    spool = Spool(fast / "spool", time.monotonic_ns(), folder / "spool.kept")
    if os.environ.get("HELIOGRAPH_ANEW"):
        spool.begin_anew()
    engine = Engine(fast, Sender(spool.cid, SOURCE_NAME, cards.open, cards.renew), spool)
    side = ControlSide(engine, SectionStore(folder / "sections"), data / "media" / "frames", cards.add)
    server = ControlServer(str(data / "run" / "engine.sock"), EngineRequest, side.answer)
    give_to_owner(data, data / "run" / "engine.sock")
    give_to_owner(data, fast / "spool")
    server.start()
    side.resume()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: engine.stopping.set())
    signal.signal(HAND_OVER, lambda *_: engine.hand_over())
    threading.Thread(target=side.watch_clips, name="clips", daemon=True).start()
    threading.Thread(
        target=keep_announcing, args=(engine.sender, engine.stopping), name="announce", daemon=True
    ).start()
    threading.Thread(target=watch, args=(engine, engine.stopping), name="watch", daemon=True).start()
    threading.Thread(target=_keep, args=(engine, spool), name="keep", daemon=True).start()
    resumed = spool.resumed
    log.info(
        "engine started, going on where it was" if resumed else "engine started",
        event_for_people=True,
        frame=engine.frame,
        looks=sorted(engine.state.looks_on),
    )
    engine.run()
    server.close()
    spool.keep()
    if fast != data and not engine.handed_over:
        shutil.rmtree(fast, ignore_errors=True)
    log.info("engine stopped", event_for_people=True, frame=engine.frame)


if __name__ == "__main__":
    main()
