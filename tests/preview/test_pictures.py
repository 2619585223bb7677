"""What the preview process answers: the same rendering code, and plain words about what is not on the wire."""

from __future__ import annotations

import struct
from typing import Any
from uuid import UUID

import numpy as np

from heliograph.core.matrix.placements import CellKey, Placement, pack
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.ipc.frames import SentFrame
from heliograph.preview.moment import Moment
from heliograph.preview.pictures import CELLS, LOOK, MINIATURE, ONLY_HERE, PAINTED, SENT_TOO, Preview
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line

LOOK_ID, OTHER = "11111111-2222-4333-8444-555555555555", "11111111-2222-4333-8444-666666666666"
A, B, M = (f"aaaaaaaa-2222-4333-8444-55555555555{n}" for n in range(3))
SECOND = 1_000_000_000


def show_of(*lines: dict[str, Any], matrix: dict[str, Any] | None = None) -> CompiledShow:
    own = {**(matrix or grid(4, 2)), "id": M}
    one = {"id": LOOK_ID, "name": "L", "lines": [{**each, "matrix": M} for each in lines]}
    other = {"id": OTHER, "name": "O", "lines": [{**line(B, "Flat", ramp=[[0, 9, 9, 9]]), "matrix": M}]}
    return compiled(lamps(8), own, one, other)


def moment_of(show: CompiledShow, seconds: float, *, on: bool = True, **state: Any) -> Moment:
    """The frame as the engine would send it, with the state it sends it from."""
    begun = PlaybackState(**state)
    begun = advance(begun.started(LOOK_ID, 0), show.lines, 0) if on else begun
    at = round(seconds * SECOND)
    data = Renderer().render(show, begun, at).copy()
    sent = np.ones(len(show.universes), dtype=np.uint8)
    return Moment(SentFrame(7, at, 0, show.universes.astype(np.uint16), sent, data, show.tag), begun, True)


def read(message: bytes) -> dict[tuple[int, str], tuple[int, int, bytes]]:
    """(kind, id) -> (state, difference, rgb); offsets as written in the front end."""
    kind, _, count, driven, number, _ = struct.unpack_from("<BBHIQq", message)
    assert (kind, number) == (3, 7)
    at, found = 24, {}
    for _ in range(count):
        key, columns, rows, _, what, state, difference, _ = struct.unpack_from("<16sHHHBBhH", message, at)
        size = columns * rows * 3
        found[(what, str(UUID(bytes=key)))] = (state, difference, message[at + 28 : at + 28 + size])
        at += 28 + size
    assert at + driven * 56 == len(message)
    return found


RELAY = line(A, "Relay", ramp=[[0, 200, 100, 40]], speed={"value": 8, "unit": "s"})


def test_one_frame_painted_and_on_the_cells_is_the_one_sent() -> None:
    show = show_of(RELAY)
    moment = moment_of(show, 2.5, master=0.5)
    found = read(Preview().message(show, moment, LOOK_ID, []))
    dark, lit, half = bytes(3), bytes([200, 100, 40]), bytes([100, 50, 20])
    assert found[(PAINTED, M)] == (SENT_TOO, -1, dark * 2 + lit + dark * 5)  # before masters
    assert found[(CELLS, M)] == (SENT_TOO, 0, dark * 2 + half + dark * 5)  # after them, as sent
    assert moment.frame.data[0, 6:9].tobytes() == half


def test_a_difference_between_asked_and_sent_is_found_and_told() -> None:
    show = show_of(RELAY)
    moment = moment_of(show, 2.5)
    moment.frame.data[0, 7] += 31
    assert read(Preview().message(show, moment, LOOK_ID, []))[(CELLS, M)][1] == 31


def test_what_cannot_be_compared_is_not() -> None:
    show = show_of(RELAY)
    moment = moment_of(show, 2.5)
    other = Moment(moment.frame, moment.state, False)
    assert read(Preview().message(show, other, LOOK_ID, []))[(CELLS, M)][1] == -1


