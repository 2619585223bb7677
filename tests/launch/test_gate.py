"""The gate itself: what it calls red, what it forgives once, and what it leaves behind. Each case is a small folder of
tests that real pytest runs in a real room."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from launch import gate, rooms
from launch.lanes import Lanes, Task
from launch.stalls import Stall, StallMeter, in_words
from tests.conftest import ENVIRONMENT, ROOT, wait_for

pytestmark = pytest.mark.slow

ONCE = """
from pathlib import Path
def test_{name}():
    seen = Path({seen!r})
    times = int(seen.read_text()) if seen.exists() else 0
    seen.write_text(str(times + 1))
    assert times not in {fails_at}, "the lamp stayed dark"
"""
FINE = "def test_fine(): pass\ndef test_skipped():\n    import pytest\n    pytest.skip('not here')\n"


class Runs:
    """A gate over files of tests, as `./heliograph test` builds one."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.limit_s = 120.0

    def file(self, name: str, text: str) -> None:
        (self.folder / f"test_{name}.py").write_text(text)

    def fails(self, name: str, *at: int) -> None:
        """A test that fails at these turns of being asked."""
        seen = str(self.folder / f"{name}.seen")
        self.file(name, ONCE.format(name=name, seen=seen, fails_at=at))

    def task(self, name: str, *arguments: str, final: bool = False) -> Task:
        log = self.folder / f"{name}.log"
        own = ["-p", "no:cacheprovider", "-p", "no:hypothesispytest", f"--report-log={log}", "--timeout=5"]
        command = [sys.executable, "-m", "pytest", "-q", "--rootdir", str(self.folder), *own]
        return Task(name, [*command, *arguments], folder=self.folder, log=log, final=final)

    def verdict(self, *lanes: list[Task], known: dict[str, str] | None = None) -> gate.Verdict:
        with StallMeter() as meter:
            running = Lanes(dict(ENVIRONMENT), time.monotonic() + self.limit_s)
            running.run(lanes or [[self.task("all", ".")]])
            return gate.judged(running, meter, lambda name, test: self.task(name, test), known or {})


@pytest.fixture
def runs(tmp_path: Path) -> Runs:
    return Runs(tmp_path)


def test_what_is_fine_is_green_and_the_closing_line_counts_it(runs: Runs) -> None:
    runs.file("fine", FINE)
    verdict = runs.verdict()
    assert (verdict.red, verdict.unstable) == ([], [])
    assert verdict.closing_line(7.2) == "1 passed, 0 failed, 1 skipped, 0 unstable in 7 s"


def test_what_fails_twice_is_red(runs: Runs) -> None:
    runs.file("fine", FINE)
    runs.fails("lamp", 0, 1)
    verdict = runs.verdict()
    assert len(verdict.red) == 1
    assert "test_lamp.py::test_lamp failed twice; first: AssertionError: the lamp stayed dark" in verdict.red[0]
    assert verdict.closing_line(1) == "1 passed, 1 failed, 1 skipped, 0 unstable in 1 s"


def test_what_fails_once_is_named_with_its_cause_and_counted(runs: Runs) -> None:
    runs.file("fine", FINE)
    runs.fails("lamp", 0)
    verdict = runs.verdict(known={"test_lamp.py::test_lamp": "waits for a clock (since 2 December)"})
    assert verdict.red == []
    assert len(verdict.unstable) == 1
    assert "the lamp stayed dark" in verdict.unstable[0]
    assert "known: waits for a clock" in verdict.unstable[0]
    assert verdict.closing_line(1) == "1 passed, 0 failed, 1 skipped, 1 unstable in 1 s"


@pytest.mark.parametrize(("fails_at", "red"), [((0,), 0), ((0, 2), 1), ((0, 3), 1)])
def test_safety_has_to_pass_three_times(runs: Runs, fails_at: tuple[int, ...], red: int) -> None:
    runs.fails("laser_is_dark", *fails_at)
    assert len(runs.verdict().red) == red


