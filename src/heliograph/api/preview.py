"""Pictures of what was sent: decoded from the sent bytes, through the patch, back into colours.

A universe that no output sent in this frame decodes to black, and its picture says so.
"""

from __future__ import annotations

import struct
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.matrix.covering import covered
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.rig.arrays import Rig, placed_cells
from heliograph.ipc.frames import SentFrame

PICTURE_PIXELS = 8_000
"""Thumbnails are thinned out to about so many pixels: more do not show in the live strip."""

KIND_PICTURES, KIND_LEVELS, KIND_CELLS = 1, 2, 4
_HEAD = struct.Struct("<BBHIQq")  # kind, reserved, pictures, reserved, frame number, show time ns
_PICTURE = struct.Struct("<16sHHHBB")  # matrix, columns, rows, step, state, reserved

ALL_SENT, PARTLY_SENT, NOT_SENT = 0, 1, 2

Bytes = npt.NDArray[np.uint8]
Ints = npt.NDArray[np.int64]
Flags = npt.NDArray[np.bool_]


@dataclass(slots=True)
class MatrixPicture:
    """How one matrix is read out of a frame. `cell` (n,) indexes the rig's cells, `square` (n,) row-major."""

    id: bytes
    width: int
    height: int
    cell: Ints
    square: Ints


@dataclass(slots=True)
class Pictures:
    """The plans of all matrices over one rig."""

    reader: ColourReader
    plans: list[MatrixPicture]


def plan_pictures(rig: Rig, sections: Mapping[str, Mapping[str, Any]]) -> Pictures:
    """One plan for every matrix of the show."""
    plans = []
    for key, section in sections.items():
        if not key.startswith("matrix:"):
            continue
        cells = placed_cells(rig, section["placements"])
        width, height = int(section["width"]), int(section["height"])
        over = covered(cells, width, height)
        most = np.argsort(over.weight, kind="stable")  # where two cells meet, the one that lies there more shows
        cell, square = cells.cell[over.owner[most]], over.square[most]
        plans.append(MatrixPicture(UUID(section["id"]).bytes, width, height, cell, square))
    return Pictures(ColourReader(rig), plans)


def picture(plan: MatrixPicture, colours: Bytes, whole: Flags, some: Flags, full: bool) -> bytes:
    """One picture: header and columns x rows x 3 bytes. Thinned by a whole step unless `full`.

    `colours` (N, 3) of all cells; `whole`, `some` (N,): all, or any, of a cell's channels were sent.
    """
    grid = np.zeros((plan.height * plan.width, 3), dtype=np.uint8)
    grid[plan.square] = colours[plan.cell]
    squares = grid.reshape(plan.height, plan.width, 3)
    step = 1
    while not full and -(-plan.height // step) * -(-plan.width // step) > PICTURE_PIXELS:
        step += 1
    thin = np.ascontiguousarray(squares[::step, ::step])
    state = (
        ALL_SENT if plan.cell.size and whole[plan.cell].all() else PARTLY_SENT if some[plan.cell].any() else NOT_SENT
    )
    return _PICTURE.pack(plan.id, thin.shape[1], thin.shape[0], step, state, 0) + thin.tobytes()


@dataclass(frozen=True, slots=True)
class Decoded:
    """One frame read back into colours: `shown` (N, 3) bytes of every cell; `whole`, `some` (N,)."""

    plans: list[MatrixPicture]
    number: int
    show_ns: int
    shown: Bytes
    whole: Flags
    some: Flags


def decoded(pictures: Pictures, frame: SentFrame) -> Decoded:
    colours = pictures.reader.read(SentValues(frame.universes, frame.sent, frame.data))
    shown = np.ascontiguousarray(to_bytes(colours.rgb).T)
    return Decoded(pictures.plans, frame.number, frame.show_ns, shown, colours.whole, colours.some)


def pictures_message(one: Decoded, full: Collection[bytes]) -> bytes:
    """All pictures of one frame in one message."""
    parts = [picture(plan, one.shown, one.whole, one.some, plan.id in full) for plan in one.plans]
    return _HEAD.pack(KIND_PICTURES, 0, len(parts), 0, one.number, one.show_ns) + b"".join(parts)


def cells_message(one: Decoded) -> bytes:
    """The colour of every cell of the rig, in the order of the fixtures; (N, 3) bytes. `pictures` in the head: 0."""
    return _HEAD.pack(KIND_CELLS, 0, 0, len(one.shown), one.number, one.show_ns) + one.shown.tobytes()


def levels_message(frame: SentFrame, universe: int) -> bytes:
    """The 512 values of a universe as sent; `reserved` 1 tells that it was sent."""
    row = np.flatnonzero(frame.universes == universe)
    sent = bool(row.size and frame.sent[row[0]])
    data = frame.data[row[0]].tobytes() if sent else bytes(SLOTS)
    return _HEAD.pack(KIND_LEVELS, sent, 0, universe, frame.number, frame.show_ns) + data
