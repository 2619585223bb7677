"""The preview process: `python -m heliograph.preview.process --data DIR`.

Gets the same show sections as the engine, reads what it sent and the state it sent it from,
and answers with pictures. Of low priority: it may be late, the lights never are.
"""

from __future__ import annotations

import argparse
import contextlib
import os
import signal
import threading
import time
from dataclasses import replace
from pathlib import Path

import numpy as np

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import Tempo
from heliograph.engine.spool import SpoolReader
from heliograph.ipc.control import ControlServer
from heliograph.ipc.frames import FrameReader, SentFrame
from heliograph.ipc.heartbeat import BEAT_S, Heartbeat
from heliograph.ipc.log import start_log
from heliograph.ipc.messages.base import Answer
from heliograph.ipc.messages.preview import (
    AskBefore,
    AskCue,
    AskFlashes,
    AskKept,
    AskMarks,
    AskMoment,
    AskMotion,
    AskPictures,
    AskStroke,
    AskUnrolled,
    AskWhy,
    BeforeHand,
    FlashesFound,
    KeptFrames,
    KeptMoment,
    MarksFound,
    MotionFound,
    Pictures,
    PreviewRequest,
    UnrolledFrames,
    WhyAnswer,
    WhyChannel,
    WhyStep,
)
from heliograph.ipc.messages.show import Adopt, HandSections, OfferManifest
from heliograph.ipc.places import fast_folder
from heliograph.ipc.sections import SectionStore
from heliograph.ipc.service_user import drop_rights
from heliograph.power import HAND, marks_of
from heliograph.preview.ahead import Ahead
from heliograph.preview.flashing import FlashWatch
from heliograph.preview.moment import Moment
from heliograph.preview.motion import motion_of
from heliograph.preview.pictures import Preview, kept_picture
from heliograph.preview.recorder import Recorder
from heliograph.preview.strokes import stroke_of
from heliograph.preview.trails import Trails
from heliograph.preview.unrolling import unrolled
from heliograph.preview.why import why
from heliograph.preview.why_values import value_after
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from heliograph.render.show_keeper import ShowKeeper

NICE = 10
"""Behind everything else that runs."""

CLIP_LOOK_S = 0.2
TRIES = 12
PAUSE_S = 0.004
RECORD_TRIES = 3
RECORD_S = 0.008
"""A frame lies in its slot for 22.7 ms: looked at nearly three times."""


