"""The service file: what it says, made and removed again, never over somebody else's. Systemd's own verifier takes it
without a word [V systemd 252, by hand; here where it is installed]."""

from __future__ import annotations

import configparser
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from heliograph.supervisor.say import StartError
from heliograph.supervisor.service import NAME, install, quoted, remove, unit_text

PROGRAM = Path("/opt/helio graph/heliograph")


def test_the_unit_starts_unattended_and_is_started_again(tmp_path: Path) -> None:
    said = install(tmp_path, PROGRAM, ["--data", "/srv/100% light", "--port", "7650"])
    assert said[0] == f"Made {tmp_path / NAME}."
    unit = configparser.ConfigParser(interpolation=None)
    unit.optionxform = str  # type: ignore[assignment, method-assign]
    unit.read(tmp_path / NAME)
    assert unit["Service"]["ExecStart"] == (
        '"/opt/helio graph/heliograph" up --unattended --data "/srv/100%% light" --port 7650'
    )
    assert unit["Unit"]["Documentation"] == "file:///opt/helio%%20graph/README.md"
    assert (unit["Service"]["Restart"], unit["Install"]["WantedBy"]) == ("always", "default.target")
    assert remove(tmp_path)[-1] == f"Removed {tmp_path / NAME}."
    assert list(tmp_path.iterdir()) == []
    assert remove(tmp_path) == [f"There is no {tmp_path / NAME}."]


def test_made_twice_it_says_what_the_second_said(tmp_path: Path) -> None:
    install(tmp_path, PROGRAM, ["--port", "7650"])
    install(tmp_path, PROGRAM, ["--port", "7651"])
    assert "--port 7651" in (tmp_path / NAME).read_text()


def test_what_somebody_else_made_stays(tmp_path: Path) -> None:
    (tmp_path / NAME).write_text("[Service]\nExecStart=/bin/true\n")
    for change in (lambda: install(tmp_path, PROGRAM, []), lambda: remove(tmp_path)):
        with pytest.raises(StartError, match="stays as it is"):
            change()
    assert (tmp_path / NAME).read_text() == "[Service]\nExecStart=/bin/true\n"


def test_a_folder_that_cannot_be_written_says_so(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    with pytest.raises(StartError, match="cannot be written"):
        install(tmp_path / "file" / "units", PROGRAM, [])


@pytest.mark.parametrize(
    ("word", "written"),
    [("plain", "plain"), ("a b", '"a b"'), ('a"b', '"a\\"b"'), ("50%", "50%%"), ("$HOME", "$$HOME")],
)
def test_words_are_written_as_systemd_reads_them(word: str, written: str) -> None:
    assert quoted(word) == written


@pytest.mark.skipif(shutil.which("systemd-analyze") is None, reason="systemd-analyze is not on this machine")
def test_systemd_itself_reads_it(tmp_path: Path) -> None:
    program = tmp_path / "heliograph"
    program.write_text("#!/bin/sh\n")
    program.chmod(0o755)
    (tmp_path / NAME).write_text(unit_text(program, ["--data", str(tmp_path)], system=True))
    ended = subprocess.run(["systemd-analyze", "verify", str(tmp_path / NAME)], capture_output=True, text=True)
    assert ended.returncode == 0, ended.stderr


def test_by_the_command(tmp_path: Path) -> None:
    command = [sys.executable, "-m", "heliograph.cli", "service", "--to", str(tmp_path), "--port", "7699"]
    ended = subprocess.run(command, capture_output=True, text=True)
    assert ended.returncode == 0, ended.stderr
    assert "Then: systemctl enable --now heliograph.service" in ended.stdout
    assert "up --unattended" in (tmp_path / NAME).read_text()
    assert "--port 7699" in (tmp_path / NAME).read_text()
    ended = subprocess.run([*command[:4], "--remove", "--to", str(tmp_path)], capture_output=True, text=True)
    assert ended.returncode == 0
    assert not (tmp_path / NAME).exists()
