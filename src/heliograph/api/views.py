"""Rows of the store as the API shows them, with what is derived: footprints, ends, conflicts, numbers spelled."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

import numpy as np

from heliograph.api import schemas
from heliograph.api.sections import mode_of
from heliograph.core.dmx import SLOTS, Address, address_at, spell_number
from heliograph.core.errors import InputError
from heliograph.core.patch import PlacedBlock, all_positions, place_mode
from heliograph.core.profile import EMITTERS, Mode, mode_from_json
from heliograph.store.rows import Record

FIXTURE_FIELDS = ("id", "rev", "number", "name", "profile", "mode", "extra", "response")


def profile_view(profile: Record) -> schemas.ProfileView:
    modes = []
    for data in profile["modes"]:
        mode = mode_from_json(data)
        modes.append(
            schemas.ModeView(
                name=mode.name,
                footprint=mode.footprint,
                cells=mode.cell_count,
                runs_on=mode.runs_on,
                blocks=[
                    schemas.BlockView(
                        name=block.name,
                        shared=[channel.label for channel in block.shared],
                        cells=block.cell_count,
                        each=[channel.label for channel in block.cell_channels],
                    )
                    for block in mode.blocks
                ],
            )
        )
    fields = {k: profile[k] for k in ("id", "rev", "maker", "name", "kind", "guarded")}
    return schemas.ProfileView(**fields, modes=modes)


def placed_fixture(mode: Mode, fixture: Record) -> tuple[PlacedBlock, ...]:
    """Where a fixture lies; nothing for one that is unpatched or no longer fits."""
    if fixture["universe"] is None:
        return ()
    try:
        return place_mode(mode, Address(fixture["universe"], fixture["channel"]))
    except InputError:
        return ()


def fixture_views(profiles: list[Record], fixtures: list[Record]) -> list[schemas.FixtureView]:
    """All fixtures; those that share channels name each other."""
    by_id = {profile["id"]: profile for profile in profiles}
    parsed: dict[tuple[str, str], Mode | None] = {}
    views = []
    covered = []
    for fixture in fixtures:
        key = (fixture["profile"], fixture["mode"])
        if key not in parsed:
            data = mode_of(by_id[key[0]], key[1]) if key[0] in by_id else None
            parsed[key] = mode_from_json(data) if data else None
        mode = parsed[key]
        placed = placed_fixture(mode, fixture) if mode else ()
        positions = all_positions(placed) if placed else np.empty(0, dtype=np.int64)
        address = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
        views.append(
            schemas.FixtureView(
                **{k: fixture[k] for k in FIXTURE_FIELDS},
                footprint=mode.footprint if mode else 0,
                cells=mode.cell_count if mode else 0,
                address=str(address or ""),
                end=str(address_at(int(positions.max()))) if positions.size else "",
                spans=_spans(positions),
                conflict=[],
                emitters=_emitters(mode) if mode else [],
                cell_offset=_cell_offset(mode) if mode else 0,
                cell_size=max((len(b.cell_channels) for b in mode.blocks if b.cell_count), default=0) if mode else 0,
            )
        )
        covered.append(positions)
    _mark_conflicts(views, covered)
    return views


def _emitters(mode: Mode) -> list[str]:
    """The words for the emitters of its cells, each once."""
    found = [c.label for block in mode.blocks for c in block.cell_channels if c.attribute in EMITTERS]
    return list(dict.fromkeys(found))


def _cell_offset(mode: Mode) -> int:
    """Channels before the first cell."""
    offset = 0
    for block in mode.blocks:
        offset += len(block.shared)
        if block.cell_count:
            return offset
    return offset


def _spans(positions: np.ndarray[Any, Any]) -> list[tuple[int, int, int]]:
    """(universe, first channel, last channel) of what a fixture covers."""
    universes = positions // SLOTS
    return [
        (
            int(u) + 1,
            int(positions[universes == u].min() % SLOTS) + 1,
            int(positions[universes == u].max() % SLOTS) + 1,
        )
        for u in np.unique(universes)
    ]


def _mark_conflicts(views: list[schemas.FixtureView], covered: list[np.ndarray[Any, Any]]) -> None:
    if not views:
        return
    everything = np.concatenate(covered)
    owner = np.repeat(np.arange(len(views)), [part.size for part in covered])
    order = np.argsort(everything, kind="stable")
    same = np.flatnonzero(np.diff(everything[order]) == 0)
    meets: dict[int, set[int]] = defaultdict(set)
    for at in same.tolist():
        a, b = int(owner[order[at]]), int(owner[order[at + 1]])
        if a != b:
            meets[a].add(views[b].number)
            meets[b].add(views[a].number)
    for index, others in meets.items():
        views[index].conflict = sorted(others)


def output_view(output: Record) -> schemas.OutputView:
    first, last = output["first_number"], output["first_number"] + output["count"] - 1
    return schemas.OutputView(
        **output,
        spelled_first=spell_number(output["protocol"], first),
        spelled_last=spell_number(output["protocol"], last),
    )


def clip_view(clip: Record, looks: list[Record]) -> schemas.ClipView:
    fields = {k: clip[k] for k in ("id", "rev", "name", "kind", "content", "width", "height", "frames", "bytes")}
    used = [look["name"] for look in looks if any(layer.get("clip") == clip["id"] for layer in look["layers"])]
    seconds = clip["duration_ns"] / 1e9
    rate = clip["frames"] / seconds if clip["frames"] > 1 else 0.0
    return schemas.ClipView(**fields, duration_s=seconds, rate=rate, used_by=used)


def ramp_view(ramp: Record, looks: list[Record]) -> schemas.RampView:
    used = sum(layer.get("saved_ramp") == ramp["id"] for look in looks for layer in look["layers"])
    return schemas.RampView(**ramp, used_by=used)
