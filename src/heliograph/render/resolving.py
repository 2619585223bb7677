"""What is painted at a moment: each run with its lines as hands hold them, its level and its tint."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from heliograph.core.colour.tinting import NO_TINT
from heliograph.core.errors import InputError
from heliograph.core.look.line import moved_line
from heliograph.core.playing.state import HeldLine, Painting
from heliograph.render.compiled import CompiledLine, CompiledShow, compile_look
from heliograph.render.mixing import Playing

Looks = Mapping[str, Sequence[CompiledLine]]


class Resolver:
    """Keeps what it worked out until something is another; what it answers hangs on its arguments alone."""

    def __init__(self) -> None:
        self._held: dict[str, tuple[CompiledLine, HeldLine, CompiledLine]] = {}
        self._frozen: tuple[CompiledShow, Painting, Looks] | None = None

    def playing(self, show: CompiledShow, painting: Painting) -> Iterator[Playing]:
        """The runs of a moment, in the order in which they lie over one another."""
        looks = show.looks if painting.looks is None else self._kept_looks(show, painting)
        for run in painting.runs:
            lines = self.lines(looks.get(run.look, ()), painting.held)
            yield Playing(lines, run, painting.level_of(run), painting.look_tints.get(run.look, NO_TINT))

    def lines(self, lines: Sequence[CompiledLine], held: Mapping[str, HeldLine]) -> Sequence[CompiledLine]:
        """Lines with what hands hold of them."""
        if not held:
            if self._held:
                self._held.clear()
            return lines
        return [self._line(one, held[one.line.id]) if one.line.id in held else one for one in lines]

    def _line(self, one: CompiledLine, held: HeldLine) -> CompiledLine:
        known = self._held.get(one.line.id)
        if known is None or known[0] is not one or known[1] is not held:
            try:
                moved = one.moved(moved_line(one.line, held.values))
            except (
                InputError,
                TypeError,
            ):  # the line became another kind of line under the hand: it is as it is stored
                moved = one
            known = self._held[one.line.id] = (one, held, moved)
        return known[2]

    def _kept_looks(self, show: CompiledShow, painting: Painting) -> Looks:
        """Looks as they were when the picture was frozen, on the matrices there are now."""
        if self._frozen is None or self._frozen[0] is not show or self._frozen[1] is not painting:
            assert painting.looks is not None
            looks = {
                look: show.looks[look] if show.records.get(look) == record else compile_look(show, dict(record))
                for look, record in painting.looks.items()
            }
            self._frozen = show, painting, looks
        return self._frozen[2]
