"""The show compiled for rendering: arrays and tables only. Built off the frame path, never changed.

Parts are kept by the hash of their section, so that moving one slider recompiles one look.
"""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

import numpy as np
import numpy.typing as npt
import orjson

from heliograph.core.colour.ramps import Floats
from heliograph.core.hand.parking import NOTHING_PARKED, Parked, plan_parked
from heliograph.core.handles import Ground
from heliograph.core.indexes import as_slice
from heliograph.core.look.feeds import universes_from
from heliograph.core.look.levels import Driver
from heliograph.core.look.line import (
    AttributeLine,
    ChaseLine,
    ClipLine,
    FeedLine,
    Line,
    Look,
    RecolourLine,
    look_from_json,
)
from heliograph.core.look.parameter import complete
from heliograph.core.look.recolour import RECOLOUR
from heliograph.core.matrix.covering import covered, is_aligned
from heliograph.core.matrix.fitting import Fitting
from heliograph.core.playing.cues import cue_list_from_json
from heliograph.core.playing.favourites import favourite_from_json
from heliograph.core.playing.score import score_from_json
from heliograph.core.rig.arrays import Rig, build_rig, placed_cells
from heliograph.effects import EFFECTS, complete_params, effect_named
from heliograph.effects.orders import canvas_for
from heliograph.ipc.sections import Section, content_hash
from heliograph.render.chases import ChaseFrames, chase_from_section
from heliograph.render.clips import ClipFrames, frames_path
from heliograph.render.compiled_line import (
    BLOCK,
    CompiledLine,
    CompiledMatrix,
    Spread,
    drivers_on,
    linked,
    prepared_for,
    region_on,
    table_of,
)
from heliograph.render.emission import Emission, plan_emission
from heliograph.render.incoming import IncomingFrames
from heliograph.render.live import LiveFrames, live_path
from heliograph.render.setting import frames_ready, ready_for

Ints = npt.NDArray[np.int64]

PARAMETERS = {name: effect.parameters for name, effect in EFFECTS.items()}


@dataclass(frozen=True, slots=True)
class ChosenClip:
    """Frames of a clip that no stored line shows on this matrix, and what they are made of."""

    frames: ClipFrames
    content: str
    suffix: str
    width: int
    height: int
    fitting: Fitting


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
    chases: Mapping[str, ChaseFrames] = field(default_factory=dict, repr=False)
    ground: Ground = field(default_factory=Ground)
    chosen: dict[str, ChosenClip] = field(default_factory=dict, repr=False, compare=False)
    """Frames of clips that hands have chosen, by their file's name: opened as they are met."""

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
    chases = {
        section["id"]: last.chases[section["id"]] if last and same(key) else chase_from_section(section)
        for key, section in sections.items()
        if key.startswith("chase:")
    }
    show = replace(show, chases=chases)
    if last is not None:
        show = replace(show, chosen=last.chosen)
    looks = {}
    for look, section in records.items():
        kept_look = last.looks.get(look) if last and same(f"look:{look}") else None
        if kept_look is not None and all(matrices.get(one.matrix.id) is one.matrix for one in kept_look):
            looks[look] = linked([_with_frames(one, show) for one in kept_look])
        else:
            looks[look] = compile_look(show, section)
    for key, section in sections.items():
        if key.startswith("own:"):  # what scores play that is no look of anybody
            kept_look = last.looks.get(section["id"]) if last and same(key) else None
            if kept_look is None or any(matrices.get(one.matrix.id) is not one.matrix for one in kept_look):
                kept_look = compile_look(show, section)
            looks[section["id"]] = kept_look
    lines = {key: tuple(one.line for one in value) for key, value in looks.items()}
    numbered = {int(one["number"]): key for key, one in clips.items() if one.get("number")}
    lengths = {key: float(one.get("duration_s", 1.0)) for key, one in clips.items()}
    ground = Ground(
        {key: Look(key, one["name"], lines[key]) for key, one in records.items()},
        {one["id"]: one.get("name", "") for one in sections.get("groups", {"groups": []})["groups"]},
        PARAMETERS,
        records,
        numbered,
        lengths,
        {key: one.strip for key, one in chases.items()},
        {
            section["id"]: last.ground.lists[section["id"]] if last and same(key) else cue_list_from_json(section)
            for key, section in sections.items()
            if key.startswith("list:")
        },
        {
            section["id"]: last.ground.scores[section["id"]] if last and same(key) else score_from_json(section)
            for key, section in sections.items()
            if key.startswith("score:")
        },
        {
            section["id"]: favourite_from_json(section)
            for key, section in sections.items()
            if key.startswith("favourite:")
        },
    )
    return replace(show, looks=looks, lines=lines, ground=ground)


