"""`./heliograph up`: the database, our processes, the demo; then watching over them."""

from __future__ import annotations

import contextlib
import errno
import fcntl
import json
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from heliograph.api.access import is_loopback
from heliograph.api.routes.show import create_show
from heliograph.core.errors import HeliographError
from heliograph.ipc.control import ControlClient
from heliograph.ipc.log import start_log
from heliograph.store import rows
from heliograph.store.database import connected, migrate, open_database
from heliograph.store.journal import Author
from heliograph.supervisor.card_sockets import CardSockets
from heliograph.supervisor.children import Child, Family, end_left_over, run_beside
from heliograph.supervisor.cluster import Cluster
from heliograph.supervisor.say import StartError, step

PORT = 7650
WEB_READY_S = 20.0
CARDS_LOOK_S = 2.0
DISK_NEEDED = 300 * 1024**2
"""A cluster of its own and logs take about 120 MB; below this a start would fail half way."""


@dataclass(frozen=True, slots=True)
class Options:
    """What was asked for on the command line. `cards`: use only these addresses as network cards."""

    data: Path
    host: str = "127.0.0.1"
    port: int = PORT
    demo: bool = False
    pass_code: str = ""
    cards: tuple[str, ...] = ()
    dist: Path | None = None
    node_address: str = "127.0.0.12"
    node_page_port: int = 7660


