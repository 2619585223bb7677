"""Rows of the store as the API shows them, with what is derived: footprints, ends, conflicts, numbers spelled."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container, Iterable, Sequence
from dataclasses import asdict
from functools import lru_cache
from typing import Any

import numpy as np
import orjson

from heliograph.api import schemas
from heliograph.api.sections import mode_of, mode_of_json
from heliograph.core.errors import InputError
from heliograph.core.hand.levels import parts_of, ways_of
from heliograph.core.look.presets import rgb_of_sets, says
from heliograph.core.patch.blocks import places_of, runs_of, say_lies, say_places
from heliograph.core.patch.dmx import SLOTS, Address, address_at, spell_number
from heliograph.core.patch.places import PlacedBlock, all_positions, place_mode
from heliograph.core.patch.saying import sentences_of
from heliograph.core.profiles.attributes import EMITTERS, rank_of, word_of
from heliograph.core.profiles.cell_layout import cell_points
from heliograph.core.profiles.channel import Channel, ValueRange, fine_pairs, finest_step
from heliograph.core.profiles.profile import AFTER, Block, Mode
from heliograph.core.show.references import users_of, uses
from heliograph.store.rows import Record

PROFILE_FIELDS = ("id", "rev", "maker", "name", "kind", "guarded", "verified", "manual_name")


def profile_view(profile: Record, kept: Container[tuple[str, str]] = ()) -> Record:
    """As `ProfileView` shows it, plain. `kept`: (maker, name) of the profiles kept for other shows."""
    fields = {k: profile[k] for k in PROFILE_FIELDS}
    return {
        **fields,
        "kept": (profile["maker"], profile["name"]) in kept,
        "modes": _mode_views(orjson.dumps(profile["modes"])),
    }


@lru_cache(maxsize=1024)
def _mode_views(modes: bytes) -> list[Record]:
    return [_mode_view(mode_of_json(data)).model_dump() for data in orjson.loads(modes)]


def _mode_view(mode: Mode) -> schemas.ModeView:
    return schemas.ModeView(
        name=mode.name,
        footprint=mode.footprint,
        cells=mode.cell_count,
        runs_on=mode.runs_on,
        firmware=mode.firmware,
        emitters=list(emitters_of(mode)),
        blocks=[
            schemas.BlockView(
                name=block.name,
                shared=_channel_views(block.shared),
                cells=block.cell_count,
                each=_channel_views(block.cell_channels),
                names=list(block.cell_names),
                points=[(round(x, 4), round(y, 4)) for x, y in _points(block)],
                hides=block.hides,
                runs_on=block.runs_on,
                splits=block.splits,
                lies=AFTER if block.follows else "",
            )
            for block in mode.blocks
        ],
    )


def _points(block: Block) -> list[tuple[float, float]]:
    """Where cells sit; of plain lines nothing is sent, the browser knows them."""
    if block.layout.kind == "line":
        return []
    return [(x, y) for x, y in cell_points(block.layout, block.cell_count).tolist()]


def _channel_views(channels: Sequence[Channel]) -> list[schemas.ChannelView]:
    pairs = fine_pairs(channels)
    return [
        schemas.ChannelView(
            attribute=c.attribute,
            label=c.label,
            fine=pairs.get(n, -1),
            is_fine=c.fine,
            step=finest_step(c, n in pairs),
            emitter=EMITTERS.get(c.attribute, ""),
            physical=c.physical,
            ranges=[_range(asdict(one), c.invert) for one in c.ranges],
            ways=_ways(c, n in pairs),
            parts=[
                schemas.PartView(
                    attribute=one.attribute,
                    label=one.name or one.attribute,
                    step=1 / (one.last - one.first),
                    ways=_ways(c, False, one),
                )
                for one in parts_of(c)
            ],
        )
        for n, c in enumerate(channels)
    ]


def _range(data: Record, inverted: bool) -> schemas.RangeView:
    """A range with its values on the wire, where an inverted channel carries 255 less."""
    first, last = data["first"], data["last"]
    low, high = (255 - last, 255 - first) if inverted else (first, last)
    return schemas.RangeView(**data, low=low, high=high, value=high if inverted else low)


def _ways(channel: Channel, wide: bool, part: ValueRange | None = None) -> list[tuple[int, int, float, float]]:
    return [(one.first, one.last, one.low, one.high) for one in ways_of(channel, wide, part)]


class _Identity:
    """A mode as a key of a cache: the same object, not an equal one; comparing whole modes costs more than it saves."""

    __slots__ = ("mode",)

    def __init__(self, mode: Mode) -> None:
        self.mode = mode

    def __hash__(self) -> int:
        return id(self.mode)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Identity) and other.mode is self.mode


def placed_fixture(mode: Mode, fixture: Record) -> tuple[PlacedBlock, ...]:
    """Where a fixture lies; nothing for one that is unpatched or no longer fits."""
    return _placed(_Identity(mode), fixture["universe"], fixture["channel"], orjson.dumps(fixture["blocks"]))


@lru_cache(maxsize=50_000)
def _placed(mode: _Identity, universe: int | None, channel: int | None, blocks: bytes) -> tuple[PlacedBlock, ...]:
    address = Address(universe, channel) if universe and channel else None
    try:
        placed = place_mode(mode.mode, address, places_of(mode.mode, orjson.loads(blocks)))
    except InputError:
        return ()
    return placed if any(one.is_placed for one in placed) else ()


class Modes:
    """The modes of a show, each built once however many fixtures use it."""

    def __init__(self, profiles: list[Record]) -> None:
        self._profiles = {profile["id"]: profile for profile in profiles}
        self._known: dict[tuple[str, str], Mode | None] = {}
        self._emitters: dict[int, tuple[str, ...]] = {}

    def of(self, fixture: Record) -> Mode | None:
        """None where the mode is gone."""
        key = (fixture["profile"], fixture["mode"])
        if key not in self._known:
            profile = self._profiles.get(key[0])
            data = mode_of(profile, key[1]) if profile else None
            self._known[key] = mode_of_json(data) if data else None
        return self._known[key]

    def emitters(self, mode: Mode) -> tuple[str, ...]:
        """The words for the emitters of a mode's cells."""
        if id(mode) not in self._emitters:
            self._emitters[id(mode)] = emitters_of(mode)
        return self._emitters[id(mode)]


