"""The media process: `python -m heliograph.media.process --data DIR`. Probes uploads, decodes clips ahead."""

from __future__ import annotations

import argparse
import contextlib
import os
import signal
import threading
from pathlib import Path
from typing import Any

from heliograph.core.errors import HeliographError, InputError
from heliograph.engine.clips import frames_path
from heliograph.ipc.control import ControlServer, Message
from heliograph.ipc.log import start_log
from heliograph.media.decode import decode_to, is_finished
from heliograph.media.probe import probe

NICE = 5
"""Behind the engine and the web process."""

CACHE_BYTES = 16 * 1024**3
"""Decoded frames that no look uses any more are kept up to so much."""


class Media:
    def __init__(self, folder: Path, log: Any) -> None:
        self._files, self._frames = folder / "files", folder / "frames"
        for one in (self._files, self._frames):
            one.mkdir(parents=True, exist_ok=True)
        self._log = log
        self._wanted: list[tuple[str, str, int, int]] = []
        self._failed: set[tuple[str, str, int, int]] = set()
        self._wake = threading.Event()
        self.stopping = False

    def answer(self, message: Message, _fds: list[int]) -> Message:
        if message["do"] == "probe":
            facts = probe(Path(message["path"]), message["name"])
            return {
                "width": facts.width,
                "height": facts.height,
                "frames": len(facts.times),
                "duration_ns": facts.duration_ns,
            }
        if message["do"] == "want":
            wanted = [(c["content"], c["suffix"], int(c["width"]), int(c["height"])) for c in message["clips"]]
            if wanted != self._wanted:
                self._wanted = wanted
                self._wake.set()
            return {}
        raise InputError(f"The media process knows no command '{message['do']}'.", where="do")

    def run(self) -> None:
        while not self.stopping:
            self._wake.wait(1.0)
            self._wake.clear()
            for clip in list(self._wanted):
                if not self.stopping:
                    self._decode(clip)
            self._tidy()

    def stop(self) -> None:
        self.stopping = True
        self._wake.set()

    def _decode(self, clip: tuple[str, str, int, int]) -> None:
        content, suffix, width, height = clip
        target = frames_path(self._frames, content, width, height)
        if clip in self._failed or is_finished(target):
            return
        try:
            frames = decode_to(
                self._files / f"{content}{suffix}",
                target,
                width,
                height,
                lambda: not self.stopping and clip in self._wanted,
            )
            self._log.info(f"clip decoded: {frames} frames for {width} x {height}", event_for_people=True)
        except (HeliographError, OSError) as error:
            self._failed.add(clip)
            self._log.warning(f"a clip cannot be decoded: {error}")

    def _tidy(self) -> None:
        wanted = {frames_path(self._frames, c, w, h) for c, _, w, h in self._wanted}
        idle = sorted(
            (path for path in self._frames.glob("*.frames") if path not in wanted), key=lambda p: p.stat().st_mtime
        )
        total = sum(path.stat().st_size for path in idle)
        for path in idle:
            if total <= CACHE_BYTES:
                return
            total -= path.stat().st_size
            with contextlib.suppress(OSError):
                path.unlink()


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's media process")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    log = start_log("media", data / "log")
    with contextlib.suppress(OSError):
        os.nice(NICE)
    media = Media(data / "media", log)
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: media.stop())
    server = ControlServer(str(data / "run" / "media.sock"), media.answer)
    server.start()
    media.run()
    server.close()


if __name__ == "__main__":
    main()
