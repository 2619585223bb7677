"""Pictures for all browsers: each sent frame is decoded once, in a thread of its own, and handed to whoever watches."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

from heliograph.api.context import Context
from heliograph.api.preview import Decoded, cells_message, decoded, levels_message, pictures_message
from heliograph.core.errors import HeliographError
from heliograph.ipc.messages.preview import AskPictures

LEVELS_WATCHED = 32
"""Universes whose values go out at once: 32 at 30 a second are half a megabyte a second."""

LOOKS_SHOWN = 24
"""Looks of the list that move at once; the others show when they are scrolled to."""


@dataclass(slots=True)
class Watched:
    """What one browser wants to see. `full`: matrices with every square; a hidden page wants nothing."""

    pictures: bool = True
    full: frozenset[bytes] = frozenset()
    cells: bool = False
    levels: frozenset[int] = frozenset()
    look: str = ""
    looks: tuple[str, ...] = ()

    @property
    def previews(self) -> tuple[str, tuple[str, ...]] | None:
        return (self.look, self.looks) if self.pictures and (self.look or self.looks) else None


@dataclass(slots=True)
class FrameMessages:
    """The messages of one frame, each made when it is first asked for."""

    number: int
    decoded: Decoded | None
    levels: dict[int, bytes] = field(default_factory=dict)
    whole: dict[frozenset[bytes], bytes] = field(default_factory=dict)
    cells: bytes = b""


class LivePictures:
    """Call `made` from one thread at a time."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self._last = -1

    def made(self, watched: Iterable[Watched]) -> list[dict[str, bytes]] | None:
        """For each of `watched`: kind -> message, of the newest frame; None where there is no new one."""
        frame = self._context.frames.read()
        if frame is None or frame.number == self._last:
            return None
        self._last = frame.number
        pictures = self._context.pictures
        wanted = list(watched)
        plain = pictures is not None and any(one.pictures for one in wanted)
        of_frame = FrameMessages(frame.number, decoded(pictures, frame) if plain and pictures else None)
        answers = []
        for one in wanted:
            messages: dict[str, bytes] = {}
            if one.pictures and of_frame.decoded is not None:
                if one.full not in of_frame.whole:
                    of_frame.whole[one.full] = pictures_message(of_frame.decoded, one.full)
                messages["pictures"] = of_frame.whole[one.full]
                if one.cells:
                    of_frame.cells = of_frame.cells or cells_message(of_frame.decoded)
                    messages["cells"] = of_frame.cells
            if one.pictures:
                for universe in one.levels:
                    if universe not in of_frame.levels:
                        of_frame.levels[universe] = levels_message(frame, universe)
                    messages[f"levels {universe}"] = of_frame.levels[universe]
            answers.append(messages)
        return answers

    def preview(self, look: str, looks: tuple[str, ...]) -> bytes:
        """Pictures of the preview process; empty where it has none."""
        try:
            return self._context.preview.ask(AskPictures(look=look, looks=list(looks))).pictures
        except HeliographError:
            return b""