def test_a_pure_folder_is_red_at_once_and_the_rest_is_ended(runs: Runs) -> None:
    runs.fails("pure", 0)
    (runs.folder / "rest").mkdir()
    (runs.folder / "rest" / "test_long.py").write_text("import time\ndef test_long(): time.sleep(60)\n")
    begun = time.monotonic()
    verdict = runs.verdict([runs.task("pure", "test_pure.py", final=True)], [runs.task("rest", "rest", "--timeout=0")])
    assert time.monotonic() - begun < 50, "the other lane was not ended"
    assert any("test_pure failed: AssertionError: the lamp stayed dark" in one for one in verdict.red)
    assert (runs.folder / "pure.seen").read_text() == "1", "it was asked again"
    assert verdict.unstable == []


def test_what_hangs_is_red_within_its_limit(runs: Runs) -> None:
    runs.file("hangs", "import time\ndef test_hangs(): time.sleep(600)\n")
    verdict = runs.verdict()
    assert len(verdict.red) == 1
    assert "test_hangs hung" in verdict.red[0]


def test_what_cannot_be_ended_from_within_is_ended_with_the_run(runs: Runs) -> None:
    deaf = "import signal, time\nsignal.pthread_sigmask(signal.SIG_BLOCK, [signal.SIGALRM])\n"
    runs.file("deaf", f"{deaf}def test_deaf(): time.sleep(600)\n")
    runs.limit_s = 6.0
    verdict = runs.verdict()
    assert verdict.red == ["The run was ended before its end: it has come to its limit of time."]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("import os\ndef test_dies(): os._exit(0)\n", "did not come to its end"),
        ("import os\ndef test_dies(): os.abort()\n", "did not come to its end"),
        ("import nothing_like_it\n", "cannot be read as tests"),
    ],
)
def test_what_ends_the_whole_program_is_red(runs: Runs, text: str, said: str) -> None:
    runs.file("dies", text)
    assert any(said in one for one in runs.verdict().red)


def test_a_program_that_cannot_be_begun_is_red_and_so_is_what_it_took_along(runs: Runs) -> None:
    runs.file("fine", FINE)
    nothing = Task("linter", [str(runs.folder / "no such program")], folder=runs.folder)
    verdict = runs.verdict([nothing, runs.task("all", ".")])
    assert len(verdict.red) == 1
    assert "linter could not be run to its end" in verdict.red[0]
    assert "no such program" in verdict.red[0]


def test_what_was_to_run_and_left_no_trace_is_red(runs: Runs) -> None:
    runs.file("fine", FINE)
    running = Lanes(dict(ENVIRONMENT), time.monotonic() + runs.limit_s)
    running.planned.append(runs.task("linter", "."))
    running.run([[runs.task("all", ".")]])
    verdict = gate.judged(running, StallMeter(), lambda name, test: runs.task(name, test), {})
    assert verdict.red == ["linter was to run and did not."]


def test_many_failures_are_no_accident(runs: Runs) -> None:
    for n in range(9):
        runs.fails(f"one{n}", 0)
    assert runs.verdict().red == ["9 tests failed; more than 8 are not looked at again."]


def test_four_that_are_unstable_are_red(runs: Runs) -> None:
    for n in range(4):
        runs.fails(f"one{n}", 0)
    verdict = runs.verdict()
    assert len(verdict.unstable) == 4
    assert verdict.red == ["4 tests are unstable; more than 3 are no accident."]


def test_a_failure_is_told_with_the_stall_beside_it_or_as_a_suspected_fault() -> None:
    meter = StallMeter()
    meter.stalls.append(Stall(10.0, 13.0, "nothing ran for 3.0 s"))
    assert in_words(meter.between(12.0, 14.0)) == "nothing ran for 3.0 s"
    assert in_words(meter.between(13.5, 14.0)) == ""


STOPPED = """
import time
from launch.stalls import StallMeter, in_words
with StallMeter() as meter:
    print("on", flush=True)
    time.sleep(3)
print(in_words(meter.stalls))
"""


def test_a_machine_that_stood_still_is_noticed() -> None:
    """A process of its own, stopped as a machine is."""
    command = [sys.executable, "-c", STOPPED]
    with subprocess.Popen(command, env=ENVIRONMENT, stdout=subprocess.PIPE, text=True) as one:
        assert one.stdout is not None
        assert one.stdout.readline().strip() == "on"
        time.sleep(0.5)
        one.send_signal(signal.SIGSTOP)
        time.sleep(1.5)
        one.send_signal(signal.SIGCONT)
        said = one.stdout.read()
    assert "nothing ran for" in said


