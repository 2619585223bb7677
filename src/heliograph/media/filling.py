"""In which order the frames of a clip are decoded: what is shown now first, and in time where the machine allows it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from PIL import Image

from heliograph.media.reading import Reader, key_before

EVERY = 3
"""Where decoding is behind what is shown, at least every so many frames are made, at their own time; the rest later."""

JUMP_NS = 500_000_000
"""So far behind, decoding goes on at the next frame from which it can."""

NEAR, JUMPS_MAX = 30, 1_000
"""Only to where one of so many frames is not there yet; and never for ever."""

LATE_NS = 2_000_000_000
"""What was to be there longer ago than this waits for the next round."""

LEAD_NS = 150_000_000
"""How far ahead of what is shown decoding is to be: below that it is in a hurry."""


@dataclass(slots=True)
class Filling:
    """Fills `there` (n,) by decoding: `keep(index, image)` for each frame, None where the file lost it and another one
    there is stands in."""

    reader: Reader
    there: npt.NDArray[np.uint8]
    keep: Callable[[int, Image.Image | None], None]
    going_on: Callable[[], bool]
    asked: Callable[[], int | None]
    _jump: int = -1
    _jumps: int = 0
    _stopped: bool = False

    def run(self) -> None:
        """Until all are there, or it is stopped, or nothing of the file can be decoded."""
        thorough = False
        while not self._stopped and self.going_on() and not self.there.all():
            start = self._next()
            made = self._pass(start)
            if self._stopped or self._jump >= 0 or made or self.there[start]:
                continue
            if self._pass(start, start + NEAR) or self.there[start]:
                continue  # it had been left out in a hurry
            if not thorough:  # it may have been sought in vain: once from the beginning, frame after frame
                thorough = True
                self._pass(0, len(self.there))
            elif self.there.any():
                self.keep(start, None)  # the file has no such frame
            else:
                return

    def _next(self) -> int:
        """Where to go on: with the frame asked for or, once some are there, with the next one that can still be there
        in time."""
        if self._jump >= 0:
            start, self._jump = self._jump, -1
            return start
        at = self.asked()
        shown = 0 if at is None else self._index(at + (LEAD_NS if self.there.any() else 0))
        missing = np.flatnonzero(self.there == 0)
        later = missing[missing >= shown]
        return int(later[0] if later.size else missing[0])

    def _index(self, at_ns: int) -> int:
        facts = self.reader.facts
        return max(int(np.searchsorted(facts.times, at_ns % facts.duration_ns, "right")) - 1, 0)

    def _pass(self, start: int, calm_to: int = -1) -> int:
        """Decodes from `start` to the end, or until all behind it is there; how many frames it made. With `calm_to` it
        ends there, and leaves nothing out whatever is shown meanwhile."""
        calm = calm_to >= 0
        made, before, kept, hurried = 0, -1, -EVERY, False
        self.reader.hurry = False
        for index, picture in self.reader.frames(start):
            if not self.going_on():
                self._stopped = True
                return made
            behind = -LEAD_NS if calm else self._behind(index)
            self.reader.hurry = behind > -LEAD_NS
            hurried = hurried or self.reader.hurry
            if not self.there[index] and (behind <= 0 or index - kept >= EVERY):
                self.keep(index, picture())
                made += 1
                kept = index
            elif self.there[index]:
                kept = index
            if not hurried:  # nothing was left out on purpose, also none still on its way through the decoder
                made += self._lost(before, index)
            before = index
            if behind > JUMP_NS and self._can_jump(index):
                return made
            if self.there[index + 1 :].all() or (calm and index >= calm_to):
                return made
        if before >= 0 and not hurried:
            made += self._lost(before, len(self.there))  # a damaged end
        return made

    def _behind(self, index: int) -> int:
        """How long ago a frame should have been there, ns; negative where there is time."""
        at = self.asked()
        if at is None:
            return -LEAD_NS
        facts = self.reader.facts
        ahead = (int(facts.times[index]) - at) % facts.duration_ns
        behind = facts.duration_ns - ahead
        return behind if behind < min(facts.duration_ns // 4, LATE_NS) else -ahead

    def _can_jump(self, index: int) -> bool:
        at = self.asked()
        key = key_before(self.reader.facts, self._index((at or 0) + LEAD_NS))
        if key > index + 1 and not self.there[key : key + NEAR].all() and self._jumps < JUMPS_MAX:
            self._jump, self._jumps = key, self._jumps + 1
        return self._jump >= 0

    def _lost(self, before: int, index: int) -> int:
        """Frames between two that follow one another in the file: the one before is held."""
        made = 0
        for gap in range(before + 1, index):
            if before >= 0 and not self.there[gap] and self.there[gap - 1]:
                self.keep(gap, None)
                made += 1
        return made
