"""Real parts for tests: a whole running Heliograph, a PostgreSQL database, simulated nodes."""

from __future__ import annotations

import contextlib
import json
import os

os.environ["HELIOGRAPH_PATIENCE"] = os.environ.get("HELIOGRAPH_PATIENCE", "6")  # before ours reads it, and for all apps

import select
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import Any
from uuid import uuid4

import psutil
import pytest
from hypothesis import HealthCheck, settings
from selenium.common.exceptions import StaleElementReferenceException

from heliograph.core.errors import InputError, UnavailableError
from heliograph.demo.client import ApiClient
from heliograph.ipc import patience
from heliograph.ipc.control import ControlClient
from launch.rooms import RunFolder
from tests.asking import PlainClient
from tests.moves import moves, off

# Speed belongs in bench/: a busy machine is no failure, neither of what is tested nor of what makes its examples.
settings.register_profile("ours", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.register_profile("whole", settings.get_profile("ours"), derandomize=True)
settings.load_profile("ours")

OWN_RUN = pytest.StashKey[RunFolder]()
ROOT = Path(__file__).resolve().parents[1]
ENVIRONMENT = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}"}
START_S = 180.0
PATIENCE = patience.FACTOR
"""So many times longer than a test asks for is waited: what comes is taken at once, and a machine that is shared with
others is no failure."""
AWAKE_MOST_S = 0.25
"""So much of one turn of waiting counts: who did not run did not wait."""
ASLEEP_MOST = 4.0
"""A wait ends all the same when so many times its length has gone by."""
NOT_YET = (OSError, UnavailableError, StaleElementReferenceException)
"""What asking raises where the asked one is away, late, or being drawn anew."""


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def wait_for(
    what: Callable[[], Any], seconds: float = 10.0, why: str = "it did not happen", pause: float = 0.02
) -> Any:
    """The first true answer of `what`; fails with `why` after `seconds` of a quiet machine, in which only the time
    counts that was spent awake. An answer that does not come is none yet. `pause`: seconds between the first two
    questions; 0 where the question itself waits."""
    patience = seconds * PATIENCE
    begun = last = time.monotonic()
    awake, trouble = 0.0, ""
    while True:
        try:
            if found := what():
                return found
            trouble = ""
        except NOT_YET as error:
            trouble = f" ({type(error).__name__}: {error})"
        now = time.monotonic()
        awake += min(now - last, AWAKE_MOST_S)
        last = now
        if awake > patience or now - begun > patience * ASLEEP_MOST:
            pytest.fail(f"{why} within {awake:.0f} s awake of {now - begun:.0f} s{trouble}")
        time.sleep(pause)
        pause = min(pause * 1.4, 0.12)  # to ask costs as much as what is waited for


def end_tree(process: subprocess.Popen[Any]) -> None:
    """Ends it and all that it began, at once: what lived on would disturb the tests that follow."""
    with contextlib.suppress(psutil.NoSuchProcess):
        for one in [*psutil.Process(process.pid).children(recursive=True), psutil.Process(process.pid)]:
            with contextlib.suppress(psutil.NoSuchProcess):
                one.kill()
    process.kill()
    process.wait(60)


def each_stopped(those: Iterable[RunningApp | Node]) -> None:
    """Stops all of them, also where one does not want to; then says what went wrong."""
    with contextlib.ExitStack() as stack:
        for one in those:
            stack.callback(one.stop)