class PreviewSide:
    def __init__(self, data: Path) -> None:
        fast = fast_folder(data)
        self._frames, self._spool = FrameReader(fast / "sent.frames"), SpoolReader(fast / "spool")
        folder = data / "preview" / "sections"
        self._plain = Renderer()
        self._keeper = ShowKeeper(SectionStore(folder), data / "media" / "frames", lambda _new, _last, _switched: None)
        self._preview = Preview()
        self._lock = threading.Lock()
        self._watched = FrameReader(fast / "sent.frames"), SpoolReader(fast / "spool")
        self._recorder = Recorder()
        self._flash_watch = FlashWatch()
        self._ahead = Ahead()
        self._trails = Trails()

    def answer(self, request: PreviewRequest, _fds: list[int]) -> Answer | None:
        match request:
            case AskWhy():
                return self._why(request)
            case AskMarks():
                return self._marks(request)
            case AskFlashes():
                return self._flashes(request)
            case AskCue():
                with self._lock:
                    moment = self._moment()
                    if moment is None:
                        raise InputError("Nothing was sent yet.", where="cue", repair="Try again in a moment.")
                    return self._ahead.cells(self._keeper.show, moment, request.of, request.cue)
            case AskMotion():
                return self._motion(request)
            case AskStroke():
                with self._lock:
                    moment = self._moment()
                return stroke_of(
                    self._keeper.show, request.look, request.group, moment.state.tempo if moment else Tempo()
                )
            case AskUnrolled():
                return self._unrolled(request)
            case AskKept():
                facts = self._recorder.facts(time.monotonic_ns())
                return KeptFrames(**facts, spool_behind=self._spool_behind())
            case AskMoment():
                return self._kept_moment(request)
            case AskBefore():
                return self._before(request)
            case OfferManifest() | HandSections() | Adopt():
                return self._keeper.answer(request)
            case AskPictures():
                with self._lock:
                    moment = self._moment()
                    if moment is None:
                        return Pictures(pictures=b"")
                    made = self._preview.message(self._keeper.show, moment, request.look, request.looks)
                return Pictures(pictures=made)

    def _flashes(self, asked: AskFlashes) -> FlashesFound:
        with self._lock:
            moment = self._moment()
        show = self._keeper.show
        if moment is None or show.hashes.get(f"look:{asked.look}") != asked.hash:
            return FlashesFound()
        return self._flash_watch.ask(show, asked.look, moment.state.tempo.bpm) or FlashesFound()

    def _motion(self, asked: AskMotion) -> MotionFound:
        with self._lock:
            moment = self._moment()
        if moment is None:
            raise InputError("Nothing was sent yet.", where="look", repair="Try again in a moment.")
        if not asked.line:
            return self._trails.of(self._keeper.show, moment)
        return motion_of(self._keeper.show, moment, asked.look, asked.line)

    def _unrolled(self, asked: AskUnrolled) -> UnrolledFrames:
        with self._lock:
            moment = self._moment()
        show = self._keeper.show
        if show.hashes.get(f"look:{asked.look}") != asked.hash:
            raise InputError("That look is not painted yet.", where="look", repair="Try again in a moment.")
        return unrolled(show, asked.look, asked.line, asked.count, moment.state.tempo if moment else Tempo())

    def _why(self, asked: AskWhy) -> WhyAnswer:
        """The chain of each channel asked for, of one frame, beside what that frame carried."""
        with self._lock:
            known = self._of_frame(asked.at) if asked.at else self._now()
            if known is None:
                return WhyAnswer()
            moment, show = known
            frame = moment.frame
            answers = []
            stages = self._plain.stages(show)
            for position in asked.positions:
                chain = why(show, stages, moment.state, frame.show_ns, position, asked.names)
                row = np.flatnonzero(frame.universes == position // SLOTS + 1)
                value = int(frame.data[row[0], position % SLOTS]) if row.size else 0
                steps = [
                    WhyStep(step.kind, step.says, dict(step.numbers), value_after(step, chain.plane))
                    for step in chain.steps
                ]
                answers.append(WhyChannel(value, bool(row.size and frame.sent[row[0]]), chain.value, steps))
        return WhyAnswer(frame=frame.number, exact=moment.exact, frozen=moment.state.freeze, channels=answers)

    def _marks(self, asked: AskMarks) -> MarksFound:
        with self._lock:
            known = self._of_frame(asked.at) if asked.at else self._now()
            if known is None:
                return MarksFound()
            moment, show = known
            found = marks_of(self._plain.stages(show), moment.state, show.emission.universes, asked.universe)
        return MarksFound(frame=moment.frame.number, channels=found)

    def _now(self) -> tuple[Moment, CompiledShow] | None:
        moment = self._moment()
        return (moment, self._keeper.show) if moment else None

    def _of_frame(self, number: int) -> tuple[Moment, CompiledShow] | None:
        """A kept frame with its own show; InputError where it or its show is gone."""
        one = self._recorder.at(frame=number)
        if one is None or one.number != number:
            raise InputError(f"Frame {number} is not kept any more.", where="frame", repair="Look less far back.")
        moment, show = self._recorder.moment(one)
        if show is None:
            raise InputError(f"The show that frame {number} was made of is not kept any more.", where="frame")
        return moment, show

    def _spool_behind(self) -> int | None:
        """Frames by which the state that a restart goes on from is behind what was sent; None where there is none."""
        with self._lock:
            spool, newest = self._spool.read(), self._frames.newest()
        return newest - spool[0] if spool is not None and newest >= 0 else None

    def _kept_moment(self, asked: AskMoment) -> KeptMoment:
        """A kept frame: a matrix as it was lit, or a universe as it was sent."""
        now = time.monotonic_ns()
        if asked.frame is not None:
            one = self._recorder.at(frame=asked.frame, after=asked.after)
        else:
            one = self._recorder.at(steady_ns=now - int(asked.ago_s * 1e9))
        if one is None:
            raise InputError("No frame is kept yet.", where="frame")
        moment, show = self._recorder.moment(one)
        picture = levels = None
        if asked.matrix and show is not None and asked.matrix in show.matrices:
            picture = kept_picture(show, moment.frame, asked.matrix)
        if asked.universe:
            row = np.flatnonzero(moment.frame.universes == asked.universe)
            levels = moment.frame.data[row[0]].tolist() if row.size else [0] * SLOTS
        return KeptMoment(
            frame=one.number,
            ago_s=round((now - one.steady_ns) / 1e9, 3),
            show_s=one.show_ns / 1e9,
            exact=one.exact and show is not None,
            picture=picture,
            levels=levels,
        )

    def _before(self, asked: AskBefore) -> BeforeHand:
        """A universe as looks and masters make it: before desk, hand, parked values, walk and guard."""
        with self._lock:
            moment = self._moment()
            if moment is None:
                raise InputError("No frame has been sent yet.", where="universe")
            show = self._keeper.show
            values = self._plain.render(show, replace(moment.state, walk=None), moment.frame.show_ns, HAND)
            row = np.flatnonzero(show.universes == asked.universe)
            levels = values[row[0]].tolist() if row.size else [0] * SLOTS
        return BeforeHand(frame=moment.frame.number, levels=levels, frozen=moment.state.freeze)

    def record(self) -> None:
        """Keeps every frame it sees, for looking back. Runs in a thread of its own."""
        frames, spool = self._watched
        while True:
            time.sleep(RECORD_S)
            newest = frames.newest()
            if newest < 0 or not self._recorder.wants(newest, int(self._keeper.show.universes.size)):
                continue
            exact = False
            for _ in range(RECORD_TRIES):  # the engine may be between writing its state and the frame
                before, frame, after = spool.read(), frames.read(), spool.read()
                if frame is None or before is None or after is None:
                    break
                exact = before[1] is after[1] and before[0] <= frame.number <= after[0]
                if exact:
                    break
                time.sleep(PAUSE_S)
            if frame is not None and after is not None and self._recorder.wants(frame.number, len(frame.universes)):
                self._recorder.add(frame, after[1], self._keeper.show, exact)

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

    def works(self) -> bool:
        """Whether questions are being answered: nobody holds the lock for long."""
        if not self._lock.acquire(timeout=BEAT_S):
            return False
        self._lock.release()
        return True

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
    drop_rights(data)
    side = PreviewSide(data)
    stopping = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: stopping.set())
    server = ControlServer(str(data / "run" / "preview.sock"), PreviewRequest, side.answer)
    server.start()
    threading.Thread(target=side.watch_clips, name="clips", daemon=True).start()
    threading.Thread(target=side.record, name="recorder", daemon=True).start()
    heart = Heartbeat(data, "preview")
    while not stopping.wait(BEAT_S):
        if side.works():
            heart.beat()
    server.close()


if __name__ == "__main__":
    main()