class Supervisor:
    def __init__(self, options: Options) -> None:
        self._options = options
        self._data = options.data
        self.pass_code = _pass_code(options)
        self._log: Any = None

    def run(self) -> None:
        """Starts everything and stays until Ctrl-C; StartError where that is not possible."""
        self._make_folders()
        with self._only_one():
            self._log = start_log("supervisor", self._data / "log")
            self._check_port()
            self._sockets = CardSockets(self._options.cards, self._log)
            self._family = Family(self._log)
            for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
                signal.signal(number, lambda *_: self._family.stopping.set())
            try:
                self._start()
                self._family.watch()
                print("\nStopping: lights go off, everything this start began is ended.", flush=True)
            finally:
                self._family.stop()
                self._note(None)

    def _make_folders(self) -> None:
        try:
            for name in ("", "run", "log", "media", "media/frames", "media/files"):
                (self._data / name).mkdir(parents=True, exist_ok=True)
            (self._data / "run").chmod(0o700)
            probe = self._data / "run" / ".writable"
            probe.write_text("")
            probe.unlink()
        except OSError as error:
            raise StartError(
                f"The data folder {self._data} cannot be used: {error.strerror}. Name another with --data DIR."
            ) from error
        free = shutil.disk_usage(self._data).free
        if free < DISK_NEEDED:
            raise StartError(
                f"The disk of {self._data} has {free // 1024**2} MB left: {DISK_NEEDED // 1024**2} MB are needed. "
                "Make room, or name another folder with --data DIR."
            )

    @contextlib.contextmanager
    def _only_one(self) -> Iterator[None]:
        with open(self._data / "run" / "lock", "w") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                known = _read_note(self._data)
                where = f" Open {known}" if known else ""
                raise StartError(f"Heliograph already runs with the data folder {self._data}.{where}") from None
            yield

    def _check_port(self) -> None:
        host, port = self._options.host, self._options.port
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((host, port))
            except OSError as error:
                if error.errno == errno.EADDRINUSE:
                    raise StartError(
                        f"Port {port} is taken by another program. Choose another: --port {port + 1}"
                    ) from error
                if error.errno == errno.EACCES:
                    raise StartError(f"Port {port} needs more rights. Choose one above 1023: --port 7650") from error
                raise StartError(f"{host} is not an address of this machine ({error.strerror}).") from error

    def _start(self) -> None:
        end_left_over(self._data / "run" / "engine.pid", str(self._data))
        cluster = Cluster(self._data)
        if cluster.folder.parent != self._data:
            print(f"  The database lives in {cluster.folder}: its user cannot reach {self._data}.")
        if not (cluster.folder / "PG_VERSION").exists():
            with step("making the database"):
                cluster.prepare()
        else:
            cluster.prepare()
        with step("starting the database"):
            self._family.add(self._child("database", cluster.command, stop=signal.SIGINT))
            cluster.wait_ready()
            self._write_access(cluster)
        with step("bringing the database up to date"):
            access = cluster.access()
            open_database(access.host, access.port, access.name, access.user, access.password)
            migrate()
            self._first_show()
        with step("starting engine, receiver, media, preview and web"):
            self._sockets.look()
            self._family.add(self._child("engine", self._engine, stays=True))
            self._family.add(self._child("receiver", self._receiver))
            self._family.add(self._child("media", lambda: self._python("heliograph.media.process")))
            self._family.add(self._child("preview", lambda: self._python("heliograph.preview.process")))
            self._family.add(self._child("web", self._web))
            self._wait_web()
        threading.Thread(target=self._watch_cards, name="cards", daemon=True).start()
        if self._options.demo:
            self._demo()
        self._note(self.address)
        self._greet()

    def _child(self, name: str, make: Any, *, stop: int = signal.SIGTERM, stays: bool = False) -> Child:
        return Child(name, make, self._data / "log" / f"{name}.out", stop, stays)

    def _python(self, module: str, **environment: str) -> tuple[list[str], dict[str, Any]]:
        command = [sys.executable, "-m", module, "--data", str(self._data)]
        return command, {"env": {**os.environ, **environment}}

    def _engine(self) -> tuple[list[str], dict[str, Any]]:
        cards, fds = self._sockets.for_engine()
        command, options = self._python("heliograph.engine.process", HELIOGRAPH_CARDS=cards)
        return command, {**options, "pass_fds": fds}

    def _receiver(self) -> tuple[list[str], dict[str, Any]]:
        cards, fds = self._sockets.for_receiver()
        command, options = self._python("heliograph.receiver.process", HELIOGRAPH_CARDS_IN=cards)
        return command, {**options, "pass_fds": fds}

    def _web(self) -> tuple[list[str], dict[str, Any]]:
        options = self._options
        told = {
            "host": options.host,
            "port": options.port,
            "pass_code": self.pass_code,
            "cards": list(options.cards),
            "dist": str(options.dist) if options.dist else "",
        }
        return self._python("heliograph.api.process", HELIOGRAPH_WEB=json.dumps(told))

    def _write_access(self, cluster: Cluster) -> None:
        path = self._data / "run" / "database.json"
        path.touch(mode=0o600)
        path.chmod(0o600)
        path.write_text(cluster.access().as_json())

    def _first_show(self) -> None:
        with connected():
            if not any(show["is_open"] for show in rows.shows()):
                create_show(key := secrets_uuid(), "New show", Author("heliograph", "Heliograph"))
                rows.open_show(key)

    def _wait_web(self) -> None:
        until = time.monotonic() + WEB_READY_S
        while time.monotonic() < until:
            with contextlib.suppress(OSError, urllib.error.URLError):
                urllib.request.urlopen(self._request("/api/status"), timeout=2).close()
                return
            time.sleep(0.05)
        raise StartError(f"The web server does not start; {self._data / 'log' / 'web.out'} says why.")

    @property
    def address(self) -> str:
        host = self._options.host
        shown = "127.0.0.1" if host in ("0.0.0.0", "127.0.0.1") else host
        return f"http://{shown}:{self._options.port}/"

    def _request(self, path: str) -> urllib.request.Request:
        from heliograph.api.access import COOKIE, pass_token

        request = urllib.request.Request(self.address.rstrip("/") + path)
        if self.pass_code:
            request.add_header("cookie", f"{COOKIE}={pass_token(self.pass_code)}")
        return request

    def _demo(self) -> None:
        from heliograph.demo.build import HANG_LISTS, build_demo

        with step("starting three simulated nodes"):
            for number, hang in enumerate(HANG_LISTS):
                address, port = self._demo_node(number)
                node = [sys.executable, "-m", "heliograph.standins.node", "--address", address]
                node += ["--hang", str(hang), "--page-port", str(port)]
                command = (node, {"env": dict(os.environ)})
                self._family.add(self._child(f"node{number + 1}", lambda command=command: command))
        card = self._options.cards[0] if self._options.cards else "127.0.0.1"
        with step("building the demo show"):
            nodes = [self._demo_node(number)[0] for number in range(len(HANG_LISTS))]
            build_demo(self.address, self.pass_code, card, nodes)
        threading.Thread(target=self._demo_reel, name="reel", daemon=True).start()

    def _demo_node(self, number: int) -> tuple[str, int]:
        """Address and page port: the others stand beside the first."""
        head, _, last = self._options.node_address.rpartition(".")
        return f"{head}.{int(last) + number}", self._options.node_page_port + number

    def _demo_reel(self) -> None:
        from heliograph.demo.build import add_reel

        try:
            add_reel(self.address, self.pass_code, self._data, run_beside)
        except (HeliographError, OSError, subprocess.SubprocessError) as error:
            if self._family.stopping.is_set():
                return
            self._log.warning(f"the demo's clip could not be made: {error}", event_for_people=True)

    def _watch_cards(self) -> None:
        run = self._data / "run"
        engine = ControlClient(str(run / "engine.sock"), "engine", timeout_s=2.0)
        receiver = ControlClient(str(run / "receiver.sock"), "receiver", timeout_s=2.0)
        while not self._family.stopping.wait(CARDS_LOOK_S):
            self._sockets.hand_on(self._sockets.look(), engine, receiver)

    def _note(self, address: str | None) -> None:
        path = self._data / "run" / "address"
        if address is None:
            path.unlink(missing_ok=True)
        else:
            path.write_text(address)

    def _greet(self) -> None:
        print(f"\nHeliograph is up: {self.address}")
        if self.pass_code:
            print(f"Pass code for other machines and this one: {self.pass_code}")
        if self._options.demo:
            pages = ", ".join("http://{}:{}/".format(*self._demo_node(number)) for number in range(3))
            print(f"The simulated nodes show their lamps at {pages}")
        print("Ctrl-C stops it.", flush=True)


def secrets_uuid() -> str:
    from uuid import uuid4

    return str(uuid4())


def _pass_code(options: Options) -> str:
    if is_loopback(options.host):
        return options.pass_code
    return options.pass_code or f"{secrets.randbelow(10**8):08d}"


def _read_note(data: Path) -> str:
    try:
        return (data / "run" / "address").read_text()
    except OSError:
        return ""
