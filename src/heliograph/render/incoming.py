"""Incoming universes read as pixels of the matrix they are laid on: what somebody else would send to its lamps."""

from __future__ import annotations

import time
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
import numpy.typing as npt

from heliograph.core.look.feeds import LOST_S, Universes
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.patch.incoming_picture import laid_on
from heliograph.core.rig.arrays import Rig
from heliograph.ipc.incoming import IncomingReader, Key
from heliograph.ipc.places import fast_folder
from heliograph.render.compiled_line import CompiledMatrix
from heliograph.render.live import HELD

Bytes = npt.NDArray[np.uint8]
Places = npt.NDArray[np.intp]

LOST_NS = round(LOST_S * 1e9)
FILE = "incoming.frames"


@dataclass(slots=True)
class IncomingFrames:
    """Pictures of a matrix made of what arrives. As `LiveFrames`, but of now only: nothing older is kept."""

    folder: Path
    incoming: Universes
    rig: Rig = field(repr=False)
    matrix: CompiledMatrix = field(repr=False)
    lost: str = "hold"
    _reader: IncomingReader | None = field(default=None, repr=False)
    _colours: Places | None = field(default=None, repr=False)
    _white: Places | None = field(default=None, repr=False)
    _keys: tuple[Key, ...] = ()
    _given: Bytes | None = field(default=None, repr=False)

    @property
    def is_open(self) -> bool:
        return self._reader is not None

    def try_open(self) -> bool:
        """Opens what the receiver writes, and looks again where each universe lies in it; called off the frame path."""
        if self._colours is None:
            self._lay()
        if self._reader is None:
            self._reader = IncomingReader(fast_folder(self.folder.parent.parent) / FILE)
        self._reader.look_up(self._keys)
        return True

    def frame_at(self, steady_ns: int) -> Bytes | None:
        """(h*w, 3) uint8 as it arrived last; None before anything did, and for what is lost where that is clear."""
        if steady_ns == HELD and self._given is not None:
            return self._given
        if self._reader is None or self._colours is None:
            return None
        levels = np.zeros(len(self._keys) * SLOTS + 1, dtype=np.uint8)  # the last stays 0, for what is not there
        newest = 0
        for row, key in enumerate(self._keys):
            one = self._reader.one(key)
            if one is not None:
                levels[row * SLOTS : row * SLOTS + len(one.data)] = np.frombuffer(one.data, np.uint8)
                newest = max(newest, one.steady_ns)
        if not newest:
            return None
        if time.monotonic_ns() - newest > LOST_NS and self.lost != "hold":
            return np.zeros((self.matrix.width * self.matrix.height, 3), np.uint8) if self.lost == "black" else None
        self._given = self._picture(levels)
        return self._given

    def _picture(self, levels: Bytes) -> Bytes:
        assert self._colours is not None
        picture: Bytes = levels.take(self._colours)
        if self._white is not None:
            lit = picture.astype(np.uint16) + levels.take(self._white)[:, None]
            picture = np.minimum(lit, 255).astype(np.uint8)
        return picture

    def _lay(self) -> None:
        """Where each square's colours lie among the levels that arrive; the one behind the last stays 0."""
        laid = laid_on(self.incoming, self.rig.emitters[self.matrix.cell])
        self._keys = tuple((self.incoming.protocol, number) for number in laid.numbers)
        nothing = len(laid.numbers) * SLOTS
        at = np.full((4, self.matrix.width * self.matrix.height), nothing, dtype=np.intp)
        at[:, self.matrix.square] = np.where(laid.at < 0, nothing, laid.at)
        self._colours = np.ascontiguousarray(at[:3].T)
        self._white = at[3] if (at[3] != nothing).any() else None
