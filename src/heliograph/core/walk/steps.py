"""The steps of a test walk: what is lit one after another, and what each step is called."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from heliograph.core.colour.extraction import EMITTER_ATTRIBUTES
from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import SLOTS, address_at
from heliograph.core.patch.places import channel_positions
from heliograph.core.profiles.attributes import BRIGHTNESS, EMITTERS, HUE, word_of
from heliograph.core.rig.arrays import Rig, placed_cells
from heliograph.core.rig.selection import Atom

WalkBy = Literal["fixture", "cell", "row", "column", "universe", "address", "emitter", "all", "number", "line"]
Square = tuple[int, int]

STEPS_MAX = 250_000

GLYPHS: Mapping[str, tuple[str, ...]] = {
    "0": ("111", "101", "101", "101", "111"),
    "1": ("010", "110", "010", "010", "111"),
    "2": ("111", "001", "111", "100", "111"),
    "3": ("111", "001", "111", "001", "111"),
    "4": ("101", "101", "111", "001", "001"),
    "5": ("111", "100", "111", "001", "111"),
    "6": ("111", "100", "111", "101", "111"),
    "7": ("111", "001", "001", "001", "001"),
    "8": ("111", "101", "111", "101", "111"),
    "9": ("111", "101", "111", "001", "111"),
}
"""3 x 5 squares each. A number shows at once whether a matrix is mirrored, turned, or another one."""

GLYPH_WIDTH, GLYPH_HEIGHT = 3, 5


@dataclass(frozen=True, slots=True)
class Lamp:
    """One cell that may be lit. `cell` 0: a fixture without cells. `position`: of its first channel, -1 unplaced.
    `square`: on the matrix that is walked, None without one."""

    fixture: str
    number: int
    name: str
    cell: int
    position: int
    square: Square | None = None
    emitters: tuple[str, ...] = ()

    @property
    def atom(self) -> Atom:
        return self.fixture, self.cell

    @property
    def written(self) -> str:
        return f"{self.number}:{self.cell}" if self.cell else str(self.number)


@dataclass(frozen=True, slots=True)
class Step:
    """What one step lights: cells, or channels whoever owns them. `label` "405:7", `place` "U7.215"."""

    label: str
    place: str
    cells: tuple[Atom, ...] = ()
    channels: tuple[str, ...] = ()
    emitter: str = ""


def lamps_of(rig: Rig, atoms: Iterable[Atom]) -> list[Lamp]:
    """Every cell of a selection in address order, those without an address last."""
    found = [_lamp(rig, name, cell, None) for name, cell in atoms if name in rig.fixtures]
    with_cells = {one.fixture for one in found if one.cell}
    lamps = [one for one in found if one.cell or one.fixture not in with_cells]
    return sorted(lamps, key=lambda one: (one.position < 0, one.position, one.number, one.cell))


def lamps_on(rig: Rig, placements: Mapping[str, Any]) -> list[Lamp]:
    """Every cell of a matrix along its strand."""
    placed = placed_cells(rig, placements)
    names, fixtures = list(rig.fixtures), list(rig.fixtures.values())
    lamps = []
    for cell, x, y in zip(placed.cell.tolist(), placed.x.tolist(), placed.y.tolist(), strict=True):
        index = int(rig.fixture_of[cell])
        lamps.append(_lamp(rig, names[index], cell - fixtures[index].first_cell + 1, (int(x), int(y))))
    return lamps


def _lamp(rig: Rig, name: str, cell: int, square: Square | None) -> Lamp:
    fixture = rig.fixtures[name]
    if not cell:
        at = channel_positions(fixture.placed) if fixture.placed else np.empty(0, dtype=np.int64)
        return Lamp(name, fixture.number, fixture.name, 0, int(at[0]) if at.size else -1, square)
    planes = rig.emitters[fixture.first_cell + cell - 1]
    there = np.flatnonzero(planes >= 0)
    emitters = tuple(EMITTER_ATTRIBUTES[n] for n in there.tolist())
    position = int(planes[there].min()) if there.size else -1
    return Lamp(name, fixture.number, fixture.name, cell, position, square, emitters)


def steps_of(by: WalkBy, lamps: Sequence[Lamp], rig: Rig, universe: int | None = None) -> list[Step]:
    """The steps of a walk over these lamps (for addresses: over a whole universe, where one is named).

    Raises InputError where there is nothing to light, or where the way asks for a matrix.
    """
    if by == "address":
        steps = _addresses(lamps, rig, universe)
    elif not lamps:
        raise InputError(
            "There is no lamp to walk over.", where="over", repair="Choose a matrix, or type what to test."
        )
    elif by in ("row", "column", "number", "line"):
        if any(one.square is None for one in lamps):  # a selection is a line of its own
            lamps = [
                Lamp(one.fixture, one.number, one.name, one.cell, one.position, (n, 0), one.emitters)
                for n, one in enumerate(lamps)
            ]
        steps = _ON_SQUARES[by](lamps)
    else:
        steps = _SIMPLE[by](lamps)
    if len(steps) > STEPS_MAX:
        raise InputError(f"{len(steps)} steps: {STEPS_MAX} are the most.", where="over")
    return steps


def step_of_cell(steps: Sequence[Step], atom: Atom) -> int | None:
    """Which step lights a cell, the one that lights the fewest beside it."""
    best: tuple[int, int] | None = None
    for index, step in enumerate(steps):
        if (atom in step.cells or (atom[0], 0) in step.cells) and (best is None or len(step.cells) < best[0]):
            best = (len(step.cells), index)
    return best[1] if best else None


def _say(position: int) -> str:
    return str(address_at(position)) if position >= 0 else "no address"


def _by_fixture(lamps: Sequence[Lamp]) -> list[Step]:
    groups: dict[str, list[Lamp]] = {}
    for one in lamps:
        groups.setdefault(one.fixture, []).append(one)
    return [
        Step(f"{found[0].number} {found[0].name}", _say(found[0].position), tuple(one.atom for one in found))
        for found in sorted(groups.values(), key=lambda group: group[0].number)
    ]


def _by_cell(lamps: Sequence[Lamp]) -> list[Step]:
    return [Step(one.written, _say(one.position), (one.atom,)) for one in lamps]


def _by_universe(lamps: Sequence[Lamp]) -> list[Step]:
    groups: dict[int, list[Lamp]] = {}
    for one in lamps:
        if one.position >= 0:
            groups.setdefault(one.position // SLOTS + 1, []).append(one)
    return [
        Step(f"U{universe}", _count(found), tuple(one.atom for one in found))
        for universe, found in sorted(groups.items())
    ]


def _by_emitter(lamps: Sequence[Lamp]) -> list[Step]:
    having: dict[str, int] = {}
    for one in lamps:
        hue = HUE in one.emitters or BRIGHTNESS in one.emitters
        for emitter in ("ColorAdd_R", "ColorAdd_G", "ColorAdd_B") if hue else one.emitters:
            having[emitter] = having.get(emitter, 0) + 1
    cells = tuple(one.atom for one in lamps)
    return [
        Step(word_of(emitter), f"{count} cells have it", cells, emitter=emitter)
        for emitter, count in sorted(having.items(), key=lambda pair: list(EMITTERS).index(pair[0]))
    ]


def _all(lamps: Sequence[Lamp]) -> list[Step]:
    return [Step("all", _count(lamps), tuple(one.atom for one in lamps))]


def _lines(lamps: Sequence[Lamp], axis: int) -> list[Step]:
    word = ("column", "row")[axis]
    groups: dict[int, list[Lamp]] = {}
    for one in lamps:
        assert one.square is not None  # steps_of gave each a square
        groups.setdefault(one.square[axis], []).append(one)
    return [
        Step(f"{word} {line + 1}", _count(found), tuple(one.atom for one in found))
        for line, found in sorted(groups.items())
    ]


def _numbers(lamps: Sequence[Lamp]) -> list[Step]:
    squares = {one.square: one.atom for one in lamps if one.square is not None}
    left, top = min(x for x, _ in squares), min(y for _, y in squares)
    width, height = max(x for x, _ in squares) - left + 1, max(y for _, y in squares) - top + 1
    scale = min(width // GLYPH_WIDTH, height // GLYPH_HEIGHT)
    if scale < 1:
        raise InputError(
            f"A number needs {GLYPH_WIDTH} x {GLYPH_HEIGHT} squares; here are {width} x {height}.",
            where="by",
            repair="Walk by row or column.",
        )
    x0 = left + (width - scale * GLYPH_WIDTH) // 2
    y0 = top + (height - scale * GLYPH_HEIGHT) // 2
    steps = []
    for digit, glyph in GLYPHS.items():
        lit = [
            squares[x0 + x * scale + i, y0 + y * scale + j]
            for y, line in enumerate(glyph)
            for x, on in enumerate(line)
            if on == "1"
            for j in range(scale)
            for i in range(scale)
            if (x0 + x * scale + i, y0 + y * scale + j) in squares
        ]
        steps.append(Step(f"number {digit}", f"{scale * GLYPH_WIDTH} x {scale * GLYPH_HEIGHT} squares", tuple(lit)))
    return steps


def _moving_line(lamps: Sequence[Lamp]) -> list[Step]:
    return [*_lines(lamps, 0), *_lines(lamps, 1)]


def _addresses(lamps: Sequence[Lamp], rig: Rig, universe: int | None) -> list[Step]:
    if universe is not None:
        positions = list(range((universe - 1) * SLOTS, universe * SLOTS))
    else:
        names = dict.fromkeys(one.fixture for one in lamps)
        found = [channel_positions(rig.fixtures[name].placed) for name in names if rig.fixtures[name].placed]
        joined = np.unique(np.concatenate(found)) if found else np.empty(0, dtype=np.int64)
        positions = joined[joined >= 0].tolist()
    if not positions:
        raise InputError("These lamps have no address.", where="over", repair="Name a universe, such as U1.")
    return [Step(str(address_at(one)), "", channels=(str(address_at(one))[1:],)) for one in positions]


def _count(lamps: Sequence[Lamp]) -> str:
    return "1 cell" if len(lamps) == 1 else f"{len(lamps)} cells"


_SIMPLE: dict[str, Callable[[Sequence[Lamp]], list[Step]]] = {
    "fixture": _by_fixture,
    "cell": _by_cell,
    "universe": _by_universe,
    "emitter": _by_emitter,
    "all": _all,
}
_ON_SQUARES: dict[str, Callable[[Sequence[Lamp]], list[Step]]] = {
    "row": lambda lamps: _lines(lamps, 1),
    "column": lambda lamps: _lines(lamps, 0),
    "number": _numbers,
    "line": _moving_line,
}
