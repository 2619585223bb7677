"""Where each drive of a look stands at a moment, for the small curves on the screens."""

from __future__ import annotations

import struct
from uuid import UUID

import numpy as np

from heliograph.core.look.chart import place_now
from heliograph.core.look.levels import level_at, turns_of
from heliograph.preview.moment import Moment, run_of
from heliograph.render.compiled import CompiledShow
from heliograph.render.driving import clocks_of, now_of
from heliograph.render.resolving import Resolver

CELLS = 24
"""So many cells, evenly along the order, show how they differ."""

_DRIVE = struct.Struct(f"<16sHHiff{CELLS}s")
"""Line, which of its drives in the order of their names, how many cells are told, page and place on it, value, levels
of the cells 0..255."""


def driven_now(show: CompiledShow, moment: Moment, look: str, resolver: Resolver) -> list[bytes]:
    """One record for each drive of the look's lines, and after those of a line one for each of its ribbons; what waits
    for something to arrive is left out."""
    painting = moment.painting
    now = now_of(painting)
    run, _ = run_of(show, moment, look)
    found = []
    for one in resolver.lines(show.looks.get(look, ()), painting.held, show):
        drives = one.line.drives
        for index, name in enumerate(sorted(drives)):
            drive = drives[name]
            if drive.arrives:
                continue
            clocks = clocks_of(one, run, now)
            page, place = place_now(drive, clocks)
            turns = turns_of(drive, clocks)
            value = one.drivers[name].at(turns, clocks.beat_s)
            cells = b""
            if drive.over:
                there = one.matrix.canvas.count if one.ready is None else one.ready.heads
                count = min(there, CELLS)
                some = np.linspace(0.0, 1.0, count, dtype=np.float32)
                levels = np.clip(level_at(drive, turns, clocks.beat_s, some), 0.0, 1.0)
                cells = (levels * 255.0 + 0.5).astype(np.uint8).tobytes()
            key = UUID(one.line.id).bytes
            found.append(
                _DRIVE.pack(key, index, len(cells), int(np.clip(page, -(2**31), 2**31 - 1)), place, value, cells)
            )
        for index, stop in enumerate(sorted(one.line.ribbons), start=len(drives)):
            ribbon = one.line.ribbons[stop]
            clocks = clocks_of(one, run, now)
            since = clocks.since_s if ribbon.length.unit == "s" else clocks.since_beat
            place = ribbon.place(since) / ribbon.length.value
            found.append(_DRIVE.pack(UUID(one.line.id).bytes, index, 0, 0, place, 0.0, b""))
    return found
