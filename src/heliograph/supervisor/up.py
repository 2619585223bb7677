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
import ssl
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from typing import Any

from heliograph.core.errors import HeliographError
from heliograph.edits.shows import create_show
from heliograph.ipc.control import ControlClient
from heliograph.ipc.log import start_log
from heliograph.ipc.patience import WEB_ANSWER_S, WEB_READY_S
from heliograph.ipc.service_user import hand_over_data, service_user, why_not
from heliograph.ipc.start_of_day import LAST, StartChoice, read_choice
from heliograph.network.entrance import COOKIE, is_loopback
from heliograph.store import rows
from heliograph.store.database import connected, migrate, open_database, pending
from heliograph.store.journal import Author
from heliograph.supervisor import certificate
from heliograph.supervisor.backups import keep_daily, make_backup
from heliograph.supervisor.card_sockets import CardSockets
from heliograph.supervisor.children import Child, Family, end_left_over, run_beside
from heliograph.supervisor.cluster import Cluster
from heliograph.supervisor.options import Options
from heliograph.supervisor.pulse import DatabasePulse, Pulse, engine_pulse, process_pulse
from heliograph.supervisor.running import forget_running, note_running, running_note
from heliograph.supervisor.say import StartError, step, survive_hang_up

CARDS_LOOK_S = 2.0
DISK_NEEDED = 300 * 1024**2
"""A cluster of its own and logs take about 120 MB; below this a start would fail half way."""

FOLDERS = ("", "run", "log", "access", "media", "media/frames", "media/files", "preview", "engine", "inputs")


