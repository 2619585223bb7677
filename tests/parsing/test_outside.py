"""Other people's files are read in a process of their own: what it takes is limited, and it never takes us along."""

from __future__ import annotations

import csv
import io
import os
import random
import socket
import subprocess
import sys
import time
import zipfile
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from heliograph.core.errors import InputError
from heliograph.formats.patch_sheet import read_sheet, sheet_from_json, sheet_to_json
from heliograph.formats.squares_svg import read_svg
from heliograph.parsing import limits
from heliograph.parsing.child import _limit
from heliograph.parsing.limits import Limits
from heliograph.parsing.outside import read_outside, received
from tests.conftest import ENVIRONMENT
from tests.formats.test_patch_sheet import PROFILES

REFUSED = "takes too much to be read, or is damaged"


def test_a_reader_finds_what_is_there(tmp_path: Path) -> None:
    sheet = tmp_path / "patch.csv"
    sheet.write_text("number,profile,address\n7,RGB lamp,U3.5\n")
    found = sheet_from_json(read_outside("sheet", "patch.csv", path=str(sheet), profiles=PROFILES))
    assert found == read_sheet(sheet.read_bytes(), PROFILES)
    assert sheet_from_json(sheet_to_json(found)) == found
    drawing = tmp_path / "front.svg"
    drawing.write_text('<svg xmlns="http://www.w3.org/2000/svg"><rect x="1" y="2" width="3" height="4"/></svg>')
    assert read_outside("svg", "front.svg", path=str(drawing))[0]["w"] == 3


def test_what_is_hashed_is_what_is_kept(tmp_path: Path) -> None:
    """A picture wider than 4,096 is scaled, and its name is the hash of what is kept."""
    import hashlib

    picture, thumbs = tmp_path / "wide.png", tmp_path / "thumbs"
    thumbs.mkdir()
    Image.new("RGB", (5000, 20), (200, 40, 10)).save(picture)
    found = read_outside("clip", "wide.png", path=str(picture), name="wide.png", thumbs=str(thumbs))
    assert (found["width"], found["content"]) == (4096, hashlib.sha256(picture.read_bytes()).hexdigest())
    assert (thumbs / f"{found['content']}.png").exists()


def more_of(job: str, folder: Path) -> dict[str, Any]:
    """What a job needs besides the path."""
    needs: dict[str, dict[str, Any]] = {
        "sheet": {"profiles": list(PROFILES)},
        "picture": {"target": str(folder / "t.png"), "name": "x"},
        "clip": {"name": "x", "thumbs": str(folder)},
        "frames": {"columns": 7, "rows": 4, "name": "x"},
    }
    return needs.get(job, {})


