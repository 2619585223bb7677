"""The show compiled for rendering: arrays and tables only. Built off the frame path, never changed.

Parts are kept by the hash of their section, so that moving one slider recompiles one look.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt
import orjson

from heliograph.core.colour.ramps import Floats, ramp_table
from heliograph.core.hand.parking import NOTHING_PARKED, Parked, plan_parked
from heliograph.core.handles import Ground
from heliograph.core.indexes import Index, as_slice
from heliograph.core.look.line import ClipLine, EffectLine, Line, Look, look_from_json
from heliograph.core.matrix.covering import covered, is_aligned
from heliograph.core.rig.arrays import Rig, build_rig, placed_cells
from heliograph.effects import EFFECTS, Canvas, Effect, complete_params, effect_named
from heliograph.effects.orders import canvas_for
from heliograph.ipc.sections import Section, content_hash
from heliograph.render.clips import ClipFrames, frames_path
from heliograph.render.emission import Emission, plan_emission

Ints = npt.NDArray[np.int64]

PARAMETERS = {name: effect.parameters for name, effect in EFFECTS.items()}

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


@dataclass(frozen=True, slots=True)
class CompiledLine:
    """One line ready to paint. `effect`, with what it `prepared` for this canvas, is None for a clip."""

    line: Line
    matrix: CompiledMatrix
    effect: Effect | None
    params: Mapping[str, Any]
    table: Floats
    clip: ClipFrames | None = None
    prepared: Any = field(default=None, repr=False, compare=False)

    def on(self, matrix: CompiledMatrix) -> CompiledLine:
        """The same line painted on another canvas."""
        return replace(self, matrix=matrix, prepared=_prepared(self.line, self.effect, self.params, matrix))

    def moved(self, line: Line) -> CompiledLine:
        """The line with other values, of the same kind and on the same matrix; what hangs on none of them is kept."""
        params, prepared = self.params, self.prepared
        if self.effect is not None and isinstance(line, EffectLine):
            known = {parameter.name for parameter in self.effect.parameters}
            params = complete_params(self.effect, {k: v for k, v in line.params.items() if k in known})
            if self.effect.choices(params) != self.effect.choices(self.params):
                prepared = _prepared(line, self.effect, params, self.matrix)
        return replace(self, line=line, params=params, table=ramp_table(line.ramp), prepared=prepared)


@dataclass(frozen=True, slots=True)
class CompiledShow:
    """`groups`: id -> places of its fixtures in the rig. `tag` (63 bits) is the same wherever the same show was
    compiled, so that pictures of one show are never taken for another's. `records`: looks as they are stored; `clips`:
    those of the show, whose pictures lie in `frames`. `ground`: what its handles
    are made from."""

    rig: Rig
    emission: Emission
    matrices: Mapping[str, CompiledMatrix]
    looks: Mapping[str, tuple[CompiledLine, ...]]
    lines: Mapping[str, tuple[Line, ...]]
    outputs: tuple[Section, ...]
    groups: Mapping[str, Ints] = field(default_factory=dict)
    hashes: Mapping[str, str] = field(default_factory=dict)
    tag: int = 0
    parked: Parked = NOTHING_PARKED
    records: Mapping[str, Section] = field(default_factory=dict)
    clips: Mapping[str, Section] = field(default_factory=dict)
    frames: Path = Path("/nonexistent")
    ground: Ground = field(default_factory=Ground)

    @property
    def universes(self) -> Ints:
        return self.emission.universes


def empty_show() -> CompiledShow:
    return compile_show({}, Path("/nonexistent"))


def compile_show(
    sections: Mapping[str, Section],
    frames: Path,
    last: CompiledShow | None = None,
    known: Mapping[str, str] | None = None,
) -> CompiledShow:
    """Compiles sections, taking over from `last` whatever did not change. `frames`: folder of decoded clips. `known`:
    hashes of sections that need not be worked out again."""
    hashes = {key: known[key] if known and key in known else content_hash(section) for key, section in sections.items()}
    old = last.hashes if last else {}

    def same(*keys: str) -> bool:
        return last is not None and all(hashes.get(key) == old.get(key) for key in keys)

    rig = last.rig if last and same("rig") else build_rig(sections.get("rig", {"modes": {}, "fixtures": []}))
    outputs = tuple(sections.get("outputs", {"outputs": []})["outputs"])
    emission = last.emission if last and same("rig", "outputs") else plan_emission(rig, outputs)
    matrices = {}
    for key, section in sections.items():
        if key.startswith("matrix:"):
            name = section["id"]
            kept = last.matrices.get(name) if last and same("rig", key) else None
            matrices[name] = kept or _matrix(rig, section)
    clips = {section["id"]: section for key, section in sections.items() if key.startswith("clip:")}
    digest = hashlib.blake2b(orjson.dumps(hashes, option=orjson.OPT_SORT_KEYS), digest_size=8).digest()
    tag = int.from_bytes(digest, "little") >> 1
    groups = (
        last.groups
        if last and same("rig", "groups")
        else _groups(rig, sections.get("groups", {"groups": []})["groups"])
    )
    parked = last.parked if last and same("parked") else plan_parked(sections.get("parked", {"parked": []})["parked"])
    records = {section["id"]: section for key, section in sections.items() if key.startswith("look:")}
    show = CompiledShow(rig, emission, matrices, {}, {}, outputs, groups, hashes, tag, parked, records, clips, frames)
    looks = {}
    for look, section in records.items():
        kept_look = last.looks.get(look) if last and same(f"look:{look}") else None
        if kept_look is not None and all(matrices.get(one.matrix.id) is one.matrix for one in kept_look):
            looks[look] = tuple(_with_frames(one, show) for one in kept_look)
        else:
            looks[look] = compile_look(show, section)
    lines = {key: tuple(one.line for one in value) for key, value in looks.items()}
    ground = Ground(
        {key: Look(key, records[key]["name"], value) for key, value in lines.items()},
        {one["id"]: one.get("name", "") for one in sections.get("groups", {"groups": []})["groups"]},
        PARAMETERS,
        records,
    )
    return replace(show, looks=looks, lines=lines, ground=ground)


def compile_look(show: CompiledShow, section: Section) -> tuple[CompiledLine, ...]:
    """A look's lines on the show's matrices, bottom first; a line whose matrix or clip is gone is left out."""
    compiled = []
    for line in look_from_json(section).lines:
        matrix = show.matrices.get(line.matrix)
        if matrix is None:
            continue
        if isinstance(line, ClipLine):
            if line.clip in show.clips:
                compiled.append(_with_frames(CompiledLine(line, matrix, None, {}, ramp_table(line.ramp)), show))
            continue
        effect = effect_named(line.effect)
        params = complete_params(effect, line.params)
        prepared = _prepared(line, effect, params, matrix)
        compiled.append(CompiledLine(line, matrix, effect, params, ramp_table(line.ramp), None, prepared))
    return tuple(compiled)


def _prepared(line: Line, effect: Effect | None, params: Mapping[str, Any], matrix: CompiledMatrix) -> Any:
    if effect is None or not isinstance(line, EffectLine):
        return None
    return effect.prepare(matrix.canvas, effect.choices(params), line.seed)


def _with_frames(one: CompiledLine, show: CompiledShow) -> CompiledLine:
    line = one.line
    if not isinstance(line, ClipLine) or line.clip not in show.clips:
        return one
    content = show.clips[line.clip]["content"]
    path = frames_path(show.frames, content, one.matrix.width, one.matrix.height, line.fitting.shape)
    if one.clip is not None and one.clip.path == path:
        return one
    return replace(one, clip=ClipFrames.open(path))


def _matrix(rig: Rig, section: Section) -> CompiledMatrix:
    """The canvas holds a point for each cell, in address order, then one for each square that a freely placed cell
    covers. All cells are painted as if each stood on one square, so that they stay a run without holes: with half a
    percent taken out of it 512 universes took 14 ms a frame instead of 4. The free ones are painted anew after that.
    """
    cells = placed_cells(rig, section["placements"])
    width, height = int(section["width"]), int(section["height"])
    over = covered(cells, width, height)
    free = ~is_aligned(cells)[over.owner]
    count = cells.cell.size
    main = np.zeros(count, dtype=np.int64)
    by_weight = np.argsort(over.weight, kind="stable")
    main[over.owner[by_weight]] = over.square[by_weight]  # a free cell's own point: the square it covers most
    owner = np.concatenate([np.arange(count, dtype=np.int64), over.owner[free]])
    square = np.concatenate([main, over.square[free]])
    half = np.float32(0.5)
    x, y = (square % width).astype(np.float32) + half, (square // width).astype(np.float32) + half
    canvas = canvas_for(x, y, width, height, owner if free.any() else None)
    cell = cells.cell[owner]
    parts = []
    for start in range(0, count, BLOCK):
        part = slice(start, min(start + BLOCK, count))
        parts.append((part, as_slice(cell[part])))
    weight = np.concatenate([np.ones(count, dtype=np.float32), over.weight[free]])
    spreads = _spreads(owner, cell, weight, count)
    return CompiledMatrix(section["id"], section["name"], width, height, canvas, tuple(parts), square, cell, spreads)


def _spreads(owner: Ints, cell: Ints, weight: Floats, first: int) -> tuple[Spread, ...]:
    """The points from `first` on in stretches of about a block, none of which parts a cell."""
    begins = first + np.flatnonzero(np.diff(owner[first:], prepend=-1))
    found = []
    at = 0
    while at < begins.size:
        past = int(np.searchsorted(begins, begins[at] + BLOCK, side="left"))
        past = max(past, at + 1)
        end = int(begins[past]) if past < begins.size else owner.size
        part = slice(int(begins[at]), end)
        starts = begins[at:past] - part.start
        found.append(Spread(part, cell[begins[at:past]], starts, weight[part]))
        at = past
    return tuple(found)


def _groups(rig: Rig, groups: list[Section]) -> dict[str, Ints]:
    place = {name: index for index, name in enumerate(rig.fixtures)}
    return {
        group["id"]: np.array([place[one] for one in group["fixtures"] if one in place], dtype=np.int64)
        for group in groups
    }