def fixture_views(profiles: list[Record], fixtures: list[Record]) -> list[Record]:
    """All fixtures as `FixtureView` shows them, plain; those that share channels name each other."""
    modes = Modes(profiles)
    views = []
    covered = []
    for fixture in fixtures:
        mode = modes.of(fixture)
        view: Record = {**fixture, "conflict": []}
        del view["universe"], view["channel"]
        if mode is None:
            address = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else ""
            nothing: Record = {"address": str(address), "end": "", "spans": [], "blocks": [], "emitters": []}
            view |= {"footprint": 0, "cells": 0, **nothing}
            positions = np.empty(0, dtype=np.int64)
        else:
            place = orjson.dumps(fixture["blocks"])
            derived, positions = _derived(_Identity(mode), fixture["universe"], fixture["channel"], place)
            view |= derived
            view["emitters"] = modes.emitters(mode)
        views.append(view)
        covered.append(positions)
    _mark_conflicts(views, covered)
    return views


def covered_by(profiles: list[Record], fixtures: list[Record]) -> np.ndarray[Any, Any]:
    """(n,) every position that fixtures cover, some twice where they overlap. What was known of a place is not
    worked out again."""
    modes = Modes(profiles)
    covered = [np.empty(0, dtype=np.int64)]
    for fixture in fixtures:
        mode = modes.of(fixture)
        if mode is not None:
            place = orjson.dumps(fixture["blocks"])
            covered.append(_derived(_Identity(mode), fixture["universe"], fixture["channel"], place)[1])
    return np.concatenate(covered)


def spread_of(profiles: list[Record], fixtures: list[Record]) -> list[tuple[int, list[tuple[int, int, int]]]]:
    """The number of each fixture and its spans, as (universe, first channel, last channel)."""
    modes = Modes(profiles)
    found = []
    for fixture in fixtures:
        mode = modes.of(fixture)
        if mode is not None:
            place = orjson.dumps(fixture["blocks"])
            derived, _ = _derived(_Identity(mode), fixture["universe"], fixture["channel"], place)
            found.append((fixture["number"], derived["spans"]))
    return found


@lru_cache(maxsize=50_000)
def _derived(
    mode: _Identity, universe: int | None, channel: int | None, blocks: bytes
) -> tuple[Record, np.ndarray[Any, Any]]:
    """What of a fixture follows from its mode and place alone; and the positions it covers."""
    fixture = {"universe": universe, "channel": channel, "blocks": orjson.loads(blocks)}
    placed = placed_fixture(mode.mode, fixture)
    positions = all_positions(placed)
    return {
        "footprint": mode.mode.footprint,
        "cells": mode.mode.cell_count,
        "address": str(Address(universe, channel)) if universe and channel else "",
        "end": end_of(mode.mode, placed, fixture),
        "spans": _spans(placed),
        "lies": say_places(mode.mode, places_of(mode.mode, fixture["blocks"])),
        "blocks": _block_places(mode.mode, placed, fixture),
    }, positions


def _block_places(mode: Mode, placed: tuple[PlacedBlock, ...], fixture: Record) -> list[Record]:
    places = places_of(mode, fixture["blocks"])
    views = []
    for index, (block, place) in enumerate(zip(mode.blocks, places, strict=True)):
        one = placed[index] if placed and placed[index].is_placed else None
        views.append(
            {
                "name": block.name,
                "lies": say_lies(mode, places, index),
                "apart": place.address is not None,
                "address": str(address_at(one.first)) if one else "",
                "spans": _spans([one]) if one else [],
                "footprint": block.footprint,
                "shared": len(block.shared),
                "cells": block.cell_count,
                "size": len(block.cell_channels),
                "splits": block.splits,
                "runs": cell_runs(one) if one else [],
            }
        )
    return views


