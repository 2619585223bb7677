"""Pictures of what was sent: decoded from the sent bytes, through the patch, back into colours.

For a plain RGB lamp the inverse of the response is the identity. A universe that no output sent in
this frame decodes to black, and its picture says so.
"""

from __future__ import annotations

import struct
from dataclasses import dataclass
from typing import Any
from uuid import UUID

import numpy as np
import numpy.typing as npt

from heliograph.core.dmx import SLOTS
from heliograph.core.rig import Rig, placed_cells
from heliograph.ipc.frames import SentFrame

PICTURE_PIXELS = 8_000
"""Thumbnails are thinned out to about so many pixels: more do not show in the live strip."""

KIND_PICTURES, KIND_LEVELS = 1, 2
_HEAD = struct.Struct("<BBHIQq")  # kind, reserved, pictures, reserved, frame number, show time ns
_PICTURE = struct.Struct("<16sHHHBB")  # matrix, columns, rows, step, state, reserved

ALL_SENT, PARTLY_SENT, NOT_SENT = 0, 1, 2

Bytes = npt.NDArray[np.uint8]
Ints = npt.NDArray[np.int64]


@dataclass(slots=True)
class MatrixPicture:
    """How one matrix is read out of a frame. `positions` (n, 3) absolute, `square` (n,) row-major."""

    id: bytes
    width: int
    height: int
    positions: Ints
    square: Ints


def plan_pictures(rig: Rig, sections: dict[str, dict[str, Any]]) -> list[MatrixPicture]:
    """One plan for every matrix of the show."""
    plans = []
    for key, section in sections.items():
        if not key.startswith("matrix:"):
            continue
        cells = placed_cells(rig, section["placements"])
        width, height = int(section["width"]), int(section["height"])
        square = np.floor(cells.y).astype(np.int64) * width + np.floor(cells.x).astype(np.int64)
        plans.append(MatrixPicture(UUID(section["id"]).bytes, width, height, rig.rgb[cells.cell], square))
    return plans


def channel_values(frame: SentFrame, positions: Ints) -> tuple[Bytes, npt.NDArray[np.bool_]]:
    """Values at absolute positions, 0 where nothing was sent; and whether each was sent."""
    universe = positions // SLOTS + 1
    index = np.searchsorted(frame.universes, universe)
    index = np.minimum(index, max(len(frame.universes) - 1, 0))
    if not len(frame.universes):
        return np.zeros(positions.shape, dtype=np.uint8), np.zeros(positions.shape, dtype=bool)
    known = (frame.universes[index] == universe) & (frame.sent[index] > 0) & (positions >= 0)
    values = np.where(known, frame.data[index, positions % SLOTS], 0).astype(np.uint8)
    return values, known


def picture(plan: MatrixPicture, frame: SentFrame, full: bool) -> bytes:
    """One picture: header and columns x rows x 3 bytes. Thinned by a whole step unless `full`."""
    values, known = channel_values(frame, plan.positions)
    grid = np.zeros((plan.height * plan.width, 3), dtype=np.uint8)
    grid[plan.square] = values
    squares = grid.reshape(plan.height, plan.width, 3)
    step = 1
    while not full and -(-plan.height // step) * -(-plan.width // step) > PICTURE_PIXELS:
        step += 1
    thin = np.ascontiguousarray(squares[::step, ::step])
    lit = known[plan.positions >= 0]
    state = ALL_SENT if lit.size and lit.all() else PARTLY_SENT if lit.any() else NOT_SENT
    return _PICTURE.pack(plan.id, thin.shape[1], thin.shape[0], step, state, 0) + thin.tobytes()


def pictures_message(plans: list[MatrixPicture], frame: SentFrame, full: set[bytes]) -> bytes:
    """All pictures of one frame in one message."""
    parts = [picture(plan, frame, plan.id in full) for plan in plans]
    return _HEAD.pack(KIND_PICTURES, 0, len(parts), 0, frame.number, frame.show_ns) + b"".join(parts)


def levels_message(frame: SentFrame, universe: int) -> bytes:
    """The 512 values of a universe as sent; `reserved` 1 tells that it was sent."""
    row = np.flatnonzero(frame.universes == universe)
    sent = bool(row.size and frame.sent[row[0]])
    data = frame.data[row[0]].tobytes() if sent else bytes(SLOTS)
    return _HEAD.pack(KIND_LEVELS, sent, 0, universe, frame.number, frame.show_ns) + data
