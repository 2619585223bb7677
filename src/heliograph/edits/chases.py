"""What changes a chase: its frames drawn, timed, copied, put in another order; and chases made of looks and of what is
sent."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any
from uuid import uuid4

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.look.chase import FRAME_LEAST, FRAMES_MAX, check_shape, strip_from_json
from heliograph.core.look.drawn import Colour, Picture, Square, Tool, clear, drawn, packed, unpacked
from heliograph.core.look.line import COMMON_FIELDS
from heliograph.edits.looks import add_line, change_line, lines_of
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

OWN_OF_SOURCE = ("ramp", "drives", "ribbons", "shift")
"""Fields of an unrolled line whose effect is in its frames already."""

AS_DRAWN = {"order": "along", "rounds": 0, "ends": "hold", "seed": 0, "shift": 0.0}

Frame = dict[str, Any]
Change = Callable[[Record], Mapping[str, Any]]

BEGINS = {"fade": 0.0, "hold": 0.5}
"""Times of the first frame of a new chase."""


def add_chase(work: Work, key: str, given: Mapping[str, Any], pictures: Sequence[str] = (), each: float = 0.0) -> None:
    """A chase of these `pictures` (stored forms), each held for `each`; without any, of one that is clear."""
    shape = int(given["columns"]), int(given["rows"])
    check_shape(*shape, pictures or [""])
    frames = [{"id": _new_id(), "fade": 0.0, "hold": each, "picture": one} for one in pictures]
    frames = frames or [{"id": _new_id(), **BEGINS, "picture": packed(clear(*shape))}]
    values = {"unit": "s", "origin": "", "matrix": "", "group": "", "selection": "", **given, "frames": frames}
    _check(values)
    work.insert("chase", [(key, {**values, "place": rows.next_place("chase", str(work.show.id))})])


def copy_chase(work: Work, chase: str, key: str) -> None:
    one = rows.record_of(work.get("chase", chase))
    rest = {name: value for name, value in one.items() if name not in ("id", "rev", "place")}
    place = rows.next_place("chase", str(work.show.id))
    work.insert("chase", [(key, {**rest, "name": f"{one['name']}, copy"[:120], "place": place})])


def draw(
    work: Work, chase: str, frame: str, tool: Tool, squares: Sequence[Square], colour: Colour, seen: int | None = None
) -> None:
    """Draws on one frame, by its id."""

    def change(one: Record) -> Mapping[str, Any]:
        made = drawn(picture_of(one, frame), tool, squares, colour)
        return {"frames": _with(one, frame, {"picture": packed(made)})}

    _change(work, chase, change, seen)


def fill_squares(
    work: Work, chase: str, frame: str, colours: Mapping[Square, tuple[int, int, int]], seen: int | None = None
) -> None:
    """Sets single squares of one frame, each to its colour; those outside are passed over."""

    def change(one: Record) -> Mapping[str, Any]:
        made = picture_of(one, frame).copy()
        for (column, row), rgb in colours.items():
            if 0 <= column < one["columns"] and 0 <= row < one["rows"]:
                made[row, column] = (*rgb, 255)
        return {"frames": _with(one, frame, {"picture": packed(made)})}

    _change(work, chase, change, seen)


def set_times(
    work: Work, chase: str, chosen: Sequence[str], times: Mapping[str, float], seen: int | None = None
) -> None:
    """`fade`, `hold` or both of the chosen frames."""

    def change(one: Record) -> Mapping[str, Any]:
        frames = _chosen(one, chosen)
        return {"frames": [{**frame, **times} if frame["id"] in frames else frame for frame in one["frames"]]}

    _change(work, chase, change, seen)


def set_values(work: Work, chase: str, chosen: Sequence[str], sets: Mapping[str, str], seen: int | None = None) -> None:
    """What the chosen frames set of attributes beside their pictures, as it is typed; "" takes one away."""

    def merged(frame: Frame) -> Frame:
        both = {**frame.get("sets", {}), **sets}
        return {**frame, "sets": {name: text for name, text in both.items() if text}}

    def change(one: Record) -> Mapping[str, Any]:
        frames = _chosen(one, chosen)
        return {"frames": [merged(frame) if frame["id"] in frames else frame for frame in one["frames"]]}

    _change(work, chase, change, seen)


def spread(work: Work, chase: str, chosen: Sequence[str], length: float, seen: int | None = None) -> None:
    """The chosen frames last `length` together, each as long as any other; fades keep their share of it."""

    def change(one: Record) -> Mapping[str, Any]:
        frames = _chosen(one, chosen)
        each = length / len(frames)

        def timed(frame: Frame) -> Frame:
            share = frame["fade"] / (frame["fade"] + frame["hold"])
            return {**frame, "fade": each * share, "hold": each * (1.0 - share)}

        return {"frames": [timed(frame) if frame["id"] in frames else frame for frame in one["frames"]]}

    _change(work, chase, change, seen)


def paste(
    work: Work, chase: str, source: str, copied: Sequence[str], after: str, moved: bool, seen: int | None = None
) -> None:
    """Puts copies of frames of the chase `source`, which may be another of the same size, behind a frame ("": first);
    `moved`: they are taken away where they were. What is moved behind one of its own goes behind what is left before
    that."""
    other = rows.record_of(work.get("chase", source))
    gone = _chosen(other, copied) if moved and source == chase else set()
    if moved and source != chase:
        delete_frames(work, source, copied)

    def change(one: Record) -> Mapping[str, Any]:
        if (other["columns"], other["rows"]) != (one["columns"], one["rows"]):
            raise InputError(
                f"Those frames have {other['columns']} x {other['rows']} squares, these "
                f"{one['columns']} x {one['rows']}.",
                where="source",
                repair="Copy from a chase of the same size.",
            )
        _chosen(other, copied)
        made = _inserted(one, after, [frame for frame in other["frames"] if frame["id"] in copied])
        return {"frames": [frame for frame in made if frame["id"] not in gone]}

    _change(work, chase, change, seen)


def insert(work: Work, chase: str, after: str, picture: str | None = None, seen: int | None = None) -> None:
    """A frame behind another ("": first), clear or with a picture, timed as the one before it."""

    def change(one: Record) -> Mapping[str, Any]:
        like = one["frames"][max(_place(one, after), 0)]
        empty = packed(clear(one["columns"], one["rows"]))
        return {"frames": _inserted(one, after, [{**like, "picture": picture or empty, "sets": {}}])}

    _change(work, chase, change, seen)


def insert_pictures(work: Work, chase: str, after: str, drawn_frames: Sequence[tuple[str, float]]) -> None:
    """Frames behind another ("": first) from (picture, how long it holds in the chase's unit); 0 as long as the frame
    before them."""

    def change(one: Record) -> Mapping[str, Any]:
        like = one["frames"][max(_place(one, after), 0)]
        more = [
            {"fade": 0.0, "hold": max(holds, FRAME_LEAST), "picture": picture}
            if holds
            else {**like, "picture": picture, "sets": {}}
            for picture, holds in drawn_frames
        ]
        return {"frames": _inserted(one, after, more)}

    _change(work, chase, change, None)


def delete_frames(work: Work, chase: str, chosen: Sequence[str], seen: int | None = None) -> None:
    def change(one: Record) -> Mapping[str, Any]:
        gone = _chosen(one, chosen)
        left = [frame for frame in one["frames"] if frame["id"] not in gone]
        if not left:
            raise InputError("A chase keeps one frame.", where="frames", repair="Erase it, or delete the chase.")
        return {"frames": left}

    _change(work, chase, change, seen)


def reverse(work: Work, chase: str, chosen: Sequence[str], seen: int | None = None) -> None:
    """The chosen frames in the opposite order, in the places they have."""

    def change(one: Record) -> Mapping[str, Any]:
        picked = _chosen(one, chosen)
        places = [place for place, frame in enumerate(one["frames"]) if frame["id"] in picked]
        frames = list(one["frames"])
        for place, source in zip(places, reversed(places), strict=True):
            frames[place] = one["frames"][source]
        return {"frames": frames}

    _change(work, chase, change, seen)


def unroll(
    work: Work, key: str, given: Mapping[str, Any], pictures: Sequence[str], each: float, source: tuple[str, str]
) -> None:
    """A chase of pictures that were painted from the line of a look (`source`: their ids). The line is muted, and the
    chase plays in its place, right above it."""
    look, line_id = source
    add_chase(work, key, given, pictures, each)
    line = next((one for one in lines_of(work, look) if one["id"] == line_id), None)
    if line is None:
        raise NotFoundError("That line is not there any more.", where="line")
    kept = {name: line[name] for name in COMMON_FIELDS if name in line and name not in OWN_OF_SOURCE}
    shown = {"id": str(uuid4()), "paints": "chase", "chase": key, "saved_ramp": "", "mute": False, **AS_DRAWN}
    add_line(work, look, {**kept, **shown}, line_id)
    change_line(work, look, line_id, {"mute": True, "solo": False})


def picture_of(chase: Record, frame: str) -> Picture:
    stored = next((one["picture"] for one in chase["frames"] if one["id"] == frame), None)
    if stored is None:
        raise NotFoundError("That frame is not there any more.", where="frame")
    return unpacked(stored, chase["columns"], chase["rows"])


def _change(work: Work, chase: str, change: Change, seen: int | None) -> None:
    one = rows.record_of(work.get("chase", chase))
    changed = change(one)
    _check({**one, **changed})
    work.update("chase", chase, dict(changed), seen)


def _check(chase: Mapping[str, Any]) -> None:
    check_shape(chase["columns"], chase["rows"], chase["frames"])
    strip_from_json(chase)


def _chosen(chase: Record, chosen: Sequence[str]) -> set[str]:
    frames = set(chosen)
    if not frames or not frames <= {frame["id"] for frame in chase["frames"]}:
        raise NotFoundError("One of these frames is not there any more.", where="frames")
    return frames


def _with(chase: Record, key: str, values: Mapping[str, Any]) -> list[Frame]:
    return [{**frame, **values} if frame["id"] == key else frame for frame in chase["frames"]]


def _place(chase: Record, after: str) -> int:
    """Where a frame stands, from 0; -1 for ""."""
    if not after:
        return -1
    place = next((n for n, frame in enumerate(chase["frames"]) if frame["id"] == after), None)
    if place is None:
        raise NotFoundError("The frame before them is not there any more.", where="after")
    return place


def _inserted(chase: Record, after: str, more: Sequence[Frame]) -> list[Frame]:
    at = _place(chase, after) + 1
    if len(chase["frames"]) + len(more) > FRAMES_MAX:
        raise InputError(f"A chase has at most {FRAMES_MAX:,} frames.", where="frames")
    fresh = [{**one, "id": _new_id()} for one in more]
    return [*chase["frames"][:at], *fresh, *chase["frames"][at:]]


def _new_id() -> str:
    """What names a frame within its chase, so that two people can draw on two of them."""
    return uuid4().hex[:12]
