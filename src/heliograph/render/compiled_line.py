"""One line ready to paint on one matrix, and the line it is painted through."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TYPE_CHECKING, Any

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Floats, ramp_table, rolled
from heliograph.core.indexes import Index
from heliograph.core.look.any_line import SPEED
from heliograph.core.look.drive import Drive
from heliograph.core.look.emitters import EMITTER_WORDS
from heliograph.core.look.levels import Driver
from heliograph.core.look.line import PARAMS, AttributeLine, EffectLine, Line, RecolourLine
from heliograph.core.look.orders import DISTANCE
from heliograph.core.look.parameter import complete
from heliograph.core.look.recolour import RECOLOUR
from heliograph.effects import Canvas, Effect, complete_params, effect_named
from heliograph.effects.telling import tells
from heliograph.render.chases import ChaseFrames
from heliograph.render.clips import ClipFrames
from heliograph.render.live import LiveFrames

if TYPE_CHECKING:
    from heliograph.render.incoming import IncomingFrames
    from heliograph.render.setting import Ready

Ints = npt.NDArray[np.int64]
Places = npt.NDArray[np.intp]

BLOCK = 8192
"""Cells painted at once: a block's float32 RGB and scratch stay in the second-level cache (measured)."""


@dataclass(frozen=True, slots=True)
class Spread:
    """Cells (k,) that are placed freely: the stretch of the canvas that holds the squares they cover, cell after cell
    from `starts` (k,) on, and the `weight` (n,) of each square in its cell."""

    part: slice
    cells: Ints
    starts: Ints
    weight: Floats


@dataclass(frozen=True, slots=True)
class CompiledMatrix:
    """A matrix's canvas, and for each block the stretch of the canvas and the cells it paints.

    `square`, `cell` (n,): of each point of the canvas, its square (row-major) and the rig's cell it belongs to.
    `members`: whose attributes a line over it sets: ids of fixtures, or "<id>:<cell>" where only cells are meant.
    """

    id: str
    name: str
    width: int
    height: int
    canvas: Canvas
    parts: tuple[tuple[slice, Index], ...]
    square: Ints
    cell: Ints
    spreads: tuple[Spread, ...] = ()
    members: tuple[str, ...] = ()


@dataclass(frozen=True)
class CompiledLine:
    """One line ready to paint. `effect`, with what it `prepared` for this canvas, is None for a clip and for what
    recolours. `mask`: the line it is painted through, on this canvas, made from `mask_from`; `region` (n,): 1 where it
    keeps to, None for everywhere. `drivers`: its drives, made ready for the canvas. `steps` (n,): by how many steps
    each point's place on the ramp is shifted. `steady_ns`: of a live picture, the moment of the steady clock it is
    shown of. `shown`: the size of its pictures, None where it is that of its matrix. `driven_opacity`,
    `driven_cycle`: where a drive has put them, None where none does. `ready`: of one that sets attributes;
    `frames`: what each frame of a chase sets of them, () where none does."""

    line: Line
    matrix: CompiledMatrix
    effect: Effect | None
    params: Mapping[str, Any]
    table: Floats
    clip: ClipFrames | LiveFrames | IncomingFrames | ChaseFrames | None = None
    prepared: Any = field(default=None, repr=False, compare=False)
    mask: CompiledLine | None = field(default=None, repr=False, compare=False)
    mask_from: CompiledLine | None = field(default=None, repr=False, compare=False)
    region: Floats | None = field(default=None, repr=False, compare=False)
    drivers: Mapping[str, Driver] = field(default_factory=dict, repr=False, compare=False)
    steps: Places | None = field(default=None, repr=False, compare=False)
    steady_ns: int = field(default=0, repr=False, compare=False)
    shown: tuple[int, int] | None = field(default=None, repr=False, compare=False)
    driven_opacity: float | None = field(default=None, repr=False, compare=False)
    driven_cycle: float | None = field(default=None, repr=False, compare=False)
    ready: Ready | None = field(default=None, repr=False, compare=False)
    frames: tuple[Ready | None, ...] = field(default=(), repr=False, compare=False)

    @property
    def plane(self) -> int | None:
        """The one emitter it is painted over; None where it paints colours."""
        return EMITTER_WORDS[self.line.emitter] if self.line.emitter else None

    @property
    def opacity(self) -> float:
        return self.line.opacity if self.driven_opacity is None else self.driven_opacity

    @property
    def cycle(self) -> float | None:
        """Where in its cycle it stands, None where time moves it."""
        return self.line.cycle if self.driven_cycle is None else self.driven_cycle

    @cached_property
    def moving(self) -> tuple[tuple[str, str, Driver], ...]:
        """What drives move in each frame: the parameter, "" for what else a line has, the drive's name, and it. A speed
        is driven in the phase itself, attributes where they are set; what a hand holds, nothing drives."""
        drives = self.line.drives
        return tuple(
            (name.removeprefix(PARAMS) if name.startswith(PARAMS) else "", name, driver)
            for name, driver in self.drivers.items()
            if name != SPEED
            and name in drives
            and not driver.arrives
            and not (self.ready is not None and name.startswith(PARAMS))
        )

    @cached_property
    def by_cycle(self) -> bool:
        """Whether a drive of it runs by its place in its cycle."""
        return any(driver.drive.source == "curve" and driver.drive.by == "cycle" for driver in self.drivers.values())

    def changed(self, **fields: Any) -> CompiledLine:
        """The line with other fields: as `dataclasses.replace`, at a third of its cost, which counts where hundreds of
        lines are driven in each frame."""
        made = object.__new__(CompiledLine)
        made.__dict__.update(self.__dict__, **fields)
        return made

    @property
    def tells(self) -> tuple[str, ...]:
        """Texts of its parameters that change with the time of day."""
        if self.effect is None or not self.effect.texts:
            return ()
        return tuple(name for name in self.effect.texts if tells(str(self.params[name])))

    def on(self, matrix: CompiledMatrix) -> CompiledLine:
        """The same line painted on another canvas. What shows pictures keeps those of its own matrix, laid over it."""
        shown = self.shown or (self.matrix.width, self.matrix.height)
        if self.clip is not None and shown != (matrix.width, matrix.height):
            matrix = replace(matrix, square=_squares_of(shown, matrix.canvas))
        return replace(
            self,
            matrix=matrix,
            shown=shown,
            prepared=prepared_for(self.line, self.effect, self.params, matrix),
            mask=None if self.mask is None else self.mask.on(matrix),
            region=region_on(self.line, matrix),
            drivers=drivers_on(self.line, matrix),
        )

    def moved(self, line: Line) -> CompiledLine:
        """The line with other values, or another effect, on the same matrix; what hangs on none of them is kept."""
        params, prepared, effect = self.params, self.prepared, self.effect
        if effect is not None and isinstance(line, EffectLine):
            another = line.effect != effect.name
            effect = effect_named(line.effect) if another else effect
            known = {parameter.name for parameter in effect.parameters}
            begun = effect.begins if another else {}
            params = complete_params(effect, {**begun, **{k: v for k, v in line.params.items() if k in known}})
            if another or effect.choices(params) != effect.choices(self.params):
                prepared = prepared_for(line, effect, params, self.matrix)
        elif isinstance(line, RecolourLine):
            params = complete(RECOLOUR, line.params, "A line that recolours")
        elif isinstance(line, AttributeLine):
            return replace(self, line=line, ready=None if self.ready is None else self.ready.again(line))
        return replace(self, line=line, effect=effect, params=params, table=table_of(line), prepared=prepared)


