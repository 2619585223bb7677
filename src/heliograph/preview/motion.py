"""Where the heads of a line point, and where they go in the next round: degrees, travel limits, the speed asked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
import numpy.typing as npt

from heliograph.core.hand.values import channels_of
from heliograph.core.look.levels import Clocks
from heliograph.core.look.line import PARAMS, AttributeLine
from heliograph.core.look.setting import chosen_among, numbers_of
from heliograph.core.patch.places import channel_positions
from heliograph.core.playing.tempo import Speed
from heliograph.core.profiles.channel import Channel
from heliograph.core.rig.arrays import RigFixture
from heliograph.ipc.messages.preview import HeadMotion, MotionFound
from heliograph.preview.moment import Moment, run_of
from heliograph.render.compiled import CompiledShow
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.driving import clocks_of, now_of
from heliograph.render.setting import values_at

STEPS = 96
HEADS_MAX = 64
TIMES_MAX = 12
AXES = ("Pan", "Tilt")
STILL = Speed(4.0)

Floats = npt.NDArray[np.float64]


def motion_of(show: CompiledShow, moment: Moment, look: str, line: str) -> MotionFound:
    """The line's heads from now on, over one round of what drives it; none of a line that is not painted here yet."""
    one = next((each for each in show.looks.get(look, ()) if each.line.id == line), None)
    if one is None or one.ready is None:
        return MotionFound(heads=[], seconds=0.0, moves=False)
    run, _ = run_of(show, moment, look)
    clocks = clocks_of(one, run, now_of(moment.painting))
    seconds = round_s(one, clocks.beat_s)
    places = np.linspace(0.0, 1.0, STEPS + 1)
    found = np.stack([values_at(one.ready, _later(clocks, seconds * at)) for at in places])
    heads = [head for head in _heads(show, one, found, seconds / STEPS) if head is not None]
    return MotionFound(heads=heads, seconds=seconds, moves=turns_heads(one))


def turns_heads(one: CompiledLine) -> bool:
    """Whether a drive of the line moves pan or tilt."""
    return any(PARAMS + axis in one.line.drives for axis in AXES)


def round_s(one: CompiledLine, beat_s: float) -> float:
    """How long its heads take until they stand as before, or the longest of their periods."""
    period, unit = _round(one)
    return period * (beat_s if unit == "beat" else 1.0)


def _round(one: CompiledLine) -> tuple[float, str]:
    """After how long pan and tilt stand as before, where that is within a few of their periods; else the longest."""
    drives = [one.line.drives[PARAMS + axis] for axis in AXES if PARAMS + axis in one.line.drives]
    slowest = max((drive.period for drive in drives), key=lambda period: abs(period.value), default=STILL)
    longest = abs(slowest.value)
    for times in range(1, TIMES_MAX + 1):
        turns = [times * longest / abs(drive.period.value) for drive in drives if drive.period.unit == slowest.unit]
        if all(abs(turn - round(turn)) < 1e-3 for turn in turns):
            return times * longest, slowest.unit
    return longest, slowest.unit


def _later(clocks: Clocks, seconds: float) -> Clocks:
    beats = seconds / clocks.beat_s
    return clocks._replace(
        time_s=clocks.time_s + seconds,
        since_s=clocks.since_s + seconds,
        beat=clocks.beat + beats,
        since_beat=clocks.since_beat + beats,
    )


def _heads(show: CompiledShow, one: CompiledLine, found: Floats, step_s: float) -> list[HeadMotion | None]:
    """`found` (STEPS + 1, rows): what the line sets of each row from now on."""
    assert one.ready is not None
    assert isinstance(one.line, AttributeLine)
    rig, settings = one.ready.rig, one.ready.settings
    rows = {int(position): row for row, position in enumerate(settings.coarse)}
    modes = {name: each.mode for name, each in rig.fixtures.items() if each.placed}
    heads: list[HeadMotion | None] = []
    for chosen in chosen_among(modes, one.ready.members)[:HEADS_MAX]:
        fixture = rig.fixtures[chosen.id]
        mode, positions = channels_of(chosen.mode), channel_positions(fixture.placed)
        axes: dict[str, Floats] = {}
        limits: dict[str, tuple[float, float]] = {}
        said = 0
        for axis in AXES:
            number = next((n for n, part in numbers_of(mode, axis, chosen.numbers) if not part), 0)
            if not number:
                continue
            channel = mode.channels[number - 1]
            low, high = limits[axis] = channel.physical or (0.0, 255.0)
            row = rows.get(int(positions[number - 1]))
            if row is None:
                rest = float(channel.home) / 255.0
                axes[axis] = np.full(STEPS + 1, low + (high - low) * rest)
            else:
                said += 1
                axes[axis] = low + (high - low) * found[:, row] / settings.most[row]
        if len(axes) < len(AXES) or not said:  # no head, or none of whose axes the line sets
            heads.append(None)
            continue
        heads.append(head_motion(fixture, axes, limits, step_s))
    return heads


def head_motion(
    fixture: RigFixture, axes: Mapping[str, Floats], limits: Mapping[str, tuple[float, float]], step_s: float
) -> HeadMotion:
    """What is said of one head; `axes`: "Pan" and "Tilt" over a round, `step_s` apart."""
    across, up = axes["Pan"], axes["Tilt"]
    speed = float(np.hypot(np.diff(across), np.diff(up)).max(initial=0.0) / step_s) if step_s else 0.0
    stopped = [
        axis
        for axis, values in axes.items()
        if np.ptp(values) > 0.0 and np.isclose(values, np.array(limits[axis])[:, None]).any()
    ]
    return HeadMotion(
        id=fixture.id,
        number=fixture.number,
        across=np.round(across, 2).tolist(),
        up=np.round(up, 2).tolist(),
        pan=limits["Pan"],
        tilt=limits["Tilt"],
        in_degrees=all(_physical(channels_of(fixture.mode).channels, axis) for axis in AXES),
        speed=round(speed, 1),
        stopped=stopped,
    )


def _physical(channels: Sequence[Channel], axis: str) -> bool:
    return any(one.attribute == axis and one.physical is not None for one in channels)