@pytest.mark.parametrize("job", ["sheet", "svg", "picture", "clip", "frames", "show"])
def test_a_file_that_takes_too_long_is_ended_and_said(
    job: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The reader waits for a pipe nobody writes to: the worst a file can do."""
    pipe = tmp_path / "never.bin"
    os.mkfifo(pipe)
    monkeypatch.setitem(limits.LIMITS, job, Limits(1.5))
    request = more_of(job, tmp_path)
    with pytest.raises(InputError, match=REFUSED):
        read_outside(job, "never.bin", path=str(pipe), **request)


def run_limited(code: str, **more: int) -> subprocess.CompletedProcess[str]:
    told = {"memory": 256 * 1024**2, "seconds": 5, "file": 1024, **more}
    head = f"from heliograph.parsing.child import _limit; _limit({told})\n"
    return subprocess.run(
        [sys.executable, "-c", head + code], capture_output=True, text=True, timeout=120, env=ENVIRONMENT
    )


def test_memory_output_and_network_are_limited(tmp_path: Path) -> None:
    assert callable(_limit)
    assert "MemoryError" in run_limited("x = bytearray(600 * 1024**2)").stderr
    written = run_limited(f"with open({str(tmp_path / 'large')!r}, 'wb') as f: f.write(b'x' * 5000)")
    assert written.returncode != 0
    assert (tmp_path / "large").stat().st_size <= 1024
    listener = socket.socket()
    listener.bind(("127.0.0.1", 0))
    listener.listen()
    port = listener.getsockname()[1]
    reached = run_limited(f"import socket; socket.create_connection(('127.0.0.1', {port}), 2)")
    assert reached.returncode != 0, "it reached the network"
    listener.close()
    busy = run_limited("while True: pass", seconds=1)
    assert busy.returncode != 0


def test_a_reader_that_crashes_takes_nobody_along(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("heliograph.parsing.outside.sys.executable", "/bin/false")
    with pytest.raises(InputError, match=REFUSED):
        read_outside("svg", "x.svg", path=str(tmp_path / "x.svg"))


def test_uploads_are_counted_while_they_arrive(tmp_path: Path) -> None:
    with pytest.raises(InputError, match="larger than 1 MiB"), received(io.BytesIO(bytes(2**21)), tmp_path, 2**20, "x"):
        pytest.fail("it was taken")
    with pytest.raises(InputError, match="is empty"), received(io.BytesIO(b""), tmp_path, 2**20, "x"):
        pytest.fail("it was taken")
    with received(io.BytesIO(b"abc"), tmp_path, 2**20, "x") as path:
        assert path.read_bytes() == b"abc"
    assert list(tmp_path.iterdir()) == []


def wide_sheet(columns: int) -> bytes:
    return ",".join(f"column{n}" for n in range(columns)).encode() + b"\n1,2\n"


@pytest.mark.parametrize("columns", [12_000, 60_000])
def test_a_sheet_of_many_columns_is_refused_at_once(columns: int) -> None:
    """12,000 columns in 73 KB took 7.6 s, 400 KB more than 90: work that grew with the square."""
    begun = time.process_time()
    [fault] = read_sheet(wide_sheet(columns), PROFILES).faults
    assert f"{columns} columns" in fault.sentence
    assert time.process_time() - begun < 0.5


def test_a_sheet_of_faults_alone_tells_as_many_as_can_be_mended() -> None:
    raw = b"number,profile\n" + b"x,y\n" * 19_000
    assert 500 <= len(read_sheet(raw, PROFILES).faults) < 510


def nested(levels: int, copies: int = 6) -> bytes:
    parts = ['<svg xmlns="http://www.w3.org/2000/svg"><defs><g id="g0"><rect width="1" height="1"/></g>']
    parts += [f'<g id="g{n}">' + f'<use href="#g{n - 1}"/>' * copies + "</g>" for n in range(1, levels)]
    return "".join([*parts, f'</defs><use href="#g{levels - 1}"/></svg>']).encode()


@pytest.mark.parametrize(
    ("drawing", "says"),
    [
        (nested(9), "grows to more than"),
        (nested(40), "grows to more than"),
        (b'<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/></g></svg>', "uses itself"),
        (b'<svg xmlns="http://www.w3.org/2000/svg">' + b"<g>" * 400 + b"</g>" * 400 + b"</svg>", "nested too deeply"),
    ],
    ids=["nine levels", "forty levels", "itself", "deep"],
)
def test_drawings_that_grow_are_refused_before_they_do(drawing: bytes, says: str) -> None:
    begun = time.process_time()
    with pytest.raises(InputError, match=says):
        read_svg(drawing)
    assert time.process_time() - begun < 1.0


def test_a_drawing_that_uses_a_little_is_read() -> None:
    assert len(read_svg(nested(3))) == 6 * 6


def mutated(whole: bytes, seed: int) -> bytes:
    chance = random.Random(seed)
    broken = bytearray(whole)
    for _ in range(chance.randrange(1, 12)):
        match chance.randrange(4):
            case 0:
                broken[chance.randrange(len(broken))] = chance.randrange(256)
            case 1:
                at = chance.randrange(len(broken))
                del broken[at : at + chance.randrange(1, 40)]
            case 2:
                at = chance.randrange(len(broken) + 1)
                broken[at:at] = chance.randbytes(chance.randrange(1, 40))
            case _:
                at = chance.randrange(len(broken))
                broken[at : at + 4] = (chance.choice([0, 1, 0x7FFFFFFF, 0xFFFFFFFF])).to_bytes(4, "big")
        if not broken:
            return b"x"
    return bytes(broken)


def real_files() -> dict[str, tuple[str, bytes]]:
    """Small real files of each kind: job -> (name, content)."""
    png, gif, out = io.BytesIO(), io.BytesIO(), io.StringIO()
    Image.effect_noise((24, 16), 60).convert("RGB").save(png, "PNG")
    frames = [Image.new("P", (12, 8), n) for n in range(3)]
    frames[0].save(gif, "GIF", save_all=True, append_images=frames[1:], duration=40)
    csv.writer(out).writerows([["number", "profile", "address"], [1, "RGB lamp", "U1.1"], [2, "RGB lamp", "+1"]])
    show = io.BytesIO()
    with zipfile.ZipFile(show, "w") as archive:
        archive.writestr("show.json", '{"format": "heliograph show", "version": 1, "name": "x", "tables": {}}')
    drawing = nested(2)
    return {
        "picture": ("a.png", png.getvalue()),
        "clip": ("a.gif", gif.getvalue()),
        "sheet": ("a.csv", out.getvalue().encode()),
        "show": ("a.zip", show.getvalue()),
        "svg": ("a.svg", drawing),
    }


REAL = real_files()


@pytest.mark.parametrize("job", sorted(REAL))
def test_mutated_real_files_are_read_or_refused_and_nothing_else(job: str, tmp_path: Path) -> None:
    """Fuzzing through the reader's process as it is used; what crashes there is refused like what is damaged."""
    name, whole = REAL[job]
    path = tmp_path / name
    request = more_of(job, tmp_path)
    for seed in range(12):
        path.write_bytes(mutated(whole, seed))
        try:
            read_outside(job, name, path=str(path), **request)
        except InputError:
            continue


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.binary(max_size=400))
def test_any_bytes_are_a_sheet_or_faults(raw: bytes) -> None:
    read_sheet(raw, PROFILES)


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.integers(0, 10**9))
def test_any_mutation_of_a_drawing_is_read_or_refused(seed: int) -> None:
    try:
        read_svg(mutated(REAL["svg"][1], seed))
    except InputError:
        return