class RunningApp:
    """A Heliograph started as a user starts it, with its own data folder, port and loopback card."""

    def __init__(self, folder: Path, card: str, *options: str) -> None:
        self.data, self.card, self.port = folder / "data", card, free_port()
        self.options = options
        self.environment: dict[str, str] = {}
        self.log = folder / "up.log"
        self.start()

    def start(self) -> None:
        said_before = self.log.stat().st_size if self.log.exists() else 0
        command = [sys.executable, "-m", "heliograph.cli", "up", "--data", str(self.data), "--port", str(self.port)]
        with open(self.log, "ab") as log:
            self.process = subprocess.Popen(
                [*command, "--card", self.card, *self.options],
                env={**ENVIRONMENT, **self.environment},
                stdout=log,
                stderr=log,
                stdin=subprocess.DEVNULL,
                start_new_session=True,
            )
        until = time.monotonic() + START_S
        while b"Heliograph is up" not in (said := self.log.read_bytes()[said_before:]):
            if self.process.poll() is not None or time.monotonic() > until:
                end_tree(self.process)
                pytest.fail(f"it did not start:\n{said.decode(errors='replace')}")
            time.sleep(0.05)

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def api(self, person: str = "tester", name: str = "Tester") -> ApiClient:
        return ApiClient(self.address, person=person, name=name)

    def engine_client(self) -> ControlClient:
        return ControlClient(str(self.data / "run" / "engine.sock"), "engine")

    def engine(self) -> PlainClient:
        return PlainClient(str(self.data / "run" / "engine.sock"))

    def pid(self, process: str) -> int:
        """Waited for: it is written anew while a process is begun again."""
        file = self.data / "run" / f"{process}.pid"
        return int(wait_for(lambda: file.read_text().strip(), 5, f"{process} has no id"))

    def kill(self, process: str) -> int:
        """Ends one of its processes at once, by id; returns the id."""
        pid = self.pid(process)
        os.kill(pid, signal.SIGKILL)
        return pid

    def stop(self, number: int = signal.SIGINT) -> None:
        if self.process.poll() is None:
            self.process.send_signal(number)
            try:
                self.process.wait(120)
            except subprocess.TimeoutExpired:
                end_tree(self.process)
                pytest.fail(f"it did not end within 120 s:\n{self.log.read_text()[-2000:]}")


@pytest.fixture(scope="session")
def front_end() -> Path:
    """The built front end; `./heliograph test` builds it."""
    dist = ROOT / "web" / "dist"
    if not (dist / "index.html").exists():
        pytest.fail("web/dist is not built: run the tests with ./heliograph test")
    return dist


@pytest.fixture(scope="session")
def app(tmp_path_factory: pytest.TempPathFactory, front_end: Path) -> Iterator[RunningApp]:
    """One running Heliograph for all tests that do not harm it."""
    folder = tmp_path_factory.mktemp("app")
    folder.chmod(0o755)
    running = RunningApp(_reachable(folder), "127.0.84.1")
    yield running
    running.stop()


def pytest_configure(config: pytest.Config) -> None:
    """A folder of its own for each run: pytest closes the one that all runs of a user share whenever another begins,
    and the database's and our own unprivileged processes could not reach theirs any more. The launcher gives one."""
    if config.option.basetemp is None:
        run = RunFolder()
        config.option.basetemp = str(run.folder / "tests")
        config.stash[OWN_RUN] = run


def pytest_sessionfinish(session: pytest.Session, exitstatus: int) -> None:
    """What failed can be looked at; what went well is removed."""
    if run := session.config.stash.get(OWN_RUN, None):
        run.end(keep=exitstatus != 0)


def _reachable(folder: Path) -> Path:
    """Pytest's folders are closed to others; the database's own user must pass through them."""
    for one in [folder, *folder.parents]:
        if one.stat().st_uid == os.getuid() and one != Path("/") and not one.stat().st_mode & 0o001:
            one.chmod(0o711)
    return folder


@pytest.fixture
def own_app(tmp_path: Path, front_end: Path) -> Iterator[Callable[..., RunningApp]]:
    """Starts a Heliograph a test may harm: own_app(card, *options)."""
    started: list[RunningApp] = []

    def start(card: str, *options: str) -> RunningApp:
        started.append(RunningApp(_reachable(tmp_path), card, *options))
        return started[-1]

    yield start
    each_stopped(started)


@pytest.fixture
def show(app: RunningApp) -> str:
    """An empty show, open; returns its id."""
    key = str(uuid4())
    at_rest(app)
    app.api().call("POST", "/api/shows", {"id": key, "name": "Test show"})
    return key


