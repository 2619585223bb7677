"""The preview process: `python -m heliograph.preview.process --data DIR`.

Gets the same show sections and gestures as the engine, reads what it sent and the state it sent it from,
and answers with pictures. Of low priority: it may be late, the lights never are.
"""

from __future__ import annotations

import argparse
import base64
import contextlib
import os
import signal
import threading
import time
from pathlib import Path

import numpy as np

from heliograph.core.dmx import SLOTS
from heliograph.core.errors import InputError
from heliograph.core.playback import PlaybackState
from heliograph.engine.sections import SectionStore
from heliograph.engine.show_keeper import ShowKeeper
from heliograph.engine.spool import SpoolReader
from heliograph.ipc.control import ControlServer, Message
from heliograph.ipc.frames import FrameReader, SentFrame
from heliograph.ipc.log import start_log
from heliograph.ipc.places import fast_folder
from heliograph.preview.pictures import Moment, Preview
from heliograph.preview.why import why

NICE = 10
"""Behind everything else that runs."""

CLIP_LOOK_S = 0.2
TRIES = 12
PAUSE_S = 0.004


class PreviewSide:
    def __init__(self, data: Path) -> None:
        fast = fast_folder(data)
        self._frames, self._spool = FrameReader(fast / "sent.frames"), SpoolReader(fast / "spool")
        folder = data / "preview" / "sections"
        self._keeper = ShowKeeper(SectionStore(folder), data / "media" / "frames", lambda _new, _last: None)
        self._preview = Preview()
        self._lock = threading.Lock()

    def answer(self, message: Message, _fds: list[int]) -> Message:
        handler = self._keeper.handlers.get(message["do"])
        if handler is not None:
            return handler(message)
        if message["do"] == "why":
            return self._why(message)
        if message["do"] != "pictures":
            raise InputError(f"The preview knows no command '{message['do']}'.", where="do")
        with self._lock:
            moment = self._moment()
            if moment is None:
                return {"pictures": ""}
            made = self._preview.message(self._keeper.show, moment, message["look"], message["looks"])
        return {"pictures": base64.b64encode(made).decode()}

    def _why(self, message: Message) -> Message:
        """The chain of each channel asked for, of one frame, beside what that frame carried."""
        with self._lock:
            moment = self._moment()
            if moment is None:
                return {"frame": None}
            show, frame = self._keeper.show, moment.frame
            answers = []
            for position in message["positions"]:
                chain = why(show, moment.state, frame.show_ns, int(position), message["names"])
                row = np.flatnonzero(frame.universes == int(position) // SLOTS + 1)
                value = int(frame.data[row[0], int(position) % SLOTS]) if row.size else 0
                answers.append(
                    {
                        "value": value,
                        "sent": bool(row.size and frame.sent[row[0]]),
                        "made": chain.value,
                        "steps": [
                            {"kind": step.kind, "says": step.says, "numbers": dict(step.numbers)}
                            for step in chain.steps
                        ],
                    }
                )
        exact = moment.exact and not moment.state.freeze
        return {"frame": frame.number, "exact": exact, "frozen": moment.state.freeze, "channels": answers}

    def _moment(self) -> Moment | None:
        """A frame with the state it was rendered from: the state before and after reading it must be one."""
        frame: SentFrame | None = None
        state: PlaybackState | None = None
        for _ in range(TRIES):
            before = self._spool.read()
            frame = self._frames.read()
            after = self._spool.read()
            if frame is None or before is None or after is None:
                return None
            state = after[1]
            if before[1] is state and before[0] <= frame.number <= after[0] and frame.tag == self._keeper.show.tag:
                return Moment(frame, state, True)
            time.sleep(PAUSE_S)
        return Moment(frame, state, False) if frame is not None and state is not None else None

    def watch_clips(self) -> None:
        while True:
            time.sleep(CLIP_LOOK_S)
            self._keeper.open_clips()


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's preview")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    start_log("preview", data / "log")
    with contextlib.suppress(OSError):
        os.nice(NICE)
    side = PreviewSide(data)
    stopping = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: stopping.set())
    server = ControlServer(str(data / "run" / "preview.sock"), side.answer)
    server.start()
    threading.Thread(target=side.watch_clips, name="clips", daemon=True).start()
    stopping.wait()
    server.close()


if __name__ == "__main__":
    main()