def test_the_kept_list_is_short_and_gives_causes(tmp_path: Path) -> None:
    assert gate.known_causes(ROOT / "tests" / "known_unstable.txt") is not None
    (tmp_path / "list").write_text("# why\n2026-12-02 | tests/a.py::test_b[x] | a clock nobody holds\n")
    assert gate.known_causes(tmp_path / "list") == {"tests/a.py::test_b[x]": "a clock nobody holds (since 2026-12-02)"}
    (tmp_path / "list").write_text("2026-12-02 | tests/a.py | slow\n" * 11)
    with pytest.raises(ValueError, match="11 unstable tests"):
        gate.known_causes(tmp_path / "list")


KILLED = """
import os, sys, time
from pathlib import Path
from launch.lanes import Lanes, Task
from launch.rooms import RunFolder, own_room
run = RunFolder()
room = own_room() if sys.argv[2] == "room" else []
Path(sys.argv[1]).write_text(run.folder.name)
lanes = Lanes({**os.environ, **run.environment}, time.monotonic() + 600)
lanes.run([[Task("left", [*room, "sh", "-c", "setsid sleep 600 & setsid sleep 601 & sleep 602"])]])
"""


@pytest.mark.parametrize("how", ["room", "none"])
def test_a_killed_run_leaves_no_process_and_no_folder(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, how: str
) -> None:
    if how == "room" and not rooms.own_room():
        pytest.skip("this user may not make rooms")
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    name = tmp_path / "name"
    command = [sys.executable, "-c", KILLED, str(name), how]
    environment = {**ENVIRONMENT, "TMPDIR": str(tmp_path)}
    environment.pop(rooms.MARK, None)
    run = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, cwd=ROOT)
    wait_for(lambda: name.exists() and name.read_text(), 10, "it did not begin")
    folder = tmp_path / name.read_text()
    wait_for(lambda: len(rooms._marked(folder.name)) >= 3, 10, "its programs do not run")
    assert rooms.clear_left_over() == [], "a run that lives is left alone"
    run.kill()
    run.wait()
    if how == "room":
        wait_for(lambda: not rooms._marked(folder.name), 10, "the kernel did not end them")
    said = rooms.clear_left_over()
    assert len(said) == 1
    assert str(folder) in said[0]
    assert ("still ran, ended" in said[0]) == (how == "none")
    wait_for(lambda: not rooms._marked(folder.name), 5, "they live on")
    assert not folder.exists()
    assert rooms.clear_left_over() == []


def test_a_run_that_begins_is_never_taken_for_one_that_is_over(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Another run looks at every moment of its beginning."""
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    monkeypatch.delenv(rooms.MARK, raising=False)
    real, looked = rooms.fcntl.flock, []

    def looks_first(file: object, how: int) -> None:
        if how == rooms.fcntl.LOCK_EX:
            looked.append(rooms.clear_left_over())
        real(file, how)  # type: ignore[arg-type]

    monkeypatch.setattr(rooms.fcntl, "flock", looks_first)
    run = rooms.RunFolder()
    assert looked == [[]]
    assert rooms.clear_left_over() == []
    assert run.folder.is_dir()
    run.end(keep=False)
    forgotten = tmp_path / f"{rooms.UNHELD}x"
    forgotten.mkdir()
    long_ago = time.time() - 2 * rooms.FORGOTTEN_S
    os.utime(forgotten, (long_ago, long_ago))
    assert len(rooms.clear_left_over()) == 1
    assert not forgotten.exists()


def test_process_1_of_a_room_collects_those_whose_parents_are_gone() -> None:
    if not (room := rooms.own_room()):
        pytest.skip("this user may not make rooms")
    orphan = "(sleep 0.2 &) ; sleep 1; ps -o stat= -A | grep -c '^Z' ; true"
    told = subprocess.run([*room, "sh", "-c", orphan], capture_output=True, text=True, timeout=60)
    assert told.stdout.strip() == "0", "a zombie stays"
    assert subprocess.run([*room, "sh", "-c", "exit 3"]).returncode == 3
    assert os.geteuid() == 0
