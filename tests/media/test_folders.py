"""A folder of pictures as one clip: in the order people count in, all of one size, whatever an archive claims."""

from __future__ import annotations

import io
import urllib.request
import zipfile
from pathlib import Path
from uuid import uuid4

import numpy as np
import orjson
import pytest
from PIL import Image

from heliograph.core.errors import InputError
from heliograph.media import folder
from heliograph.media.decode import decode_to
from heliograph.media.folder import PictureFolder, counted, pack
from heliograph.media.probe import probe
from heliograph.render.clips import ClipFrames
from tests.conftest import RunningApp


def picture(grey: int, size: tuple[int, int] = (4, 2), mode: str = "RGB", form: str = "PNG") -> bytes:
    raw = io.BytesIO()
    colour = (grey, grey, grey, 128)[: len(mode)]
    Image.new(mode, size, colour).save(raw, form)
    return raw.getvalue()


def packed(path: Path, pictures: dict[str, bytes], rate: float = 10.0) -> Path:
    with open(path, "w+b") as file:
        pack([(name, io.BytesIO(raw)) for name, raw in pictures.items()], file, rate)
    return path


def test_pictures_are_counted_as_people_do() -> None:
    names = ["b 10.png", "b 9.png", "a2/x1.png", "b 1.png", "B 2.png"]
    assert sorted(names, key=counted) == ["a2/x1.png", "b 1.png", "B 2.png", "b 9.png", "b 10.png"]


def test_it_is_a_clip_of_so_many_a_second(tmp_path: Path) -> None:
    source = packed(tmp_path / "f.zip", {f"frame {n}.png": picture(10 * n) for n in (11, 2, 1, 3)})
    facts = probe(source, "f")
    assert (facts.kind, facts.width, facts.height, facts.clear) == ("pictures", 4, 2, False)
    assert facts.times.tolist() == [0, 100_000_000, 200_000_000, 300_000_000]
    decode_to(source, tmp_path / "f.frames", 2, 1, lambda: True)
    clip = ClipFrames.open(tmp_path / "f.frames")
    shown = [clip.frame_at(n * 100_000_000 + 5) for n in range(5)]
    assert [int(one[0, 0]) for one in shown if one is not None] == [10, 20, 30, 110, 10]


def test_clear_parts_stay_clear_also_where_only_a_later_picture_has_them(tmp_path: Path) -> None:
    source = packed(tmp_path / "f.zip", {"1.png": picture(200), "2.png": picture(200, mode="RGBA")})
    assert probe(source, "f").clear
    decode_to(source, tmp_path / "f.frames", 2, 1, lambda: True)
    clip = ClipFrames.open(tmp_path / "f.frames")
    assert [int(clip.frame_at(at)[0, 3]) for at in (5, 100_000_005)] == [255, 128]  # type: ignore[index]


def archive(path: Path, entries: dict[str, bytes], kind: int = zipfile.ZIP_DEFLATED) -> Path:
    with zipfile.ZipFile(path, "w", kind) as file:
        for name, raw in entries.items():
            file.writestr(name, raw)
    return path


def test_an_archive_made_elsewhere_is_read_at_25(tmp_path: Path) -> None:
    entries = {"in/1.jpg": picture(99, form="JPEG"), "__MACOSX/1.jpg": b"", "in/.2.jpg": b"", "in/read.txt": b"words"}
    facts = probe(archive(tmp_path / "f.zip", entries), "f")
    assert len(facts.times) == 1
    assert facts.duration_ns == 40_000_000


@pytest.mark.parametrize(
    ("entries", "says"),
    [
        ({"words.txt": b"x"}, "holds no picture"),
        ({"1.png": picture(1), "2.png": picture(1, (5, 2))}, r"'2.png' is 5 x 2, the first one is 4 x 2"),
        ({"1.png": picture(1), "2.png": b"no picture"}, "'2.png' cannot be read as a picture"),
        ({"1.png": picture(1, (5000, 1))}, "4096 a side at most"),
    ],
)
def test_what_is_wrong_is_named(tmp_path: Path, entries: dict[str, bytes], says: str) -> None:
    with pytest.raises(InputError, match=says):
        probe(archive(tmp_path / "f.zip", entries), "f")


