"""Where all heads point as they are sent, and go from now on: with every line that runs, hands, parked values."""

from __future__ import annotations

import threading
import time

import numpy as np
import numpy.typing as npt

from heliograph.core.hand.values import channels_of
from heliograph.core.look.setting import numbers_of
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.patch.places import channel_positions
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.core.rig.arrays import RigFixture
from heliograph.ipc.messages.preview import HeadMotion, MotionFound
from heliograph.power.order import set_by_lines
from heliograph.preview.moment import Moment
from heliograph.preview.motion import AXES, HEADS_MAX, head_motion, round_s, turns_heads
from heliograph.render.compiled import CompiledShow
from heliograph.render.driving import now_of
from heliograph.render.mixing import all_playing
from heliograph.render.painting import painted_lines
from heliograph.render.renderer import Renderer
from heliograph.render.resolving import Resolver
from heliograph.render.setting import told_of

STEPS = 48
ROUND_MOST_S = 30.0
"""Of slower ones so much is shown."""

Floats = npt.NDArray[np.float64]
Places = list[tuple[int, int]]


KEPT_NS = 800_000_000
"""Browsers that ask within so long of one another get one answer: at 512 universes it takes a quarter of a second."""


class Trails:
    """Works them out in the thread of whoever asks, with a renderer of its own: pictures do not wait for it."""

    def __init__(self) -> None:
        self._renderer = Renderer()
        self._lock = threading.Lock()
        self._last: tuple[CompiledShow, int, MotionFound] | None = None

    def of(self, show: CompiledShow, moment: Moment) -> MotionFound:
        now = time.monotonic_ns()
        with self._lock:
            last = self._last
            if last is None or last[0] is not show or now - last[1] > KEPT_NS:
                last = self._last = show, now, trails_of(show, moment, self._renderer)
            return last[2]


def trails_of(show: CompiledShow, moment: Moment, renderer: Renderer) -> MotionFound:
    """Of every head with an address that is no laser kept safe; each step is what the stages of power make of the
    lines then, so that what a hand holds or what is parked stands still."""
    painting = moment.painting
    resolver = Resolver()
    playing = [each for each in all_playing(resolver.stack(show, painting)) if each.level > 0.0]
    turning = [one for each in playing for one in painted_lines(each.lines) if turns_heads(one)]
    rounds = [round_s(one, painting.beat_s) for one in turning]
    seconds = min(max(rounds, default=0.0), ROUND_MOST_S) if not moment.state.freeze else 0.0
    armed = moment.state.armed
    fixtures = [one for one in show.rig.fixtures.values() if one.placed and (not one.guarded or one.id in armed)]
    heads = [(one, _axes(show, one)) for one in fixtures]
    heads = [(one, axes) for one, axes in heads if len(axes) == len(AXES)][:HEADS_MAX]
    if not heads:
        return MotionFound(heads=[], seconds=0.0, moves=False)
    stages = renderer.stages(show)
    setting = set_by_lines(stages)
    count = STEPS if seconds else 0
    found: dict[str, list[list[float]]] = {one.id: [[] for _ in AXES] for one, _ in heads}
    flat = np.empty(show.emission.dark.size, dtype=np.uint8)
    for step in range(count + 1):
        time_ns = moment.frame.show_ns + round(seconds * step / STEPS * NS_PER_S)
        later = moment.state.painting(time_ns)
        np.copyto(flat, show.emission.dark.reshape(-1))
        setting.told = told_of(resolver.stack(show, later), now_of(later), show.groups, show.rig)
        for stage in stages:
            stage.apply(flat, moment.state)
        for one, axes in heads:
            for n, places in enumerate(axes):
                found[one.id][n].append(_whole([int(flat[at]) ^ turned for at, turned in places]))
    motions = [_motion(one, found[one.id], seconds / STEPS) for one, _ in heads]
    return MotionFound(heads=motions, seconds=seconds, moves=bool(count))


def _axes(show: CompiledShow, fixture: RigFixture) -> list[Places]:
    """For each axis its bytes in the rendered universes, the coarse one first, and what inverts each."""
    mode, positions = channels_of(fixture.mode), channel_positions(fixture.placed)
    found = []
    for axis in AXES:
        number = next((n for n, part in numbers_of(mode, axis, frozenset()) if not part), 0)
        places: Places = []
        for channel in (number, mode.fine_of.get(number, 0)):
            at = _local(show, int(positions[channel - 1])) if channel else -1
            if at >= 0:
                places.append((at, 255 if mode.channels[number - 1].invert else 0))
        if places:
            found.append(places)
    return found


def _local(show: CompiledShow, position: int) -> int:
    row = np.flatnonzero(show.universes == position // SLOTS + 1)
    return int(row[0]) * SLOTS + position % SLOTS if position >= 0 and row.size else -1


def _whole(parts: list[int]) -> float:
    """0..1 of one byte or two."""
    return (parts[0] * 256 + parts[1]) / 65_535 if len(parts) > 1 else parts[0] / 255


def _motion(fixture: RigFixture, shares: list[list[float]], step_s: float) -> HeadMotion:
    mode = channels_of(fixture.mode)
    axes: dict[str, Floats] = {}
    limits: dict[str, tuple[float, float]] = {}
    for axis, share in zip(AXES, shares, strict=True):
        number = next(n for n, part in numbers_of(mode, axis, frozenset()) if not part)
        low, high = limits[axis] = mode.channels[number - 1].physical or (0.0, 255.0)
        axes[axis] = low + (high - low) * np.array(share)
    return head_motion(fixture, axes, limits, step_s)
