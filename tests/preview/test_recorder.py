"""Frames that are kept to look back at: whole, in bounded memory, with the show and state they were made of."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from heliograph.core.playing.state import PlaybackState
from heliograph.ipc.frames import FrameReader, FrameWriter, SentFrame
from heliograph.preview.pictures import kept_picture
from heliograph.preview.recorder import SHOWS_MAX, Recorder
from heliograph.render.compiled import CompiledShow, compile_show
from tests.engine.shows import grid, lamps, output

UNIVERSES = np.array([1], dtype=np.uint16)


def show(count: int = 4, tag: int = 7) -> CompiledShow:
    sections = {"rig": lamps(count), "matrix:M": grid(count, 1), "outputs": {"outputs": [output()]}}
    made = compile_show(sections, Path("/nonexistent"))
    object.__setattr__(made, "tag", tag)
    return made


def frame(number: int, tag: int = 7, value: int | None = None, second: float | None = None) -> SentFrame:
    data = np.full((1, 512), number % 256 if value is None else value, dtype=np.uint8)
    at = int((number / 44 if second is None else second) * 1e9)
    return SentFrame(number, at, at, UNIVERSES, np.ones(1, dtype=np.uint8), data, tag)


def test_any_kept_frame_comes_back_as_it_was() -> None:
    recorder, made, state = Recorder(), show(), PlaybackState(master=0.5)
    for number in range(1, 101):
        recorder.add(frame(number), state, made, exact=True)
    one = recorder.at(frame=37)
    assert one is not None
    moment, known = recorder.moment(one)
    assert known is made
    assert moment.state is state
    assert moment.frame.number == 37
    assert (moment.frame.data == 37).all()
    near = recorder.at(steady_ns=int(50.4 / 44 * 1e9))
    assert near is not None
    assert near.number == 50
    assert recorder.facts(int(100 / 44 * 1e9))["seconds"] == pytest.approx(2.25)


def test_a_frame_that_was_missed_gives_its_neighbour() -> None:
    recorder, made = Recorder(), show()
    for number in (10, 11, 14):
        recorder.add(frame(number), PlaybackState(), made, exact=True)
    found = [recorder.at(frame=12), recorder.at(frame=12, after=True), recorder.at(frame=1), recorder.at(frame=99)]
    assert [one.number if one else None for one in found] == [11, 14, 10, 14]
    assert Recorder().at(frame=1) is None
    assert Recorder().span() is None


def test_memory_is_bounded_by_bytes_and_by_time() -> None:
    dice = np.random.default_rng(1)
    recorder, made = Recorder(most_bytes=20_000), show()
    for number in range(1, 400):
        noise = dice.integers(0, 256, (1, 512), dtype=np.uint8)
        one = frame(number)
        recorder.add(
            SentFrame(number, one.show_ns, one.steady_ns, UNIVERSES, one.sent, noise, 7), PlaybackState(), made, True
        )
        assert recorder.bytes <= 20_000
    span = recorder.span()
    assert span is not None
    assert 30 <= span[2] <= 40  # noise does not pack: some 520 bytes a frame
    assert span[1].number == 399
    by_time = Recorder(most_s=2.0)
    for number in range(1, 400):
        by_time.add(frame(number), PlaybackState(), made, exact=True)
    span = by_time.span()
    assert span is not None
    assert span[2] == 89


def test_an_engine_that_began_anew_begins_the_record_anew() -> None:
    recorder, made = Recorder(), show()
    for number in (500, 501, 3, 4):
        recorder.add(frame(number), PlaybackState(), made, exact=True)
    span = recorder.span()
    assert span is not None
    assert [span[0].number, span[1].number] == [3, 4]


def test_frames_of_an_unknown_show_are_kept_and_say_so() -> None:
    recorder = Recorder()
    recorder.add(frame(1, tag=5), PlaybackState(), show(tag=7), exact=True)
    one = recorder.at(frame=1)
    assert one is not None
    assert not one.exact
    assert recorder.moment(one)[1] is None
    for tag in range(100, 100 + SHOWS_MAX + 5):
        recorder.add(frame(tag, tag=tag), PlaybackState(), show(tag=tag), exact=True)
    first = recorder.at(frame=100)
    assert first is not None
    assert recorder.moment(first)[1] is None


def test_a_picture_is_decoded_through_the_patch_of_its_own_time() -> None:
    made = show()
    sent = frame(1, value=0)
    sent.data[0, 3:6] = (10, 20, 30)
    picture = kept_picture(made, sent, "M")
    assert (picture.columns, picture.rows) == (4, 1)
    assert picture.rgb == "AAAAChQeAAAAAAAA"  # base64 of 0 0 0, 10 20 30, 0 0 0, 0 0 0


def test_the_newest_number_is_read_without_the_frame(tmp_path: Path) -> None:
    reader = FrameReader(tmp_path / "f")
    assert reader.newest() == -1
    writer = FrameWriter(tmp_path / "f", UNIVERSES)
    assert reader.newest() == -1
    for number in (4, 5):
        writer.write(number, 0, 0, np.ones(1, np.uint8), np.zeros((1, 512), np.uint8))
        assert reader.newest() == number
