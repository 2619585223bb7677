"""What would be sent if a cue had been gone to, and its fade had arrived: true pictures of what is not sent yet."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from heliograph.core.colour.ramps import to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.errors import NotFoundError
from heliograph.core.handles.advancing import advance_all
from heliograph.core.playing import lists
from heliograph.core.playing.state import PlaybackState
from heliograph.core.rig.arrays import Rig
from heliograph.ipc.messages.preview import CueCells
from heliograph.preview.moment import Moment
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer


class Ahead:
    """Owns a renderer of its own; call it from one thread."""

    def __init__(self) -> None:
        self._renderer = Renderer()
        self._reader: tuple[Rig, ColourReader] | None = None

    def cells(self, show: CompiledShow, moment: Moment, of: str, cue: str) -> CueCells:
        now = moment.frame.show_ns
        data = self._renderer.render(show, there(show, moment.state, of, cue, now), now)
        if self._reader is None or self._reader[0] is not show.rig:
            self._reader = (show.rig, ColourReader(show.rig))
        sent = np.ones(show.universes.size, dtype=np.uint8)
        read = self._reader[1].read(SentValues(show.universes.astype(np.uint16), sent, data))
        return CueCells(frame=moment.frame.number, rgb=to_bytes(read.rgb).T.tobytes())


def there(show: CompiledShow, state: PlaybackState, of: str, cue: str, now: int) -> PlaybackState:
    """The state with a list standing in one of its cues; what that does beside playing looks is not done."""
    one = show.ground.lists.get(of)
    known = one.cue(cue) if one else None
    if one is None or known is None:
        raise NotFoundError("That cue is not there any more.", where="cue")
    state = replace(lists.go_to(state, one, known.number, now), acting=())
    run = state.lists[of].came(now, state.tempo.beat_at(now))
    state = replace(state, lists={**state.lists, of: replace(run, arrived=None)}, frozen=None)
    return advance_all(state, show.ground, show.lines, now)