def at_rest(app: RunningApp) -> None:
    """Everything that plays as after a first start: tests share one engine. What is so already is left: each command
    waits for a frame."""
    engine = app.engine()
    state = engine.ask({"do": "status"})["state"]
    for look in state["running"]:
        with contextlib.suppress(InputError):  # it went with its show meanwhile
            engine.ask(off(look["look"]))
    wanted = {"blackout": False, "freeze": False, "master": 1.0}
    if others := {name: value for name, value in wanted.items() if state[name] != value}:
        engine.ask(moves(others))
    if state["manual"] or state["raw"]:
        engine.ask({"do": "release"})
    if state["walking"]:
        app.api().call("DELETE", "/api/walk")
    for what, now in (("highlight", state["highlight"]), ("arm", state["armed"])):
        if now:
            engine.ask({"do": what, "fixtures": []})
    if state["away"]:
        engine.ask({"do": "gone"})
    if state["held"]:
        engine.ask({"do": "run_time"})


def saved_show(app: RunningApp) -> Any:
    """The running show's file, as an answer to read from: saved first, then fetched."""
    token = app.api().call("POST", "/api/show/file")["token"]
    return urllib.request.urlopen(f"{app.address}/api/show/file/{token}", timeout=80)


def first_line(process: subprocess.Popen[str], seconds: float = 120.0) -> str:
    """What it says when it is ready; fails where it says nothing."""
    assert process.stdout is not None
    if not select.select([process.stdout], [], [], seconds)[0]:
        end_tree(process)
        pytest.fail(f"{process.args!r} says nothing")
    return process.stdout.readline()


class Node:
    """A simulated node in a process of its own."""

    def __init__(self, folder: Path, address: str, hang: dict[str, Any]) -> None:
        self.address = address
        path = folder / f"hang-{address}.json"
        path.write_text(json.dumps(hang))
        command = [sys.executable, "-m", "heliograph.standins.node", "--address", address, "--hang", str(path)]
        self.process = subprocess.Popen(
            [*command, "--page-port", "0"], env=ENVIRONMENT, stdout=subprocess.PIPE, text=True
        )
        said = first_line(self.process)
        self.page = said.rsplit(" ", 1)[-1].strip()

    def get(self, name: str) -> Any:
        with urllib.request.urlopen(self.page + name, timeout=20) as answer:
            return json.load(answer)

    def state(self) -> dict[str, Any]:
        state: dict[str, Any] = self.get("state.json")
        return state

    def universe(self, key: str) -> dict[str, Any]:
        found: dict[str, Any] = self.state()["universes"].get(key, {})
        return found

    def picture(self) -> list[int]:
        """Rows of RGB bytes, flat, as its lamps show them."""
        rgb: list[int] = self.get("lamps.json")["rgb"]
        return rgb

    def reset(self) -> None:
        urllib.request.urlopen(urllib.request.Request(self.page + "reset", method="POST"), timeout=20).close()

    def faults(self, *faults: dict[str, Any]) -> None:
        """Hangs its lamps with these faults; none mends them all."""
        request = urllib.request.Request(self.page + "faults", json.dumps(faults).encode(), method="POST")
        urllib.request.urlopen(request, timeout=20).close()

    def stop(self) -> None:
        self.process.terminate()
        try:
            self.process.wait(40)
        except subprocess.TimeoutExpired:
            end_tree(self.process)
            raise


@pytest.fixture
def node(tmp_path: Path) -> Iterator[Callable[[str, dict[str, Any]], Node]]:
    """Starts simulated nodes: node(address, hang list)."""
    started: list[Node] = []

    def start(address: str, hang: dict[str, Any]) -> Node:
        started.append(Node(tmp_path, address, hang))
        return started[-1]

    yield start
    each_stopped(started)


def needs_root() -> None:
    if os.geteuid() != 0 or shutil.which("ip") is None:
        pytest.skip("needs root and iproute2 to make a network namespace of its own")
