"""The end of light: a universe that no longer goes to a destination is made dark there first.

A node holds the last frame it got, so simply falling silent would leave its lamps lit. Each row that ends sends
`DARK_FRAMES` dark frames at frame rate; an sACN stream then says that it has ended, with those same values.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from heliograph.engine.mmsg import Batch
from heliograph.engine.routes import Bytes, Route, Sequences, Target
from heliograph.engine.syncs import Sync, build_syncs
from heliograph.wire import sacn

DARK_FRAMES = 5
"""At least three are wanted; two more, because datagrams may be lost and nothing comes after these."""

AS_IT_IS = "as it is"
"""What an output says of its end where its lamps shall keep their last frame."""


@dataclass(slots=True)
class Ending:
    """Rows of a route that go out for the last times. `left` counts the frames still to come, dark ones and, for
    sACN, terminating ones after them. `syncs` follow each frame, so that synchronised nodes show it."""

    packets: Bytes
    targets: list[Target]
    keys: tuple[str, ...]
    places: tuple[str, ...]
    fd: int | None
    is_artnet: bool
    data_at: int
    sequence_at: int
    frames: int
    syncs: list[Sync] = field(default_factory=list)
    batch: Batch | None = None

    def send(self) -> None:
        """One more frame. Packets of a card that is gone are lost like those of any frame."""
        terminating = not self.is_artnet and self.frames <= sacn.TERMINATION_PACKETS
        if terminating:
            self.packets[:, sacn.DATA_OPTIONS_AT] |= np.uint8(sacn.OPTION_TERMINATED)
        column = self.packets[:, self.sequence_at]
        if self.is_artnet:
            np.copyto(column, column % np.uint8(255) + np.uint8(1))
        else:
            column += np.uint8(1)
        if self.batch is None:
            self.batch = Batch(self.packets, self.targets)
        if self.fd is not None:
            self.batch.send(self.fd, np.zeros(len(self.packets), dtype=np.uint8))
            for sync in self.syncs:
                sync.batch.send(self.fd, sync.left)
        self.frames -= 1

    def sequences(self) -> Iterable[tuple[str, int]]:
        return zip(self.keys, self.packets[:, self.sequence_at].tolist(), strict=True)

    def without(self, places: set[str]) -> Ending | None:
        """What still ends where some of its universes are sent again; None where nothing is left of it."""
        stays = np.array([place not in places for place in self.places], dtype=np.bool_)
        if stays.all():
            return self
        if not stays.any():
            return None
        return _rows(self, stays)


def _rows(ending: Ending, rows: npt.NDArray[np.bool_]) -> Ending:
    chosen = np.flatnonzero(rows).tolist()
    return Ending(
        ending.packets[rows].copy(),
        [ending.targets[n] for n in chosen],
        tuple(ending.keys[n] for n in chosen),
        tuple(ending.places[n] for n in chosen),
        ending.fd,
        ending.is_artnet,
        ending.data_at,
        ending.sequence_at,
        ending.frames,
        ending.syncs,
    )


def ending_of(route: Route, rows: npt.NDArray[np.bool_], cid: bytes, sequences: Sequences) -> Ending:
    """The end of some rows of a route, as its output says it ends; guarded channels are safe in any case."""
    packets = route.packets.copy()
    if route.output.get("when_ends") != AS_IT_IS:
        packets[:, route.data_at :] = route.dark
    at_row, at_channel, values = route.safe
    packets[at_row, route.data_at + at_channel] = values
    syncs: list[Sync] = []
    if route.is_artnet:
        syncs = build_syncs([route], cid, sequences)
    else:  # its synchronisation ends with it: frames that waited for one would not be shown
        packets[:, sacn.DATA_SYNC_AT : sacn.DATA_SYNC_AT + 2] = 0
    whole = Ending(
        packets,
        route.targets,
        route.keys,
        route.places,
        route.fd,
        route.is_artnet,
        route.data_at,
        route.sequence_at,
        DARK_FRAMES if route.is_artnet else DARK_FRAMES + sacn.TERMINATION_PACKETS,
        syncs,
    )
    return _rows(whole, rows)