def test_what_an_archive_claims_is_bounded_by_what_it_holds(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    bomb = archive(tmp_path / "b.zip", {"1.png": b"\0" * 70_000_000})  # 70 MB of nothing, in 68 kB
    assert bomb.stat().st_size < 100_000
    with pytest.raises(InputError, match="more than 64 MB"):
        probe(bomb, "b")
    cut = tmp_path / "c.zip"
    cut.write_bytes(packed(tmp_path / "f.zip", {f"{n}.png": picture(n) for n in range(9)}).read_bytes()[:400])
    with pytest.raises(InputError, match="cannot be read as an archive"):
        probe(cut, "c")
    monkeypatch.setattr(folder, "PICTURES_MAX", 3)
    with pytest.raises(InputError, match="holds 9 pictures: 3 are the most"):
        PictureFolder(tmp_path / "f.zip", "f")
    monkeypatch.setattr(folder, "PIXELS_MAX", 10)
    monkeypatch.setattr(folder, "PICTURES_MAX", 30)
    with pytest.raises(InputError, match="9 pictures of 4 x 2 are too many"):
        probe(tmp_path / "f.zip", "f")


def test_a_picture_that_is_damaged_later_leaves_the_rest(tmp_path: Path) -> None:
    source = packed(tmp_path / "f.zip", {f"{n}.png": picture(10 + n, (64, 64)) for n in range(4)})
    facts = probe(source, "f")
    raw = bytearray(source.read_bytes())
    at = raw.index(b"000002 2.png")
    raw[at + 40 : at + 60] = bytes(20)
    source.write_bytes(bytes(raw))
    made = decode_to(source, tmp_path / "f.frames", 2, 2, lambda: True, None, facts)
    clip = ClipFrames.open(tmp_path / "f.frames")
    assert made == 4
    shown = [clip.frame_at(n * 100_000_000 + 5) for n in range(4)]
    assert [int(np.mean(one)) for one in shown if one is not None] == [10, 11, 11, 13]  # the one before is held


def sent(app: RunningApp, files: dict[str, bytes], name: str, rate: str = "12") -> tuple[int, dict[str, str]]:
    edge = "a-line-between"
    parts = b"".join(
        f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{one}"\r\n\r\n'.encode() + raw + b"\r\n"
        for one, raw in files.items()
    )
    request = urllib.request.Request(
        f"{app.address}/api/clips/pictures?id={uuid4()}&name={name}&rate={rate}",
        parts + f"--{edge}--\r\n".encode(),
        {"content-type": f"multipart/form-data; boundary={edge}", "x-person": "tester"},
    )
    try:
        with urllib.request.urlopen(request) as answer:
            return answer.status, orjson.loads(answer.read())
    except urllib.error.HTTPError as error:
        return error.code, orjson.loads(error.read())


def test_pictures_that_are_sent_become_one_clip(app: RunningApp, show: str) -> None:
    files = {f"wave {n}.png": picture(n % 250) for n in range(1200)}  # more than a form usually may have
    status, told = sent(app, files, "Waves")
    assert status == 201, told
    api = app.api()
    (clip,) = api.call("GET", "/api/show")["clips"]
    assert (clip["name"], clip["kind"], clip["frames"], clip["number"]) == ("Waves", "pictures", 1200, 1)
    assert clip["rate"] == pytest.approx(12, rel=1e-6)
    status, told = sent(app, {"notes.txt": b"x"}, "Notes")
    assert status == 422
    assert told["what"] == "None of these files is a picture."
    status, told = sent(app, {"1.png": picture(1), "2.png": picture(1, (9, 9))}, "Odd")
    assert status == 422
    assert "the first one is 4 x 2" in told["what"]
    status, told = sent(app, {"1.png": picture(1)}, "Fast", "1000")
    assert status == 422
    assert "1000 pictures a second are outside 0.1 to 120" in told["what"]
    assert len(api.call("GET", "/api/show")["clips"]) == 1
    kept = sorted(path.name for path in (app.data / "media" / "files").iterdir())
    assert all(len(name) > 60 for name in kept), kept  # nothing half done lies about
