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
from heliograph.core.indexes import Index, as_slice
from heliograph.core.look.line import Line, look_from_json
from heliograph.core.matrix.covering import covered, is_aligned
from heliograph.core.rig.arrays import Rig, build_rig, placed_cells
from heliograph.effects import Canvas, Effect, complete_params, effect_named
from heliograph.effects.orders import canvas_for
from heliograph.ipc.sections import Section, content_hash
from heliograph.render.clips import ClipFrames, frames_path
from heliograph.render.emission import Emission, plan_emission

Ints = npt.NDArray[np.int64]

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
    """One line ready to paint. `effect` is None for a clip."""

    line: Line
    matrix: CompiledMatrix
    effect: Effect | None
    params: Mapping[str, Any]
    table: Floats
    clip: ClipFrames | None = None


@dataclass(frozen=True, slots=True)
class CompiledShow:
    """`groups`: id -> places of its fixtures in the rig. `tag` (63 bits) is the same wherever the same show
    with the same gestures was compiled, so that pictures of one show are never taken for another's."""

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
    hashes that need not be worked out again, of sections that no gesture moves."""
    hashes = {
        key: known[key] if known and key in known and not key.startswith("look:") else content_hash(section)
        for key, section in sections.items()
    }
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
    show = CompiledShow(rig, emission, matrices, {}, {}, outputs, groups, hashes, tag, parked)
    looks = {}
    for key, section in sections.items():
        if not key.startswith("look:"):
            continue
        kept_look = last.looks.get(section["id"]) if last and same(key) else None
        if kept_look is not None and all(matrices.get(one.matrix.id) is one.matrix for one in kept_look):
            looks[section["id"]] = tuple(_with_frames(one, clips, frames) for one in kept_look)
        else:
            looks[section["id"]] = compile_look(show, section, clips, frames)
    return replace(show, looks=looks, lines={key: tuple(c.line for c in value) for key, value in looks.items()})


def compile_look(
    show: CompiledShow, section: Section, clips: Mapping[str, Section], frames: Path
) -> tuple[CompiledLine, ...]:
    """A look's lines, bottom first; a line whose matrix or clip is gone is left out."""
    compiled = []
    for line in look_from_json(section).lines:
        matrix = show.matrices.get(line.matrix)
        if matrix is None:
            continue
        if line.paints == "clip":
            if line.clip in clips:
                one = CompiledLine(line, matrix, None, {}, ramp_table(line.ramp))
                compiled.append(_with_frames(one, clips, frames))
            continue
        effect = effect_named(line.effect)
        params = complete_params(effect, line.params)
        compiled.append(CompiledLine(line, matrix, effect, params, ramp_table(line.ramp)))
    return tuple(compiled)


def _with_frames(one: CompiledLine, clips: Mapping[str, Section], frames: Path) -> CompiledLine:
    if one.line.paints != "clip" or one.line.clip not in clips:
        return one
    content = clips[one.line.clip]["content"]
    path = frames_path(frames, content, one.matrix.width, one.matrix.height, one.line.fitting.shape)
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
