"""The media process's own work: what is wanted is decoded, once for each size, and what cannot be says why."""

from __future__ import annotations

import hashlib
import shutil
import threading
from pathlib import Path
from typing import Any

import pytest
from PIL import Image

from heliograph.ipc.heartbeat import Heartbeat
from heliograph.ipc.messages.media import MediaRequest
from heliograph.media import process
from heliograph.media.process import Media
from heliograph.render.clips import ClipFrames, frames_path
from tests.asking import answered
from tests.browser.clips import write_clip
from tests.conftest import wait_for


class Log:
    """Collects what is said."""

    def __init__(self) -> None:
        self.said: list[str] = []

    def info(self, text: str, **_: Any) -> None:
        self.said.append(text)

    warning = info


def heart(folder: Path) -> Heartbeat:
    (folder / "run").mkdir(parents=True, exist_ok=True)
    return Heartbeat(folder, "media")


class Running:
    def __init__(self, folder: Path) -> None:
        self.folder, self.log = folder, Log()
        self.media = Media(folder, self.log, heart(folder))
        self._thread = threading.Thread(target=self.media.run, daemon=True)
        self._thread.start()

    def keep(self, source: Path) -> str:
        """Puts a file where uploads are kept; returns its content's hash."""
        content = hashlib.sha256(source.read_bytes()).hexdigest()
        shutil.copy(source, self.folder / "files" / f"{content}{source.suffix}")
        return content

    def want(self, content: str, suffix: str, width: int, height: int, **fitting: Any) -> dict[str, Any]:
        return {"content": content, "suffix": suffix, "width": width, "height": height, "fitting": fitting}

    def ask(self, do: str, **message: Any) -> dict[str, Any]:
        return answered(self.media.answer, {"do": do, **message}, MediaRequest)

    def status(self) -> list[dict[str, Any]]:
        found: list[dict[str, Any]] = self.ask("status")["clips"]
        return found

    def stop(self) -> None:
        self.media.stop()
        self._thread.join(40)


@pytest.fixture
def running(tmp_path: Path) -> Any:
    one = Running(tmp_path / "media")
    yield one
    one.stop()


def test_a_clip_is_decoded_once_for_each_size_and_fitting(running: Running, tmp_path: Path) -> None:
    write_clip(tmp_path / "a.mp4", [[[(200, 0, 0), (0, 0, 200)]]] * 4)
    content = running.keep(tmp_path / "a.mp4")
    wanted = [
        running.want(content, ".mp4", 2, 1),
        running.want(content, ".mp4", 2, 1),  # by two lines
        running.want(content, ".mp4", 2, 1, mirror="across"),
        running.want(content, ".mp4", 4, 2, in_s=0.08),
    ]
    running.ask("want", clips=wanted)
    wait_for(lambda: [one["ready"] for one in running.status()] == [1.0] * 3, 10, f"{running.status()}")
    wait_for(lambda: len([one for one in running.log.said if one.startswith("clip decoded")]) == 3)
    plain, mirrored = (
        ClipFrames.open(frames_path(running.folder / "frames", content, 2, 1, f"fill-0-{m}")).frame_at(0)
        for m in ("none", "across")
    )
    assert plain is not None
    assert mirrored is not None
    assert plain[0].tolist() == mirrored[1].tolist()
    assert plain[0, 0] > 150 > plain[1, 0]


def test_what_cannot_be_decoded_says_why_and_holds_nothing_else_up(running: Running, tmp_path: Path) -> None:
    (tmp_path / "bad.mp4").write_text("no video")
    Image.new("RGB", (8, 8), (9, 90, 200)).save(tmp_path / "good.png")
    bad, good = running.keep(tmp_path / "bad.mp4"), running.keep(tmp_path / "good.png")
    running.ask("want", clips=[running.want(bad, ".mp4", 2, 2), running.want(good, ".png", 2, 2)])
    wait_for(lambda: running.status()[1]["ready"] == 1.0, 10)
    assert "cannot be read as a video or a picture" in running.status()[0]["fault"]
    gone = running.want("f" * 64, ".mp4", 2, 2)
    running.ask("want", clips=[gone])
    wait_for(lambda: running.status()[0]["fault"], 10)