class Supervisor:
    def __init__(self, options: Options) -> None:
        self._options = options
        self._data = options.data
        self._own_token = secrets.token_urlsafe(32)
        self._asks_pass = not is_loopback(options.host)
        self._certificate: certificate.Certificate | None = None
        self._log: Any = None

    def run(self) -> None:
        """Starts everything and stays until Ctrl-C; StartError where that is not possible."""
        self._make_folders()
        with self._only_one():
            self._log = start_log("supervisor", self._data / "log")
            self._check_port()
            self._certificate = self._prepare_certificate()
            self._choose_user()
            self._sockets = CardSockets(self._options.cards, self._log)
            self._family = Family(self._log)
            for number in (signal.SIGTERM, signal.SIGINT):
                signal.signal(number, lambda *_: self._family.stopping.set())
            signal.signal(signal.SIGHUP, lambda *_: survive_hang_up(self._data / "log" / "up.out"))
            try:
                self._start()
                self._family.watch()
                with contextlib.suppress(OSError):
                    print("\nStopping: lights go off, everything this start began is ended.", flush=True)
            finally:
                self._family.stop()
                forget_running(self._data)

    def _make_folders(self) -> None:
        try:
            for name in FOLDERS:
                (self._data / name).mkdir(parents=True, exist_ok=True)
            for name in ("run", "access"):
                (self._data / name).chmod(0o700)
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
        with open(self._data / "run" / "lock", "a+") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError:
                known = running_note(self._data).get("address", "")
                where = f" Open {known}, or end it with ./heliograph down." if known else ""
                raise StartError(f"Heliograph already runs with the data folder {self._data}.{where}") from None
            lock.truncate(0)
            lock.write(str(os.getpid()))
            lock.flush()
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

    def _prepare_certificate(self) -> certificate.Certificate | None:
        options = self._options
        if options.certificate or options.key:
            theirs = certificate.given(options.certificate, options.key)
            return certificate.copied(theirs, self._data / "access")
        if not options.tls:
            return None
        names = [options.host] if options.host not in ("0.0.0.0", "::") else [socket.gethostname()]
        from heliograph.network.cards import list_cards

        return certificate.own(self._data / "access", [*names, *(card.address for card in list_cards(()))])

    def _choose_user(self) -> None:
        """Started as root: the data folder becomes the service user's, and with it the processes that may."""
        user = service_user()
        if user is not None and (blocked := why_not(self._data, user)):
            self._log.warning(f"everything runs as root: the user {user.pw_name} cannot reach {blocked}")
            print(f"  Everything runs as root: the user {user.pw_name} cannot reach {blocked}.")
            print("  A Heliograph in /opt or /srv leaves root's rights to those of its parts that need them.")
            user = None
        if os.getuid() == 0:
            hand_over_data(self._data, user)

    def _start(self) -> None:
        self._choice = read_choice(self._data) if self._options.unattended else StartChoice()
        self._anew = self._choice.runs != LAST
        # An engine that a killed supervisor left behind plays on: it hands over, and the lights stay on.
        end_left_over(self._data / "run" / "engine.lock", str(self._data), signal.SIGUSR1)
        cluster = Cluster(self._data)
        if cluster.folder.parent != self._data:
            print(f"  The database lives in {cluster.folder}: its user cannot reach {self._data}.")
        if not cluster.is_made:
            with step("making the database"):
                cluster.prepare()
        else:
            cluster.prepare()
        with step("starting the database"):
            database = self._child("database", cluster.command, stop=signal.SIGINT)
            self._family.add(database)
            cluster.wait_ready()
            database.pulse = DatabasePulse(lambda: cluster.connect(), self._family.stopping).pulse()
            database.pulse.begin(time.monotonic())
            self._write_access(cluster)
        self._migrate(cluster)
        self._open_chosen()
        with step("starting engine, receiver, media, preview, inputs and web"):
            self._sockets.look()
            self._family.add(self._child("engine", self._engine, stays=True, pulse=engine_pulse(self._data)))
            for name, make in (
                ("receiver", self._receiver),
                ("media", lambda: self._python("heliograph.media.process")),
                ("preview", lambda: self._python("heliograph.preview.process")),
                ("inputs", self._inputs),
                ("web", self._web),
            ):
                self._family.add(self._child(name, make, pulse=process_pulse(self._data, name)))
            self._wait_web()
        threading.Thread(target=self._watch_cards, name="cards", daemon=True).start()
        daily = (self._data, cluster, self._family.stopping, self._log)
        threading.Thread(target=keep_daily, args=daily, name="backups", daemon=True).start()
        if self._options.demo:
            self._demo()
        note_running(self._data, self.address)
        self._greet()

    def _migrate(self, cluster: Cluster) -> None:
        with step("bringing the database up to date"):
            access = cluster.access()
            open_database(access.host, access.port, access.name, access.user, access.password)
            missing, unknown = pending()
            if unknown:
                raise StartError(
                    f"The database was used by a newer Heliograph (it knows {unknown[0]}): this one would harm it. "
                    "Start the newer one, or restore a backup of before with ./heliograph restore FILE."
                )
            if missing and rows.is_in_use():
                make_backup(self._data, cluster.programs, access, "before-update")
            migrate()
            self._first_show()

    def _child(
        self, name: str, make: Any, *, stop: int = signal.SIGTERM, stays: bool = False, pulse: Pulse | None = None
    ) -> Child:
        return Child(name, make, self._data / "log" / f"{name}.out", stop, stays, pulse)

    def _python(self, module: str, **environment: str) -> tuple[list[str], dict[str, Any]]:
        command = [sys.executable, "-m", module, "--data", str(self._data)]
        return command, {"env": {**os.environ, **environment}}

    def _engine(self) -> tuple[list[str], dict[str, Any]]:
        cards, fds = self._sockets.for_engine()
        anew, self._anew = self._anew, False  # the first one of the day; one that is started again goes on
        told = {"HELIOGRAPH_ANEW": "1"} if anew else {}
        command, options = self._python("heliograph.engine.process", HELIOGRAPH_CARDS=cards, **told)
        return command, {**options, "pass_fds": fds}

    def _inputs(self) -> tuple[list[str], dict[str, Any]]:
        choice = self._choice
        told = {"first": choice.first, "show": choice.show, "catch_up": self._options.unattended}
        return self._python("heliograph.inputs.process", HELIOGRAPH_START_OF_DAY=json.dumps(told))

    def _open_chosen(self) -> None:
        """The show that was chosen for the start of the day; where it is gone, the last one stays."""
        if not self._choice.show:
            return
        try:
            with connected():
                rows.open_show(self._choice.show)
        except HeliographError as error:
            self._log.warning(f"the show of the start of the day cannot be opened: {error.what}", event_for_people=True)

    def _receiver(self) -> tuple[list[str], dict[str, Any]]:
        cards, fds = self._sockets.for_receiver()
        command, options = self._python("heliograph.receiver.process", HELIOGRAPH_CARDS_IN=cards)
        return command, {**options, "pass_fds": fds}

    def _web(self) -> tuple[list[str], dict[str, Any]]:
        options, made = self._options, self._certificate
        told = {
            "host": options.host,
            "port": options.port,
            "asks_pass": self._asks_pass,
            "own_token": self._own_token,
            "certificate": str(made.certificate) if made else "",
            "key": str(made.key) if made else "",
            "cards": list(options.cards),
            "feed_hosts": list(options.feed_hosts),
            "dist": str(options.dist) if options.dist else "",
        }
        return self._python("heliograph.api.process", HELIOGRAPH_WEB=json.dumps(told))

    def _write_access(self, cluster: Cluster) -> None:
        path = self._data / "run" / "database.json"
        path.touch(mode=0o600)
        path.chmod(0o600)
        path.write_text(cluster.access().as_json())
        owner = (self._data / "run").stat()
        os.chown(path, owner.st_uid, owner.st_gid)

    def _first_show(self) -> None:
        with connected():
            if not any(show["is_open"] for show in rows.shows()):
                create_show(key := secrets_uuid(), "New show", Author("heliograph", "Heliograph"))
                rows.open_show(key)

    def _wait_web(self) -> None:
        until = time.monotonic() + WEB_READY_S
        while time.monotonic() < until:
            with contextlib.suppress(OSError, urllib.error.URLError):
                self._get("/api/status")
                return
            time.sleep(0.05)
        raise StartError(f"The web server does not start; {self._data / 'log' / 'web.out'} says why.")

    @property
    def address(self) -> str:
        host = self._options.host
        shown = "127.0.0.1" if host in ("0.0.0.0", "127.0.0.1") else host
        return f"{'https' if self._certificate else 'http'}://{shown}:{self._options.port}/"

    def _trusting(self) -> ssl.SSLContext | None:
        """For our own requests: the certificate is the one we handed to the web process, whatever name is on it."""
        if self._certificate is None:
            return None
        context = ssl.create_default_context(cafile=str(self._certificate.certificate))
        context.check_hostname = False
        return context

    def _get(self, path: str) -> Any:
        request = urllib.request.Request(self.address.rstrip("/") + path)
        request.add_header("cookie", f"{COOKIE}={self._own_token}")
        with urllib.request.urlopen(request, timeout=WEB_ANSWER_S, context=self._trusting()) as answer:
            return json.load(answer)

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
            build_demo(self._client(), card, nodes)
        threading.Thread(target=self._demo_reel, name="reel", daemon=True).start()

    def _client(self) -> Any:
        from heliograph.demo.client import ApiClient

        return ApiClient(self.address, self._own_token, context=self._trusting())

    def _demo_node(self, number: int) -> tuple[str, int]:
        """Address and page port: the others stand beside the first."""
        head, _, last = self._options.node_address.rpartition(".")
        return f"{head}.{int(last) + number}", self._options.node_page_port + number

    def _demo_reel(self) -> None:
        from heliograph.demo.build import add_reel

        try:
            add_reel(self._client(), self._data, run_beside)
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

    def _greet(self) -> None:
        print(f"\nHeliograph is up: {self.address}")
        if self._asks_pass:
            print("Pass codes, by what they allow (new ones under Access, in the header):")
            for one in self._get("/api/access")["codes"]:
                print(f"  {one['role']:<5} {one['code']}")
        if self._certificate is not None:
            print(f"Certificate SHA-256: {self._certificate.fingerprint}")
        if self._options.demo:
            pages = ", ".join("http://{}:{}/".format(*self._demo_node(number)) for number in range(3))
            print(f"The simulated nodes show their lamps at {pages}")
        print("Ctrl-C stops it, or ./heliograph down; closing this window does not.", flush=True)


def secrets_uuid() -> str:
    from uuid import uuid4

    return str(uuid4())