def table_of(line: Line) -> Floats:
    """The line's ramp, shifted to its place."""
    return rolled(ramp_table(line.ramp), line.shift)


def drivers_on(line: Line, matrix: CompiledMatrix) -> dict[str, Driver]:
    """What drives the line's numbers, made ready for the cells of a canvas."""
    return {
        name: Driver(drive, _along(drive, matrix.canvas) if drive.over else None) for name, drive in line.drives.items()
    }


def _along(drive: Drive, canvas: Canvas) -> Floats:
    """(n,) how far through the cells each point of the canvas stands, 0 to 1."""
    if drive.over == DISTANCE:
        across = canvas.x - np.float32(drive.x * canvas.width)
        far: Floats = np.hypot(across, canvas.y - np.float32(drive.y * canvas.height)).astype(np.float32)
        return far / np.float32(max(float(far.max(initial=0.0)), 1e-3))
    rank, steps, _ = canvas.orders[drive.over]
    return rank / np.float32(max(steps - 1, 1))


def _squares_of(size: tuple[int, int], canvas: Canvas) -> Ints:
    """(n,) the square of a picture of that size on which each point of a canvas lies, the picture over all of it."""
    across, down = size
    x = np.clip(canvas.x * np.float32(across / canvas.width), 0, across - 1).astype(np.int64)
    y = np.clip(canvas.y * np.float32(down / canvas.height), 0, down - 1).astype(np.int64)
    squares: Ints = y * across + x
    return squares


def region_on(line: Line, matrix: CompiledMatrix) -> Floats | None:
    return None if line.region is None else line.region.holds(matrix.canvas.x, matrix.canvas.y)


def prepared_for(line: Line, effect: Effect | None, params: Mapping[str, Any], matrix: CompiledMatrix) -> Any:
    if effect is None or not isinstance(line, EffectLine):
        return None
    return effect.prepare(matrix.canvas, effect.choices(params), line.seed)


def linked(lines: Sequence[CompiledLine], among: Mapping[str, CompiledLine] | None = None) -> tuple[CompiledLine, ...]:
    """Lines of a look, each with the line it is painted through on its own canvas; those that were linked so before
    are themselves. `among`: the lines by id, where they are others than these."""
    by_id = {one.line.id: one for one in lines} if among is None else among
    return tuple(_linked(one, by_id) for one in lines)


def _linked(one: CompiledLine, by_id: Mapping[str, CompiledLine]) -> CompiledLine:
    through = one.line.through
    source = by_id.get(through.line) if through is not None else None
    if source is None:
        return one if one.mask is None else replace(one, mask=None, mask_from=None)
    if one.mask_from is source:
        return one
    plain = source if source.mask is None else replace(source, mask=None, mask_from=None)
    mask = plain if plain.matrix is one.matrix else plain.on(one.matrix)
    return replace(one, mask=mask, mask_from=source)