def test_a_frozen_picture_is_compared_with_the_moment_it_was_frozen_at() -> None:
    show = show_of(RELAY)
    before = moment_of(show, 2.5)
    state = before.state.froze(before.frame.show_ns, show.records)
    later = round(5.5 * SECOND)
    data = Renderer().render(show, state, later).copy()
    frame = SentFrame(7, later, 0, before.frame.universes, before.frame.sent, data, show.tag)
    found = read(Preview().message(show, Moment(frame, state, True), LOOK_ID, []))
    assert found[(CELLS, M)] == (SENT_TOO, 0, bytes(6) + bytes([200, 100, 40]) + bytes(15))


def test_a_look_that_is_off_is_shown_alone_and_says_so() -> None:
    show = show_of(RELAY)
    found = read(Preview().message(show, moment_of(show, 2.5, on=False), LOOK_ID, [OTHER]))
    assert found[(PAINTED, M)][0] == ONLY_HERE
    assert any(found[(PAINTED, M)][2])
    assert found[(LOOK, OTHER)] == (ONLY_HERE, -1, bytes([9, 9, 9]) * 8)


def test_miniatures_show_each_line_alone_whatever_its_blend() -> None:
    under = line(B, "Flat", ramp=[[0, 10, 20, 30]])
    show = show_of(under, {**RELAY, "blend": "multiply", "opacity": 0.1})
    found = read(Preview().message(show, moment_of(show, 0.5), LOOK_ID, []))
    assert found[(MINIATURE, B)][2] == bytes([10, 20, 30]) * 8
    assert found[(MINIATURE, A)][2] == bytes([200, 100, 40]) + bytes(21)


def test_squares_without_a_cell_are_painted_but_not_asked() -> None:
    """Flat paints all squares; only where a cell stands is anything asked. A relay goes along the cells."""
    matrix = grid(4, 2, 3)
    flat = show_of(line(A, "Flat", ramp=[[0, 7, 8, 9]]), matrix=matrix)
    found = read(Preview().message(flat, moment_of(flat, 0.5), LOOK_ID, []))
    assert found[(PAINTED, M)][2] == bytes([7, 8, 9]) * 8
    assert found[(CELLS, M)][2] == bytes([7, 8, 9]) * 3 + bytes(15)
    placed = [Placement(CellKey(f"f{n}", "1"), float(3 - n), 1.0) for n in range(3)]
    back = show_of(RELAY, matrix={**matrix, "placements": pack(placed)})
    found = read(Preview().message(back, moment_of(back, 0.5), LOOK_ID, []))
    lit = found[(PAINTED, M)][2]
    assert [n for n in range(8) if any(lit[3 * n : 3 * n + 3])] == [7]  # the first cell of the strand stands there
    assert lit == found[(CELLS, M)][2]


def test_the_tag_is_the_same_for_the_same_show_and_another_for_another() -> None:
    assert show_of(RELAY).tag == show_of(RELAY).tag
    assert show_of(RELAY).tag != show_of({**RELAY, "opacity": 0.5}).tag


def test_where_each_drive_stands_is_told() -> None:
    """A saw of 4 s over eight cells, half a period later at the last: after 2 s half up, the last at its beginning."""
    drives = {
        "opacity": {"low": 0.2, "high": 0.6, "wave": "saw up", "period": {"value": 4.0, "unit": "s"}},
        "shift": {
            "low": 0.0,
            "high": 1.0,
            "wave": "saw up",
            "period": {"value": 4.0, "unit": "s"},
            "over": "address",
            "spread": 0.5,
        },
        "params.place": {"low": 0, "high": 1, "source": "sound", "wave": "sine", "period": {"value": 1.0, "unit": "s"}},
    }
    show = show_of(line(A, "Flat", drives=drives))
    message = Preview().message(show, moment_of(show, 2.0), LOOK_ID, [])
    told = struct.unpack_from("<H", message, 4)[0]
    found = [struct.unpack_from("<16sHHiff24s", message, len(message) - 56 * n) for n in range(told, 0, -1)]
    assert [(one[1], one[2], one[3]) for one in found] == [(0, 0, 0), (2, 8, 0)]  # of opacity, params.place, shift
    assert [one[4] for one in found] == [0.25, 0.25]  # a page is two periods
    assert [round(one[5], 4) for one in found] == [0.4, 0.5]
    assert list(found[1][6][:8]) == [round(255 * (0.5 - n / 14)) for n in range(8)]