def test_proxies_left_half_made_are_swept_up(tmp_path: Path) -> None:
    folder = tmp_path / "media"
    (folder / "proxies").mkdir(parents=True)
    half = folder / "proxies" / "x.making"
    half.write_bytes(b"half")
    Media(folder, Log(), heart(folder))
    assert not half.exists()


def test_a_clip_that_failed_is_tried_again_and_says_so_once(
    running: Running, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(process, "RETRY_S", 0.1)
    write_clip(tmp_path / "late.mp4", [[[(200, 0, 0)]]] * 3)
    content = hashlib.sha256((tmp_path / "late.mp4").read_bytes()).hexdigest()
    running.ask("want", clips=[running.want(content, ".mp4", 2, 1)])
    wait_for(lambda: running.status()[0]["fault"], 10)
    running.media._wake.set()  # another look, which fails again and says nothing new
    running.keep(tmp_path / "late.mp4")
    wait_for(lambda: running.status()[0]["ready"] == 1.0, 10)
    assert running.status()[0]["fault"] == ""
    assert len([text for text in running.log.said if "cannot be decoded" in text]) == 1


def test_a_damaged_copy_is_thrown_away_and_the_original_is_decoded(running: Running, tmp_path: Path) -> None:
    write_clip(tmp_path / "a.mp4", [[[(200, 0, 0), (0, 0, 200)]]] * 3)
    content = running.keep(tmp_path / "a.mp4")
    copy = running.folder / "proxies" / f"{content}.mp4"
    copy.write_bytes(b"cut off by a power failure")
    running.ask("want", clips=[running.want(content, ".mp4", 2, 1)])
    wait_for(lambda: running.status()[0]["ready"] == 1.0, 10, f"{running.log.said}")
    assert not copy.exists()
    assert running.status()[0]["fault"] == ""


def test_frames_go_on_showing_where_the_original_is_gone(running: Running, tmp_path: Path) -> None:
    write_clip(tmp_path / "a.mp4", [[[(200, 0, 0)]]] * 3)
    content = running.keep(tmp_path / "a.mp4")
    wanted = running.want(content, ".mp4", 2, 1)
    running.ask("want", clips=[wanted])
    wait_for(lambda: running.status()[0]["ready"] == 1.0, 10)
    (running.folder / "files" / f"{content}.mp4").unlink()
    again = Running(running.folder)
    try:
        again.ask("want", clips=[wanted, again.want(content, ".mp4", 3, 1)])
        wait_for(lambda: again.status()[1]["fault"], 10)
        assert again.status()[0] == {**again.status()[0], "ready": 1.0, "fault": ""}
        again.ask("want", clips=[wanted])  # it is still answering and working
        wait_for(lambda: any("no smaller copy" in text for text in again.log.said), 10, f"{again.log.said}")
    finally:
        again.stop()


@pytest.mark.parametrize("hung", [True, False])
def test_a_clip_whose_decoding_hung_is_left_alone_and_said(tmp_path: Path, hung: bool) -> None:
    """The process before this one was ended: because it hung on that clip, or for any other reason."""
    folder = tmp_path / "media"
    (folder / "files").mkdir(parents=True)
    write_clip(tmp_path / "a.mp4", [[[(200, 0, 0), (0, 0, 200)]]] * 3)
    content = hashlib.sha256((tmp_path / "a.mp4").read_bytes()).hexdigest()
    shutil.copy(tmp_path / "a.mp4", folder / "files" / f"{content}.mp4")
    (folder / "decoding.json").write_text(f'{{"content": "{content}"}}')
    (folder / "run").mkdir()
    if hung:
        (folder / "run" / "media.hung").touch()
    one = Running(folder)
    try:
        one.ask("want", clips=[one.want(content, ".mp4", 2, 1)])
        if hung:
            wait_for(lambda: "hung and was ended" in one.status()[0]["fault"], 10, "it is not said")
            assert one.status()[0]["ready"] == 0
            assert not (folder / "run" / "media.hung").exists()
        else:
            wait_for(lambda: one.status()[0]["ready"] == 1, 20, "it is not decoded")
    finally:
        one.stop()