def compile_look(show: CompiledShow, section: Section) -> tuple[CompiledLine, ...]:
    """A look's lines on the show's matrices, bottom first; a line whose matrix, clip or chase is gone is left out."""
    compiled: list[CompiledLine] = []
    for line in look_from_json(section).lines:
        matrix = show.matrices.get(line.matrix)
        if matrix is None:
            continue
        region, drivers = region_on(line, matrix), drivers_on(line, matrix)
        if isinstance(line, ClipLine):
            if line.clip in show.clips:
                one = CompiledLine(line, matrix, None, {}, table_of(line), region=region, drivers=drivers)
                compiled.append(_with_frames(one, show))
            continue
        if isinstance(line, ChaseLine):
            if line.chase in show.chases:
                one = CompiledLine(line, matrix, None, {}, table_of(line), region=region, drivers=drivers)
                compiled.append(_with_frames(one, show))
            continue
        if isinstance(line, FeedLine):
            frames = _live(show, line, matrix)
            frames.try_open()
            compiled.append(
                CompiledLine(line, matrix, None, {}, table_of(line), frames, region=region, drivers=drivers)
            )
            continue
        if isinstance(line, AttributeLine):
            ready = ready_for(line, show.rig, matrix.members)
            own = {name: Driver(drive) for name, drive in line.drives.items()}
            compiled.append(CompiledLine(line, matrix, None, {}, table_of(line), drivers=own, ready=ready))
            continue
        if isinstance(line, RecolourLine):
            params = complete(RECOLOUR, line.params, "A line that recolours")
            compiled.append(CompiledLine(line, matrix, None, params, table_of(line), region=region, drivers=drivers))
            continue
        effect = effect_named(line.effect)
        params = complete_params(effect, line.params)
        prepared = prepared_for(line, effect, params, matrix)
        table = table_of(line)
        compiled.append(
            CompiledLine(line, matrix, effect, params, table, None, prepared, region=region, drivers=drivers)
        )
    return linked(compiled)


def _live(show: CompiledShow, line: FeedLine, matrix: CompiledMatrix) -> LiveFrames | IncomingFrames:
    incoming = universes_from(line.address)
    if incoming is not None:
        return IncomingFrames(show.frames, incoming, show.rig, matrix, line.lost)
    path = live_path(show.frames, line.address, matrix.width, matrix.height, line.fitting.shape)
    return LiveFrames(path, line.lost)


def with_chosen_clip(one: CompiledLine, show: CompiledShow) -> CompiledLine | None:
    """A line whose clip a hand chose, with that clip's frames; None where the show has no such clip."""
    line = one.line
    assert isinstance(line, ClipLine)
    clip = show.clips.get(line.clip)
    if clip is None:
        return None
    shape = (one.matrix.width, one.matrix.height)
    path = frames_path(show.frames, clip["content"], *shape, line.fitting.shape)
    known = show.chosen.get(path.name)
    if known is None:
        opened = ClipFrames.open(path)
        known = ChosenClip(opened, clip["content"], clip.get("suffix", ""), *shape, line.fitting)
        show.chosen[path.name] = known
    return replace(one, clip=known.frames)


def _with_frames(one: CompiledLine, show: CompiledShow) -> CompiledLine:
    line = one.line
    if isinstance(line, ChaseLine):
        chase = show.chases.get(line.chase)
        known = isinstance(one.clip, ChaseFrames) and one.clip.pictures is chase.pictures if chase else True
        if chase is None or (known and one.clip.sets == chase.sets):  # type: ignore[union-attr]
            return one
        sets = frames_ready(line, chase.sets, show.rig, one.matrix.members)
        return replace(one, clip=chase.on(one.matrix.width, one.matrix.height), frames=sets)
    if not isinstance(line, ClipLine) or line.clip not in show.clips:
        return one
    content = show.clips[line.clip]["content"]
    path = frames_path(show.frames, content, one.matrix.width, one.matrix.height, line.fitting.shape)
    if isinstance(one.clip, ClipFrames) and one.clip.path == path:
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
    members = section.get("members")
    if members is None:
        members = dict.fromkeys(section["placements"]["fixtures"])
    whole = tuple(parts)
    name = section["name"]
    return CompiledMatrix(section["id"], name, width, height, canvas, whole, square, cell, spreads, tuple(members))


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