def cell_runs(placed: PlacedBlock) -> list[Record]:
    """Where the cells of a block begin: a new run wherever one does not follow the one before."""
    if not placed.cells.size:
        return []
    firsts = placed.cells[:, 0]
    begins = [0, *(np.flatnonzero(np.diff(firsts) != placed.cells.shape[1]) + 1).tolist()]
    ends = [*begins[1:], len(firsts)]
    return [
        {"cell": begin + 1, "count": end - begin, "position": int(firsts[begin])}
        for begin, end in zip(begins, ends, strict=True)
    ]


def end_of(mode: Mode, placed: tuple[PlacedBlock, ...], fixture: Record) -> str:
    """The last channel of what lies at the fixture's own address, "" where nothing does."""
    run = runs_of(mode, places_of(mode, fixture["blocks"]))[0]
    ends = [placed[index].end for index in run if placed and placed[index].is_placed]
    return str(address_at(max(ends) - 1)) if ends else ""


def emitters_of(mode: Mode) -> tuple[str, ...]:
    """The words for the emitters of its cells, each once."""
    found = [c.label for block in mode.blocks for c in block.cell_channels if c.is_emitter and not c.fine]
    return tuple(dict.fromkeys(found))


def _spans(placed: Iterable[PlacedBlock]) -> list[tuple[int, int, int]]:
    """(universe, first channel, last channel) of what is covered."""
    covered: dict[int, tuple[int, int]] = {}
    for one in placed:
        if not one.is_placed:
            continue
        first, last = one.first, one.end - 1
        for universe in range(first // SLOTS, last // SLOTS + 1):
            begin, end = max(first, universe * SLOTS), min(last, universe * SLOTS + SLOTS - 1)
            if one.block.runs_on and end < last:  # channels at the end that would split a cell stay empty
                inside = one.positions[one.positions < (universe + 1) * SLOTS]
                end = int(inside[-1])
            low, high = covered.get(universe, (begin, end))
            covered[universe] = (min(low, begin), max(high, end))
    return [(u + 1, low % SLOTS + 1, high % SLOTS + 1) for u, (low, high) in sorted(covered.items())]


def _mark_conflicts(views: list[Record], covered: list[np.ndarray[Any, Any]]) -> None:
    if not views:
        return
    everything = np.concatenate(covered)
    if not everything.size or np.bincount(everything).max() < 2:  # the usual case costs next to nothing
        return
    owner = np.repeat(np.arange(len(views)), [part.size for part in covered])
    order = np.argsort(everything, kind="stable")
    same = np.flatnonzero(np.diff(everything[order]) == 0)
    pairs = np.unique(np.stack([owner[order[same]], owner[order[same + 1]]], axis=1), axis=0)
    meets: dict[int, set[int]] = defaultdict(set)
    for a, b in pairs.tolist():
        if a != b:
            meets[a].add(views[b]["number"])
            meets[b].add(views[a]["number"])
    for index, others in meets.items():
        views[index]["conflict"] = sorted(others)


def output_view(output: Record) -> schemas.OutputView:
    first, last = output["first_number"], output["first_number"] + output["count"] - 1
    return schemas.OutputView(
        **output,
        spelled_first=spell_number(output["protocol"], first),
        spelled_last=spell_number(output["protocol"], last),
        sentences=sentences_of(output),
    )


def clip_view(clip: Record, looks: list[Record], number: int) -> schemas.ClipView:
    fields = {k: clip[k] for k in ("id", "rev", "name", "kind", "content", "width", "height", "frames", "bytes")}
    used = [look["name"] for _, look in users_of({"look": looks}, "clip", clip["id"])]
    seconds = clip["duration_ns"] / 1e9
    rate = clip["frames"] / seconds if clip["frames"] > 1 else 0.0
    return schemas.ClipView(**fields, number=number, duration_s=seconds, rate=rate, used_by=used)


def preset_view(preset: Record, looks: list[Record]) -> schemas.PresetView:
    fields = {k: preset[k] for k in ("id", "rev", "name", "folder", "kind", "sets")}
    return schemas.PresetView(
        **fields,
        words={one: word_of(one) for one in sorted(preset["sets"], key=rank_of)},
        fixtures=list(preset["kept"]),
        says=says(preset["sets"], preset["kept"]),
        rgb=rgb_of_sets(preset["sets"]) if preset["kind"] == "colour" else None,
        used_by=[look["name"] for _, look in users_of({"look": looks}, "preset", preset["id"])],
    )


def ramp_view(ramp: Record, looks: list[Record]) -> schemas.RampView:
    return schemas.RampView(**ramp, used_by=uses({"look": looks}, "ramp", ramp["id"]))
